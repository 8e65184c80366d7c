import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { BodyOf } from '@larder/contract/endpoint';
import * as colleagues from '@larder/contract/colleagues';
import * as customers from '@larder/contract/customers';
import * as gaps from '@larder/contract/gaps';
import * as invoices from '@larder/contract/invoices';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as setup from '@larder/contract/setup';
import * as shipping from '@larder/contract/shipping';
import { addPerson } from '../../db/found';
import { transaction } from '../../db/database';
import { openBusiness, signIn, type Business, type Caller } from '../../testing/business';
import { pickBody, stocked } from '../../testing/trade';

/** Customers: what they owe and may owe, in which currency they buy, and what they order again. */
let business: Business;
let seller: Caller;
let itemId: number;
beforeAll(async () => {
  business = await openBusiness();
  await transaction(business.pool, 'write', (tx) => addPerson(tx, { name: 'Desk', email: 'desk@test.example', password: 'only for tests' }, 'Sales desk'));
  seller = await signIn(business.base, 'desk@test.example', 'only for tests');
  itemId = await business.item('CUST-1', { salesPrice: '12.00' });
  await stocked(business, itemId, '100');
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const newCustomer = async (name: string, more: Partial<BodyOf<typeof setup.createParty>> = {}) =>
  (await business.owner.get(setup.createParty, { body: { name, isCustomer: true, ...more } })).id;
type Lines = { itemId: number; quantity: string; price: string; unitId?: number }[];
const quoteOf = (customerId: number, lines: Lines, more: Partial<BodyOf<typeof outbound.createSale>> = {}) =>
  business.owner.get(outbound.createSale, { body: { customerId, siteId: business.siteId, shipBy: '2026-03-20', lines, ...more } });
const confirm = (who: Caller, { id, version }: { id: number; version: number }, said = {}) =>
  who.ask(outbound.confirmSale, { params: { id }, body: { version, ...said } });
const standingOf = (id: number) => business.owner.get(customers.customerStanding, { params: { id } });
/** Picks and dispatches so many of the first line of an order. */
async function send(orderId: number, quantity: string): Promise<number> {
  const { owner } = business;
  const lineId = (await owner.get(outbound.getSale, { params: { id: orderId } })).lines[0]?.id as number;
  await owner.get(picking.pick, { body: pickBody(business, { id: orderId, lineId }, quantity) });
  return (await owner.get(shipping.dispatch, { body: { orderId, lines: [{ lineId, quantity }] } })).movementId as number;
}

describe('a credit limit', () => {
  test('counts what is owed and what is ordered, with tax; beyond it is asked, by whom may go on', async () => {
    const id = await newCustomer('Limited Larder', { creditLimit: '100.00' });
    const first = await quoteOf(id, [{ itemId, quantity: '4', price: '10.00' }]);
    expect((await confirm(seller, first)).status).toBe(200);
    // 4 at 10.00 and 20 % of tax.
    expect(await standingOf(id)).toEqual({ owed: '0.00', overdue: '0.00', ordered: '48.00', limit: '100.00', openOrders: 1, yearsOrders: 1 });
    // What is dispatched and invoiced is owed, the rest still ordered.
    const movementId = await send(first.id, '3');
    await business.owner.get(invoices.createInvoice, { body: { dispatches: [{ orderId: first.id, movementId }], invoicedOn: '2026-03-10' } });
    expect(await standingOf(id)).toMatchObject({ owed: '36.00', ordered: '12.00' });

    const second = await quoteOf(id, [{ itemId, quantity: '5', price: '10.00' }]);
    const refused = await confirm(seller, second);
    expect([refused.status, refused.problem?.type, refused.problem?.asks]).toEqual([403, 'over-limit', []]);
    expect(refused.problem?.title).toBe(
      'Limited Larder would owe 108.00 GBP, 8.00 more than they may. Somebody who may go beyond a credit limit has to confirm it.',
    );
    const asked = await confirm(business.owner, second);
    expect([asked.status, asked.problem?.asks, asked.problem?.errors]).toMatchObject([409, ['overLimit'], [{ field: 'customerId' }]]);
    // Refused, nothing is reserved.
    expect((await business.owner.get(outbound.getSale, { params: { id: second.id } })).confirmedAt).toBeNull();
    expect((await confirm(business.owner, second, { overLimit: true })).status).toBe(200);
    expect(await standingOf(id)).toMatchObject({ owed: '36.00', ordered: '72.00' });
  });

  test('holds for what is added to an order, and for none that becomes less; a cancelled order makes room, and comes back only within it', async () => {
    const id = await newCustomer('Careful Crates', { creditLimit: '60.00' });
    const made = await quoteOf(id, [{ itemId, quantity: '5', price: '10.00' }]);
    expect((await confirm(seller, made)).status).toBe(200);
    const order = await business.owner.get(outbound.getSale, { params: { id: made.id } });
    const line = order.lines[0] as (typeof order.lines)[number];
    const change = (who: Caller, quantity: string, version: number, said = {}) =>
      who.ask(outbound.amendSale, {
        params: { id: made.id },
        body: { version, shipBy: order.shipBy, lines: [{ lineId: line.id, quantity, price: '10.00' }], ...said },
      });
    expect((await change(seller, '6', order.version)).status).toBe(403);
    expect((await change(business.owner, '6', order.version)).problem?.asks).toEqual(['overLimit']);
    expect((await change(business.owner, '6', order.version, { overLimit: true })).status).toBe(200);
    // Beyond it now; less is never asked about.
    expect((await change(seller, '5.5', order.version + 1)).status).toBe(422);
    expect((await change(seller, '5', order.version + 1)).status).toBe(200);
    const end = (decision: 'cancel' | 'reopen', version: number) => seller.ask(outbound.endSale, { params: { id: made.id }, body: { decision, version } });
    expect((await end('cancel', order.version + 2)).status).toBe(200);
    expect(await standingOf(id)).toMatchObject({ ordered: '0.00', openOrders: 0 });
    const other = await quoteOf(id, [{ itemId, quantity: '1', price: '10.00' }]);
    expect((await confirm(seller, other)).status).toBe(200);
    expect((await end('reopen', order.version + 3)).status).toBe(403);
  });

  test('a swap that makes it more is refused to whom may not go beyond it', async () => {
    const id = await newCustomer('Swapping Stores', { creditLimit: '12.00' });
    const dear = await business.item('CUST-DEAR', { salesPrice: '30.00' });
    await stocked(business, dear, '5');
    const made = await quoteOf(id, [{ itemId, quantity: '1', price: '10.00' }]);
    await confirm(seller, made);
    const lineId = made.lines[0]?.id as number;
    const swap = (who: Caller) => who.ask(gaps.swapLine, { params: { id: lineId }, body: { itemId: dear, quantity: '1' } });
    expect((await swap(seller)).status).toBe(403);
    expect((await swap(business.owner)).status).toBe(200);
  });

  test('two orders confirmed in the same second do not pass it together', async () => {
    const id = await newCustomer('Twice at Once', { creditLimit: '50.00' });
    const quotes = await Promise.all([1, 2, 3, 4].map(() => quoteOf(id, [{ itemId, quantity: '2', price: '10.00' }])));
    const answers = await Promise.all(quotes.map((quote) => confirm(seller, quote)));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 200, 403, 403]);
    expect(await standingOf(id)).toMatchObject({ ordered: '48.00' });
  });

  test('is more than nothing, and only an amount', async () => {
    for (const [creditLimit, status] of [
      ['0', 422],
      ['-5', 422],
      ['1.234', 422],
      ['no', 422],
      ['999999999', 200],
    ] as const)
      expect([
        creditLimit,
        (await business.owner.ask(setup.createParty, { body: { name: `Limit ${creditLimit}`, isCustomer: true, creditLimit } })).status,
      ]).toEqual([creditLimit, status]);
  });

  test('what is owed is the company’s: not for whom sees one site', async () => {
    const roleId = (await business.owner.get(colleagues.listPeople)).roles.find(({ name }) => name === 'Sales desk')?.id as number;
    const corner = { name: 'Corner', email: 'corner@test.example', password: 'two owls in a drawer' };
    await business.owner.get(colleagues.addPerson, { body: { ...corner, roles: [{ roleId, siteId: business.siteId }] } });
    const there = await signIn(business.base, corner.email, corner.password);
    const id = await newCustomer('Seen in Part', { creditLimit: '10.00' });
    expect(await there.get(customers.customerStanding, { params: { id } })).toEqual({
      owed: null,
      overdue: null,
      ordered: null,
      limit: null,
      openOrders: 0,
      yearsOrders: 0,
    });
    expect((await there.ask(customers.customerStanding, { params: { id: business.supplierId } })).status).toBe(404);
  });
});

describe('an order in another currency', () => {
  const cents = (text: string) => Number(text.replace('.', ''));

  test('is written, dispatched in parts and invoiced in it; margin, standing and the books are in ours, to the cent', async () => {
    const { owner } = business;
    const id = await newCustomer('Käserei Über', { salesCurrency: 'EUR' });
    const order = await quoteOf(id, [{ itemId, quantity: '3', price: '7.35' }], { currency: 'EUR', rate: '0.8612' });
    expect(order).toMatchObject({ currency: 'EUR', rate: '0.8612', amount: '22.05', tax: '4.41' });
    expect((await confirm(owner, order)).status).toBe(200);
    // 26.46 at 0.8612 is 22.787352.
    expect(await standingOf(id)).toMatchObject({ ordered: '22.79' });
    const movementId = await send(order.id, '2');
    // 14.70 at 0.8612 is 12.65964; two cost 2.00 each.
    expect(await owner.get(outbound.getSale, { params: { id: order.id } })).toMatchObject({
      dispatchedAmount: '14.70',
      dispatchedCost: '4.00',
      margin: '8.66',
    });
    const made = await owner.get(invoices.createInvoice, { body: { dispatches: [{ orderId: order.id, movementId }], invoicedOn: '2026-03-10' } });
    expect(made).toMatchObject({ currency: 'EUR', net: '14.70', tax: '2.94' });
    const { entry } = await owner.get(invoices.getInvoice, { params: { id: made.id as number } });
    // 17.64 at 0.8612 is 15.191568: sales 12.66, tax 2.53 (2.531928).
    expect(entry.map(({ amount }) => cents(amount)).sort((a, b) => a - b)).toEqual([-1266, -253, 1519]);
    // The last one: 7.35, which with its tax is 8.82 EUR, 7.595784 of ours.
    expect(await standingOf(id)).toMatchObject({ owed: '15.19', ordered: '7.60' });
    const { amounts } = await owner.get(outbound.salesInAll, { query: { show: 'all', customerId: id } });
    expect(amounts).toEqual([{ currency: 'EUR', amount: '22.05' }]);
  });

  test('has as many decimals as its currency has', async () => {
    const id = await newCustomer('Tokyo Tea', { salesCurrency: 'JPY' });
    const order = await quoteOf(id, [{ itemId, quantity: '3', price: '1234.4' }], { currency: 'JPY', rate: '0.0052', discount: '3' });
    // 3703.2 less 3 % is 3592.104; a tenth of a yen is none.
    expect(order).toMatchObject({ amount: '3592', tax: '718', discounted: '111' });
    expect((await confirm(business.owner, order)).status).toBe(200);
    await send(order.id, '1');
    const { rows } = await business.owner.get(invoices.listToInvoice, { query: { customerId: id } });
    expect(rows).toMatchObject([{ currency: 'JPY', amount: '1197' }]);
  });

  test('needs a rate, which of ours is 1; what there is no currency of is refused', async () => {
    const id = await newCustomer('No Such Coin');
    const line = [{ itemId, quantity: '1', price: '1' }];
    const ask = (more: object) =>
      business.owner.ask(outbound.createSale, { body: { customerId: id, siteId: business.siteId, shipBy: '2026-03-20', lines: line, ...more } });
    for (const [more, field, sentence] of [
      [{ currency: 'EUR' }, 'rate', 'Say how much GBP one EUR is.'],
      [{ currency: 'GBP', rate: '1.2' }, 'rate', "GBP is the business's own currency: its rate is 1."],
      [{ currency: 'ABC', rate: '1' }, 'currency', 'There is no currency ABC.'],
    ] as const) {
      const { status, problem } = await ask(more);
      expect([status, problem?.errors]).toEqual([422, [{ field, sentence }]]);
    }
    expect((await business.owner.ask(setup.createParty, { body: { name: 'Coinless', isCustomer: true, salesCurrency: 'ABC' } })).problem?.errors).toEqual([
      { field: 'salesCurrency', sentence: 'There is no currency ABC.' },
    ]);
  });

  test('a swap costs what the customer pays for the other item, in the order’s currency', async () => {
    const id = await newCustomer('Swap Abroad');
    const other = await business.item('CUST-SWAP', { salesPrice: '10.00' });
    const order = await quoteOf(id, [{ itemId, quantity: '2', price: '20.00' }], { currency: 'EUR', rate: '0.8' });
    await confirm(business.owner, order);
    await business.owner.get(gaps.swapLine, { params: { id: order.lines[0]?.id as number }, body: { itemId: other, quantity: '1' } });
    const { lines } = await business.owner.get(outbound.getSale, { params: { id: order.id } });
    expect(lines.map(({ sku, price, amount }) => [sku, price, amount])).toEqual([
      ['CUST-1', '20', '20.00'],
      ['CUST-SWAP', '12.5', '12.50'],
    ]);
  });
});

test('what a customer buys is told as it was ordered last, in its unit and currency, and how often', async () => {
  const { owner } = business;
  const id = await newCustomer('Again and Again');
  const unit = await owner.get(setup.createUnit, { body: { code: 'tray', name: 'tray', step: '1' } });
  const trays = await business.item('CUST-TRAY', { salesPrice: '2.00', units: [{ unitId: unit.id, numerator: 6, denominator: 1, buys: false, sells: true }] });
  await stocked(business, trays, '60');
  const first = await quoteOf(id, [{ itemId: trays, quantity: '5', price: '2.00' }]);
  await confirm(owner, first);
  await send(first.id, '5');
  const second = await quoteOf(id, [{ itemId: trays, quantity: '3', unitId: unit.id, price: '15.00' }], { currency: 'EUR', rate: '0.9' });
  await confirm(owner, second);
  await send(second.id, '18');
  const { rows } = await owner.get(customers.customerItems, { params: { id } });
  expect(rows).toMatchObject([
    { sku: 'CUST-TRAY', quantity: '23', times: 2, lastQuantity: '3', lastUnit: 'tray', lastUnitId: unit.id, lastPrice: '2.5', currency: 'EUR', sold: true },
  ]);
  expect(rows[0]?.factor).toEqual({ numerator: 6, denominator: 1 });
});
