import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as inbound from '@larder/contract/inbound';
import * as outbound from '@larder/contract/outbound';
import { lastChange } from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../testing/business';
import { sold, stocked } from '../testing/trade';

/** What orders of both sorts have in common: one is taken as it was seen, changed as another version, decided on once, and remembers who. */
let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const line = async (sku: string, quantity = '4') => ({ itemId: await business.item(sku), quantity, price: '2.50' });
async function purchase(sku: string) {
  const { supplierId, siteId, owner } = business;
  const form = { supplierId, siteId, lines: [await line(sku)] };
  return { form, order: await owner.get(inbound.createPurchase, { body: form }) };
}
async function quote(sku: string) {
  const { customerId, siteId, owner } = business;
  const form = { customerId, siteId, shipBy: '2026-03-20', lines: [await line(sku)] };
  return { form, order: await owner.get(outbound.createSale, { body: form }) };
}

test('whoever saw an earlier version changes nothing, of either sort, whatever they decide', async () => {
  const { owner } = business;
  const bought = await purchase('ORD-1');
  const sold = await quote('ORD-2');
  const edit = { params: { id: bought.order.id }, body: { ...bought.form, note: 'one', version: bought.order.version } };
  expect((await owner.get(inbound.editPurchase, edit)).version).toBe(bought.order.version + 1);
  const late = await owner.ask(inbound.editPurchase, { ...edit, body: { ...edit.body, note: 'two' } });
  expect([late.status, late.problem.type]).toEqual([409, 'stale']);
  expect(late.problem.title).toBe(
    `${bought.order.number} was changed by somebody else in the meantime. Nothing you typed is lost: look at it, then save again.`,
  );
  const place = await owner.ask(inbound.decidePurchase, { params: { id: bought.order.id }, body: { decision: 'place', version: bought.order.version } });
  expect(place.problem.type).toBe('stale');
  await owner.get(outbound.editSale, { params: { id: sold.order.id }, body: { ...sold.form, note: 'one', version: sold.order.version } });
  const confirm = await owner.ask(outbound.confirmSale, { params: { id: sold.order.id }, body: { version: sold.order.version } });
  expect(confirm.problem.type).toBe('stale');
  expect((await owner.get(inbound.getPurchase, { params: { id: bought.order.id } })).note).toBe('one');
  expect((await owner.get(outbound.getSale, { params: { id: sold.order.id } })).canEdit).toBe(true);
});

test('a draft is written on; what was decided on is not, and is decided on once', async () => {
  const { owner } = business;
  const { form, order } = await purchase('ORD-3');
  const placed = await owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
  const edit = await owner.ask(inbound.editPurchase, { params: { id: order.id }, body: { ...form, version: placed.version } });
  expect([edit.problem.type, edit.problem.title]).toEqual(['not-a-draft', `${order.number} is placed and can no longer be changed here.`]);
  const again = await owner.ask(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: placed.version } });
  expect(again.problem.title).toBe(`${order.number} is placed already.`);
  const sold = await quote('ORD-4');
  const closed = await owner.ask(outbound.endSale, { params: { id: sold.order.id }, body: { decision: 'close', version: sold.order.version } });
  expect(closed.problem.title).toBe(`${sold.order.number} is only a quote; cancel it instead.`);
});

test('who changed an order last is known, with what it had been', async () => {
  const { owner, pool } = business;
  const { form, order } = await quote('ORD-5');
  const asked = { query: { kind: 'sales order' as const, id: order.id } };
  expect(await owner.get(lastChange, asked)).toEqual({ last: null });
  const desk = await business.as('Sales desk');
  await desk.get(outbound.editSale, { params: { id: order.id }, body: { ...form, note: 'by the ramp', version: order.version } });
  expect(await owner.get(lastChange, asked)).toMatchObject({ last: { person: 'Sales desk' } });
  const { rows } = await pool.query(`SELECT field, was, "is" FROM change WHERE kind = 'sales order' AND subject_id = $1`, [order.id]);
  expect(rows).toEqual([{ field: 'note', was: '', is: 'by the ramp' }]);
});

test('an order of another site is neither written on nor decided on', async () => {
  const { pool, owner } = business;
  const { form, order } = await quote('ORD-6');
  const desk = await business.as('Sales desk');
  await pool.query(`UPDATE role_grant SET site_id = $1 WHERE person_id = (SELECT id FROM person WHERE name = 'Sales desk')`, [business.otherSiteId]);
  const edit = await desk.ask(outbound.editSale, { params: { id: order.id }, body: { ...form, siteId: business.otherSiteId, version: order.version } });
  const confirm = await desk.ask(outbound.confirmSale, { params: { id: order.id }, body: { version: order.version } });
  expect([edit.status, confirm.status]).toEqual([403, 403]);
  expect(await owner.get(outbound.getSale, { params: { id: order.id } })).toMatchObject({ version: order.version, canEdit: true });
});

test('an order that was cancelled is opened again as it was: it wants and brings what it did, once', async () => {
  const { owner, siteId } = business;
  const figures = async (itemId: number) => {
    const { sites } = await owner.get(stock.itemStock, { params: { id: itemId } });
    const { reserved, short, onOrder } = sites.find((each) => each.siteId === siteId) ?? { reserved: '0', short: '0', onOrder: '0' };
    return { reserved, short, onOrder };
  };
  const { form, order } = await purchase('ORD-8');
  const itemId = form.lines[0]?.itemId as number;
  const decide = async (decision: 'place' | 'cancel' | 'close' | 'reopen', version: number) =>
    owner.ask(inbound.decidePurchase, { params: { id: order.id }, body: { decision, version } });
  await decide('place', order.version);
  const placed = await figures(itemId);
  await decide('cancel', order.version + 1);
  expect((await figures(itemId)).onOrder).toBe('0');
  const { data } = await decide('reopen', order.version + 2);
  expect([data.state, await figures(itemId)]).toEqual(['placed', placed]);
  expect((await decide('reopen', order.version + 3)).problem.title).toBe(`${order.number} was not cancelled: it is placed.`);
  await decide('cancel', order.version + 3);
  expect((await decide('reopen', order.version + 2)).problem.type).toBe('stale');

  // one more wants it meanwhile: it keeps what it got, and who comes back waits
  await stocked(business, itemId, '5');
  const first = await sold(business, itemId, '5', '2026-04-01');
  const end = async (id: number, decision: 'cancel' | 'reopen') =>
    owner.ask(outbound.endSale, { params: { id }, body: { decision, version: (await owner.get(outbound.getSale, { params: { id } })).version } });
  expect(await figures(itemId)).toMatchObject({ reserved: '5', short: '0' });
  await end(first.id, 'cancel');
  expect(await figures(itemId)).toMatchObject({ reserved: '0', short: '0' });
  await sold(business, itemId, '3', '2026-03-10');
  expect((await end(first.id, 'reopen')).status).toBe(200);
  expect(await figures(itemId)).toMatchObject({ reserved: '5', short: '3' });
  expect(await owner.get(outbound.getSale, { params: { id: first.id } })).toMatchObject({ state: 'confirmed', open: true });

  // a quote that is opened again is a quote, and holds nothing
  const offered = await quote('ORD-9');
  await end(offered.order.id, 'cancel');
  await end(offered.order.id, 'reopen');
  expect(await owner.get(outbound.getSale, { params: { id: offered.order.id } })).toMatchObject({ state: 'quote', canEdit: true });
  expect(await figures(offered.form.lines[0]?.itemId as number)).toMatchObject({ reserved: '0', short: '0' });
  expect(await business.broken()).toEqual([]);
});
