import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as catalog from '@larder/contract/catalog';
import * as receiving from '@larder/contract/receiving';
import * as landed from '@larder/contract/landed';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => {
  business = await openBusiness();
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const valueOf = async (itemId: number) => (await business.owner.get(stock.itemStock, { params: { id: itemId } })).value;
const correct = (itemId: number, quantity: string, lotId: number | null = null) =>
  business.owner.get(stock.correct, {
    body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, lotId, binId: business.bins[0] as number, quantity }] },
  });
const bill = (purchaseLineId: number, quantity: string, price: string, reference: string) =>
  business.owner.get(bills.createBill, {
    body: { partyId: business.supplierId, reference, billedOn: '2026-03-10', lines: [{ kind: 'goods', purchaseLineId, quantity, price }] },
  });
const freight = (movementId: number, amount: string) =>
  business.owner.get(landed.createSheet, { body: { movementIds: [movementId], charges: [{ name: 'Freight', amount, by: 'quantity' }] } });

test('first in, first out: the oldest leave first; a billed difference and a charge know exactly what is still here; an undo gives back', async () => {
  const itemId = await business.item('FIFO-1', { costMethod: 'fifo' });
  const first = await stocked(business, itemId, '10', '2.00');
  const second = await stocked(business, itemId, '10', '3.00');
  const loss = await correct(itemId, '-12');
  expect(await valueOf(itemId)).toBe('24.00');
  // Eight of the second ten are here: of 5.00 more on its bill 4.00 goes to stock, of a freight of 10.00 the same share.
  await bill(second.order.lineId, '10', '3.50', 'F-2');
  expect(await valueOf(itemId)).toBe('28.00');
  await freight(second.movementId, '10.00');
  expect(await valueOf(itemId)).toBe('36.00');
  // The first ten have all gone.
  await freight(first.movementId, '7.00');
  expect(await valueOf(itemId)).toBe('36.00');
  await business.owner.get(stock.undo, { body: { movementId: loss.movementId as number } });
  expect(await valueOf(itemId)).toBe('62.00');
  expect(await business.broken()).toEqual([]);
});

test('a receipt of which some has been used is not undone, though the bin holds enough', async () => {
  const itemId = await business.item('FIFO-2', { costMethod: 'fifo' });
  const first = await stocked(business, itemId, '4', '2.00');
  await stocked(business, itemId, '10', '3.00');
  await correct(itemId, '-1');
  const { problem } = await business.owner.ask(stock.undo, { body: { movementId: first.movementId } });
  expect(problem).toMatchObject({ type: 'layer-used' });
});

test('goods go back to the supplier at what their own receipt cost', async () => {
  const itemId = await business.item('FIFO-3', { costMethod: 'fifo' });
  await stocked(business, itemId, '5', '2.00');
  const { order } = await stocked(business, itemId, '5', '6.00');
  await business.owner.get(receiving.returnGoods, {
    body: {
      orderId: order.id,
      note: 'Wrong colour',
      then: 'credited',
      lines: [{ purchaseLineId: order.lineId, binId: business.bins[0] as number, lotId: null, quantity: '2' }],
    },
  });
  expect(await valueOf(itemId)).toBe('28.00');
});

test('specific: each serial leaves at its own cost', async () => {
  const itemId = await business.item('UNIT-1', { tracking: 'serial', costMethod: 'specific' });
  const receive = async (price: string, serial: string) => {
    const order = await ordered(business, itemId, '1', price);
    await business.owner.get(receiving.receive, {
      body: { lines: [{ lineId: order.lineId, quantity: '1', binId: business.bins[0] as number, lots: [{ code: serial, quantity: '1' }] }] },
    });
  };
  await receive('100.00', 'S-1');
  await receive('140.00', 'S-2');
  const { rows: far } = await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['Q-1'] } });
  await business.owner.get(receiving.receiveUnordered, {
    body: { lines: [{ itemId, binId: far[0]?.id as number, quantity: '1', unitValue: '170.00', lots: [{ code: 'S-3' }] }] },
  });
  const worth = async (siteId: number) => (await business.owner.get(stock.stockTable, { query: { siteId, q: 'UNIT-1' } })).rows.map(({ value }) => value);
  expect([await worth(business.siteId), await worth(business.otherSiteId)]).toEqual([['240.00'], ['170.00']]);
  const { rows } = await business.pool.query<{ id: number }>(`SELECT id FROM lot WHERE item_id = ${itemId} AND code = 'S-2'`);
  await correct(itemId, '-1', rows[0]?.id ?? null);
  expect(await valueOf(itemId)).toBe('270.00');
});

test('how cost runs is chosen before the first movement, and each serial its own asks for serials', async () => {
  const plain = await business.owner.get(catalog.getItem, { params: { id: await business.item('COST-1') } });
  const form = { sku: plain.sku, name: plain.name, unitId: plain.unitId, version: plain.version, purchasePrice: '2.00' };
  const specific = await business.owner.ask(catalog.editItem, { params: { id: plain.id }, body: { ...form, costMethod: 'specific' } });
  expect(specific.problem).toMatchObject({ type: 'not-by-serial', errors: [{ field: 'costMethod' }] });
  const fifo = await business.owner.get(catalog.editItem, { params: { id: plain.id }, body: { ...form, costMethod: 'fifo' } });
  expect(fifo.costMethod).toBe('fifo');
  await stocked(business, plain.id, '1');
  const late = await business.owner.ask(catalog.editItem, { params: { id: plain.id }, body: { ...form, version: fifo.version, costMethod: 'average' } });
  expect(late.problem).toMatchObject({ type: 'cost-method-in-use' });
});
