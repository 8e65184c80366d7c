import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as gaps from '@larder/contract/gaps';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as planning from '@larder/contract/planning';
import * as setup from '@larder/contract/setup';
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
let sku: string;
beforeEach(async () => {
  count += 1;
  sku = `GAP-${count}`;
  itemId = await business.item(sku);
});
const gap = (lineId: number) => business.owner.get(gaps.lineGap, { params: { id: lineId } });
const held = async (...lineIds: number[]) => Promise.all(lineIds.map(async (id) => (await gap(id)).reserved));

test('why a line is short: who holds the stock in the order they are served, what comes, and by when all of it could be here', async () => {
  await stocked(business, itemId, '10');
  const later = await sold(business, itemId, '4', '2026-03-20');
  const first = await sold(business, itemId, '6', '2026-03-12');
  const third = await sold(business, itemId, '5', '2026-03-14');
  await ordered(business, itemId, '4', '2.00', '2026-03-15');
  await ordered(business, itemId, '3', '2.00', '2026-03-18');
  expect(await gap(third.lineId)).toMatchObject({
    sku,
    wanted: '5',
    reserved: '0',
    short: '5',
    availableOn: '2026-03-18',
    coming: [{ quantity: '4' }, { quantity: '3' }],
    holders: [
      { lineId: first.lineId, reserved: '6', shipBy: '2026-03-12', customer: 'Copse Lane School' },
      { lineId: later.lineId, reserved: '4' },
    ],
  });
});

test('what others hold is given to a line that is short; they are short of it then, and both orders tell so', async () => {
  await stocked(business, itemId, '6');
  const holder = await sold(business, itemId, '6');
  const line = await sold(business, itemId, '4');
  const asked = { params: { id: line.lineId }, body: { from: [{ lineId: holder.lineId, quantity: '4' }] } };
  const foreseen = await business.owner.ask(gaps.holdStock, asked, { preview: true });
  expect(foreseen.data.effects.notes).toEqual([`${holder.number} line 1 becomes short of 4.`]);
  expect(await held(holder.lineId, line.lineId)).toEqual(['6', '0']);
  const { data } = await business.owner.ask(gaps.holdStock, asked);
  expect(data.effects).toEqual(foreseen.data.effects);
  expect(await held(holder.lineId, line.lineId)).toEqual(['2', '4']);
  const change = await business.owner.get(setup.lastChange, { query: { kind: 'sales order', id: holder.id } });
  expect(change.last?.person).toBe('Owner');
  const over = await business.owner.ask(gaps.holdStock, { params: { id: holder.lineId }, body: { from: [{ lineId: line.lineId, quantity: '5' }] } });
  expect(over.problem.errors).toEqual([{ field: 'from.0.quantity', sentence: `${line.number} line 1 holds only 4.` }]);
  // Stock that comes in goes to whoever is short, by their turn.
  await stocked(business, itemId, '4');
  expect(await held(holder.lineId, line.lineId)).toEqual(['6', '4']);
});

test('a line that lets others go first holds nothing, also when stock comes in, until that is taken back', async () => {
  await stocked(business, itemId, '5');
  const patient = await sold(business, itemId, '5');
  const other = await sold(business, itemId, '3');
  const back = (yes: boolean) => business.owner.get(gaps.standBack, { params: { id: patient.lineId }, body: { back: yes } });
  expect((await back(true)).effects.notes).toEqual([`${other.number} line 1 gets 3 it was short of.`]);
  expect(await held(patient.lineId, other.lineId)).toEqual(['0', '3']);
  await stocked(business, itemId, '4');
  expect(await held(patient.lineId)).toEqual(['0']);
  await back(false);
  expect(await held(patient.lineId)).toEqual(['5']);
});

test('who was promised a day is served before others, whatever they ship by', async () => {
  const early = await sold(business, itemId, '3', '2026-03-11');
  const promised = await sold(business, itemId, '3', '2026-03-20');
  const promise = (promisedOn: string | null) => business.owner.ask(gaps.promiseLine, { params: { id: promised.lineId }, body: { promisedOn } });
  expect((await promise('2026-03-09')).problem.errors[0]).toMatchObject({ field: 'promisedOn' });
  expect((await promise('2026-03-18')).status).toBe(200);
  await stocked(business, itemId, '3');
  expect(await held(early.lineId, promised.lineId)).toEqual(['0', '3']);
  expect((await gap(promised.lineId)).promisedOn).toBe('2026-03-18');
});

test('stock that comes in serves the short at once, and Today says so until they are picked', async () => {
  const order = await sold(business, itemId, '3');
  const served = async () => (await business.owner.get(planning.today)).served.filter((one) => one.sku === sku);
  expect(await served()).toEqual([]);
  await stocked(business, itemId, '2');
  expect(await served()).toMatchObject([{ orderId: order.id, number: order.number, reserved: '2', short: '1' }]);
  const { movementId } = await business.owner.get(picking.pick, { body: pickBody(business, order, '2') });
  await business.owner.get(stock.undo, { body: { movementId: movementId as number } });
  expect(await served()).toMatchObject([{ reserved: '2' }]);
  await stocked(business, itemId, '1');
  await business.owner.get(picking.pick, { body: pickBody(business, order, '3') });
  expect(await served()).toEqual([]);
});

test('an order that is to go out whole asks before a part of it goes', async () => {
  await stocked(business, itemId, '5');
  const quote = await business.owner.get(outbound.createSale, {
    body: { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-12', whole: true, lines: [{ itemId, quantity: '5', price: '5.00' }] },
  });
  await business.owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
  const lineId = quote.lines[0]?.id as number;
  await business.owner.get(picking.pick, { body: pickBody(business, { id: quote.id, lineId }, '5') });
  const send = (quantity: string, part = false) => business.owner.ask(shipping.dispatch, { body: { orderId: quote.id, lines: [{ lineId, quantity }], part } });
  const asked = await send('4');
  expect([asked.status, asked.problem.asks]).toEqual([409, ['part']]);
  expect((await send('4', true)).status).toBe(200);
  expect((await send('1')).status).toBe(200);
});

test('something else is sold in the place of what is short: what was asked for is kept, at what the customer pays for the other', async () => {
  await stocked(business, itemId, '3');
  const other = await business.item(`${sku}-B`, { salesPrice: '4.40', tracking: 'serial' });
  const item = await business.owner.get(catalog.getItem, { params: { id: itemId } });
  const { substitutes: _none, ...form } = item;
  await business.owner.get(catalog.editItem, { params: { id: itemId }, body: { ...form, substitutes: [other], version: item.version } as never });
  const units = ['A', 'B', 'C'].map((code) => ({ code: `${sku}-${code}`, quantity: '1' }));
  await business.owner.get(stock.openStock, {
    body: { lines: [{ itemId: other, binId: business.bins[0] as number, quantity: '3', unitValue: '2.00', lots: units }] } as never,
  });
  const order = await sold(business, itemId, '5');
  const seen = await gap(order.lineId);
  expect(seen.substitutes).toEqual([{ itemId: other, sku: `${sku}-B`, name: expect.any(String), free: '3' }]);
  const swap = (quantity: string, to = other) => business.owner.ask(gaps.swapLine, { params: { id: order.lineId }, body: { itemId: to, quantity } });
  expect((await swap('6')).problem.errors[0]?.field).toBe('quantity');
  expect((await swap('1', itemId)).problem.errors[0]?.field).toBe('itemId');
  await business.owner.get(picking.pick, { body: pickBody(business, order, '1') });
  expect((await swap('2')).status).toBe(200);
  const { lines } = await business.owner.get(outbound.getSale, { params: { id: order.id } });
  expect(lines.map((line) => [line.sku, line.baseQuantity, line.price, line.asked?.sku ?? null, line.reserved, line.short])).toEqual([
    [sku, '3', '5', null, '2', '0'],
    [`${sku}-B`, '2', '4.4', sku, '2', '0'],
  ]);
  // What is picked stays what it is.
  expect((await swap('3')).problem.errors[0]).toMatchObject({ field: 'quantity', sentence: expect.stringContaining('Only 2') });
});

test('a quote keeps what was asked for, whatever else is written on it; nothing is sold in the place of itself', async () => {
  const other = await business.item(`${sku}-B`);
  const body = (askedItemId: number) => ({
    customerId: business.customerId,
    siteId: business.siteId,
    shipBy: '2026-03-12',
    lines: [{ itemId: other, quantity: '4', price: '5.00', askedItemId }],
  });
  const itself = await business.owner.ask(outbound.createSale, { body: body(other) });
  expect(itself.problem.errors[0]?.field).toBe('lines.0.askedItemId');
  const quote = await business.owner.get(outbound.createSale, { body: body(itemId) });
  expect(quote.lines[0]?.asked?.sku).toBe(sku);
  const split = await business.owner.get(outbound.splitSale, {
    params: { id: quote.id },
    body: { version: quote.version, lines: [{ lineId: quote.lines[0]?.id as number, quantity: '1' }] },
  });
  const rest = await business.owner.get(outbound.getSale, { params: { id: split.rest.id } });
  expect([split.order.lines[0]?.asked?.sku, rest.lines[0]?.asked?.sku]).toEqual([sku, sku]);
});
