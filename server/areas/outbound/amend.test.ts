import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { Asked } from '@larder/contract/endpoint';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { pickBody, sold, stocked } from '../../testing/trade';

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
  itemId = await business.item(`AMEND-${count}`);
});
type Body = NonNullable<Asked<typeof outbound.amendSale>['body']>;
const look = (id: number) => business.owner.get(outbound.getSale, { params: { id } });
const body = async (id: number, part: Partial<Body> = {}): Promise<Asked<typeof outbound.amendSale>> => {
  const { version, shipBy, lines } = await look(id);
  return { params: { id }, body: { version, shipBy, lines: lines.map((line) => ({ lineId: line.id, quantity: line.quantity, price: line.price })), ...part } };
};
const amend = async (id: number, part: Partial<Body>) => business.owner.ask(outbound.amendSale, await body(id, part));
const standing = async () => {
  const { sites } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
  const at = sites.find(({ siteId }) => siteId === business.siteId);
  return at && [at.onHand, at.reserved, at.free, at.short];
};

describe('a line of a confirmed order', () => {
  test('may want more or less: what is given up goes to those who are short, what is wanted beyond is reserved as far as it is free', async () => {
    await stocked(business, itemId, '10');
    const first = await sold(business, itemId, '8');
    const second = await sold(business, itemId, '6', '2026-03-20');
    expect(await standing()).toEqual(['10', '10', '0', '4']);
    const less: Partial<Body> = { lines: [{ lineId: first.lineId, quantity: '5', price: '5.00' }] };
    const foreseen = await business.owner.ask(outbound.amendSale, await body(first.id, less), { preview: true });
    expect(foreseen.data.effects.rows.map(({ measure, before, after }) => [measure, before, after])).toEqual([['short', '4', '1']]);
    expect(await standing()).toEqual(['10', '10', '0', '4']);
    const { data } = await amend(first.id, less);
    expect(data.effects).toEqual(foreseen.data.effects);
    expect(data.effects.notes).toEqual([`${second.number} line 1 gets 3 it was short of.`]);
    expect((await look(first.id)).lines).toMatchObject([{ baseQuantity: '5', reserved: '5', amount: '25.00' }]);
    expect((await look(second.id)).lines).toMatchObject([{ reserved: '5', short: '1' }]);
    await amend(first.id, { lines: [{ lineId: first.lineId, quantity: '12', price: '4.50', discount: '10' }] });
    // Nobody's reservation is taken: what is wanted beyond is short.
    expect((await look(first.id)).lines).toMatchObject([{ baseQuantity: '12', reserved: '5', short: '7', amount: '48.60', discount: '10' }]);
    const { last } = await business.owner.get(setup.lastChange, { query: { kind: 'sales order', id: first.id } });
    expect(last?.person).toBe('Owner');
    const told = (await look(first.id)).changes.map(({ person, field, is }) => [person, field, is]);
    expect(told.slice(0, 2)).toEqual([
      ['Owner', 'changed', `12 of AMEND-${count} instead of 5, AMEND-${count} at another price`],
      ['Owner', 'changed', `5 of AMEND-${count} instead of 8`],
    ]);
  });

  test('can be no less than what is picked, and keeps the price that some of it went out at', async () => {
    await stocked(business, itemId, '10');
    const order = await sold(business, itemId, '8');
    const picked = await business.owner.get(picking.pick, { body: pickBody(business, order, '5') });
    const line = (part: object) => ({ lines: [{ lineId: order.lineId, quantity: '8', price: '5.00', ...part }] });
    const wrong = async (part: object) => (await amend(order.id, line(part))).problem.errors[0];
    expect(await wrong({ quantity: '4' })).toEqual({ field: 'lines.0.quantity', sentence: `5 of AMEND-${count} are picked already; it can be no less.` });
    expect(await wrong({ quantity: '5.5' })).toMatchObject({ field: 'lines.0.quantity' });
    expect((await amend(order.id, line({ quantity: '5', price: '6.00' }))).status).toBe(200);
    expect((await look(order.id)).lines).toMatchObject([{ baseQuantity: '5', amount: '30.00', reserved: '0', short: '0' }]);
    await business.owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '2' }] } });
    expect(await wrong({ quantity: '5', price: '7.00' })).toEqual({
      field: 'lines.0.price',
      sentence: `2 of AMEND-${count} have gone out at this price. Add a line for what goes at another.`,
    });
    expect(picked.movementId).not.toBeNull();
  });

  test('goes when it is taken to nothing, unless goods moved for it; the last one stays', async () => {
    await stocked(business, itemId, '4');
    const other = await business.item(`AMEND-${count}-B`);
    const order = await sold(business, itemId, '4');
    expect((await amend(order.id, { lines: [{ lineId: order.lineId, quantity: '0', price: '5.00' }] })).problem.title).toBe(
      'An order needs at least one line. Cancel the order instead.',
    );
    const added = await amend(order.id, { added: [{ itemId: other, quantity: '3', price: '2.00', discount: '50' }] });
    expect([added.status, (await look(order.id)).lines.map(({ sku, short, amount }) => [sku, short, amount])]).toEqual([
      200,
      [
        [`AMEND-${count}`, '0', '20.00'],
        [`AMEND-${count}-B`, '3', '3.00'],
      ],
    ]);
    const { lines } = await look(order.id);
    const keep = lines.map((line) => ({
      lineId: line.id,
      quantity: line.id === order.lineId ? '0' : line.quantity,
      price: line.price,
      discount: line.discount,
    }));
    await amend(order.id, { lines: keep });
    expect((await look(order.id)).lines.map(({ sku }) => sku)).toEqual([`AMEND-${count}-B`]);
    expect(await standing()).toEqual(['4', '0', '4', '0']);
    await stocked(business, other, '3');
    const lineId = (await look(order.id)).lines[0]?.id as number;
    const { movementId } = await business.owner.get(picking.pick, { body: pickBody(business, { id: order.id, lineId }, '1') });
    await business.owner.get(stock.undo, { body: { movementId: movementId as number } });
    // The trail tells of that line: it stays on the order, and nothing of it is wanted.
    await amend(order.id, { lines: [{ lineId, quantity: '0', price: '2.00' }], added: [{ itemId, quantity: '1', price: '1' }] });
    expect(await look(order.id)).toMatchObject({
      amount: '1.00',
      ordered: '1',
      lines: [{ quantity: '0', baseQuantity: '0', amount: '0.00', reserved: '0', short: '0' }, {}],
    });
    await amend(order.id, { lines: [{ lineId, quantity: '2', price: '2.00', discount: '50' }] });
    expect((await look(order.id)).lines[0]).toMatchObject({ quantity: '2', amount: '2.00', reserved: '2' });
  });
});

test('lines that are added are reserved what is free at once, and the order’s day, address and words are changed with them', async () => {
  await stocked(business, itemId, '5');
  const order = await sold(business, itemId, '2');
  const more = await business.item(`MORE-${count}`);
  await stocked(business, more, '3');
  const asked = await body(order.id, {
    shipBy: '2026-03-25',
    reference: 'R 9',
    shipTo: 'The mill',
    note: 'ring first',
    added: [
      { itemId: more, quantity: '4', price: '1.50' },
      { itemId, quantity: '1', price: '5.00', pricePer: '1' },
    ],
  });
  const foreseen = await business.owner.ask(outbound.amendSale, asked, { preview: true });
  const { effects } = await business.owner.get(outbound.amendSale, asked);
  expect(effects).toEqual(foreseen.data.effects);
  expect(await look(order.id)).toMatchObject({
    shipBy: '2026-03-25',
    reference: 'R 9',
    shipTo: 'The mill',
    note: 'ring first',
    amount: '21.00',
    lines: [
      { position: 1, reserved: '2', shipBy: '2026-03-25' },
      { position: 2, reserved: '3', short: '1' },
      { position: 3, reserved: '1', short: '0' },
    ],
  });
});

test('only a confirmed order that is not done is changed like this, as it was seen, with days to come', async () => {
  await stocked(business, itemId, '2');
  const order = await sold(business, itemId, '2');
  const stale = await body(order.id);
  expect((await amend(order.id, { shipBy: '2026-03-09' })).problem.errors[0]?.field).toBe('shipBy');
  expect((await amend(order.id, { lines: [{ lineId: order.lineId, quantity: '2', price: '5', shipBy: '2026-03-09' }] })).problem.errors[0]?.field).toBe(
    'lines.0.shipBy',
  );
  expect((await amend(order.id, { lines: [{ lineId: 99_999, quantity: '2', price: '5' }] })).problem.errors[0]?.field).toBe('lines.0.lineId');
  expect((await amend(order.id, { added: [{ itemId: 99_999, quantity: '2', price: '5' }] })).problem.errors[0]?.field).toBe('added.0.itemId');
  expect((await amend(order.id, { note: 'once' })).status).toBe(200);
  expect((await business.owner.ask(outbound.amendSale, stale)).status).toBe(409);
  await business.owner.get(picking.pick, { body: pickBody(business, order, '2') });
  await business.owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '2' }] } });
  const done = await amend(order.id, { note: 'late' });
  expect([done.status, done.problem.title]).toEqual([409, `${order.number} is dispatched; only a confirmed order that is not done is changed like this.`]);
});
