import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as catalog from '@larder/contract/catalog';
import * as families from '@larder/contract/families';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { combinations } from '@larder/core/catalog/family';
import { openBusiness, type Business } from '../../testing/business';

let business: Business;
let unitId: number;
beforeAll(async () => {
  business = await openBusiness();
  unitId = (await business.owner.get(setup.reference)).units[0]?.id as number;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const values = (...names: string[]) => names.map((name) => ({ name, code: name.replace(/\W/g, '').toUpperCase().slice(0, 4) }));
const jars = (name: string, code: string, skip: string[] = []) => {
  const axes = [
    { name: 'Size', values: values('114 g', '227 g', '340 g') },
    { name: 'Lid', values: values('Gold', 'Black') },
  ];
  const members = combinations(axes)
    .map((one) => ({
      values: one.map((value) => value.name),
      sku: `${code}-${one.map((value) => value.code).join('-')}`,
      salesPrice: '1.20',
      purchasePrice: '0.40',
      opening: [{ siteId: business.siteId, quantity: '10', unitValue: '0.40' }],
    }))
    .filter(({ sku }) => !skip.includes(sku));
  return { name, code, unitId, skuPattern: '{name}-{Size}-{Lid}', axes, members, brand: 'Brightwick' };
};
const make = async (name: string, code: string, skip: string[] = []) => {
  const { id } = await business.owner.get(families.createFamily, { body: jars(name, code, skip) });
  return business.owner.get(families.getFamily, { params: { id: id as number } });
};

test('a family is made with the chosen combinations and their opening stock, in one step', async () => {
  const family = await make('Honey jar', 'JAR', ['JAR-114G-BLAC']);
  expect(family).toMatchObject({ members: 5, onHand: '50', axes: ['Size', 'Lid'] });
  expect(family.list[0]).toMatchObject({ sku: 'JAR-114G-GOLD', name: 'Honey jar, 114 g, Gold', onHand: '10', salesPrice: '1.2' });
  const { rows } = await business.owner.get(stock.stockTable, { query: { q: 'jar-340g-gold' } });
  expect(rows[0]).toMatchObject({ onHand: '10', value: '4.00' });
  expect((await business.owner.get(catalog.listItems, { query: { familyId: family.id } })).rows).toHaveLength(5);
});

test('what is wrong is told by its field, and nothing is made', async () => {
  await business.item('CUP-227G-GOLD', { barcodes: ['CUPCODE'] });
  const { skus, barcodes } = await business.owner.get(families.takenCodes, { body: { skus: ['cup-227g-gold', 'FREE-1'], barcodes: ['CUPCODE'] } });
  expect([skus.map(({ code }) => code), barcodes.map(({ code }) => code)]).toEqual([['CUP-227G-GOLD'], ['CUPCODE']]);
  const refused = await business.owner.ask(families.createFamily, { body: jars('Cup', 'CUP') });
  expect(refused).toMatchObject({
    status: 409,
    problem: { errors: [{ field: 'members.2.sku', sentence: 'CUP-227G-GOLD is the SKU of Item CUP-227G-GOLD already.' }] },
  });
  const form = jars('Mug', 'MUG');
  const twice = { ...form, members: [form.members[0], form.members[0]].map((one) => one as (typeof form.members)[number]) };
  expect((await business.owner.ask(families.createFamily, { body: twice })).problem.errors[0]?.field).toBe('members.1.values');
  const unknown = { ...form, members: [{ ...(form.members[0] as (typeof form.members)[number]), values: ['1 kg', 'Gold'] }] };
  expect((await business.owner.ask(families.createFamily, { body: unknown })).problem.errors[0]?.sentence).toContain('no combination');
  expect((await business.owner.get(catalog.listItems, { query: { q: 'mug' } })).rows).toEqual([]);
});

test('shared facts are kept on the family; a member that has its own keeps it', async () => {
  const family = await make('Candle jar', 'CAN');
  const [first, second] = family.list;
  const item = await business.owner.get(catalog.getItem, { params: { id: first?.itemId as number } });
  const { substitutes: _none, ...body } = item;
  await business.owner.get(catalog.editItem, { params: { id: item.id }, body: { ...body, brand: 'Own brand', version: item.version } });
  const { name, code, description, categoryId, taxCodeId, returnable, skuPattern, version } = family;
  const kept = await business.owner.get(families.editFamily, {
    params: { id: family.id },
    body: { name, code, description, categoryId, unitId, taxCodeId, returnable, skuPattern, version, brand: 'Tallow' },
  });
  expect(kept.list.find(({ itemId }) => itemId === item.id)?.ownFacts).toEqual(['brand']);
  const brandOf = async (id: number) => (await business.owner.get(catalog.getItem, { params: { id } })).brand;
  expect([await brandOf(item.id), await brandOf(second?.itemId as number)]).toEqual(['Own brand', 'Tallow']);
  const renamed = await business.owner.get(families.editFamily, {
    params: { id: family.id },
    body: {
      name: 'Candle glass',
      code,
      description,
      categoryId,
      unitId,
      taxCodeId,
      returnable,
      skuPattern,
      version: kept.version,
      brand: 'Tallow',
      retired: true,
      retiredInUse: true,
    },
  });
  expect(renamed.list.every((member) => member.retired && member.name.startsWith('Candle glass, '))).toBe(true);
});

test('a member retired by itself stays retired when the family is changed', async () => {
  const family = await make('Honey pot', 'POT');
  const itemId = family.list[0]?.itemId as number;
  await business.owner.get(catalog.editItems, { body: { ids: [itemId], retired: true, retiredInUse: true } });
  const { name, code, description, categoryId, taxCodeId, returnable, skuPattern, version } = family;
  const body = { name, code, description, categoryId, unitId, taxCodeId, returnable, skuPattern, version, brand: 'Kiln' };
  const kept = await business.owner.get(families.editFamily, { params: { id: family.id }, body });
  expect(kept.list.filter(({ retired }) => retired).map((member) => member.itemId)).toEqual([itemId]);
});

test('a value is added later: only the combinations that are new are made', async () => {
  const family = await make('Mini jar', 'MIN');
  const members = ['Gold', 'Black'].map((lid) => ({ values: ['454 g', lid], sku: `MIN-454G-${lid}` }));
  const old = { values: ['114 g', 'Gold'], sku: 'MIN-114G-GOLD-2' };
  const grown = await business.owner.get(families.addMembers, {
    params: { id: family.id },
    body: { newValues: [{ axis: 1, name: '454 g', code: '454G' }], members: [old, ...members] },
  });
  expect(grown.members).toBe(8);
  const again = await business.owner.ask(families.addMembers, {
    params: { id: family.id },
    body: { newValues: [{ axis: 1, name: '454 G', code: 'X' }], members: [] },
  });
  expect(again.problem.errors[0]).toMatchObject({ field: 'newValues.0.name', sentence: 'Size has 454 G already.' });
});

test('a loose item joins by its values, and leaves again', async () => {
  const family = await make('Dip jar', 'DIP', ['DIP-340G-BLAC']);
  const itemId = await business.item('OLD-DIP');
  const values = ['340 G', 'black'];
  const join = (items: { itemId: number; values: string[] }[]) => business.owner.ask(families.joinFamily, { params: { id: family.id }, body: { items } });
  expect((await join([{ itemId, values: values.slice(0, 1) }])).problem.errors[0]?.field).toBe('items.0.values');
  const joined = await join([{ itemId, values }]);
  expect(joined.data.list.find((member) => member.itemId === itemId)?.ownFacts).toEqual(expect.arrayContaining(['name', 'brand']));
  expect((await join([{ itemId, values }])).problem.errors[0]?.sentence).toContain('belongs to Dip jar already');
  const other = await business.item('OLD-DIP-2');
  expect((await join([{ itemId: other, values }])).problem.errors[0]?.sentence).toContain('Another member');
  const larger = await join([
    { itemId: other, values: ['1 kg', 'Gold'] },
    { itemId: await business.item('OLD-DIP-3'), values: ['1 KG', 'Black'] },
  ]);
  expect(larger.data.members).toBe(8);
  expect(larger.data.axisValues[0]?.values.map(({ name, code }) => [name, code]).at(-1)).toEqual(['1 KG', '1K']);
  const left = await business.owner.get(families.leaveFamily, { params: { id: family.id }, body: { itemIds: [itemId] } });
  expect(left.members).toBe(7);
  expect((await business.owner.get(catalog.listItems, { query: { familyId: 0, q: 'old-dip' } })).rows.map(({ sku }) => sku)).toEqual(['OLD-DIP']);
});

test('three axes of 40 values are more than can be made at once, and are told so', async () => {
  const axis = (name: string) => ({ name, values: Array.from({ length: 40 }, (_, n) => ({ name: `${name} ${n}`, code: `${name}${n}` })) });
  const axes = ['A', 'B', 'C'].map(axis);
  const members = Array.from({ length: 2001 }, (_, n) => ({ values: ['A 0', 'B 0', 'C 0'], sku: `HUGE-${n}` }));
  const refused = await business.owner.ask(families.createFamily, {
    body: { name: 'Huge', code: 'HUGE', unitId, skuPattern: '{name}-{A}-{B}-{C}', axes, members },
  });
  expect(refused.problem.errors[0]).toMatchObject({ field: 'members', sentence: 'At most 2,000 combinations at once.' });
});

test('more than 200 combinations are asked about, and made when they are meant', async () => {
  const axis = (name: string, many: number) => ({ name, values: Array.from({ length: many }, (_, n) => ({ name: `${name} ${n}`, code: `${name}${n}` })) });
  const axes = [axis('A', 15), axis('B', 14)];
  const members = axes[0]?.values.flatMap((a) => (axes[1]?.values ?? []).map((b) => ({ values: [a.name, b.name], sku: `MANY-${a.code}-${b.code}` }))) ?? [];
  const body = { name: 'Many', code: 'MANY', unitId, skuPattern: '{name}-{A}-{B}', axes, members };
  const asked = await business.owner.ask(families.createFamily, { body });
  expect([asked.status, asked.problem.title, asked.problem.asks]).toEqual([409, 'That makes 210 items. Make them all?', ['many-members']]);
  const made = await business.owner.get(families.createFamily, { body: { ...body, many: true } });
  expect(made.members).toBe(210);
});

test('a pattern whose SKUs collide is refused by the second of them', async () => {
  const form = jars('Collide', 'COL');
  const members = form.members.map((member) => ({ ...member, sku: 'COL-SAME' }));
  expect((await business.owner.ask(families.createFamily, { body: { ...form, members } })).problem.errors[0]).toEqual({
    field: 'members.1.sku',
    sentence: 'COL-SAME is given twice.',
  });
});

describe('what a family is, who makes it, and where its stock stands', () => {
  /** What stands on an account. */
  const standing = async (code: string) => {
    const { rows } = await business.owner.get(books.listAccounts);
    return rows.find((row) => row.code === code);
  };
  const edit = async (family: families.Family, part: Partial<Parameters<typeof bodyOf>[0]>) =>
    business.owner.ask(families.editFamily, { params: { id: family.id }, body: { ...bodyOf(family), ...part } });
  const bodyOf = ({
    name,
    code,
    description,
    categoryId,
    brand,
    taxCodeId,
    returnable,
    kind,
    maker,
    inventoryAccountId,
    costAccountId,
    ...rest
  }: families.Family) => ({
    ...{ name, code, description, categoryId, unitId, brand, taxCodeId, returnable, kind, maker, inventoryAccountId, costAccountId },
    skuPattern: rest.skuPattern,
    version: rest.version,
  });
  const reread = (id: number) => business.owner.get(families.getFamily, { params: { id } });
  const itemOf = (id: number | undefined) => business.owner.get(catalog.getItem, { params: { id: id as number } });

  test('is shared by its members, and what their stock is worth moves along, but not of one that has an account of its own', async () => {
    const family = await make('Wax block', 'WAX'); // six members of ten, each worth 0.40
    const wax = (await business.owner.get(books.createAccount, { body: { code: '1210', name: 'Wax', type: 'inventory' } })).id;
    const own = (await business.owner.get(books.createAccount, { body: { code: '1220', name: 'Own wax', type: 'inventory' } })).id;
    const [first, second] = family.list;
    const { substitutes: _none, ...body } = await itemOf(first?.itemId);
    await business.owner.get(catalog.editItem, { params: { id: body.id }, body: { ...body, inventoryAccountId: own } });
    expect((await edit(await reread(family.id), { maker: 'Tallow & Co', inventoryAccountId: wax })).status).toBe(200);
    expect(await itemOf(second?.itemId)).toMatchObject({ maker: 'Tallow & Co', inventoryAccountId: wax });
    expect(await itemOf(first?.itemId)).toMatchObject({ maker: 'Tallow & Co', inventoryAccountId: own });
    expect([(await standing('1210'))?.balance, (await standing('1220'))?.balance]).toEqual(['20.00', '4.00']);
    const category = await business.owner.get(setup.createCategory, { body: { name: 'Waxes' } });
    await business.owner.get(setup.editCategory, { params: { id: category.id }, body: { name: 'Waxes', inventoryAccountId: own } });
    expect((await edit(await reread(family.id), { inventoryAccountId: null, categoryId: category.id })).status).toBe(200);
    expect([(await standing('1210'))?.balance, (await standing('1220'))?.balance]).toEqual(['0.00', '24.00']);
    expect(await business.broken()).toEqual([]);
  });

  test('cannot become another kind once a member was moved, nor one that does not go with how a member is kept', async () => {
    const moved = await make('Sealing wax', 'SWX');
    const refused = await edit(moved, { kind: 'service' });
    expect(refused).toMatchObject({ status: 409, problem: { type: 'kind-in-use', errors: [{ field: 'kind' }] } });
    const form = jars('Fitting', 'FIT');
    const { id } = await business.owner.get(families.createFamily, { body: { ...form, members: form.members.map((one) => ({ ...one, opening: [] })) } });
    const fresh = await reread(id as number);
    const { substitutes: _none, ...body } = await itemOf(fresh.list[0]?.itemId);
    await business.owner.get(catalog.editItem, { params: { id: body.id }, body: { ...body, tracking: 'lot' } });
    const tracked = await edit(fresh, { kind: 'service' });
    expect(tracked.problem.errors[0]).toMatchObject({ field: 'kind', sentence: `${body.sku}: Only what is kept in stock has lots or serials.` });
    const { substitutes: _neither, ...again } = await itemOf(fresh.list[0]?.itemId);
    await business.owner.get(catalog.editItem, { params: { id: body.id }, body: { ...again, tracking: 'none' } });
    expect((await edit(await reread(fresh.id), { kind: 'service' })).status).toBe(200);
    expect((await itemOf(fresh.list[1]?.itemId)).kind).toBe('service');
  });

  test('is refused with an account that is for something else', async () => {
    const family = await make('Wick', 'WIC');
    const cost = (await standing('5000'))?.id as number;
    const refused = await edit(family, { inventoryAccountId: cost });
    expect(refused.problem.errors).toEqual([{ field: 'inventoryAccountId', sentence: 'Choose an account that is for inventory.' }]);
  });
});
