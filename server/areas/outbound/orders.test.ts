import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import type { Asked } from '@larder/contract/endpoint';
import * as receiving from '@larder/contract/receiving';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, pickBody, sold, stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

let count = 0;
let itemId: number;
beforeEach(async () => {
  count += 1;
  itemId = await business.item(`OUT-${count}`);
});
type Body = NonNullable<Asked<typeof outbound.createSale>['body']>;
const quoteBody = (part: Partial<Body> = {}) => ({
  customerId: business.customerId,
  siteId: business.siteId,
  shipBy: '2026-03-12',
  lines: [{ itemId, quantity: '3', price: '5.00' }],
  ...part,
});
const look = (id: number) => business.owner.get(outbound.getSale, { params: { id } });
const standing = async (id = itemId) => {
  const { sites } = await business.owner.get(stock.itemStock, { params: { id } });
  const at = sites.find(({ siteId }) => siteId === business.siteId);
  return at && { onHand: at.onHand, reserved: at.reserved, free: at.free, short: at.short, bench: at.bench };
};

describe('a quote', () => {
  test('holds nothing, may be changed, and is found among quotes until it is confirmed', async () => {
    await stocked(business, itemId, '5');
    const quote = await business.owner.get(outbound.createSale, { body: quoteBody() });
    expect(quote).toMatchObject({ state: 'quote', canEdit: true, open: false, amount: '15.00', tax: '3.00' });
    expect(await standing()).toMatchObject({ reserved: '0', free: '5' });
    const changed = await business.owner.get(outbound.editSale, {
      params: { id: quote.id },
      body: {
        ...quoteBody({ note: 'by the back door', lines: [{ itemId, unitId: null, pricePer: '1', quantity: '4', price: '4.50' }] }),
        version: quote.version,
      },
    });
    expect(changed).toMatchObject({ note: 'by the back door', amount: '18.00', version: quote.version + 1 });
    const stale = await business.owner.ask(outbound.editSale, { params: { id: quote.id }, body: { ...quoteBody(), version: quote.version } });
    expect(stale.status).toBe(409);
    const among = async (show: 'quotes' | 'open') =>
      (await business.owner.get(outbound.listSales, { query: { show, q: quote.number } })).rows.map(({ number }) => number);
    expect([await among('quotes'), await among('open')]).toEqual([[quote.number], []]);
    await business.owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: changed.version } });
    expect([await among('quotes'), await among('open')]).toEqual([[], [quote.number]]);
    const late = await business.owner.ask(outbound.editSale, { params: { id: quote.id }, body: { ...quoteBody(), version: changed.version + 1 } });
    expect(late.problem.title).toBe(`${quote.number} is confirmed and can no longer be changed here.`);
  });

  test('what is wrong is told by its field', async () => {
    const errors = async (part: object) =>
      (await business.owner.ask(outbound.createSale, { body: { ...quoteBody(), ...part } as never })).problem.errors.map(({ field }) => field);
    expect(await errors({ customerId: business.supplierId })).toEqual(['customerId']);
    expect(await errors({ siteId: 9999 })).toEqual(['siteId']);
    expect(await errors({ shipBy: '2026-03-09' })).toEqual(['shipBy']);
    expect(await errors({ lines: [] })).toEqual(['lines']);
    expect(await errors({ lines: [{ itemId: 9999, quantity: '1', price: '1' }] })).toEqual(['lines.0.itemId']);
    expect(await errors({ lines: [{ itemId, quantity: '0', price: '1' }] })).toEqual(['lines.0.quantity']);
    expect(await errors({ lines: [{ itemId, quantity: '1.5', price: '1' }] })).toEqual(['lines.0.quantity']);
    expect(await errors({ lines: [{ itemId, quantity: '1', price: '-1' }] })).toEqual(['lines.0.price']);
    expect(await errors({ lines: [{ itemId, unitId: 6, quantity: '1', price: '1' }] })).toEqual(['lines.0.unitId']);
    const { id, version } = await business.owner.get(catalog.getItem, { params: { id: itemId } });
    expect(version).toBe(1);
    await business.owner.get(catalog.editItems, { body: { ids: [id], retired: true } });
    expect(await errors({})).toEqual(['lines.0.itemId']);
  });
});

describe('confirming', () => {
  test('foresees what it does: what is free is reserved, the rest is short and served as it comes', async () => {
    await stocked(business, itemId, '2');
    const quote = await business.owner.get(outbound.createSale, {
      body: quoteBody({ lines: [{ itemId, unitId: null, pricePer: '1', quantity: '5', price: '5.00' }] }),
    });
    const asked = { params: { id: quote.id }, body: { version: quote.version } };
    const foreseen = await business.owner.ask(outbound.confirmSale, asked, { preview: true });
    expect(foreseen.data.effects.rows.map(({ measure, before, after }) => [measure, before, after])).toEqual([
      ['reserved', '0', '2'],
      ['free', '2', '0'],
      ['short', '0', '3'],
    ]);
    expect((await business.owner.get(outbound.confirmSale, asked)).effects).toEqual(foreseen.data.effects);
    const order = await ordered(business, itemId, '4');
    const received = await business.owner.get(receiving.receive, {
      body: { lines: [{ lineId: order.lineId, quantity: '4', binId: business.bins[0] as number }] },
    });
    expect(received.effects.notes).toEqual([`${quote.number} line 1 gets 3 it was short of.`]);
    expect(await standing()).toEqual({ onHand: '6', reserved: '5', free: '1', short: '0', bench: '0' });
    expect((await business.owner.ask(outbound.confirmSale, asked)).status).toBe(409);
  });

  test('goods at another site do not count; they are named with where they are', async () => {
    await stocked(business, itemId, '5');
    const asked = { query: { siteId: business.otherSiteId, itemId, quantity: '3' } };
    const { free, short, elsewhere, availableOn } = await business.owner.get(outbound.availability, asked);
    expect([free, short, availableOn]).toEqual(['0', '3', null]);
    expect(elsewhere).toEqual([{ siteId: business.siteId, site: 'Barn store', free: '5' }]);
  });
});

describe('a quote again', () => {
  test('what was confirmed and nobody has in hand gives its stock to those who are short, and is written on as a quote', async () => {
    await stocked(business, itemId, '4');
    const first = await sold(business, itemId, '4');
    const second = await sold(business, itemId, '3', '2026-03-20');
    const end = async (id: number, decision: 'withdraw' | 'cancel') =>
      business.owner.ask(outbound.endSale, { params: { id }, body: { decision, version: (await look(id)).version } });
    const { data } = await end(first.id, 'withdraw');
    expect(data.effects.notes).toEqual([`${second.number} line 1 gets 3 it was short of.`]);
    const quote = await look(first.id);
    expect(quote).toMatchObject({ state: 'quote', canEdit: true, confirmedAt: null, lines: [{ reserved: '0', short: '0' }] });
    const changed = await business.owner.get(outbound.editSale, { params: { id: first.id }, body: { ...quoteBody(), version: quote.version } });
    await business.owner.get(outbound.confirmSale, { params: { id: first.id }, body: { version: changed.version } });
    expect((await look(first.id)).lines).toMatchObject([{ reserved: '1', short: '2' }]);
    const picked = await business.owner.get(picking.pick, { body: pickBody(business, second, '1') });
    const begun = await end(second.id, 'withdraw');
    expect([begun.status, begun.problem.title]).toEqual([409, `Goods of ${second.number} have gone out, or wait on the bench: it cannot be a quote again.`]);
    await business.owner.get(stock.undo, { body: { movementId: picked.movementId as number } });
    expect((await end(second.id, 'withdraw')).problem.title).toContain('were picked before, even if that was undone.');
    const { data: again } = await end(first.id, 'withdraw');
    expect(again.movementId).toBeNull();
    const wanted = await look(first.id);
    await business.owner.get(outbound.editSale, { params: { id: first.id }, body: { ...quoteBody(), version: wanted.version } });
  });
});

describe('picking and dispatch', () => {
  test('in walking order, in part, and the rest later; margin follows what has gone', async () => {
    await stocked(business, itemId, '10', '2.00');
    const order = await sold(business, itemId, '8');
    const { rows, missing } = await business.owner.get(picking.pickList, { params: { id: order.id } });
    expect([rows.map(({ bin, take }) => [bin, take]), missing]).toEqual([[['A-1', '8']], []]);
    await business.owner.get(picking.pick, { body: { ...pickBody(business, order, '5'), shortReason: 'box torn' } });
    expect(await look(order.id)).toMatchObject({ state: 'waiting on the bench', picked: '5', dispatched: '0' });
    expect(await standing()).toEqual({ onHand: '5', reserved: '3', free: '2', short: '0', bench: '5' });
    await business.owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '4' }] } });
    expect(await look(order.id)).toMatchObject({ dispatchedAmount: '20.00', dispatchedCost: '8.00', margin: '12.00', state: 'waiting on the bench' });
    const more = await business.owner.ask(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '2' }] } });
    expect(more.problem.errors[0]?.field).toBe('lines.0.quantity');
    await business.owner.get(picking.pick, { body: pickBody(business, order, '3') });
    await business.owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '4' }] } });
    expect(await look(order.id)).toMatchObject({ state: 'dispatched', open: false, margin: '24.00' });
  });

  test('goods on the bench are in the way of cancelling; what is left is rest cancelled', async () => {
    await stocked(business, itemId, '6');
    const order = await sold(business, itemId, '6');
    const picked = await business.owner.get(picking.pick, { body: pickBody(business, order, '2') });
    const end = async (decision: 'cancel' | 'close') =>
      business.owner.ask(outbound.endSale, { params: { id: order.id }, body: { decision, version: (await look(order.id)).version } });
    expect((await end('cancel')).problem.title).toBe(`Goods of ${order.number} wait on the bench. Dispatch them or undo the pick first.`);
    await business.owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '2' }] } });
    expect((await end('cancel')).problem.title).toBe(`Goods of ${order.number} have gone out; cancel the rest instead.`);
    const closed = await end('close');
    expect(closed.status).toBe(200);
    expect(await standing()).toEqual({ onHand: '4', reserved: '0', free: '4', short: '0', bench: '0' });
    expect(await look(order.id)).toMatchObject({ state: 'rest cancelled', open: false });
    expect((await business.owner.ask(stock.undo, { body: { movementId: picked.movementId as number } })).status).toBe(409);
  });

  test('an undone pick keeps the goods for its own order, though others wait', async () => {
    await stocked(business, itemId, '3');
    const first = await sold(business, itemId, '3', '2026-03-20');
    const waiting = await sold(business, itemId, '2', '2026-03-11');
    const { movementId } = await business.owner.get(picking.pick, { body: pickBody(business, first, '3') });
    await business.owner.get(stock.undo, { body: { movementId: movementId as number } });
    expect((await look(first.id)).lines[0]).toMatchObject({ picked: '0', reserved: '3', short: '0' });
    expect((await look(waiting.id)).lines[0]).toMatchObject({ reserved: '0', short: '2' });
  });

  test('from quarantine nothing is picked, nor from another site', async () => {
    await stocked(business, itemId, '3');
    const order = await sold(business, itemId, '1');
    const pickFrom = (binId: number) =>
      business.owner.ask(picking.pick, { body: { orderId: order.id, lines: [{ lineId: order.lineId, binId, quantity: '1' }] } });
    const { rows } = await business.pool.query<{ id: number }>(`SELECT id FROM place WHERE kind = 'bin' AND site_id = $1`, [business.otherSiteId]);
    expect((await pickFrom(rows[0]?.id as number)).problem.errors).toEqual([
      { field: 'lines.0.binId', sentence: 'That is not a bin to pick from at this site.' },
    ]);
  });

  test('each thing needs its right', async () => {
    await stocked(business, itemId, '3');
    const order = await sold(business, itemId, '1');
    const [desk, floor, onlooker] = [await business.as('Sales desk'), await business.as('Floor'), await business.as('Onlooker')];
    expect((await desk.ask(outbound.createSale, { body: quoteBody() })).status).toBe(200);
    expect((await floor.ask(outbound.createSale, { body: quoteBody() })).status).toBe(403);
    expect((await onlooker.ask(picking.pick, { body: pickBody(business, order, '1') })).status).toBe(403);
    expect((await floor.ask(picking.pick, { body: pickBody(business, order, '1') })).status).toBe(200);
  });
});

test('orders are listed by ship-by day, the late ones marked, page by page without gap or repeat', async () => {
  const numbers: string[] = [];
  await stocked(business, itemId, '9');
  for (const day of ['2026-03-18', '2026-03-14', '2026-03-16']) numbers.push((await sold(business, itemId, '1', day)).number);
  const wanted = [numbers[1], numbers[2], numbers[0]];
  const seen: string[] = [];
  let cursor: string | undefined;
  do {
    const page = await business.owner.get(outbound.listSales, { query: { limit: 2, cursor } });
    seen.push(...page.rows.map(({ number }) => number));
    cursor = page.next ?? undefined;
  } while (cursor !== undefined);
  expect(new Set(seen).size).toBe(seen.length);
  expect(seen.filter((number) => numbers.includes(number))).toEqual(wanted);
  business.clock.now = new Date('2026-03-15T10:00:00Z');
  const { rows } = await business.owner.get(outbound.listSales, { query: { limit: 50 } });
  expect(rows.filter(({ number }) => numbers.includes(number)).map(({ late }) => late)).toEqual([true, false, false]);
});
