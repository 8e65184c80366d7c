import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as books from '@larder/contract/books';
import * as direct from '@larder/contract/direct';
import * as gaps from '@larder/contract/gaps';
import * as inbound from '@larder/contract/inbound';
import * as invoices from '@larder/contract/invoices';
import * as margin from '@larder/contract/margin';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as receiving from '@larder/contract/receiving';
import * as returns from '@larder/contract/returns';
import * as setup from '@larder/contract/setup';
import * as shipping from '@larder/contract/shipping';
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
let sku: string;
beforeEach(async () => {
  count += 1;
  sku = `DIR-${count}`;
  itemId = await business.item(sku);
});

const lineOf = async (id: number) => (await business.owner.get(outbound.getSale, { params: { id } })).lines[0];
const figures = async (id: number) => {
  const { direct: straight, onOrder, sent, picked, dispatched, reserved, short } = (await lineOf(id)) ?? {};
  return { straight, onOrder, sent, picked, dispatched, reserved, short };
};
const asked = (lineId: number, quantity: string, price = '2.00') => ({ lineId, quantity, supplierId: business.supplierId, price, expectedOn: '2026-03-16' });
const order = async (lineId: number, quantity: string, price?: string) => {
  const { orders } = await business.owner.get(direct.orderDirect, { body: { lines: [asked(lineId, quantity, price)] } });
  return business.owner.get(inbound.getPurchase, { params: { id: orders[0]?.id as number } });
};
type Purchase = Awaited<ReturnType<typeof order>>;
const deliver = (purchase: Purchase, quantity: string) =>
  business.owner.ask(inbound.recordDirect, { params: { id: purchase.id }, body: { lines: [{ lineId: purchase.lines[0]?.id as number, quantity }] } });
const end = async ({ id }: { id: number }, decision: 'cancel' | 'close' | 'reopen') => {
  const { version } = await business.owner.get(inbound.getPurchase, { params: { id } });
  return business.owner.ask(inbound.decidePurchase, { params: { id }, body: { decision, version } });
};

test('what a supplier is ordered to send straight is neither wanted of the shelf nor coming to it; sent, it is dispatched, at what it cost, and undone it is not', async () => {
  await stocked(business, itemId, '3');
  const sale = await sold(business, itemId, '8');
  expect(await figures(sale.id)).toMatchObject({ reserved: '3', short: '5', straight: '0' });
  const purchase = await order(sale.lineId, '5', '1.37');
  expect(purchase).toMatchObject({
    state: 'placed',
    shipsTo: 'Copse Lane School',
    amount: '6.85',
    lines: [{ forSale: [{ orderId: sale.id, orderNumber: sale.number, position: 1, quantity: '5' }] }],
  });
  expect(await figures(sale.id)).toEqual({ straight: '5', onOrder: '5', sent: '0', picked: '0', dispatched: '0', reserved: '3', short: '0' });
  const seen = await business.owner.get(outbound.availability, { query: { siteId: business.siteId, itemId, quantity: '1' } });
  expect([seen.free, seen.coming]).toEqual(['0', []]);

  const { data } = await deliver(purchase, '2');
  expect(await figures(sale.id)).toEqual({ straight: '5', onOrder: '3', sent: '2', picked: '2', dispatched: '2', reserved: '3', short: '0' });
  expect((await lineOf(sale.id))?.cost).toBe('2.74');
  await business.owner.get(stock.undo, { body: { movementId: data.movementId as number } });
  expect(await figures(sale.id)).toMatchObject({ onOrder: '5', sent: '0', dispatched: '0' });
  expect((await lineOf(sale.id))?.cost).toBe('0.00');

  await deliver(purchase, '5');
  await business.owner.get(picking.pick, { body: pickBody(business, sale, '3') });
  await business.owner.get(shipping.dispatch, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, quantity: '3' }] } });
  const done = await business.owner.get(outbound.getSale, { params: { id: sale.id } });
  // Five straight at 1.37 and three of ours at 2.00, of eight sold at 5.00.
  expect([done.state, done.dispatchedCost, done.margin]).toEqual(['dispatched', '12.85', '27.15']);
  const { rows } = await business.owner.get(margin.listMargin, { query: { by: 'order', q: sale.number } });
  expect(rows).toMatchObject([{ sold: '40.00', cost: '12.85', margin: '27.15' }]);
});

test('no more is ordered straight than is neither picked nor on order, and no more is sent than was ordered', async () => {
  await stocked(business, itemId, '4');
  const sale = await sold(business, itemId, '6');
  await business.owner.get(picking.pick, { body: pickBody(business, sale, '2') });
  const refused = (lines: ReturnType<typeof asked>[]) => business.owner.ask(direct.orderDirect, { body: { lines } });
  const over = `Only 4 of ${sku} for ${sale.number} were neither picked nor ordered straight from a supplier.`;
  expect((await refused([asked(sale.lineId, '5')])).problem.errors).toEqual([{ field: 'lines.0.quantity', sentence: over }]);
  expect((await refused([asked(sale.lineId, '3'), asked(sale.lineId, '2')])).problem.errors[0]).toMatchObject({ field: 'lines.1.quantity' });
  // What goes straight is no longer held for it: two of what it held are free again.
  const foreseen = await business.owner.ask(direct.orderDirect, { body: { lines: [asked(sale.lineId, '4')] } }, { preview: true });
  expect(foreseen.data.orders).toEqual([]);
  expect(await figures(sale.id)).toMatchObject({ straight: '0', reserved: '2' });
  const purchase = await order(sale.lineId, '4');
  expect(await figures(sale.id)).toMatchObject({ straight: '4', reserved: '0', short: '0' });
  expect((await deliver(purchase, '5')).problem.errors[0]).toEqual({
    field: 'lines.0.quantity',
    sentence: `The customer ordered only 4 more of ${sku} from us.`,
  });
  const picked = await business.owner.ask(picking.pick, { body: pickBody(business, sale, '1') });
  expect(picked.problem.errors[0]?.sentence).toBe(`${sale.number} wants 1 fewer of ${sku} than that.`);
  const quote = await business.owner.get(outbound.createSale, {
    body: { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-12', lines: [{ itemId, quantity: '2', price: '5.00' }] },
  });
  expect((await refused([asked(quote.lines[0]?.id as number, '1')])).problem.title).toContain('is not confirmed');
});

test('when the supplier does not send it after all, it is wanted of the shelf again, and such an order is not opened again', async () => {
  await stocked(business, itemId, '2');
  const sale = await sold(business, itemId, '6');
  const purchase = await order(sale.lineId, '6');
  await deliver(purchase, '1');
  const ended = async () => {
    const { version } = await business.owner.get(outbound.getSale, { params: { id: sale.id } });
    return business.owner.ask(outbound.endSale, { params: { id: sale.id }, body: { decision: 'close', version } });
  };
  expect((await ended()).problem.title).toBe(
    `${purchase.number} brings 5 of ${sku} straight to the customer of ${sale.number}. Cancel the rest of ${purchase.number} first.`,
  );
  expect((await end(purchase, 'close')).status).toBe(200);
  expect(await figures(sale.id)).toEqual({ straight: '1', onOrder: '0', sent: '1', picked: '1', dispatched: '1', reserved: '2', short: '3' });
  expect((await end(purchase, 'reopen')).problem.type).toContain('supplied-otherwise');
  // A part of it, called off line by line.
  const again = await order(sale.lineId, '3');
  const { version } = again;
  await business.owner.get(inbound.amendPurchase, {
    params: { id: again.id },
    body: { version, expectedOn: null, lines: [{ lineId: again.lines[0]?.id as number, expectedOn: null, callOff: '2' }], added: [] },
  });
  expect(await figures(sale.id)).toMatchObject({ straight: '2', onOrder: '1', short: '2', reserved: '2' });
  await end(again, 'cancel');
  expect(await figures(sale.id)).toMatchObject({ straight: '1', onOrder: '0', short: '3' });
  expect((await ended()).status).toBe(200);
});

test('it is decided before it is ordered, on the quote too, and taken back; what is decided is ordered first', async () => {
  const body = { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-12' };
  const line = (straight: string) => ({ itemId, quantity: '5', price: '5.00', direct: straight });
  const over = await business.owner.ask(outbound.createSale, { body: { ...body, lines: [line('6')] } });
  expect(over.problem.errors[0]).toMatchObject({ field: 'lines.0.direct' });
  const quote = await business.owner.get(outbound.createSale, { body: { ...body, lines: [line('3')] } });
  await business.owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
  const lineId = quote.lines[0]?.id as number;
  expect(await figures(quote.id)).toMatchObject({ straight: '3', onOrder: '0', short: '2' });
  const waiting = async (show: 'short' | 'to-order' | 'ordered') =>
    (await business.owner.get(gaps.waitingLines, { query: { show, q: sku } })).rows.map((row) => [row.lineId, row.short, row.direct, row.ordered]);
  expect([await waiting('short'), await waiting('to-order'), await waiting('ordered')]).toEqual([[[lineId, '2', '3', '0']], [[lineId, '2', '3', '0']], []]);
  const decide = (quantity: string) => business.owner.ask(direct.decideDirect, { params: { id: lineId }, body: { quantity } });
  expect((await decide('6')).problem.errors[0]).toMatchObject({ field: 'quantity' });
  await decide('0');
  expect(await figures(quote.id)).toMatchObject({ straight: '0', short: '5' });
  await decide('4');
  await order(lineId, '3');
  expect(await figures(quote.id)).toMatchObject({ straight: '4', onOrder: '3', short: '1' });
  await order(lineId, '2');
  expect(await figures(quote.id)).toMatchObject({ straight: '5', onOrder: '5', short: '0' });
  expect((await business.owner.get(gaps.waitingInAll, { query: { show: 'ordered', q: sku } })).count).toBe(1);
  expect((await business.owner.get(outbound.getSale, { params: { id: quote.id } })).state).toBe('waiting for the supplier');
  const { version } = await business.owner.get(outbound.getSale, { params: { id: quote.id } });
  const fewer = await business.owner.ask(outbound.amendSale, {
    params: { id: quote.id },
    body: { version, shipBy: '2026-03-12', lines: [{ lineId, quantity: '4', price: '5.00' }] },
  });
  expect(fewer.problem.errors[0]?.sentence).toContain('on order straight from a supplier');
  const back = await business.owner.ask(outbound.endSale, { params: { id: quote.id }, body: { decision: 'withdraw', version } });
  expect(back.problem.type).toContain('begun');
});

test('lines of several orders are ordered at once, one purchase order for each supplier and address; each supplier shows what it asks', async () => {
  const second = await business.item(`${sku}-B`);
  const [one, two] = [await sold(business, itemId, '2'), await sold(business, second, '4')];
  const { rows } = await business.owner.get(direct.directLines, { query: { orders: `${one.id},${two.id}` } });
  expect(rows.map(({ lineId, open, toOrder, short }) => [lineId, open, toOrder, short])).toEqual([
    [one.lineId, '2', '0', '2'],
    [two.lineId, '4', '0', '4'],
  ]);
  const { orders } = await business.owner.get(direct.orderDirect, { body: { lines: [asked(one.lineId, '2'), asked(two.lineId, '4')] } });
  expect(orders).toHaveLength(1);
  const purchase = await business.owner.get(inbound.getPurchase, { params: { id: orders[0]?.id as number } });
  expect(purchase.lines.map(({ forSale }) => forSale[0]?.orderNumber)).toEqual([one.number, two.number]);
  expect(await figures(two.id)).toMatchObject({ onOrder: '4', short: '0' });
  expect((await lineOf(two.id))?.supplies).toMatchObject([{ orderId: purchase.id, quantity: '4', sent: '0', expectedOn: '2026-03-16' }]);
});

test('what went straight to the customer is invoiced, billed by the supplier, and can come back to a shelf of ours at what it cost; the margin follows', async () => {
  const { owner, customerId, siteId, supplierId } = business;
  const sale = await sold(business, itemId, '4');
  const purchase = await order(sale.lineId, '4', '1.37');
  const { data } = await deliver(purchase, '3');
  const { rows } = await owner.get(invoices.listToInvoice, { query: { q: sale.number } });
  expect(rows).toMatchObject([{ number: sale.number, amount: '15.00', dispatches: [{ movementId: data.movementId, straight: true, lines: 1 }] }]);
  const made = await owner.get(invoices.createInvoice, {
    body: { dispatches: [{ orderId: sale.id, movementId: data.movementId as number }], invoicedOn: '2026-03-10' },
  });
  expect(made.lines).toMatchObject([{ kind: 'goods', quantity: '3', amount: '15.00' }]);
  const bill = await owner.get(bills.createBill, {
    body: {
      partyId: supplierId,
      reference: `D-${count}`,
      billedOn: '2026-03-10',
      lines: [{ kind: 'goods', purchaseLineId: purchase.lines[0]?.id as number, quantity: '3', price: '1.37' }],
    },
  });
  await owner.get(bills.pay, { params: { id: bill.id as number }, body: { paidOn: '2026-03-10', amount: '4.11' } });
  const earned = async () =>
    (await owner.get(margin.listMargin, { query: { by: 'order', q: sale.number } })).rows.map((row) => [row.sold, row.cost, row.margin]);
  expect(await earned()).toEqual([['15.00', '4.11', '10.89']]);
  // It was invoiced, so that it is not undone; one of it comes back to us, who never had it.
  const undone = await owner.ask(stock.undo, { body: { movementId: data.movementId as number } });
  expect(undone.problem.errors).toMatchObject([{ field: 'movementId' }]);
  const reasonId = (await owner.get(setup.reference)).returnReasons[0]?.id as number;
  const line = { salesLineId: sale.lineId, itemId, quantity: '1', condition: 'shelf' as const, binId: business.bins[0] as number, reasonId };
  const back = await owner.get(returns.createReturn, { body: { customerId, siteId, cameOn: '2026-03-10', lines: [line] } });
  expect(back.effects.rows.map(({ measure, before, after }) => [measure, before, after])).toEqual([
    ['on hand', '0', '1'],
    ['free', '0', '1'],
    ['value', '0.00', '1.37'],
    ['unit cost', '0.0000', '1.3700'],
  ]);
  expect(await earned()).toEqual([['10.00', '2.74', '7.26']]);
  const { toCredit } = await owner.get(returns.getReturn, { params: { id: back.id as number } });
  expect(toCredit).toMatchObject([{ invoiceId: made.id, lines: [{ quantity: '1' }] }]);
  // From our shelf it goes back to its supplier, who is to credit it and sends nothing anew.
  const goes = [{ purchaseLineId: purchase.lines[0]?.id as number, binId: business.bins[0] as number, quantity: '1' }];
  await owner.get(receiving.returnGoods, { body: { orderId: purchase.id, lines: goes, note: 'cracked', then: 'credited' } });
  expect(await figures(sale.id)).toMatchObject({ straight: '4', onOrder: '1', sent: '3' });
});

test('what the customer sends straight on to the supplier touches no stock: cost of sales and what the supplier is owed follow, to the cent, billed or not; undone it is with the customer again', async () => {
  const { owner, customerId, siteId, supplierId } = business;
  const sale = await sold(business, itemId, '3');
  // Three that come to 10.00.
  const purchase = await order(sale.lineId, '3', '3.333333');
  await deliver(purchase, '3');
  const reasonId = (await owner.get(setup.reference)).returnReasons[0]?.id as number;
  const line = (quantity: string, condition: 'supplier' | 'shelf' = 'supplier') => ({
    salesLineId: sale.lineId,
    itemId,
    quantity,
    condition,
    binId: condition === 'shelf' ? (business.bins[0] as number) : null,
    reasonId,
  });
  const send = (...lines: ReturnType<typeof line>[]) => owner.ask(returns.createReturn, { body: { customerId, siteId, cameOn: '2026-03-10', lines } });
  const accounts = async () => {
    const { rows } = await owner.get(books.listAccounts, {});
    return ['1200', '1320', '2110', '2100', '5000'].map((code) => Math.round(100 * Number(rows.find((row) => row.code === code)?.balance ?? 0)));
  };
  const before = await accounts();
  const moved = async () => (await accounts()).map((now, at) => now - (before[at] as number));
  const held = async () => (await owner.get(returns.listHeld, { query: { orderId: sale.id } })).rows.map(({ held: has, straight }) => [has, straight]);
  expect(await held()).toEqual([['3', '3']]);

  expect((await send(line('2'), line('2'))).problem.errors).toMatchObject([{ field: 'lines.1.quantity' }]);
  const first = await send(line('1'));
  expect(first.status).toBe(200);
  // Not billed yet: 3.33 less is owed for what came and was not billed; nothing is in stock.
  expect(await moved()).toEqual([0, 0, 333, 0, -333]);
  expect(await held()).toEqual([['2', '2']]);
  const sent = await owner.get(inbound.getPurchase, { params: { id: purchase.id } });
  expect(sent.lines).toMatchObject([{ received: '2', cancelled: '1', outstanding: '0' }]);
  // Nothing of it is to be sent anew.
  expect(await figures(sale.id)).toMatchObject({ straight: '3', onOrder: '0', sent: '3', dispatched: '3' });
  expect((await deliver(purchase, '1')).status).toBe(422);

  // The rest is billed; what goes on then is a credit to come from the supplier.
  await owner.get(bills.createBill, {
    body: {
      partyId: supplierId,
      reference: `S-${count}`,
      billedOn: '2026-03-10',
      lines: [{ kind: 'goods', purchaseLineId: purchase.lines[0]?.id as number, quantity: '2', price: '3.335' }],
    },
  });
  const second = await send(line('1'), line('1', 'shelf'));
  expect(second.status).toBe(200);
  // 10.00 in all: 3.33 and 3.34 went on, 3.33 came to a shelf of ours.
  expect(await moved()).toEqual([333, 334, 1000, -667, -1000]);
  expect(await held()).toEqual([]);
  const earned = async () => (await owner.get(margin.listMargin, { query: { by: 'order', q: sale.number } })).rows.map(({ sold: got, cost }) => [got, cost]);
  expect(await earned()).toEqual([]);

  for (const { data } of [second, first]) await owner.get(stock.undo, { body: { movementId: data.movementId as number } });
  expect(await moved()).toEqual([0, 0, 667, -667, 0]);
  expect(await held()).toEqual([['3', '3']]);
  expect(await earned()).toEqual([['15.00', '10.00']]);
  expect((await owner.get(inbound.getPurchase, { params: { id: purchase.id } })).lines).toMatchObject([{ received: '3', cancelled: '0' }]);
});

test('only what came straight from a supplier goes straight on to it, and goods of two orders on lines of their own', async () => {
  const { owner, customerId, siteId } = business;
  const sale = await sold(business, itemId, '5');
  await deliver(await order(sale.lineId, '2', '1.00'), '2');
  await deliver(await order(sale.lineId, '1', '2.00'), '1');
  await stocked(business, itemId, '2');
  await owner.get(picking.pick, { body: pickBody(business, sale, '2') });
  await owner.get(shipping.dispatch, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, quantity: '2' }] } });
  const reasonId = (await owner.get(setup.reference)).returnReasons[0]?.id as number;
  const ask = (...quantities: string[]) =>
    owner.ask(returns.createReturn, {
      body: {
        customerId,
        siteId,
        cameOn: '2026-03-10',
        lines: quantities.map((quantity) => ({ salesLineId: sale.lineId, itemId, quantity, condition: 'supplier' as const, reasonId })),
      },
    });
  expect((await ask('4')).problem.title).toContain('did not come straight from a supplier, or not so many');
  expect((await ask('3')).problem.title).toMatch(/^Only 2 of these came on PO-\d+; the rest goes on a line of its own\.$/);
  const withBin = { salesLineId: sale.lineId, itemId, quantity: '1', condition: 'supplier' as const, binId: business.bins[0] as number, reasonId };
  expect((await owner.ask(returns.createReturn, { body: { customerId, siteId, cameOn: '2026-03-10', lines: [withBin] } })).problem.errors).toMatchObject([
    { field: 'lines.0.condition' },
  ]);
  expect((await ask('2', '1')).status).toBe(200);
});
