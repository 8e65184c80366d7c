import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as direct from '@larder/contract/direct';
import * as exchange from '@larder/contract/exchange';
import * as invoices from '@larder/contract/invoices';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import { openBusiness, type Business } from '../../testing/business';
import { pickBody, sold, stocked } from '../../testing/trade';

let business: Business;
const numbers: Record<string, string> = {};
beforeAll(async () => {
  business = await openBusiness();
  const { owner } = business;
  const plenty = await business.item('PLENTY');
  const scarce = await business.item('SCARCE');
  await stocked(business, plenty, '40');
  await stocked(business, scarce, '1');
  const named = async (name: string, itemId: number, quantity: string, shipBy?: string) => {
    const order = await sold(business, itemId, quantity, shipBy);
    numbers[name] = order.number;
    return order;
  };
  await named('ready', plenty, '2');
  await named('late', plenty, '2', '2026-03-10');
  const picked = await named('bench', plenty, '2');
  await owner.get(picking.pick, { body: pickBody(business, picked, '2') });
  const gone = await named('gone', plenty, '2');
  await owner.get(picking.pick, { body: pickBody(business, gone, '2') });
  await owner.get(shipping.dispatch, { body: { orderId: gone.id, lines: [{ lineId: gone.lineId, quantity: '2' }] } });
  const billed = await named('billed', plenty, '1');
  await owner.get(picking.pick, { body: pickBody(business, billed, '1') });
  const sent = await owner.get(shipping.dispatch, { body: { orderId: billed.id, lines: [{ lineId: billed.lineId, quantity: '1' }] } });
  await owner.get(invoices.createInvoice, { body: { dispatches: [{ orderId: billed.id, movementId: sent.movementId as number }], invoicedOn: '2026-03-10' } });
  await named('short', scarce, '3');
  const straight = await named('supplier', await business.item('STRAIGHT'), '4');
  await owner.get(direct.orderDirect, { body: { lines: [{ lineId: straight.lineId, quantity: '4', supplierId: business.supplierId, price: '1' }] } });
  const quote = await owner.get(outbound.createSale, {
    body: { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-20', lines: [{ itemId: plenty, quantity: '1', price: '5.00' }] },
  });
  numbers['quote'] = quote.number;
  // The late one was to go yesterday.
  business.clock.now = new Date('2026-03-11T10:00:00Z');
});
afterAll(() => business.close());

const namesIn = (found: readonly string[]) =>
  Object.entries(numbers)
    .filter(([, number]) => found.includes(number))
    .map(([name]) => name);

test.each([
  ['open', ['ready', 'late', 'bench', 'short', 'supplier']],
  ['late', ['late']],
  ['short', ['short']],
  ['ready', ['ready', 'late', 'short']],
  ['bench', ['bench']],
  ['supplier', ['supplier']],
  ['to-invoice', ['gone']],
  ['quotes', ['quote']],
  ['all', ['ready', 'late', 'bench', 'gone', 'billed', 'short', 'supplier', 'quote']],
] as const)('orders that are %s, in the list, its sum and its file', async (show, expected) => {
  const { owner } = business;
  const { rows } = await owner.get(outbound.listSales, { query: { show } });
  expect(namesIn(rows.map(({ number }) => number))).toEqual(expected);
  expect((await owner.get(outbound.salesInAll, { query: { show } })).count).toBe(expected.length);
  const file = await owner.ask(exchange.exportFile, { params: { list: 'sales' }, body: { fields: 'number', format: 'csv', show } });
  expect(namesIn((file.data as unknown as string).split(/\r?\n/))).toEqual(expected);
});

test('each says what can be done about it now', async () => {
  const { rows } = await business.owner.get(outbound.listSales, { query: { show: 'all' } });
  const can = (name: string) => {
    const row = rows.find(({ number }) => number === numbers[name]);
    return [row?.ready, row?.canGoStraight, row?.toInvoice];
  };
  expect(['ready', 'bench', 'gone', 'billed', 'short', 'quote'].map((name) => [name, ...can(name)])).toEqual([
    ['ready', true, true, false],
    ['bench', false, false, false],
    ['gone', false, false, true],
    ['billed', false, false, false],
    ['short', true, true, false],
    ['quote', false, false, false],
  ]);
});
