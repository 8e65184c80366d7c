import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as catalog from '@larder/contract/catalog';
import * as setup from '@larder/contract/setup';
import * as lists from '@larder/contract/setupLists';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const all = () => business.owner.get(lists.setupLists);
const retire = (list: (typeof lists.retirable)[number], id: number, retired = true) =>
  business.owner.ask(lists.retireListed, { params: { list, id }, body: { retired } });
const accountOf = async (code: string) => (await business.owner.get(books.listAccounts)).rows.find((row) => row.code === code)?.id as number;

test('a site gets another name, but not the code of another', async () => {
  const other = await business.owner.get(setup.createSite, { body: { code: 'QUAY', name: 'Quay' } });
  await business.owner.get(lists.editSite, { params: { id: other.id }, body: { code: 'QUAY', name: 'Quay store' } });
  expect((await all()).sites.find(({ id }) => id === other.id)).toMatchObject({ name: 'Quay store', bins: 0, retired: false });
  const [first] = (await all()).sites;
  const refused = await business.owner.ask(lists.editSite, { params: { id: other.id }, body: { code: first?.code.toLowerCase() ?? '', name: 'Quay' } });
  expect(refused.problem.errors).toEqual([{ field: 'code', sentence: `${first?.code.toLowerCase() ?? ''} is already the code of ${first?.name ?? ''}.` }]);
  expect((await business.owner.ask(lists.editSite, { params: { id: 9999 }, body: { code: 'X', name: 'X' } })).status).toBe(404);
});

describe('what is retired', () => {
  test('is given to nothing new, and stays with what has it', async () => {
    const category = await business.owner.get(setup.createCategory, { body: { name: 'Candles' } });
    const id = await business.item('KEPT', { categoryId: category.id });
    expect((await all()).categories.find((row) => row.id === category.id)).toMatchObject({ items: 1, retired: false });
    expect((await retire('categories', category.id)).status).toBe(200);
    const { substitutes: _none, ...kept } = await business.owner.get(catalog.getItem, { params: { id } });
    expect((await business.owner.ask(catalog.editItem, { params: { id }, body: { ...kept, brand: 'Any' } })).status).toBe(200);
    const unitId = (await all()).units[0]?.id as number;
    const refused = await business.owner.ask(catalog.createItem, { body: { sku: 'FRESH', name: 'Fresh', unitId, categoryId: category.id } });
    expect(refused.problem.errors).toEqual([{ field: 'categoryId', sentence: 'Candles is retired; choose another.' }]);
    expect((await business.owner.get(setup.reference)).categories.at(-1)).toMatchObject({ name: 'Candles', retired: true });
    expect((await retire('categories', category.id, false)).status).toBe(200);
    expect((await business.owner.ask(catalog.createItem, { body: { sku: 'FRESH', name: 'Fresh', unitId, categoryId: category.id } })).status).toBe(200);
  });

  test('may not be the only unit; a reason that is retired corrects nothing', async () => {
    const [first, ...others] = (await all()).units;
    for (const { id } of others) expect((await retire('units', id)).status).toBe(200);
    expect((await retire('units', first?.id as number)).problem.title).toContain('only unit in use');
    for (const { id } of others) await retire('units', id, false);
    const itemId = await business.item('CORR');
    await stocked(business, itemId, '5');
    const reason = (await all()).reasons.find(({ code }) => code === 'lost');
    await retire('reasons', reason?.id as number);
    const [binId] = business.bins;
    const body = { way: 'plus-or-minus' as const, reasonId: reason?.id as number, lines: [{ itemId, binId: binId as number, quantity: '-1' }] };
    expect((await business.owner.ask(stock.correct, { body })).status).toBe(422);
    await retire('reasons', reason?.id as number, false);
    expect((await business.owner.ask(stock.correct, { body })).status).toBe(200);
  });
});

test('a unit that items are counted in keeps its parts; its name may change', async () => {
  await business.item('UNIT-1');
  const used = (await all()).units.find(({ items }) => items > 0);
  const edit = (part: object) =>
    business.owner.ask(lists.editUnit, { params: { id: used?.id as number }, body: { code: 'pc', name: 'piece', step: used?.step ?? '1', ...part } });
  expect((await edit({ step: '0.01' })).problem.errors[0]?.field).toBe('step');
  expect((await edit({ code: 'kg' })).problem.errors[0]).toEqual({ field: 'code', sentence: 'There is a unit kg already.' });
  expect((await edit({})).status).toBe(200);
  const free = (await all()).units.find(({ items, code }) => items === 0 && code === 'roll');
  await business.owner.get(lists.editUnit, { params: { id: free?.id as number }, body: { code: 'roll', name: 'roll', step: '0.1' } });
  expect((await all()).units.find(({ id }) => id === free?.id)?.step).toBe('0.1');
});

test('a reason stands on an account of expenses, and what it is for stays once it was given', async () => {
  const [expense, stockAccount] = [await accountOf('5110'), await accountOf('1200')];
  const form = { code: 'expired', name: 'Past its day', place: 'scrap' as const, accountId: expense };
  const refused = await business.owner.ask(lists.createReason, { body: { ...form, accountId: stockAccount } });
  expect(refused.problem.errors).toEqual([{ field: 'accountId', sentence: 'Choose an account of expenses.' }]);
  await business.owner.get(lists.createReason, { body: form });
  expect((await business.owner.ask(lists.createReason, { body: form })).problem.errors[0]?.field).toBe('code');
  const reason = (await all()).reasons.find(({ code }) => code === 'expired');
  const edit = (part: object) => business.owner.ask(lists.editReason, { params: { id: reason?.id as number }, body: { ...form, ...part } });
  expect((await edit({ place: 'own-use' })).status).toBe(200);
  expect((await edit({ name: 'Past its use-by day' })).status).toBe(200);
  const itemId = await business.item('EXP-1');
  await stocked(business, itemId, '5');
  const lines = [{ itemId, binId: business.bins[0] as number, quantity: '-2' }];
  await business.owner.get(stock.correct, { body: { way: 'plus-or-minus', reasonId: reason?.id as number, lines } });
  expect((await edit({ place: 'own-use' })).problem.errors[0]?.field).toBe('place');
  expect((await edit({ accountId: await accountOf('5100') })).status).toBe(200);
});

test('a tax gets another rate from a day to come on; what was billed keeps its own', async () => {
  await business.owner.get(lists.createTax, { body: { code: 'R', name: 'Reduced', rate: '5' } });
  const tax = (await all()).taxes.find(({ code }) => code === 'R');
  const rate = (fromDay: string, many: string) => business.owner.ask(lists.addTaxRate, { params: { id: tax?.id as number }, body: { fromDay, rate: many } });
  expect((await rate('2020-01-01', '6')).problem.errors[0]?.field).toBe('fromDay');
  expect((await rate('2099-01-01', '101')).problem.errors[0]).toEqual({ field: 'rate', sentence: 'Give per cent from 0 to 100.' });
  expect((await rate('2099-01-01', '6')).status).toBe(200);
  expect((await rate('2099-01-01', '7.5')).status).toBe(200);
  expect((await all()).taxes.find(({ code }) => code === 'R')?.rates).toMatchObject([
    { fromDay: '2099-01-01', rate: '7.5' },
    { rate: '5', recoverable: '100' },
  ]);
  expect((await business.owner.get(setup.reference)).taxes.find(({ code }) => code === 'R')?.rate).toBe('5');
  await business.owner.get(lists.editTax, { params: { id: tax?.id as number }, body: { code: 'R', name: 'Reduced rate' } });
  expect((await business.owner.ask(lists.editTax, { params: { id: tax?.id as number }, body: { code: 's', name: 'Reduced rate' } })).status).toBe(409);
});

test('numbers of documents begin as the business says, and never go back', async () => {
  const order = await ordered(business, await business.item('NUM-1'), '2');
  const next = (await all()).numbers.find(({ kind }) => kind === 'purchase order')?.next as number;
  expect(order.number).toBe(`PO-${next - 1}`);
  const edit = (body: { prefix: string; next: number }) => business.owner.ask(lists.editNumber, { params: { kind: 'purchase order' }, body });
  expect((await edit({ prefix: 'PO-', next: next - 1 })).problem.errors[0]).toEqual({
    field: 'next',
    sentence: `Numbers up to ${next - 1} were given already; the next one is at least ${next}.`,
  });
  expect((await edit({ prefix: 'PO-1', next })).problem.errors[0]?.field).toBe('prefix');
  expect((await edit({ prefix: 'B-', next: 5000 })).status).toBe(200);
  expect((await ordered(business, await business.item('NUM-2'), '2')).number).toBe('B-5000');
});
