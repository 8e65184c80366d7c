import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as inbound from '@larder/contract/inbound';
import * as making from '@larder/contract/making';
import * as planning from '@larder/contract/planning';
import * as work from '@larder/contract/workOrders';
import { hold } from '../../db/database';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, pickBody, sold, stocked } from '../../testing/trade';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const policy = (siteId: number, reorderPoint: string, orderUpTo: string) => ({ siteId, reorderPoint, orderUpTo });
const list = async (siteId?: number) => (await business.owner.get(planning.topUpList, { query: { siteId } })).rows;
const rowOf = async (sku: string) => (await list()).find((row) => row.sku === sku);

describe('what to top up', () => {
  test('13 here, 6 sold: position 7 is below 8, up to 24 are 17, in packs of six 18', async () => {
    const { supplierId, siteId } = business;
    const itemId = await business.item('TOP-1', {
      policies: [policy(siteId, '8', '24')],
      suppliers: [{ supplierId, packSize: '6', price: '1.75', breaks: [{ from: '12', price: '1.50' }] }],
    });
    await stocked(business, itemId, '13');
    expect(await rowOf('TOP-1')).toBeUndefined();
    await sold(business, itemId, '6');
    expect(await rowOf('TOP-1')).toMatchObject({
      free: '7',
      onOrder: '0',
      short: '0',
      position: '7',
      reorderPoint: '8',
      propose: '18',
      supplier: 'Hexley Joinery',
    });
  });

  test('what is on order counts for it, what is short against it', async () => {
    const { supplierId, siteId } = business;
    const itemId = await business.item('TOP-2', { policies: [policy(siteId, '5', '20')], suppliers: [{ supplierId }] });
    expect(await rowOf('TOP-2')).toMatchObject({ position: '0', propose: '20' });
    await sold(business, itemId, '4');
    expect(await rowOf('TOP-2')).toMatchObject({ short: '4', position: '-4', propose: '24' });
    await ordered(business, itemId, '9');
    expect(await rowOf('TOP-2')).toMatchObject({ onOrder: '9', position: '5', propose: '15' });
    await ordered(business, itemId, '1');
    expect(await rowOf('TOP-2')).toBeUndefined();
  });

  test('one site at a time, and only where there is a point', async () => {
    const { siteId, otherSiteId } = business;
    await business.item('TOP-3', { policies: [policy(otherSiteId, '3', '9')] });
    expect((await list(siteId)).map(({ sku }) => sku)).not.toContain('TOP-3');
    expect((await list(otherSiteId)).map(({ sku, supplierId }) => [sku, supplierId])).toEqual([['TOP-3', null]]);
  });
});

describe('from proposal to order', () => {
  test('one order for each supplier and site, at the price of the break, expected after its longest lead time', async () => {
    const { supplierId, siteId, owner } = business;
    const items = [
      await business.item('TO-1', {
        policies: [policy(siteId, '5', '30')],
        suppliers: [{ supplierId, price: '2.00', breaks: [{ from: '20', price: '1.80' }] }],
      }),
      await business.item('TO-2', { policies: [policy(siteId, '5', '10')], suppliers: [{ supplierId, price: '3.00', leadDays: 16 }] }),
    ];
    const rows = items.map((itemId, index) => ({ itemId, siteId, supplierId, quantity: index === 0 ? '30' : '10' }));
    const { orders } = await owner.get(planning.orderTopUp, { body: { rows, place: true } });
    expect(orders).toHaveLength(1);
    const order = await owner.get(inbound.getPurchase, { params: { id: orders[0]?.id as number } });
    expect(order).toMatchObject({ state: 'placed', expectedOn: '2026-03-26', supplier: 'Hexley Joinery' });
    expect(order.lines.map(({ sku, quantity, price }) => [sku, quantity, price])).toEqual([
      ['TO-1', '30', '1.8'],
      ['TO-2', '10', '3'],
    ]);
    expect((await list()).map(({ sku }) => sku)).not.toContain('TO-1');
  });

  test('what is made is planned as work beside what is bought, to be released; how many cannot be made is said by its row', async () => {
    const { supplierId, siteId, owner } = business;
    const board = await business.item('TO-BOARD', { policies: [policy(siteId, '5', '10')], suppliers: [{ supplierId, price: '2.00' }] });
    const hive = await business.item('TO-HIVE', { policies: [policy(siteId, '2', '6')] });
    expect(await rowOf('TO-HIVE')).toMatchObject({ made: false, supplierId: null });
    await owner.get(making.createBom, { body: { itemId: hive, startsOn: '2026-01-01', parts: [{ itemId: board, quantity: '4' }] } });
    expect(await rowOf('TO-HIVE')).toMatchObject({ made: true, supplierId: null, propose: '6' });
    const rows = [
      { itemId: board, siteId, supplierId, quantity: '10' },
      { itemId: hive, siteId, supplierId: null, quantity: '6' },
    ];
    const odd = await owner.ask(planning.orderTopUp, { body: { rows: [rows[0], { ...rows[1], quantity: '0.5' }] as typeof rows } });
    expect(odd.problem.errors.map(({ field }) => field)).toEqual(['rows.1.quantity']);
    const unmade = await owner.ask(planning.orderTopUp, { body: { rows: [{ ...rows[0], supplierId: null }] as typeof rows } });
    expect(unmade.problem.errors.map(({ field }) => field)).toEqual(['rows.0.itemId']);
    const { orders, work: planned } = await owner.get(planning.orderTopUp, { body: { rows } });
    expect([orders.length, planned.map(({ sku }) => sku)]).toEqual([1, ['TO-HIVE']]);
    const order = await owner.get(work.getWorkOrder, { params: { id: planned[0]?.id as number } });
    expect(order).toMatchObject({ state: 'planned', quantity: '6', startsOn: '2026-03-10', dueOn: '2026-03-13', lines: [{ itemId: board, needed: '24' }] });
    expect((await rowOf('TO-HIVE'))?.onOrder).toBe('0');
    await owner.get(work.releaseWorkOrder, { params: { id: order.id }, body: { version: order.version } });
    expect(await rowOf('TO-HIVE')).toBeUndefined();
  });

  test('nobody to order from, nothing chosen, or no right: refused by the field', async () => {
    const { siteId, customerId, owner } = business;
    const itemId = await business.item('TO-3');
    const rows = [{ itemId, siteId, supplierId: customerId, quantity: '1' }];
    expect((await owner.ask(planning.orderTopUp, { body: { rows } })).problem.errors).toEqual([{ field: 'rows', sentence: 'There is no such supplier.' }]);
    expect((await owner.ask(planning.orderTopUp, { body: { rows: [] } })).problem.errors).toEqual([
      { field: 'rows', sentence: 'Choose at least one proposal.' },
    ]);
    const floor = await business.as('Floor');
    expect((await floor.ask(planning.orderTopUp, { body: { rows } })).status).toBe(403);
  });
});

test('today says what comes in, what runs low, what must go out, and how long it lasts', async () => {
  const { siteId, supplierId, owner } = business;
  const itemId = await business.item('DAY-1', { policies: [policy(siteId, '4', '12')], suppliers: [{ supplierId, leadDays: 5 }] });
  await stocked(business, itemId, '12');
  const gone = await sold(business, itemId, '9');
  await owner.get(picking.pick, { body: pickBody(business, gone, '9') });
  await owner.get(shipping.dispatch, { body: { orderId: gone.id, lines: [{ lineId: gone.lineId, quantity: '9' }] } });
  const late = await ordered(business, await business.item('DAY-2'), '2', '1.00', '2026-03-11');
  const waiting = await sold(business, itemId, '1', '2026-03-11');
  business.clock.now = new Date('2026-03-13T10:00:00Z');
  const day = await owner.get(planning.today, { query: { siteId } });
  expect(day.day).toBe('2026-03-13');
  expect(day.comingIn.find(({ id }) => id === late.id)).toMatchObject({ received: '0', ordered: '2', late: true });
  expect(day.low.find((row) => row.itemId === itemId)).toMatchObject({ free: '2', propose: '10' });
  expect(day.goingOut.find(({ id }) => id === waiting.id)).toMatchObject({ late: true, picked: '0' });
  expect(day.cover.find((row) => row.itemId === itemId)).toMatchObject({ days: 20, leadDays: 5, state: 'low' });
  const counts = await owner.get(planning.openCounts, { query: { siteId } });
  expect(counts).toEqual(day.counts);
});

test('placed at once, no number is taken before the stock is free: who holds it may still number an order', async () => {
  const { supplierId, siteId } = business;
  const itemId = await business.item('TOP-LOCK', { suppliers: [{ supplierId, price: '1.50' }] });
  await hold(business.pool, async (other) => {
    await other.query('BEGIN');
    await other.query('SELECT FROM pool WHERE item_id = $1 FOR NO KEY UPDATE', [itemId]);
    const ordering = business.owner.ask(planning.orderTopUp, { body: { place: true, rows: [{ supplierId, siteId, itemId, quantity: '4' }] } });
    const waits = async () =>
      (await business.pool.query("SELECT FROM pg_stat_activity WHERE wait_event_type = 'Lock' AND datname = current_database()")).rowCount;
    for (let tries = 0; tries < 200 && (await waits()) === 0; tries += 1) await new Promise((later) => setTimeout(later, 10));
    expect(await waits()).toBe(1);
    await other.query("SELECT FROM counter WHERE kind = 'purchase order' FOR UPDATE NOWAIT");
    await other.query('COMMIT');
    expect((await ordering).status).toBe(200);
  });
});
