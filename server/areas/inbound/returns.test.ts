import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as books from '@larder/contract/books';
import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import * as outbound from '@larder/contract/outbound';
import * as lots from '@larder/contract/lots';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const binId = () => business.bins[0] as number;
async function received(itemId: number, quantity: string, price: string): Promise<{ orderId: number; lineId: number; movementId: number }> {
  const { owner, supplierId, siteId } = business;
  const order = await owner.get(inbound.createPurchase, { body: { supplierId, siteId, lines: [{ itemId, quantity, price }] } });
  const placed = await owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
  const lineId = placed.lines[0]?.id as number;
  const { movementId } = await owner.get(receiving.receive, { body: { lines: [{ lineId, quantity, binId: binId() }] } });
  return { orderId: order.id, lineId, movementId: movementId as number };
}
const sendBack = (orderId: number, purchaseLineId: number, quantity: string, more = {}) =>
  business.owner.ask(receiving.returnGoods, {
    body: { orderId, note: 'cracked', then: 'replaced', lines: [{ purchaseLineId, binId: binId(), quantity, ...more }] },
  });
const balanceOf = async (purpose: string) =>
  Number((await business.owner.get(books.listAccounts)).rows.find((account) => account.purpose === purpose)?.balance);
const valueOf = async (id: number) => (await business.owner.get(stock.itemStock, { params: { id } })).value;

test('goods not billed yet go back: they leave at present cost, the order counts what it paid, the rest is price variance; undone, all of it comes back', async () => {
  const itemId = await business.item('RET-1');
  await received(itemId, '10', '1.00');
  const { orderId, lineId, movementId } = await received(itemId, '10', '2.00');
  const before = await Promise.all(['grni', 'price-variance'].map(balanceOf));
  const posted = await sendBack(orderId, lineId, '4');
  expect(posted.status).toBe(200);
  expect(await valueOf(itemId)).toBe('24.00');
  const after = await Promise.all(['grni', 'price-variance'].map(balanceOf));
  expect(after.map((amount, index) => (amount - (before[index] ?? 0)).toFixed(2))).toEqual(['8.00', '-2.00']);
  expect((await business.owner.ask(stock.undo, { body: { movementId } })).problem.title).toBe('4 of these went back to the supplier. Undo that first.');
  await business.owner.get(stock.undo, { body: { movementId: posted.data.movementId as number } });
  expect(await valueOf(itemId)).toBe('30.00');
  expect((await Promise.all(['grni', 'price-variance'].map(balanceOf))).map((amount, index) => (amount - (before[index] ?? 0)).toFixed(2))).toEqual([
    '0.00',
    '0.00',
  ]);
});

test('goods that were billed go back: a credit is expected, and what it is short of the price paid is price variance', async () => {
  const itemId = await business.item('RET-2');
  const { orderId, lineId } = await received(itemId, '5', '3.00');
  const body = { partyId: business.supplierId, billedOn: '2026-03-10' };
  const goods = (quantity: string, price: string) => [{ kind: 'goods' as const, purchaseLineId: lineId, quantity, price }];
  await business.owner.get(bills.createBill, { body: { ...body, reference: 'RB-1', lines: goods('5', '3.00') } });
  const before = await balanceOf('credits-expected');
  const back = await sendBack(orderId, lineId, '2');
  expect((await balanceOf('credits-expected')) - before).toBe(6);
  const tooMany = await business.owner.ask(bills.createBill, { body: { ...body, kind: 'credit', reference: 'RC-0', lines: goods('3', '3.00') } });
  expect(tooMany.problem.errors[0]?.sentence).toContain('Not so many of RET-2');
  const credit = await business.owner.get(bills.createBill, { body: { ...body, kind: 'credit', reference: 'RC-1', lines: goods('2', '2.50') } });
  expect(credit.lines[0]).toMatchObject({ cleared: '-6.00', difference: '1.00' });
  expect((await balanceOf('credits-expected')) - before).toBe(0);
  const undo = () => business.owner.ask(stock.undo, { body: { movementId: back.data.movementId as number } });
  expect((await undo()).problem.title).toContain(`Undo ${credit.number} first`);
  await business.owner.get(bills.undoBill, { params: { id: credit.id as number }, body: {} });
  expect((await balanceOf('credits-expected')) - before).toBe(6);
  expect((await undo()).status).toBe(200);
  expect((await balanceOf('credits-expected')) - before).toBe(0);
});

test('a bill for goods of which some went back meanwhile: only what is still here is billed, or the bill waits', async () => {
  const { orderId, lineId } = await received(await business.item('RET-5'), '5', '3.00');
  const bill = (quantity: string) => ({
    body: {
      partyId: business.supplierId,
      reference: `MW-${quantity}`,
      billedOn: '2026-03-10',
      lines: [{ kind: 'goods' as const, purchaseLineId: lineId, quantity, price: '3.00' }],
    },
  });
  await sendBack(orderId, lineId, '2');
  const asked = await business.owner.ask(bills.createBill, bill('5'));
  expect(asked).toMatchObject({ status: 409, problem: { asks: ['sent-back', 'waits'], errors: [{ field: 'lines.0.quantity' }] } });
  expect(await business.owner.get(bills.createBill, bill('3'))).toMatchObject({ owed: '9.00', lines: [{ cleared: '9.00' }] });
});

test('what cannot go back: more than came, what lies elsewhere, what is promised, without a reason', async () => {
  const itemId = await business.item('RET-3');
  const { orderId, lineId } = await received(itemId, '5', '3.00');
  const { rows } = await business.owner.get(receiving.returnable, { params: { id: orderId } });
  expect(rows[0]?.places).toEqual([expect.objectContaining({ bin: 'A-1', quantity: '5' })]);
  expect((await sendBack(orderId, lineId, '6')).status).toBe(409);
  expect((await sendBack(orderId, lineId, '1', { binId: business.bins[1] })).problem.title).toContain('A-2 holds 0');
  expect((await sendBack(orderId, 999999, '1')).problem.errors[0]?.field).toBe('lines.0.purchaseLineId');
  const sale = await business.owner.get(outbound.createSale, {
    body: { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-20', lines: [{ itemId, quantity: '4', price: '9.00' }] },
  });
  await business.owner.get(outbound.confirmSale, { params: { id: sale.id }, body: { version: sale.version } });
  expect((await sendBack(orderId, lineId, '2')).problem.title).toContain('are promised to other orders');
  const silent = await business.owner.ask(receiving.returnGoods, {
    body: { orderId, note: '', lines: [{ purchaseLineId: lineId, binId: binId(), quantity: '1' }] },
  });
  expect(silent.problem.errors[0]).toEqual({ field: 'note', sentence: 'Say why it goes back.' });
});

test('a lot or serial goes back only on the order it came on, and no more of it than came there', async () => {
  const { owner, supplierId, siteId } = business;
  const [lot, serial] = [await business.item('RET-LOT', { tracking: 'lot' }), await business.item('RET-SER', { tracking: 'serial' })];
  const opened = { siteId, binId: binId(), unitValue: '2.00' };
  await owner.get(stock.openStock, {
    body: {
      lines: [
        { ...opened, itemId: lot, quantity: '5', lots: [{ code: 'R1', useBy: null, quantity: '5' }] },
        { ...opened, itemId: serial, quantity: '1', lots: [{ code: 'RS-1', useBy: null, quantity: '1' }] },
      ],
    },
  });
  const order = await owner.get(inbound.createPurchase, {
    body: {
      supplierId,
      siteId,
      lines: [
        { itemId: lot, quantity: '4', price: '2.00' },
        { itemId: serial, quantity: '1', price: '2.00' },
      ],
    },
  });
  const placed = await owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
  const [lotLine, serialLine] = placed.lines.map(({ id }) => id) as [number, number];
  await owner.get(receiving.receive, {
    body: {
      lines: [
        { lineId: lotLine, quantity: '4', binId: binId(), lots: [{ code: 'R1', useBy: null, quantity: '4' }] },
        { lineId: serialLine, quantity: '1', binId: binId(), lots: [{ code: 'RS-2', useBy: null, quantity: '1' }] },
      ],
    },
  });
  const { rows } = await owner.get(receiving.returnable, { params: { id: order.id } });
  expect(rows.map(({ places }) => places.map((place) => place.lot))).toEqual([['R1'], ['RS-2']]);
  const idOf = async (itemId: number, code: string) =>
    (await owner.get(lots.listLots, { query: { q: code, itemId } })).rows.find((one) => one.code === code)?.id as number;
  const tooMany = await sendBack(order.id, lotLine, '5', { lotId: await idOf(lot, 'R1') });
  expect(tooMany.problem.errors).toEqual([{ field: 'lines.0.quantity', sentence: 'Only 4 of R1 came on this order and have not gone back.' }]);
  const other = await sendBack(order.id, serialLine, '1', { lotId: await idOf(serial, 'RS-1') });
  expect(other.problem.errors).toEqual([{ field: 'lines.0.quantity', sentence: 'RS-1 did not come on this order.' }]);
  expect((await sendBack(order.id, lotLine, '4', { lotId: await idOf(lot, 'R1') })).status).toBe(200);
  expect((await owner.get(receiving.returnable, { params: { id: order.id } })).rows.flatMap(({ places }) => places.map((place) => place.lot))).toEqual([
    'RS-2',
  ]);
});

test('goods in hand lead to the orders they came on: by item, by lot, without what was undone or never ours', async () => {
  const { owner, supplierId, siteId, customerId } = business;
  const itemId = await business.item('RET-SRC', { tracking: 'lot' });
  const come = async (code: string, quantity: string) => {
    const order = await owner.get(inbound.createPurchase, { body: { supplierId, siteId, lines: [{ itemId, quantity, price: '1.00' }] } });
    const { lines } = await owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
    const body = { lines: [{ lineId: lines[0]?.id as number, quantity, binId: binId(), lots: [{ code, quantity }] }] };
    return { ...order, movementId: (await owner.get(receiving.receive, { body })).movementId as number };
  };
  const [first, second, undone] = [await come('S-1', '4'), await come('S-2', '6'), await come('S-2', '1')];
  await owner.get(stock.undo, { body: { movementId: undone.movementId } });
  const direct = await owner.get(inbound.createPurchase, {
    body: { supplierId, siteId, shipsToId: customerId, lines: [{ itemId, quantity: '2', price: '1.00' }] },
  });
  const { lines } = await owner.get(inbound.decidePurchase, { params: { id: direct.id }, body: { decision: 'place', version: direct.version } });
  await owner.get(inbound.recordDirect, {
    params: { id: direct.id },
    body: { lines: [{ lineId: lines[0]?.id as number, quantity: '2', lots: [{ code: 'S-1', quantity: '2' }] }] },
  });
  const sources = async (lotId?: number) => (await owner.get(receiving.returnSources, { query: { itemId, lotId } })).rows.map(({ number }) => number);
  expect(await sources()).toEqual([second.number, first.number]);
  const bin = await owner.get(stock.binContents, { params: { id: binId() } });
  const held = bin.rows.filter((row) => row.itemId === itemId);
  expect(held.map(({ lot, quantity }) => [lot, quantity])).toEqual([
    ['S-1', '4'],
    ['S-2', '6'],
  ]);
  expect(await sources(held[0]?.lotId as number)).toEqual([first.number]);
  expect(bin.sellable).toBe(true);
});
