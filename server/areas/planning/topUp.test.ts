import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as inbound from '@larder/contract/inbound';
import * as levels from '@larder/contract/levels';
import * as making from '@larder/contract/making';
import * as planning from '@larder/contract/planning';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import * as transfersOf from '@larder/contract/transfers';
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
    expect(await rowOf('TO-HIVE')).toMatchObject({ by: 'buy', supplierId: null });
    await owner.get(making.createBom, { body: { itemId: hive, startsOn: '2026-01-01', parts: [{ itemId: board, quantity: '4' }] } });
    expect(await rowOf('TO-HIVE')).toMatchObject({ by: 'make', supplierId: null, propose: '6' });
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
    // Planned it is proposed no more, though nothing of it is on order yet.
    expect(await rowOf('TO-HIVE')).toBeUndefined();
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

describe('from other sites', () => {
  const opened = async (itemId: number, siteId: number, quantity: string) => {
    const { rows } = await business.owner.get(setup.listBins, { query: { siteId } });
    const binId = rows[0]?.id as number;
    await business.owner.get(stock.openStock, { body: { lines: [{ itemId, binId, quantity, unitValue: '1.00' }] } as never });
  };

  test('what another site has above its own level is brought first; the rest is bought only where that is too little', async () => {
    const { supplierId, siteId, otherSiteId, owner } = business;
    const levels = [policy(siteId, '8', '24'), policy(otherSiteId, '4', '10')];
    const itemId = await business.item('FROM-1', { policies: levels, suppliers: [{ supplierId, packSize: '6', price: '2.00' }] });
    await opened(itemId, otherSiteId, '13');
    await opened(itemId, siteId, '2');
    const own = async () => (await list()).filter((row) => row.sku === 'FROM-1').map(({ by, fromSite, propose, siteId: at }) => [by, fromSite, propose, at]);
    // 3 above its level are too little to be above the point of 8: the rest is bought.
    expect(await own()).toEqual([
      ['buy', null, '24', siteId],
      ['bring', 'Harbour shop', '3', siteId],
    ]);
    await opened(itemId, siteId, '4');
    expect(await own()).toEqual([['bring', 'Harbour shop', '3', siteId]]);
    const [row] = (await list()).filter(({ sku }) => sku === 'FROM-1');
    const chosen = { itemId, siteId, fromSiteId: otherSiteId, quantity: '3', position: row?.position };
    const { transfers, orders } = await owner.get(planning.orderTopUp, { body: { rows: [chosen] } });
    expect([orders, transfers.map(({ from, to }) => [from, to])]).toEqual([[], [['Harbour shop', 'Barn store']]]);
    expect(await own()).toEqual([]);
    const sent = await owner.get(transfersOf.getTransfer, { params: { id: transfers[0]?.id as number } });
    expect(sent.lines.map(({ sku, quantity }) => [sku, quantity])).toEqual([['FROM-1', '3']]);
    const again = await owner.ask(planning.orderTopUp, { body: { rows: [chosen] } });
    expect(again.problem.errors).toEqual([{ field: 'rows.0.quantity', sentence: 'This was topped up in the meantime; nothing more is proposed.' }]);
    const itself = await owner.ask(planning.orderTopUp, { body: { rows: [{ ...chosen, position: undefined, fromSiteId: siteId }] } });
    expect(itself.status).toBe(422);
  });

  test('the way of an item decides: from its site, from its supplier while that is in use, or made', async () => {
    const { supplierId, siteId, otherSiteId, owner } = business;
    const { id: second } = await owner.get(setup.createParty, { body: { name: 'Dorn Timber', isSupplier: true, minimumOrder: '50.00' } });
    const suppliers = [
      { supplierId, price: '2.00' },
      { supplierId: second, price: '2.20' },
    ];
    const itemId = await business.item('WAY-1', {
      policies: [{ ...policy(siteId, '8', '24'), way: `buy ${second}` }, policy(otherSiteId, '1', '2')],
      suppliers,
    });
    await opened(itemId, otherSiteId, '40');
    const [row] = (await list()).filter(({ sku }) => sku === 'WAY-1');
    expect(row).toMatchObject({ by: 'buy', supplier: 'Dorn Timber', note: null, propose: '24' });
    expect((await owner.get(planning.topUpList, { query: { itemId } })).minimums).toEqual([{ supplierId: second, amount: '50.00' }]);
    await owner.get(setup.retireParty, { params: { id: second }, body: { retired: true } });
    expect(await rowOf('WAY-1')).toMatchObject({ by: 'buy', supplier: 'Hexley Joinery', note: 'supplier-retired' });
    await owner.get(levels.setLevels, { body: { rows: [{ itemId, siteId }], set: { way: `bring ${otherSiteId}`, packSize: '10' } } });
    expect(await rowOf('WAY-1')).toMatchObject({ by: 'bring', fromSite: 'Harbour shop', propose: '30', packSize: '10' });
    await owner.get(levels.setLevels, { body: { rows: [{ itemId, siteId }], set: { way: 'make' } } });
    expect(await rowOf('WAY-1')).toMatchObject({ by: 'buy', note: 'no-bill' });
  });
});

describe('who else is at it', () => {
  test('on a draft it is proposed no more; of two who order the same the second is told', async () => {
    const { supplierId, siteId, owner } = business;
    const itemId = await business.item('TWICE-1', { policies: [policy(siteId, '5', '10')], suppliers: [{ supplierId, price: '1.00' }] });
    const rows = [{ itemId, siteId, supplierId, quantity: '10', position: '0' }];
    const wim = await business.as('Stock controller');
    const both = await Promise.all([owner, wim].map((one) => one.ask(planning.orderTopUp, { body: { rows } })));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(both.find(({ status }) => status === 409)?.problem.errors[0]?.field).toBe('rows.0.quantity');
    expect(await rowOf('TWICE-1')).toBeUndefined();
    const made = both.find(({ status }) => status === 200)?.data.orders[0]?.id as number;
    const draft = await owner.get(inbound.getPurchase, { params: { id: made } });
    await owner.get(inbound.decidePurchase, { params: { id: made }, body: { decision: 'cancel', version: draft.version } });
    expect(await rowOf('TWICE-1')).toMatchObject({ drafted: '0', propose: '10' });
  });

  test('put off it comes back on its day, with why; a day gone by is refused', async () => {
    const { supplierId, siteId, owner, clock } = business;
    const itemId = await business.item('LATER-1', { policies: [policy(siteId, '5', '10')], suppliers: [{ supplierId }] });
    const counted = async () => (await owner.get(planning.openCounts, { query: {} })).low;
    const before = await counted();
    await owner.get(planning.putOffTopUp, { body: { itemId, siteId, until: '2026-03-14', reason: 'new prices from Friday' } });
    expect((await rowOf('LATER-1'))?.putOff).toEqual({ until: '2026-03-14', reason: 'new prices from Friday', person: 'Owner' });
    expect(await counted()).toBe(before - 1);
    expect((await owner.get(planning.today, { query: {} })).low.map(({ sku }) => sku)).not.toContain('LATER-1');
    clock.now = new Date('2026-03-14T10:00:00Z');
    expect((await rowOf('LATER-1'))?.putOff).toBeNull();
    expect(await counted()).toBe(before);
    const gone = await owner.ask(planning.putOffTopUp, { body: { itemId, siteId, until: '2026-03-14' } });
    expect(gone.problem.errors).toEqual([{ field: 'until', sentence: 'Choose a day to come.' }]);
    await owner.get(planning.putOffTopUp, { body: { itemId, siteId, until: '2026-03-20' } });
    await owner.get(planning.putOffTopUp, { body: { itemId, siteId, until: null } });
    expect((await rowOf('LATER-1'))?.putOff).toBeNull();
    clock.now = new Date('2026-03-10T10:00:00Z');
    const floor = await business.as('Onlooker');
    expect((await floor.ask(planning.putOffTopUp, { body: { itemId, siteId, until: '2026-03-20' } })).status).toBe(403);
  });

  test('an order is filled with what its supplier has and what runs low next', async () => {
    const { supplierId, siteId, owner } = business;
    const near = await business.item('FILL-1', {
      policies: [policy(siteId, '5', '20')],
      suppliers: [{ supplierId, packSize: '4', price: '2.00', breaks: [{ from: '40', price: '1.50' }] }],
    });
    const full = await business.item('FILL-2', { policies: [policy(siteId, '5', '8')], suppliers: [{ supplierId }] });
    await stocked(business, near, '7');
    await stocked(business, full, '8');
    const { rows } = await owner.get(planning.topUpFill, { query: { supplierId, siteId } });
    expect(rows.find(({ sku }) => sku === 'FILL-1')).toMatchObject({
      ...{ by: 'buy', position: '7', propose: '16', amount: '32.00', days: null },
      nextBreak: { quantity: '40', price: '1.5', costs: '28.00', saves: '20.00' },
    });
    expect(rows.map(({ sku }) => sku)).not.toContain('FILL-2');
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
