import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as bearers from '@larder/contract/bearers';
import * as books from '@larder/contract/books';
import type { Asked } from '@larder/contract/endpoint';
import * as setup from '@larder/contract/setup';
import * as lists from '@larder/contract/setupLists';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { deskOf, type Desk } from '../../testing/desk';

/** Who bears what is lost or used: the account and the department that a sheet names, and the tax on what the business uses itself. */
let business: Business;
let desk: Desk;
let ownUseId: number;
let taxCodeId: number;
const departments: Record<string, number> = {};
beforeAll(async () => {
  business = await openBusiness();
  desk = deskOf(business);
  const { owner } = business;
  for (const [code, name] of [
    ['SHOP', 'Shop'],
    ['WORK', 'Workshop'],
  ] as const) {
    await owner.get(lists.createDepartment, { body: { code, name } });
    departments[code] = (await owner.get(setup.reference)).departments.find((one) => one.code === code)?.id as number;
  }
  await owner.get(lists.createTax, { body: { code: 'OWN', name: 'On own use', rate: '17.5' } });
  const { reasons, taxes } = await owner.get(setup.reference);
  ownUseId = reasons.find(({ place }) => place === 'own-use')?.id as number;
  taxCodeId = taxes.find(({ code }) => code === 'OWN')?.id as number;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

type Part = Partial<Asked<typeof stock.correct>['body']>;
const use = (itemId: number, quantity: string, part: Part = {}) => desk.correct(itemId, quantity, { reasonId: ownUseId, ...part });
const stockedAt = async (sku: string, quantity: string, unitValue: string): Promise<number> => {
  const itemId = await business.item(sku);
  const binId = business.bins[0] as number;
  await business.owner.get(stock.openStock, { body: { effectiveOn: '2026-01-02', lines: [{ itemId, binId, quantity, unitValue }] } });
  return itemId;
};
const accountOf = async (purpose: string) => {
  const { rows } = await business.owner.get(books.listAccounts);
  return rows.find((row) => row.purpose === purpose) as books.Account;
};
const editOwnUse = (part: object) =>
  business.owner.ask(lists.editReason, {
    params: { id: ownUseId },
    body: { code: 'own-use', name: 'Used in the business', place: 'own-use', accountId: 0, ...part },
  });

describe('tax on own use', () => {
  test('is due at the rate of the reason, or as the sheet says, and stands on its own account', async () => {
    const itemId = await stockedAt('USE-1', '30', '3.33');
    const { id: accountId } = await accountOf('own-use');
    await editOwnUse({ accountId, taxCodeId });
    const before = await business.owner.ask(
      stock.correct,
      { body: { way: 'plus-or-minus', reasonId: ownUseId, lines: [{ itemId, binId: business.bins[0] as number, quantity: '-1' }] } },
      { preview: true },
    );
    expect(before.data.effects.costNotes).toEqual(['Tax of 0.58 is due on what is used: 17.5 % of 3.33.']);
    await use(itemId, '-1', { effectiveOn: '2026-02-01' });
    await use(itemId, '-1', { effectiveOn: '2026-02-02', taxCodeId: null });
    expect((await accountOf('own-use-tax')).balance).toBe('-0.58');
    expect((await accountOf('own-use')).balance).toBe('7.24');
  });

  test('of any amounts, used, brought back and undone, is what exact fractions say, and the report ties to the account', async () => {
    const items = [await stockedAt('USE-2', '500', '1.07'), await stockedAt('USE-3', '500', '0.01'), await stockedAt('USE-4', '500', '19.99')];
    const cents = [107n, 1n, 1999n];
    let expected = 58n; // of the test before
    for (let n = 1; n <= 24; n += 1) {
      const at = n % 3;
      const quantity = n % 7 === 0 ? 2n : -BigInt((n * 5) % 11) - 1n;
      const posted = await use(items[at] as number, quantity.toString(), { effectiveOn: `2026-02-${String((n % 20) + 1).padStart(2, '0')}` });
      const base = -quantity * (cents[at] as bigint);
      // Half away from zero, per thousand: 17.5 % is 175 of 1000.
      const owed = (base < 0n ? -1n : 1n) * (((base < 0n ? -base : base) * 175n * 2n + 1000n) / 2000n);
      if (n % 5 === 0) await desk.undo(posted.data.movementId as number);
      else expected += owed;
    }
    const cent = (text: string) => BigInt(text.replace('.', ''));
    expect(cent((await accountOf('own-use-tax')).balance)).toBe(-expected);
    const inAll = await business.owner.get(bearers.ownUseInAll, { query: {} });
    expect([cent(inAll.tax), cent(inAll.account.booked)]).toEqual([expected, expected]);
    // Of some days as well, in which things were undone that were posted on others.
    const some = await business.owner.get(bearers.ownUseInAll, { query: { from: '2026-02-05', to: '2026-02-12' } });
    expect([some.tax, some.count > 0]).toEqual([some.account.booked, true]);
  });

  test('is told posting by posting, with what undid it', async () => {
    const itemId = await stockedAt('USE-5', '10', '20.00');
    const { data } = await use(itemId, '-2', { note: 'for the display', departmentId: departments.SHOP ?? null });
    await desk.undo(data.movementId as number);
    const { rows } = await business.owner.get(bearers.ownUse, { query: { q: 'use-5' } });
    expect(rows.map(({ used, base, tax, rate, department, undo, undone }) => [used, base, tax, rate, department, undo, undone])).toEqual([
      ['USE-5 × 2', '-40.00', '-7.00', '17.5', 'Shop', true, false],
      ['USE-5 × 2', '40.00', '7.00', '17.5', 'Shop', false, true],
    ]);
    expect((await business.owner.get(bearers.ownUse, { query: { q: 'display shop', departmentId: departments.WORK as number } })).rows).toEqual([]);
  });

  test('is of own use only', async () => {
    const itemId = await stockedAt('USE-6', '10', '1.00');
    const refused = await desk.correct(itemId, '-1', { taxCodeId });
    expect(refused.problem.errors).toEqual([{ field: 'taxCodeId', sentence: 'Only what the business uses itself is taxed.' }]);
    const scrap = (await business.owner.get(setup.reference)).reasons.find(({ place }) => place === 'scrap');
    const edited = await business.owner.ask(lists.editReason, {
      params: { id: scrap?.id as number },
      body: { code: 'damaged', name: 'Damaged', place: 'scrap', accountId: scrap?.accountId as number, taxCodeId },
    });
    expect(edited.problem.errors[0]?.field).toBe('taxCodeId');
  });
});

describe('what bears it', () => {
  test('is the account that the sheet names; undone, the same one, whatever the reason says by then', async () => {
    const itemId = await stockedAt('BEAR-1', '10', '2.50');
    const other = await business.owner.get(books.createAccount, { body: { code: '6950', name: 'Display', type: 'expense' } });
    const third = await business.owner.get(books.createAccount, { body: { code: '6960', name: 'Elsewhere', type: 'expense' } });
    const balance = async (id: number) => (await business.owner.get(books.getAccount, { params: { id } })).balance;
    await use(itemId, '-2', { accountId: other.id, taxCodeId: null });
    expect(await balance(other.id)).toBe('5.00');
    await editOwnUse({ accountId: other.id, taxCodeId: null });
    const { data } = await use(itemId, '-1');
    await editOwnUse({ accountId: third.id, taxCodeId: null });
    expect(await balance(other.id)).toBe('7.50');
    await desk.undo(data.movementId as number);
    expect([await balance(other.id), await balance(third.id)]).toEqual(['5.00', '0.00']);
    const refused = await use(itemId, '-1', { accountId: (await accountOf('payable')).id });
    expect(refused.problem.errors).toEqual([{ field: 'accountId', sentence: 'Choose an account of expenses.' }]);
  });

  test('a department bears what a sheet says, line by line of the journal, and its report adds that up', async () => {
    const itemId = await stockedAt('BEAR-2', '100', '1.10');
    const departmentId = departments.WORK as number;
    const losses = (await business.owner.get(setup.reference)).reasons.find(({ code }) => code === 'lost');
    await desk.correct(itemId, '-3', { departmentId, reasonId: losses?.id as number, effectiveOn: '2026-03-01' });
    await use(itemId, '-5', { departmentId, taxCodeId, effectiveOn: '2026-03-02' });
    const undone = await use(itemId, '-7', { departmentId, taxCodeId });
    await desk.undo(undone.data.movementId as number);
    const { rows, total } = await business.owner.get(bearers.departmentReport, { query: {} });
    expect(rows.map(({ department, amount, entries }) => [department, amount, entries])).toEqual([
      ['Workshop', '3.30', 1],
      // 5.50 and 17.5 % of it; what was undone came to nothing.
      ['Workshop', '6.46', 3],
    ]);
    expect(total).toBe('9.76');
    expect((await business.owner.get(bearers.departmentReport, { query: { to: '2026-03-01' } })).total).toBe('3.30');
    const told = await business.owner.get(books.journal, { query: { departmentId, to: '2026-03-01' } });
    expect(told.rows.flatMap(({ lines }) => lines.map(({ department, amount }) => [department, amount]))).toEqual([
      ['Workshop', '3.30'],
      [null, '-3.30'],
    ]);
    const file = (await business.owner.get(books.journalFile, { query: { format: 'csv', to: '2026-03-01', from: '2026-03-01' } })) as unknown as string;
    expect(file).toContain('Workshop,3.30');
  });

  test('a department that was retired takes nothing new; one code is one department', async () => {
    const itemId = await stockedAt('BEAR-3', '10', '1.00');
    const departmentId = departments.SHOP as number;
    const taken = await business.owner.ask(lists.createDepartment, { body: { code: 'shop', name: 'Another' } });
    expect(taken.problem.errors).toEqual([{ field: 'code', sentence: 'shop is already the code of Shop.' }]);
    await business.owner.get(lists.editDepartment, { params: { id: departmentId }, body: { code: 'SHOP', name: 'Harbour shop' } });
    await business.owner.get(lists.retireListed, { params: { list: 'departments', id: departmentId }, body: { retired: true } });
    const refused = await use(itemId, '-1', { departmentId, taxCodeId: null });
    expect(refused.problem.errors).toEqual([{ field: 'departmentId', sentence: 'Choose a department from the list.' }]);
  });
});
