import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as catalog from '@larder/contract/catalog';
import type { Asked } from '@larder/contract/endpoint';
import * as making from '@larder/contract/making';
import * as setup from '@larder/contract/setup';
import * as transfers from '@larder/contract/transfers';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, sold, stocked } from '../../testing/trade';

let business: Business;
let labour: number;
beforeAll(async () => {
  business = await openBusiness();
  labour = (await business.owner.get(books.createAccount, { body: { code: '5400', name: 'Labour put into goods', type: 'expense' } })).id;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

type Form = NonNullable<Asked<typeof making.createBom>['body']>;
type Parts = Form['parts'];
const bom = (itemId: number, parts: Parts, rest: Partial<Form> = {}) =>
  business.owner.ask(making.createBom, { body: { itemId, startsOn: '2026-03-01', parts, ...rest } });
const fieldsOf = async (asked: ReturnType<typeof bom>) => (await asked).problem.errors.map(({ field }) => field);

let count = 0;
/** Items of a hive, new for each test: what it is made of, at what each costs. */
let hive: number, box: number, board: number, screw: number, roof: number;
const named = (what: string) => `${what}-${count}`;
beforeEach(async () => {
  count += 1;
  [hive, box, board, screw, roof] = (await Promise.all(
    [
      ['HIVE', '60.00'],
      ['BOX', '11.00'],
      ['BOARD', '2.00'],
      ['SCREW', '0.05'],
      ['ROOF', '8.50'],
    ].map(([what = '', purchasePrice]) => business.item(named(what), { purchasePrice })),
  )) as [number, number, number, number, number];
});
const hives = async () => {
  const boxes = await bom(box, [
    { itemId: board, quantity: '4', waste: '5' },
    { itemId: screw, quantity: '16' },
  ]);
  const all = await bom(hive, [
    { itemId: box, quantity: '2' },
    { itemId: roof, quantity: '1', note: 'the flat one' },
    { itemId: screw, quantity: '8' },
  ]);
  return { boxes: boxes.data, all: all.data };
};

describe('a bill of materials', () => {
  test('is written in any unit of its parts, with alternatives, work and by-products, and comes back as it was written', async () => {
    const { units } = await business.owner.get(setup.reference);
    const boxUnit = units.find(({ code }) => code === 'box')?.id as number;
    const nails = await business.item(named('NAIL'), { purchasePrice: '0.02', units: [{ unitId: boxUnit, numerator: 200, denominator: 1 }] });
    const offcut = await business.item(named('OFFCUT'));
    const made = await bom(
      hive,
      [
        { itemId: board, quantity: '4', waste: '12.5', note: 'planed', alternatives: [{ itemId: roof, quantity: '2' }] },
        { itemId: nails, unitId: boxUnit, quantity: '0.25' },
      ],
      {
        name: 'winter',
        makes: '2',
        share: '90',
        costs: [{ name: 'Joiner', per: 'hour', quantity: '0.5', rate: '18.50', accountId: labour }],
        byProducts: [{ itemId: offcut, quantity: '3', share: '10' }],
        steps: 'Saw\nNail',
      },
    );
    expect(made.status).toBe(200);
    expect(made.data).toMatchObject({
      sku: named('HIVE'),
      number: 1,
      label: 'winter',
      state: 'in use',
      makes: '2',
      share: '90',
      parts: [
        { sku: named('BOARD'), quantity: '4', waste: '12.5', note: 'planed', alternatives: [{ sku: named('ROOF'), quantity: '2' }] },
        { sku: named('NAIL'), writtenIn: 'box', unit: 'each', quantity: '0.25' },
      ],
      costs: [{ name: 'Joiner', per: 'hour', quantity: '0.5', rate: '18.5', accountId: labour }],
      byProducts: [{ sku: named('OFFCUT'), quantity: '3', share: '10' }],
      steps: 'Saw\nNail',
    });
    const { rows } = await business.owner.get(making.listBoms, { query: { q: `${named('hive')} winter` } });
    // 4.5 boards at 2.00 and 50 nails at 0.02 and half an hour at 18.50 for two of them, of which nine tenths are theirs.
    expect(rows).toMatchObject([{ id: made.data.id, parts: 2, made: '8.6625', own: '60.0000' }]);
  });

  test('says of each field what is wrong with it, and keeps nothing', async () => {
    const service = await business.item(named('SERVICE'), { kind: 'service' });
    const one: Parts = [{ itemId: board, quantity: '1' }];
    expect(await fieldsOf(bom(hive, []))).toEqual(['parts']);
    expect(await fieldsOf(bom(hive, [...one, ...one]))).toEqual(['parts.1.itemId']);
    expect(await fieldsOf(bom(hive, [{ itemId: hive, quantity: '1' }]))).toEqual(['parts.0.itemId']);
    expect(await fieldsOf(bom(hive, [{ itemId: 99_999, quantity: '1' }]))).toEqual(['parts.0.itemId']);
    expect(await fieldsOf(bom(hive, [{ itemId: service, quantity: '1' }]))).toEqual(['parts.0.itemId']);
    expect(await fieldsOf(bom(service, one))).toEqual(['itemId']);
    expect(await fieldsOf(bom(hive, [{ itemId: board, quantity: '0' }]))).toEqual(['parts.0.quantity']);
    expect(await fieldsOf(bom(hive, [{ itemId: board, quantity: '1', waste: '101' }]))).toEqual(['parts.0.waste']);
    expect(await fieldsOf(bom(hive, [{ itemId: board, quantity: '1', unitId: 99_999 }]))).toEqual(['parts.0.unitId']);
    expect(await fieldsOf(bom(hive, [{ itemId: board, quantity: '1', alternatives: [{ itemId: board, quantity: '1' }] }]))).toEqual([
      'parts.0.alternatives.0.itemId',
    ]);
    expect(await fieldsOf(bom(hive, one, { makes: '0.5' }))).toEqual(['makes']);
    expect(await fieldsOf(bom(hive, one, { byProducts: [{ itemId: board, quantity: '1' }] }))).toEqual(['byProducts.0.itemId']);
    expect(await fieldsOf(bom(hive, one, { share: '50', byProducts: [{ itemId: roof, quantity: '1' }] }))).toEqual(['share']);
    expect(await fieldsOf(bom(hive, one, { costs: [{ name: 'Work', per: 'hour', quantity: '1', rate: '1', accountId: 99_999 }] }))).toEqual([
      'costs.0.accountId',
    ]);
    const sawing = { name: 'Sawing', per: 'hour' as const, quantity: '1', rate: '1', accountId: labour };
    expect(await fieldsOf(bom(hive, one, { costs: [sawing, { ...sawing, name: 'sawing' }] }))).toEqual(['costs.1.name']);
    expect((await business.owner.get(making.listBoms, { query: { q: named('hive') } })).rows).toEqual([]);
    const floor = await business.as('Floor');
    expect((await floor.ask(making.createBom, { body: { itemId: hive, startsOn: '2026-03-01', parts: one } })).status).toBe(403);
  });

  test('that would contain itself through three levels is refused by name, also by what may be taken in place of a part', async () => {
    await hives();
    const circle = await bom(board, [
      { itemId: roof, quantity: '1' },
      { itemId: hive, quantity: '1' },
    ]);
    expect(circle.problem.errors).toEqual([
      {
        field: 'parts.1.itemId',
        sentence: `${named('BOARD')} would contain itself: ${named('BOARD')} contains ${named('HIVE')}, which contains ${named('BOX')}, which contains ${named('BOARD')}.`,
      },
    ]);
    expect(await fieldsOf(bom(board, [{ itemId: roof, quantity: '1', alternatives: [{ itemId: box, quantity: '1' }] }]))).toEqual([
      'parts.0.alternatives.0.itemId',
    ]);
    // Written from both ends at once, one of the two is refused.
    const [first, second] = await Promise.all([bom(screw, [{ itemId: roof, quantity: '1' }]), bom(roof, [{ itemId: screw, quantity: '1' }])]);
    expect([first.status, second.status].toSorted()).toEqual([200, 422]);
  });

  test('has versions by their days: the last that has begun is in use; retired, the one before is again', async () => {
    const first = (await bom(box, [{ itemId: board, quantity: '4' }])).data;
    const later = (await bom(box, [{ itemId: board, quantity: '3' }], { startsOn: '2026-03-15', name: 'thin' })).data;
    const stands = async () => (await business.owner.get(making.getBom, { params: { id: first.id } })).versions.map(({ number, state }) => [number, state]);
    expect(later.number).toBe(2);
    expect(await stands()).toEqual([
      [2, 'later'],
      [1, 'in use'],
    ]);
    const today = (await bom(box, [{ itemId: board, quantity: '5' }], { startsOn: '2026-03-10' })).data;
    expect((await stands()).slice(1)).toEqual([
      [2, 'later'],
      [1, 'replaced'],
    ]);
    await business.owner.get(making.retireBom, { params: { id: today.id }, body: { retired: true, version: today.version } });
    expect((await stands()).map(([, state]) => state)).toEqual(['retired', 'later', 'in use']);
    expect((await business.owner.ask(making.retireBom, { params: { id: today.id }, body: { retired: false, version: today.version } })).status).toBe(409);
  });

  test('taken back is refused when it would close a circle by then', async () => {
    const first = (await bom(box, [{ itemId: board, quantity: '4' }])).data;
    await business.owner.get(making.retireBom, { params: { id: first.id }, body: { retired: true, version: first.version } });
    expect((await bom(board, [{ itemId: box, quantity: '1' }])).status).toBe(200);
    const back = await business.owner.ask(making.retireBom, { params: { id: first.id }, body: { retired: false, version: first.version + 1 } });
    expect([back.status, back.problem.title]).toEqual([422, expect.stringContaining('would contain itself')]);
  });

  test('is changed whole, refused when somebody else changed it, and its history tells what was changed', async () => {
    const { boxes } = await hives();
    const body = { itemId: box, startsOn: '2026-03-02', parts: [{ itemId: board, quantity: '5' }], version: boxes.version };
    const changed = await business.owner.get(making.editBom, { params: { id: boxes.id }, body });
    expect(changed).toMatchObject({ version: 2, startsOn: '2026-03-02', parts: [{ quantity: '5' }] });
    expect((await business.owner.ask(making.editBom, { params: { id: boxes.id }, body })).status).toBe(409);
    const other = await business.owner.ask(making.editBom, { params: { id: boxes.id }, body: { ...body, itemId: roof, version: 2 } });
    expect([other.status, other.problem.errors[0]?.field]).toEqual([422, 'itemId']);
    expect((await business.owner.get(setup.lastChange, { query: { kind: 'bill of materials', id: boxes.id } })).last?.person).toBeTruthy();
    expect((await business.owner.ask(making.getBom, { params: { id: 99_999 } })).status).toBe(404);
  });

  test('keeps an item that it names from being deleted', async () => {
    await hives();
    const { version } = await business.owner.get(catalog.getItem, { params: { id: roof } });
    const gone = await business.owner.ask(catalog.deleteItem, { params: { id: roof }, body: { version } });
    expect([gone.status, gone.problem.title]).toEqual([409, expect.stringContaining('bill of materials')]);
  });
});

describe('what one costs that is made', () => {
  test('is told part by part over all levels as it is typed, beside what it costs in stock', async () => {
    await stocked(business, board, '10', '2.40');
    await hives();
    const cost = await business.owner.get(making.bomCost, {
      body: {
        itemId: hive,
        startsOn: '2026-03-01',
        parts: [
          { itemId: box, quantity: '2' },
          { itemId: roof, quantity: '1' },
        ],
        costs: [{ name: 'Joiner', per: 'hour', quantity: '0.25', rate: '20', accountId: labour }],
      },
    });
    // A box: 4.2 boards at 2.40 and 16 screws at 0.05.
    expect(cost).toMatchObject({ parts: '30.2600', work: '5.0000', made: '35.2600', own: '60.0000', share: '100.00', unknown: [] });
    expect(cost.rows.map(({ level, sku, quantity, own, made, amount }) => [level, sku, quantity, own, made, amount])).toEqual([
      [1, named('BOX'), '2', '11.0000', '10.8800', '21.7600'],
      [2, named('BOARD'), '8.4', '2.4000', null, '20.1600'],
      [2, named('SCREW'), '32', '0.0500', null, '1.6000'],
      [1, named('ROOF'), '1', '8.5000', null, '8.5000'],
    ]);
    const nobody = await business.item(named('NOTHING'), { purchasePrice: null });
    const unknown = await business.owner.get(making.bomCost, { body: { itemId: hive, startsOn: '2026-03-01', parts: [{ itemId: nobody, quantity: '1' }] } });
    expect(unknown).toMatchObject({ unknown: [named('NOTHING')], made: '0.0000' });
    const floor = await business.as('Floor');
    expect(await floor.get(making.bomCost, { body: { itemId: hive, startsOn: '2026-03-01', parts: [{ itemId: roof, quantity: '1' }] } })).toMatchObject({
      made: '',
      rows: [{ own: '', amount: '' }],
    });
    const circle = await business.owner.ask(making.bomCost, { body: { itemId: board, startsOn: '2026-03-01', parts: [{ itemId: hive, quantity: '1' }] } });
    expect(circle.problem.errors[0]?.field).toBe('parts.0.itemId');
  });

  test('where a part goes into is told through all levels, with how many are in one by all ways', async () => {
    await hives();
    const { rows } = await business.owner.get(making.whereUsed, { params: { id: screw } });
    expect(rows.map(({ level, sku, quantity }) => [level, sku, quantity])).toEqual([
      [1, named('BOX'), '16'],
      [2, named('HIVE'), '40'],
    ]);
    const { boms } = await business.owner.get(making.whereUsed, { params: { id: hive } });
    expect(boms).toMatchObject([{ number: 1, state: 'in use' }]);
  });
});

describe('how many can be made at a site', () => {
  test('goes by what is free there through all levels; what is missing says when it comes and who else has some', async () => {
    const { siteId, otherSiteId, owner } = business;
    await hives();
    for (const [itemId, many] of [
      [roof, '5'],
      [box, '3'],
      [board, '9'],
      [screw, '100'],
    ] as const)
      await stocked(business, itemId, many);
    // Two roofs are promised to somebody, so three are free; the fourth box takes 4.2 boards, rounded up to 5.
    await sold(business, roof, '2');
    await ordered(business, board, '6', '2.00', '2026-03-20');
    const can = await owner.get(making.canMakeItem, { params: { id: hive }, query: { siteId } });
    expect(can).toMatchObject({ canMake: '2', limits: [{ sku: named('BOARD') }], quantity: '3', free: '0' });
    const asked = await owner.get(making.canMakeItem, { params: { id: hive }, query: { siteId, quantity: '4' } });
    const row = (sku: string) => asked.rows.find((one) => one.sku === named(sku));
    expect(row('ROOF')).toMatchObject({ level: 1, needed: '4', free: '3', taken: '3', missing: '1', open: '1', coming: [] });
    expect(row('BOX')).toMatchObject({ needed: '8', taken: '3', made: '5', missing: '0' });
    expect(row('BOARD')).toMatchObject({ level: 2, needed: '21', free: '9', missing: '12', open: '6', coming: [{ quantity: '6', expectedOn: '2026-03-20' }] });
    expect(row('SCREW')).toMatchObject({ level: 1, needed: '112', missing: '12' });
    expect((await owner.get(making.canMakeItem, { params: { id: hive }, query: { siteId: otherSiteId } })).canMake).toBe('0');
    const there = await owner.get(making.canMakeItem, { params: { id: hive }, query: { siteId: otherSiteId, quantity: '1' } });
    expect(there.rows.find((one) => one.sku === named('ROOF'))?.elsewhere).toEqual([{ siteId, site: 'Barn store', free: '3' }]);
    const moved = await owner.get(transfers.createTransfer, {
      body: { fromSiteId: siteId, toSiteId: otherSiteId, sendBy: '2026-03-12', lines: [{ itemId: roof, quantity: '1' }] },
    });
    expect(moved.id).not.toBeNull();
    const all = await owner.get(making.canMakeAll, { query: { siteId, q: `-${count}` } });
    expect(all.rows.filter(({ sku }) => sku.endsWith(`-${count}`)).map(({ sku, canMake, limits }) => [sku, canMake, limits.map((one) => one.sku)])).toEqual([
      [named('BOX'), '2', [named('BOARD')]],
      [named('HIVE'), '2', [named('BOARD'), named('ROOF')]],
    ]);
  });

  test('is refused for what is not made, for no site, for a part of a piece; and shown to nobody of other sites', async () => {
    await hives();
    const { siteId, owner } = business;
    const asked = (id: number, query: { siteId: number; quantity?: string }) => owner.ask(making.canMakeItem, { params: { id }, query });
    expect([(await asked(roof, { siteId })).status, (await asked(99_999, { siteId })).status]).toEqual([404, 404]);
    expect((await asked(hive, { siteId, quantity: '0.5' })).problem.errors[0]?.field).toBe('quantity');
    expect((await asked(hive, { siteId, quantity: '0' })).status).toBe(422);
    expect((await asked(hive, { siteId: 99_999 })).problem.errors[0]?.field).toBe('siteId');
  });

  test('tells what may be taken in place of what is missing', async () => {
    await bom(box, [{ itemId: board, quantity: '4', alternatives: [{ itemId: roof, quantity: '2' }] }]);
    await stocked(business, roof, '7');
    const can = await business.owner.get(making.canMakeItem, { params: { id: box }, query: { siteId: business.siteId } });
    expect(can).toMatchObject({
      canMake: '0',
      rows: [{ sku: named('BOARD'), missing: '4', alternatives: [{ sku: named('ROOF'), quantity: '2', free: '7' }] }],
    });
  });
});
