import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as lots from '@larder/contract/lots';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { of, Workshop } from '../../testing/workshop';

/** What becomes of output that is kept by lots, spoils, or is looked over before it is sold. */
let business: Business;
let owner: Business['owner'];
let shop: Workshop;
beforeAll(async () => {
  business = await openBusiness();
  owner = business.owner;
  shop = await Workshop.of(business);
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
beforeEach(async () => {
  business.clock.now = new Date('2026-03-10T10:00:00Z');
  await shop.begin();
  await shop.stock();
});

/** An order of five of an item like this, made of two boards, which are taken. */
async function ordered(facts: Partial<catalog.ItemDraft>) {
  const itemId = await business.item(`MADE-${shop.count}`, { purchasePrice: null, ...facts });
  const order = await shop.planned({ itemId, quantity: '5', components: [{ itemId: shop.board, quantity: '5' }], costs: [] });
  await shop.take(order);
  return { itemId, order };
}
const madeOf = (order: Awaited<ReturnType<Workshop['look']>>, quantity: string, more = {}) => ({
  charges: [],
  made: [{ lineId: order.products[0]?.id as number, quantity, ...more }],
});
const next = async (id: number) => (await shop.look(id)).products[0]?.nextLot;
/** In which bins it lies. */
const lying = async (itemId: number) =>
  (await owner.get(stock.itemStock, of(itemId))).sites.flatMap(({ bins }) => bins.map(({ bin, quantity }) => [bin, quantity]));

test('lots are numbered by the order and its record, and good for the shelf life from the day they are made', async () => {
  const { itemId, order } = await ordered({ tracking: 'lot', shelfLifeDays: 30 });
  expect(await next(order.id)).toEqual({ code: `${order.number}-1`, useBy: '2026-04-09' });
  const [lot] = [await next(order.id)];
  const first = await shop.record(order.id, '2', madeOf(order, '2', { lots: [{ ...lot, quantity: '2' }] }));
  expect(first.problem.title).toBeUndefined();
  business.clock.now = new Date('2026-03-12T10:00:00Z');
  expect(await next(order.id)).toEqual({ code: `${order.number}-2`, useBy: '2026-04-11' });
  await shop.record(order.id, '3', madeOf(order, '3', { lots: [{ ...(await next(order.id)), quantity: '3' }] }));
  const { rows } = await owner.get(lots.listLots, { query: { q: order.number } });
  expect(rows.filter((row) => row.itemId === itemId).map(({ code, useBy }) => [code, useBy])).toEqual([
    [`${order.number}-1`, '2026-04-09'],
    [`${order.number}-2`, '2026-04-11'],
  ]);
  // A record that was undone leaves its number: what was made then may still be labelled with it.
  await shop.undo(first.data.movementId);
});

test('the business numbers them as it likes; a lot that is there already keeps its day', async () => {
  const refused = await owner.ask(setup.editCompany, { body: { lotPattern: 'LOT-{n}' } });
  expect(refused.problem.errors).toEqual([{ field: 'lotPattern', sentence: 'With neither {order} nor {dd} the lots of many days would have one number.' }]);
  await owner.get(setup.editCompany, { body: { lotPattern: ' H{yy}{mm}{dd} ' } });
  expect((await owner.get(setup.reference)).lotPattern).toBe('H{yy}{mm}{dd}');
  const { itemId, order } = await ordered({ tracking: 'lot', shelfLifeDays: 10 });
  expect(await next(order.id)).toEqual({ code: 'H260310', useBy: '2026-03-20' });
  await shop.record(order.id, '1', madeOf(order, '1', { lots: [{ code: 'h260310', useBy: '2026-03-18', quantity: '1' }] }));
  expect(await next(order.id)).toEqual({ code: 'H260310', useBy: '2026-03-18' });
  // Nobody else's lot of that number is meant.
  const other = await shop.planned({ itemId: shop.hive, quantity: '1' });
  expect(other.products[0]?.nextLot).toBeNull();
  await shop.record(order.id, '4', madeOf(order, '4', { lots: [{ ...(await next(order.id)), quantity: '4' }] }));
  expect((await owner.get(lots.listLots, { query: { q: 'h260310' } })).rows.filter((row) => row.itemId === itemId)).toHaveLength(1);
  await owner.get(setup.editCompany, { body: { lotPattern: '{order}-{n}' } });
});

test('what is looked over goes to quarantine, and nowhere that is sold from; without such a bin the way there is said', async () => {
  const { itemId, order } = await ordered({ inspected: true });
  const all = madeOf(order, '5', { binId: null });
  const none = await shop.record(order.id, '5', all);
  expect([none.status, none.problem.errors]).toEqual([
    422,
    [
      {
        field: 'made.0.binId',
        sentence: `MADE-${shop.count} is looked over before it is sold: choose a quarantine bin of ${order.site}. If there is none, make one under Setup, Sites and bins.`,
      },
    ],
  ]);
  const { rows } = await owner.get(setup.createBins, { body: { siteId: business.siteId, codes: ['LOOK-1'], sellable: false } });
  expect((await shop.look(order.id)).products).toMatchObject([{ bin: 'LOOK-1', inspected: true }]);
  expect((await shop.record(order.id, '5', madeOf(order, '5', { binId: business.bins[0] }))).problem.errors[0]?.field).toBe('made.0.binId');
  expect((await shop.record(order.id, '5', all)).problem.title).toBeUndefined();
  expect(await lying(itemId)).toEqual([['LOOK-1', '5']]);
  expect(await shop.figures(itemId)).toMatchObject({ free: '0' });
  await owner.get(setup.editBins, { body: { ids: rows.map(({ id }) => id), retired: false, sellable: false } });
});

test('nothing to be looked over needs no bin for it: all that was made is scrapped', async () => {
  const site = await owner.get(setup.createSite, { body: { code: `S${shop.count}`, name: `Shed ${shop.count}` } });
  const itemId = await business.item(`MADE-${shop.count}`, { purchasePrice: null, inspected: true });
  const order = await shop.planned({ itemId, siteId: site.id, quantity: '1', components: [{ itemId: shop.board, quantity: '1' }], costs: [] });
  const refused = await shop.record(order.id, '1', madeOf(order, '1'));
  expect(refused.problem.errors[0]?.field).toBe('made.0.binId');
  const scrapped = await shop.record(order.id, '0', { charges: [], made: [{ lineId: order.products[0]?.id as number, quantity: '0', scrapped: '1' }] });
  expect(scrapped.problem.title).toBeUndefined();
});

test.each([
  [-1, 'Give days from 0 to 36,500.'],
  [40_000, 'Give days from 0 to 36,500.'],
  [1.5, 'Give whole days.'],
])('a shelf life of %s days is refused by its field', async (shelfLifeDays, sentence) => {
  const { problem } = await owner.ask(catalog.createItem, { body: { sku: `KEEPS-${shelfLifeDays}`, name: 'Keeps', unitId: 1, shelfLifeDays } });
  expect(problem.errors).toEqual([{ field: 'shelfLifeDays', sentence }]);
});
