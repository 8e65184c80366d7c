import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import type { BodyOf } from '@larder/contract/endpoint';
import * as contract from '@larder/contract/invoices';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as setup from '@larder/contract/setup';
import * as setupLists from '@larder/contract/setupLists';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { stocked } from '../../testing/trade';

let business: Business;
let today = '2026-03-10';
beforeAll(async () => {
  business = await openBusiness();
});
afterAll(() => business.close());

type Line = { itemId: number; quantity: string; price: string; pricePer?: string; discount?: string };
/** A confirmed order. */
async function order(lines: Line[], more: Partial<BodyOf<typeof outbound.createSale>> = {}) {
  const { owner, customerId, siteId } = business;
  const quote = await owner.get(outbound.createSale, { body: { customerId, siteId, shipBy: '2026-03-20', lines, ...more } });
  await owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
  return quote;
}
/** Picks and dispatches so many of a line; how it goes, and what is charged, as said. */
async function send(orderId: number, lineId: number, quantity: string, charged?: string): Promise<number> {
  const { owner, bins } = business;
  await owner.get(picking.pick, { body: { orderId, lines: [{ lineId, binId: bins[0] as number, quantity }] } });
  const how = charged === undefined ? {} : { way: 'van' as const, charged };
  const { movementId } = await owner.get(shipping.dispatch, { body: { orderId, lines: [{ lineId, quantity }], ...how } });
  return movementId as number;
}
async function soldAndSent(sku: string, quantity: string, price: string, charged?: string) {
  const itemId = await business.item(sku);
  await stocked(business, itemId, quantity);
  const sold = await order([{ itemId, quantity, price }]);
  const lineId = sold.lines[0]?.id as number;
  const movementId = await send(sold.id, lineId, quantity, charged);
  return { ...sold, lineId, movementId, itemId, dispatches: [{ orderId: sold.id, movementId }] };
}
const issue = (dispatches: { orderId: number; movementId: number }[], more: Partial<contract.InvoiceForm> = {}) =>
  business.owner.get(contract.createInvoice, { body: { dispatches, invoicedOn: today, ...more } });
const read = (id: number | null) => business.owner.get(contract.getInvoice, { params: { id: id ?? 0 } });
const pay = (parts: { invoiceId: number; amount: string }[], more = {}) =>
  business.owner.ask(contract.recordMoney, { body: { paidOn: today, parts, ...more } });
/** What an account of the books stands at: debit above zero. */
async function accountOf(code: string): Promise<string> {
  const { rows } = await business.owner.get(books.listAccounts, {});
  return rows.find((row) => row.code === code)?.balance ?? '0.00';
}

describe('an invoice', () => {
  test('is for what went out, in parts that come to the line, at the cent, with tax; the books owe it from the customer', async () => {
    const { owner } = business;
    const itemId = await business.item('INV-A');
    await stocked(business, itemId, '10');
    const sold = await order([{ itemId, quantity: '3', price: '10.00', pricePer: '3' }], { reference: 'PO 77' });
    const lineId = sold.lines[0]?.id as number;
    const parts: string[] = [];
    for (const quantity of ['1', '1', '1']) {
      const movementId = await send(sold.id, lineId, quantity);
      const made = await issue([{ orderId: sold.id, movementId }]);
      parts.push(made.net);
    }
    expect(parts).toEqual(['3.33', '3.34', '3.33']);
    const { rows } = await owner.get(contract.listInvoices, { query: { show: 'open', orderId: sold.id } });
    expect(rows.map(({ number }) => number)).toEqual(['INV-1', 'INV-2', 'INV-3']);
    const first = await read(rows[0]?.id ?? null);
    expect(first).toMatchObject({
      party: 'Copse Lane School',
      reference: 'PO 77',
      dueOn: '2026-04-09',
      net: '3.33',
      tax: '0.67',
      total: '4.00',
      open: '4.00',
      state: 'open',
      late: false,
    });
    expect(first.lines).toMatchObject([{ kind: 'goods', sku: 'INV-A', quantity: '1', asOrdered: '1', price: '10.00 for 3', amount: '3.33', taxRate: '20' }]);
    expect(first.entry.map(({ code, amount }) => [code, amount])).toEqual([
      ['1100', '4.00'],
      ['2200', '-0.67'],
      ['4000', '-3.33'],
    ]);
    expect((await owner.get(contract.listToInvoice, { query: { q: sold.number } })).rows).toEqual([]);
    expect(await business.broken()).toEqual([]);
  });

  test('says what it would come to before it is issued, and takes no number for that', async () => {
    const sold = await soldAndSent('INV-B', '4', '2.50', '6.50');
    const asked = { body: { dispatches: sold.dispatches, invoicedOn: today } };
    const foreseen = await business.owner.ask(contract.createInvoice, asked, { preview: true });
    expect(foreseen.data).toMatchObject({ id: null, number: null, net: '16.50', tax: '3.30', total: '19.80' });
    expect(foreseen.data.lines.map(({ kind, text, amount }) => [kind, text, amount])).toEqual([
      ['goods', 'Item INV-B', '10.00'],
      ['freight', expect.stringMatching(/^Freight, SH-/), '6.50'],
    ]);
    const { rows } = await business.owner.get(contract.listToInvoice, { query: { q: sold.number } });
    expect(rows).toMatchObject([{ number: sold.number, amount: '16.50', lines: 1, dispatches: [{ movementId: sold.movementId, straight: false }] }]);
    const made = await issue(sold.dispatches);
    expect([made.number, made.total]).toEqual(['INV-4', '19.80']);
    expect(await accountOf('4100')).toBe('-6.50');
    const again = await business.owner.ask(contract.createInvoice, asked);
    expect(again.problem.errors).toEqual([
      { field: 'dispatches.0', sentence: 'Nothing of this dispatch is left to invoice: it was invoiced already, or undone.' },
    ]);
  });

  test('may be changed in its words, dates and charges before it is issued; sales of an item go to its own account', async () => {
    const { owner, pool } = business;
    const { rows } = await pool.query<{ id: number }>("INSERT INTO account (code, name, type) VALUES ('4050', 'Honey sold', 'income') RETURNING id");
    const own = rows[0]?.id as number;
    const sold = await soldAndSent('INV-C', '2', '7.00', '3.00');
    await pool.query('UPDATE item SET sales_account_id = $1 WHERE id = $2', [own, sold.itemId]);
    const { shipmentId = 0 } = (await owner.get(contract.proposeInvoice, { query: { orders: String(sold.id) } })).freight[0] ?? {};
    const made = await issue(sold.dispatches, {
      dueOn: '2026-03-24',
      opening: 'Thank you for your order.',
      closing: 'Jars come back for 20p.',
      texts: [{ salesLineId: sold.lineId, text: 'Heather honey, as agreed' }],
      freight: [{ shipmentId, amount: '2.00' }],
      others: [{ text: 'Gift wrapping', amount: '1.50' }],
    });
    const one = await read(made.id);
    expect(one).toMatchObject({ dueOn: '2026-03-24', opening: 'Thank you for your order.', closing: 'Jars come back for 20p.', net: '17.50', tax: '2.80' });
    expect(one.lines.map(({ text, amount }) => [text, amount])).toEqual([
      ['Heather honey, as agreed', '14.00'],
      [expect.stringMatching(/^Freight/), '2.00'],
      ['Gift wrapping', '1.50'],
    ]);
    expect(one.entry.find(({ code }) => code === '4050')?.amount).toBe('-14.00');
    expect(await business.broken()).toEqual([]);
  });

  test('carries the lots and serials that went out', async () => {
    const { owner, bins } = business;
    const itemId = await business.item('INV-LOT', { tracking: 'lot' });
    await owner.get(stock.openStock, {
      body: { lines: [{ itemId, binId: bins[0] as number, quantity: '5', unitValue: '1', lots: [{ code: 'L-7', quantity: '5' }] }] },
    });
    const sold = await order([{ itemId, quantity: '3', price: '4' }]);
    const list = await owner.get(picking.pickList, { params: { id: sold.id } });
    await owner.get(picking.pick, {
      body: { orderId: sold.id, lines: list.rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take })) },
    });
    const { movementId } = await owner.get(shipping.dispatch, { body: { orderId: sold.id, lines: [{ lineId: sold.lines[0]?.id as number, quantity: '3' }] } });
    const made = await issue([{ orderId: sold.id, movementId: movementId as number }]);
    expect(made.lines[0]?.lots).toEqual(['L-7']);
    expect((await read(made.id)).lines[0]?.lots).toEqual(['L-7']);
  });

  test('is refused by its field: orders of two customers, a day before the dispatch, in the future or closed, charges nobody made', async () => {
    const { owner, siteId } = business;
    const mine = await soldAndSent('INV-D', '1', '5');
    const { id: otherId } = await owner.get(setup.createParty, { body: { name: 'Brook Street Deli', isCustomer: true } });
    await stocked(business, mine.itemId, '1');
    const theirs = await order([{ itemId: mine.itemId, quantity: '1', price: '5' }], { customerId: otherId, siteId });
    const movementId = await send(theirs.id, theirs.lines[0]?.id as number, '1');
    const refused = async (body: Partial<contract.InvoiceForm>) =>
      (await owner.ask(contract.createInvoice, { body: { dispatches: mine.dispatches, invoicedOn: today, ...body } })).problem.errors[0];
    expect(await refused({ dispatches: [...mine.dispatches, { orderId: theirs.id, movementId }] })).toEqual({
      field: 'dispatches.1',
      sentence: `${theirs.number} and ${mine.number} are of different customers: give each an invoice of its own.`,
    });
    expect(await refused({ invoicedOn: '2026-03-09' })).toMatchObject({ field: 'invoicedOn' });
    expect(await refused({ invoicedOn: '2026-03-11' })).toMatchObject({ field: 'invoicedOn', sentence: 'The day lies in the future.' });
    expect(await refused({ dueOn: '2026-03-01' })).toMatchObject({ field: 'dueOn' });
    expect(await refused({ rate: '1.2' })).toMatchObject({ field: 'rate' });
    expect(await refused({ freight: [{ shipmentId: 999_999, amount: '1' }] })).toMatchObject({ field: 'freight.0.shipmentId' });
    expect(await refused({ others: [{ text: 'Wrapping', amount: '1.005' }] })).toMatchObject({ field: 'others.0.amount' });
    expect(await refused({ others: [{ text: 'Wrapping', amount: '1', accountId: 1 }] })).toMatchObject({ field: 'others.0.accountId' });
    expect(await refused({ dispatches: [] })).toMatchObject({ field: 'dispatches' });
    expect(await refused({ dispatches: [{ orderId: 999_999, movementId: 1 }] })).toMatchObject({ field: 'dispatches.0' });
  });

  test('several orders become one invoice for each customer, order or dispatch, all or none', async () => {
    const { owner } = business;
    const [one, two] = [await soldAndSent('INV-E', '2', '1.25'), await soldAndSent('INV-F', '1', '8')];
    const asked = { body: { orderIds: [one.id, two.id], each: 'customer' as const, invoicedOn: today } };
    expect((await owner.ask(contract.createInvoices, asked, { preview: true })).data.invoices).toMatchObject([{ number: null, total: '12.60' }]);
    const each = await owner.get(contract.createInvoices, { body: { ...asked.body, each: 'order' } });
    expect(each.invoices.map(({ total }) => total)).toEqual(['3.00', '9.60']);
    const numbers = each.invoices.map(({ number }) => Number(number?.slice(4)));
    expect(numbers[1]).toBe((numbers[0] ?? 0) + 1);
    const nothing = await owner.ask(contract.createInvoices, asked);
    expect(nothing.problem.type).toBe('nothing-open');
    expect(await business.broken()).toEqual([]);
  });

  test('is for whom it may be: nobody else issues, sees or pays it', async () => {
    const sold = await soldAndSent('INV-G', '1', '5');
    const sales = await business.as('Sales desk');
    expect((await sales.ask(contract.createInvoice, { body: { dispatches: sold.dispatches, invoicedOn: today } })).status).toBe(403);
    expect((await sales.ask(contract.listInvoices, { query: {} })).status).toBe(403);
    expect((await sales.ask(contract.recordMoney, { body: { paidOn: today, parts: [{ invoiceId: 1, amount: '1' }] } })).status).toBe(403);
  });

  test('its numbers begin where it is said, until the first is given', async () => {
    const edit = (next: number) => business.owner.ask(setupLists.editNumber, { params: { kind: 'invoice' }, body: { prefix: 'INV-', next } });
    const { numbers } = await business.owner.get(setupLists.setupLists, {});
    const next = numbers.find(({ kind }) => kind === 'invoice')?.next ?? 0;
    expect((await edit(next + 10)).problem.errors[0]).toEqual({ field: 'next', sentence: `These numbers have no gaps: the next one is ${next}.` });
    expect((await edit(next)).status).toBe(200);
  });
});

describe('a credit note', () => {
  test('takes off so many of a line or an amount, with its tax; what it takes off by quantity is invoiced again, and the dispatch can be undone', async () => {
    const { owner } = business;
    const sold = await soldAndSent('CN-A', '3', '3.335', '4.00');
    const made = await issue(sold.dispatches);
    const before = await read(made.id);
    expect([before.net, before.tax]).toEqual(['14.01', '2.80']);
    const undo = () => owner.ask(stock.undo, { body: { movementId: sold.movementId } });
    expect((await undo()).problem.errors[0]?.sentence).toBe(`${made.number} rests on this. Credit ${made.number} first.`);
    const credit = (lines: { lineId: number; quantity?: string; amount?: string }[], more = {}) =>
      owner.ask(contract.creditInvoice, { params: { id: made.id ?? 0 }, body: { invoicedOn: today, lines, ...more } });
    const [goods, freight] = before.lines.map(({ id }) => id) as [number, number];
    expect((await credit([{ lineId: goods, quantity: '4' }])).problem.errors[0]?.sentence).toBe('Only 3 of it are left to credit.');
    expect((await credit([{ lineId: freight, quantity: '1' }])).problem.errors[0]?.field).toBe('lines.0.quantity');
    expect((await credit([{ lineId: freight, amount: '4.01' }])).problem.errors[0]?.sentence).toBe('Only 4.00 of it are left to credit.');
    expect((await credit([{ lineId: goods }])).problem.errors[0]?.sentence).toBe('Give either how many are credited, or an amount.');
    expect(
      (
        await credit([
          { lineId: goods, quantity: '1' },
          { lineId: goods, amount: '1' },
        ])
      ).problem.errors[0]?.field,
    ).toBe('lines.1.lineId');
    expect((await credit([{ lineId: goods, quantity: '1' }], { invoicedOn: '2026-03-01' })).problem.errors[0]?.field).toBe('invoicedOn');
    const first = await credit([{ lineId: goods, quantity: '1' }], { opening: 'One came back broken.' });
    expect(first.data).toMatchObject({ number: 'CN-1', net: '3.34', tax: '0.67', total: '4.01' });
    expect((await read(made.id)).open).toBe('12.80');
    const second = await credit([
      { lineId: goods, quantity: '2' },
      { lineId: freight, amount: '4.00' },
    ]);
    expect(second.data).toMatchObject({ number: 'CN-2', net: '10.67', tax: '2.13', total: '12.80' });
    const after = await read(made.id);
    expect(after).toMatchObject({ open: '0.00', state: 'credited', credited: '16.81' });
    expect(after.creditNotes.map(({ number }) => number)).toEqual(['CN-1', 'CN-2']);
    expect(await read(second.data.id)).toMatchObject({ kind: 'credit', state: 'credit note', open: '0', credits: { id: made.id, number: made.number } });
    expect(
      (await owner.ask(contract.creditInvoice, { params: { id: first.data.id ?? 0 }, body: { invoicedOn: today, lines: [{ lineId: goods, quantity: '1' }] } }))
        .problem.type,
    ).toBe('not-an-invoice');
    expect((await owner.get(contract.listToInvoice, { query: { q: sold.number } })).rows[0]?.amount).toBe('14.01');
    expect(await business.broken()).toEqual([]);
    expect((await undo()).status).toBe(200);
    expect(await business.broken()).toEqual([]);
  });

  test('an allowance off the price leaves the goods invoiced', async () => {
    const sold = await soldAndSent('CN-B', '10', '10');
    const made = await issue(sold.dispatches);
    const lineId = (await read(made.id)).lines[0]?.id as number;
    await business.owner.get(contract.creditInvoice, { params: { id: made.id ?? 0 }, body: { invoicedOn: today, lines: [{ lineId, amount: '1.00' }] } });
    expect((await business.owner.get(contract.listToInvoice, { query: { q: sold.number } })).rows).toEqual([]);
    const all = await business.owner.get(contract.creditInvoice, {
      params: { id: made.id ?? 0 },
      body: { invoicedOn: today, lines: [{ lineId, quantity: '10' }] },
    });
    expect([all.net, all.tax]).toEqual(['99.00', '19.80']);
    expect(await business.broken()).toEqual([]);
  });
});

describe('payments', () => {
  test('in part, whole, too much (asked), undone; one sum for several invoices; back, and moved to another', async () => {
    const { owner } = business;
    const [a, b] = [await issue((await soldAndSent('PAY-A', '1', '10')).dispatches), await issue((await soldAndSent('PAY-B', '1', '20')).dispatches)];
    const [first, second] = [a.id as number, b.id as number];
    const open = async () => [(await read(first)).open, (await read(second)).open];
    expect((await pay([{ invoiceId: first, amount: '5.00' }])).status).toBe(200);
    expect(await read(first)).toMatchObject({ state: 'part paid', open: '7.00' });
    const both = [
      { invoiceId: first, amount: '7.00' },
      { invoiceId: second, amount: '30.00' },
    ];
    const asked = await pay(both);
    expect(asked.problem).toMatchObject({ type: 'over-payment', asks: ['over'], errors: [{ field: 'parts.1.amount' }] });
    const over = await pay(both, { over: true });
    expect(await open()).toEqual(['0.00', '-6.00']);
    expect((await read(second)).state).toBe('to pay back');
    expect((await pay([{ invoiceId: second, amount: '-7' }])).problem.errors[0]?.sentence).toContain('Only 6.00 too much was paid');
    expect((await pay([{ invoiceId: first, amount: '-1' }])).problem.errors[0]?.sentence).toContain('Nothing too much was paid');
    const back = await pay([{ invoiceId: second, amount: '-6.00' }]);
    expect(await open()).toEqual(['0.00', '0.00']);
    expect((await owner.ask(contract.undoMoney, { params: { id: over.data.moneyId ?? 0 }, body: {} })).problem.type).toBe('rests-on-it');
    const foreseen = await owner.ask(contract.undoMoney, { params: { id: back.data.moneyId ?? 0 }, body: {} }, { preview: true });
    expect(foreseen.data.entry.map(({ code, amount }) => [code, amount])).toEqual([
      ['1000', '6.00'],
      ['1100', '-6.00'],
    ]);
    await owner.get(contract.undoMoney, { params: { id: back.data.moneyId ?? 0 }, body: {} });
    const c = await issue((await soldAndSent('PAY-C', '1', '5')).dispatches);
    const moved = await pay([
      { invoiceId: second, amount: '-6.00' },
      { invoiceId: c.id as number, amount: '6.00' },
    ]);
    expect(moved.data.entry).toEqual([]);
    expect([...(await open()), (await read(c.id)).open]).toEqual(['0.00', '0.00', '0.00']);
    expect(await business.broken()).toEqual([]);
  });

  test('are refused by their field: before the invoice, of nobody, twice, for a credit note', async () => {
    const sold = await soldAndSent('PAY-D', '2', '10');
    const made = await issue(sold.dispatches);
    const invoiceId = made.id as number;
    const first = async (parts: { invoiceId: number; amount: string }[], more = {}) => (await pay(parts, more)).problem.errors[0]?.field;
    expect(await first([{ invoiceId, amount: '1' }], { paidOn: '2026-03-01' })).toBe('paidOn');
    expect(await first([{ invoiceId: 999_999, amount: '1' }])).toBe('parts.0.invoiceId');
    expect(
      await first([
        { invoiceId, amount: '1' },
        { invoiceId, amount: '1' },
      ]),
    ).toBe('parts.1.invoiceId');
    expect(await first([{ invoiceId, amount: '0' }])).toBe('parts.0.amount');
    expect(await first([{ invoiceId, amount: '0.001' }])).toBe('parts.0.amount');
    expect(await first([{ invoiceId, amount: '1' }], { rate: '2' })).toBe('rate');
    const lineId = (await read(invoiceId)).lines[0]?.id as number;
    const note = await business.owner.get(contract.creditInvoice, {
      params: { id: invoiceId },
      body: { invoicedOn: today, lines: [{ lineId, quantity: '1' }] },
    });
    expect(await first([{ invoiceId: note.id as number, amount: '1' }])).toBe('parts.0.invoiceId');
  });

  test('in another currency settle at the invoice’s rate; what the rate has changed by is an exchange difference', async () => {
    const sold = await soldAndSent('PAY-E', '3', '3.33');
    await business.pool.query("UPDATE sales_order SET currency = 'EUR', rate = 0.85 WHERE id = $1", [sold.id]);
    const made = await issue(sold.dispatches);
    expect(made).toMatchObject({ currency: 'EUR', net: '9.99', tax: '2.00', total: '11.99' });
    const invoiceId = made.id as number;
    expect((await read(invoiceId)).entry.find(({ code }) => code === '1100')?.amount).toBe('10.19');
    const paid = [await pay([{ invoiceId, amount: '4.00' }], { rate: '0.9' }), await pay([{ invoiceId, amount: '7.99' }], { rate: '0.8' })];
    expect(paid.map(({ data }) => data.entry.map(({ code, amount }) => [code, amount]))).toEqual([
      [
        ['1000', '3.60'],
        ['1100', '-3.40'],
        ['5230', '-0.20'],
      ],
      [
        ['1000', '6.39'],
        ['1100', '-6.79'],
        ['5230', '0.40'],
      ],
    ]);
    expect((await read(invoiceId)).state).toBe('paid');
    expect(await business.broken()).toEqual([]);
  });
});

describe('what customers owe', () => {
  test('is listed by customer and how long it is due, and their account tells how it came to that', async () => {
    const { owner } = business;
    const { id: partyId } = await owner.get(setup.createParty, { body: { name: 'Fell Foot Farm', isCustomer: true } });
    const itemId = await business.item('DUE-A');
    await stocked(business, itemId, '10');
    const made: number[] = [];
    for (const [day, quantity] of [
      ['2026-03-10', '1'],
      ['2026-03-12', '2'],
    ] as const) {
      business.clock.now = new Date(`${day}T10:00:00Z`);
      today = day;
      const sold = await order([{ itemId, quantity, price: '10' }], { customerId: partyId });
      const movementId = await send(sold.id, sold.lines[0]?.id as number, quantity);
      made.push((await issue([{ orderId: sold.id, movementId }], day === '2026-03-10' ? { dueOn: '2026-03-10' } : {})).id as number);
    }
    await pay([{ invoiceId: made[0] as number, amount: '2.00' }], { note: 'by card' });
    const { rows } = await owner.get(contract.listDebtors, { query: { q: 'fell foot' } });
    expect(rows).toMatchObject([
      {
        party: 'Fell Foot Farm',
        currency: 'GBP',
        invoices: 2,
        open: '34.00',
        ages: { 'not due': '24.00', '1 to 30 days': '10.00', '31 to 60 days': '0', longer: '0' },
        firstDueOn: '2026-03-10',
      },
    ]);
    expect((await owner.get(contract.debtorsInAll, { query: { q: 'fell foot' } })).open).toEqual([{ currency: 'GBP', amount: '34.00' }]);
    const account = await owner.get(contract.getStatement, { query: { partyId, from: '2026-03-11' } });
    expect(account).toMatchObject({ party: 'Fell Foot Farm', currency: 'GBP', before: '12.00', balance: '34.00', to: '2026-03-12' });
    expect(account.rows.map(({ kind, text, amount, balance }) => [kind, text.replace(/-\d+$/, '-n'), amount, balance])).toEqual([
      ['invoice', 'Invoice INV-n', '24.00', '36.00'],
      ['money', 'Paid, by card', '-2.00', '34.00'],
    ]);
    expect(account.open.map(({ late, open }) => [late, open])).toEqual([
      [true, '10.00'],
      [false, '24.00'],
    ]);
    expect((await owner.get(contract.listInvoices, { query: { show: 'late', partyId } })).rows).toHaveLength(1);
    for (const path of [`/api/invoices/${made[0]}/paper`, `/api/invoices/statement/paper?partyId=${partyId}`]) {
      const answer = await fetch(`${business.base}${path}`, { headers: { Cookie: owner.cookie } });
      expect([
        answer.status,
        Buffer.from(await answer.arrayBuffer())
          .subarray(0, 5)
          .toString(),
      ]).toEqual([200, '%PDF-']);
    }
  });

  test('an invoice handed over without mail says so', async () => {
    const { rows } = await business.owner.get(contract.listInvoices, { query: { show: 'all' } });
    const id = rows[0]?.id as number;
    await business.owner.get(contract.handOverInvoice, { params: { id }, body: { handedOver: true } });
    expect(await read(id)).toMatchObject({ handedOver: true, handedOverAt: business.clock.now.toISOString() });
    await business.owner.get(contract.handOverInvoice, { params: { id }, body: { handedOver: false } });
    expect((await read(id)).handedOver).toBe(false);
  });
});
