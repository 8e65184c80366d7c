import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as invoices from '@larder/contract/invoices';
import * as margin from '@larder/contract/margin';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as contract from '@larder/contract/returns';
import * as setup from '@larder/contract/setup';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';

let business: Business;
let quarantineId: number;
let reasonId: number;
const today = '2026-03-10';
beforeAll(async () => {
  business = await openBusiness();
  const made = await business.owner.get(setup.createBins, { body: { siteId: business.siteId, codes: ['Q-1'], sellable: false } });
  quarantineId = made.rows[0]?.id as number;
  reasonId = (await business.owner.get(setup.reference)).returnReasons.find(({ code }) => code === 'faulty')?.id as number;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const bin = () => business.bins[0] as number;
/** Opens stock of an item: as many serials, or so many of one lot, or so many. */
async function opened(
  sku: string,
  quantity: string,
  unitValue: string,
  tracking: 'none' | 'lot' | 'serial' = 'none',
  costMethod: 'average' | 'fifo' | 'specific' = 'average',
) {
  const itemId = await business.item(sku, { tracking, costMethod });
  const serials = Array.from({ length: Number(quantity) }, (_, n) => ({ code: `${sku}-${n + 1}` }));
  const lots = tracking === 'serial' ? serials : tracking === 'lot' ? [{ code: `${sku}-L`, quantity }] : [];
  await business.owner.get(stock.openStock, { body: { lines: [{ itemId, binId: bin(), quantity, unitValue, lots }] } });
  return itemId;
}
/** What is picked of a line: so many, or of each serial one. */
async function picked(itemId: number, lineId: number, quantity: string) {
  const { sites } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
  const lots = sites.flatMap(({ bins }) => bins.flatMap(({ lots: there }) => there)).slice(0, Number(quantity));
  const line = { lineId, binId: bin() };
  return lots.length === 0 ? [{ ...line, quantity }] : lots.map(({ lotId }) => ({ ...line, lotId, quantity: '1' }));
}
/** An order of one line that is confirmed, picked and sent in parts. */
async function sent(itemId: number, quantity: string, parts = [quantity], { price = '5.00', customerId = business.customerId } = {}) {
  const { owner, siteId } = business;
  const quote = await owner.get(outbound.createSale, { body: { customerId, siteId, shipBy: '2026-03-20', lines: [{ itemId, quantity, price }] } });
  await owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
  const lineId = quote.lines[0]?.id as number;
  const movementIds: number[] = [];
  for (const part of parts) {
    await owner.get(picking.pick, { body: { orderId: quote.id, lines: await picked(itemId, lineId, part) } });
    movementIds.push((await owner.get(shipping.dispatch, { body: { orderId: quote.id, lines: [{ lineId, quantity: part }] } })).movementId as number);
  }
  return { id: quote.id, number: quote.number, lineId, itemId, movementIds, dispatches: movementIds.map((movementId) => ({ orderId: quote.id, movementId })) };
}
type Line = contract.ReturnForm['lines'][number];
const back = (of: { lineId: number; itemId: number }, quantity: string, part: Partial<Line> = {}): Line => ({
  salesLineId: of.lineId,
  itemId: of.itemId,
  quantity,
  condition: 'shelf',
  binId: bin(),
  reasonId,
  ...part,
});
const form = (lines: Line[], more: Partial<contract.ReturnForm> = {}): contract.ReturnForm => ({
  customerId: business.customerId,
  siteId: business.siteId,
  cameOn: today,
  lines,
  ...more,
});
const take = (lines: Line[], more: Partial<contract.ReturnForm> = {}) => business.owner.ask(contract.createReturn, { body: form(lines, more) });
const read = (id: number | null) => business.owner.get(contract.getReturn, { params: { id: id ?? 0 } });
const held = (query: Parameters<typeof asked>[0]) => asked(query);
const asked = async (query: { customerId?: number; orderId?: number; itemId?: number; lotId?: number; q?: string }) =>
  (await business.owner.get(contract.listHeld, { query })).rows;
const undo = (movementId: number | null) => business.owner.ask(stock.undo, { body: { movementId: movementId ?? 0 } });
const accountOf = async (code: string) => (await business.owner.get(books.listAccounts, {})).rows.find((row) => row.code === code)?.balance ?? '0.00';

describe('what a customer has', () => {
  test('is found by customer, order, item, serial and code, with the order it came from; what came back is not offered again', async () => {
    const itemId = await opened('HELD-1', '3', '4.00', 'serial');
    const order = await sent(itemId, '2');
    const all = await held({ customerId: business.customerId, q: 'held-1' });
    expect(all.map(({ order: number, lot, held: left, price }) => [number, lot, left, price])).toEqual([
      [order.number, 'HELD-1-1', '1', '5'],
      [order.number, 'HELD-1-2', '1', '5'],
    ]);
    expect((await held({ q: 'HELD-1-2' })).map(({ customer, lot }) => [customer, lot])).toEqual([['Copse Lane School', 'HELD-1-2']]);
    expect((await held({ q: order.number.toLowerCase() })).length).toBe(2);
    expect((await held({ orderId: order.id })).length).toBe(2);
    expect((await held({ q: 'held-1' })).length).toBe(2);
    expect(await held({})).toEqual([]);
    expect(await held({ q: 'HELD-1-3' })).toEqual([]);
    const lotId = all[1]?.lotId ?? null;
    expect((await take([back(order, '1', { lotId })])).status).toBe(200);
    expect((await held({ customerId: business.customerId, itemId })).map(({ lot }) => lot)).toEqual(['HELD-1-1']);
  });
});

describe('goods that come back', () => {
  test('go to a shelf, into quarantine or are thrown away, at what they left for; sales, cost and stock follow', async () => {
    const { owner } = business;
    // Three cost 10.00: what comes back comes at 3.33, 3.34, 3.33.
    const itemId = await opened('BACK-1', '3', '3.333333');
    const [before, lost] = [await accountOf('5000'), await accountOf('5110')];
    const order = await sent(itemId, '3');
    expect(Number(await accountOf('5000')) - Number(before)).toBeCloseTo(10, 5);
    const lines = [
      back(order, '1'),
      back(order, '1', { condition: 'quarantine', binId: quarantineId }),
      back(order, '1', { condition: 'scrap', binId: null, note: 'cracked' }),
    ];
    const foreseen = await owner.ask(contract.createReturn, { body: form(lines) }, { preview: true });
    expect(foreseen.data).toMatchObject({ id: null, number: null, movementId: null });
    const made = await owner.get(contract.createReturn, { body: form(lines, { reference: 'their 12' }) });
    expect(made.effects).toEqual(foreseen.data.effects);
    expect(made.effects.rows.map(({ measure, before: was, after }) => [measure, was, after])).toEqual([
      ['on hand', '0', '1'],
      ['free', '0', '1'],
      ['value', '0.00', '6.67'],
      ['unit cost', '0.0000', '3.3350'],
    ]);
    expect(made.effects.costNotes).toEqual(['3.33 that BACK-1 had cost is written off.']);
    const one = await read(made.id);
    expect(one).toMatchObject({ state: 'received', customer: 'Copse Lane School', reference: 'their 12' });
    expect(one.lines.map(({ order: number, condition, bin: where, worth, reason, note }) => [number, condition, where, worth, reason, note])).toEqual([
      [order.number, 'shelf', 'A-1', '3.33', 'Faulty', ''],
      [order.number, 'quarantine', 'Q-1', '3.34', 'Faulty', ''],
      [order.number, 'scrap', '', '3.33', 'Faulty', 'cracked'],
    ]);
    expect(await accountOf('5000')).toBe(before);
    expect(Number(await accountOf('5110')) - Number(lost)).toBeCloseTo(3.33, 5);
    // Nothing was sold in the end, and nothing earned.
    const sold = await owner.get(margin.listMargin, { query: { by: 'order', q: order.number } });
    expect(sold.rows).toEqual([]);
    const left = await take([back(order, '1')]);
    expect(left.problem).toMatchObject({
      type: 'not-held',
      errors: [{ field: 'lines.0.quantity', sentence: `Nothing of BACK-1 on ${order.number} line 1 is with this customer.` }],
    });
    const undone = await undo(made.movementId);
    expect(undone.status).toBe(200);
    expect(Number(await accountOf('5110')) - Number(lost)).toBeCloseTo(0, 5);
    expect((await read(made.id)).state).toBe('expected');
    expect((await owner.get(margin.listMargin, { query: { by: 'order', q: order.number } })).rows).toMatchObject([{ sold: '15.00', cost: '10.00' }]);
    expect(await business.broken()).toEqual([]);
  });

  test('a serial comes back as that serial, at its own cost; one that somebody else has does not', async () => {
    const { owner } = business;
    const other = await owner.get(setup.createParty, { body: { name: 'Otter Boatyard', isCustomer: true } });
    const itemId = await opened('BACK-2', '4', '7.00', 'serial', 'specific');
    const [mine, theirs] = [await sent(itemId, '2'), await sent(itemId, '2', ['2'], { customerId: other.id })];
    const [serial] = await held({ customerId: other.id, itemId });
    const wrong = await take([back(mine, '1', { lotId: serial?.lotId ?? null })]);
    expect(wrong.problem.errors).toMatchObject([{ field: 'lines.0.quantity' }]);
    const notTheirs = await take([back(theirs, '1', { lotId: serial?.lotId ?? null })]);
    expect(notTheirs.problem.errors).toMatchObject([
      { field: 'lines.0.quantity', sentence: expect.stringMatching(/^BACK-2 was not sold to Copse Lane School/) },
    ]);
    const made = await take([back(theirs, '1', { lotId: serial?.lotId ?? null })], { customerId: other.id });
    expect(made.data.effects.rows.find(({ measure }) => measure === 'value')).toMatchObject({ before: '0.00', after: '7.00' });
    expect((await read(made.data.id)).lines[0]).toMatchObject({ lot: serial?.lot, worth: '7.00' });
  });

  test('by layers, what comes back is a layer of its own at what it left for', async () => {
    const itemId = await opened('BACK-3', '2', '3.00', 'none', 'fifo');
    await business.owner.get(stock.openStock, { body: { lines: [{ itemId, binId: bin(), quantity: '2', unitValue: '9.00', lots: [] }] } });
    const order = await sent(itemId, '3'); // 3 + 3 + 9
    const made = await take([back(order, '2')]);
    expect((await read(made.data.id)).lines[0]?.worth).toBe('10.00');
    const again = await sent(itemId, '1'); // the layer of 9.00 that was left is older
    expect((await take([back(again, '1')])).status).toBe(200);
  });

  test('serve at once who waits for them', async () => {
    const itemId = await opened('BACK-4', '5', '1.00');
    const order = await sent(itemId, '5');
    const waits = await business.owner.get(outbound.createSale, {
      body: { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-20', lines: [{ itemId, quantity: '2', price: '5.00' }] },
    });
    await business.owner.get(outbound.confirmSale, { params: { id: waits.id }, body: { version: waits.version } });
    const made = await take([back(order, '3')]);
    expect(made.data.effects.rows.find(({ measure }) => measure === 'short')).toMatchObject({ before: '2', after: '0' });
    expect((await undo(made.data.movementId)).problem.title).toBeUndefined();
  });

  test('are refused by their field: too many, no bin, a wrong bin, no reason, another day, an item that is not taken back', async () => {
    const itemId = await opened('BACK-5', '4', '1.00');
    const order = await sent(itemId, '4');
    const faults = async (line: Partial<Line>, more: Partial<contract.ReturnForm> = {}) =>
      (await take([back(order, '1', line)], more)).problem.errors.map(({ field, sentence }) => `${field}: ${sentence}`);
    expect(await faults({ quantity: '5' })).toEqual([`lines.0.quantity: Only 4 of BACK-5 on ${order.number} line 1 are with this customer.`]);
    expect(await faults({ quantity: '0.5' })).toEqual(['lines.0.quantity: This item is kept in steps of 1; the quantity is divided too finely.']);
    expect(await faults({ binId: null })).toEqual(['lines.0.binId: Choose the bin it goes into.']);
    expect(await faults({ binId: quarantineId })).toEqual([expect.stringContaining('lines.0.binId: That bin is quarantine')]);
    expect(await faults({ reasonId: null })).toEqual(['lines.0.reasonId: Choose why it comes back.']);
    expect(await faults({ reasonId: business.reasonId })).toEqual(['lines.0.reasonId: Choose why it comes back.']);
    expect(await faults({}, { cameOn: '2026-03-11' })).toEqual(['cameOn: The day lies in the future.']);
    expect(await faults({}, { cameOn: '2026-03-09' })).toEqual([
      `cameOn: BACK-5 on ${order.number} line 1 went out on 2026-03-10; it cannot have come back before.`,
    ]);
    expect(await faults({}, { customerId: 99_999 })).toEqual(['customerId: There is no such customer.']);
    await business.pool.query('UPDATE item SET returnable = false WHERE id = $1', [itemId]);
    expect(await faults({})).toEqual(['lines.0.quantity: BACK-5 is not taken back: its own page says so.']);
  });

  test('of one dispatch, brought back by two people in the same second: only what is there comes back', async () => {
    const itemId = await opened('BACK-6', '3', '1.00');
    const order = await sent(itemId, '3');
    const both = await Promise.all([take([back(order, '2')]), take([back(order, '2')]), undo(order.movementIds[0] ?? 0)]);
    expect(both.filter(({ status }) => status === 200).length).toBe(1);
    expect(await business.broken()).toEqual([]);
  });
});

describe('a return', () => {
  test('is written down before the goods come, changed, discarded and taken back, and received once', async () => {
    const { owner } = business;
    const itemId = await opened('DRAFT-1', '4', '1.00');
    const order = await sent(itemId, '4');
    const draft = await owner.get(contract.createReturn, { body: form([back(order, '2')], { receive: false }) });
    expect(draft).toMatchObject({ movementId: null, effects: { rows: [] } });
    const params = { id: draft.id as number };
    const row = async (show: (typeof contract.returnShows)[number]) =>
      (await owner.get(contract.listReturns, { query: { show, orderId: order.id } })).rows.map(({ number, state, orders, items }) => [
        number,
        state,
        orders,
        items,
      ]);
    expect(await row('expected')).toEqual([[draft.number, 'expected', order.number, 'DRAFT-1']]);
    await owner.get(contract.discardReturn, { params, body: { version: 1, discarded: true } });
    expect([await row('expected'), await row('all')]).toEqual([[], [[draft.number, 'discarded', order.number, 'DRAFT-1']]]);
    const edit = (version: number, body: contract.ReturnForm) => owner.ask(contract.editReturn, { params, body: { ...body, version } });
    expect((await edit(2, form([back(order, '2')]))).problem.title).toContain('is discarded');
    await owner.get(contract.discardReturn, { params, body: { version: 2, discarded: false } });
    expect((await edit(1, form([back(order, '2')]))).problem.type).toBe('stale');
    expect((await edit(3, form([back(order, '3', { note: 'one more' })]))).data).toMatchObject({ number: draft.number, movementId: expect.any(Number) });
    expect((await read(draft.id)).lines).toMatchObject([{ quantity: '3', note: 'one more' }]);
    expect((await edit(4, form([back(order, '1')]))).problem.title).toContain('is received');
    expect((await owner.ask(contract.discardReturn, { params, body: { version: 4, discarded: true } })).problem.type).toBe('received');
  });

  test('that was undone is changed and received anew; the dispatch it is of is not undone before', async () => {
    const { owner } = business;
    const itemId = await opened('DRAFT-2', '4', '1.00');
    const order = await sent(itemId, '4');
    const made = await take([back(order, '2'), back(order, '1')]);
    const refused = await undo(order.movementIds[0] ?? 0);
    expect(refused.problem.errors).toMatchObject([
      { sentence: `Some of these came back with ${made.data.number ?? ''}. Undo ${made.data.number ?? ''} first.` },
    ]);
    expect((await undo(made.data.movementId)).status).toBe(200);
    const again = await owner.ask(contract.editReturn, { params: { id: made.data.id as number }, body: { ...form([back(order, '4')]), version: 1 } });
    expect(again.status).toBe(200);
    expect((await read(made.data.id)).lines.map(({ quantity, worth }) => [quantity, worth])).toEqual([['4', '4.00']]);
    expect((await undo(again.data.movementId)).status).toBe(200);
    expect((await undo(order.movementIds[0] ?? 0)).status).toBe(200);
  });

  test('is for those with the right, at their site; the receipt is a PDF', async () => {
    const itemId = await opened('DRAFT-3', '2', '1.00');
    const order = await sent(itemId, '2');
    const onlooker = await business.as('Onlooker');
    expect((await onlooker.ask(contract.createReturn, { body: form([back(order, '1')]) })).status).toBe(403);
    const floor = await business.as('Floor');
    const made = await floor.get(contract.createReturn, { body: form([back(order, '1')]) });
    const paper = await fetch(`${business.base}/api/returns/${made.id ?? 0}/paper`, { headers: { Cookie: floor.cookie } });
    expect([paper.status, paper.headers.get('Content-Type')]).toEqual([200, 'application/pdf']);
    expect(
      Buffer.from(await paper.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
    // What it is worth is for those who see cost.
    expect((await floor.get(contract.getReturn, { params: { id: made.id as number } })).lines[0]?.worth).toBe('');
  });
});

describe('what was sold before these records', () => {
  test('comes back at a stated value, with the right for it; its serial is new, or known and nowhere', async () => {
    const { owner } = business;
    const itemId = await business.item('OLD-1', { tracking: 'serial' });
    const older = (part: Partial<Line> = {}): Line => ({
      salesLineId: null,
      itemId,
      quantity: '1',
      lotCode: 'S-900',
      unitValue: '12.50',
      condition: 'quarantine',
      binId: quarantineId,
      reasonId,
      ...part,
    });
    const floor = await business.as('Floor');
    expect((await floor.ask(contract.createReturn, { body: form([older()]) })).status).toBe(403);
    const [cost] = [Number(await accountOf('5000'))];
    const faults = async (part: Partial<Line>) => (await take([older(part)])).problem.errors.map(({ field, sentence }) => `${field}: ${sentence}`);
    expect(await faults({ unitValue: null })).toEqual(['lines.0.unitValue: Say what one is worth.']);
    expect(await faults({ condition: 'scrap', binId: null })).toEqual([expect.stringContaining('lines.0.condition: OLD-1 was sold before these records')]);
    expect(await faults({ lotCode: '' })).toEqual([expect.stringContaining('lines.0.lots')]);
    const made = await owner.get(contract.createReturn, { body: form([older()]) });
    expect((await read(made.id)).lines).toMatchObject([{ lot: 'S-900', worth: '12.50', order: '', unitValue: '12.5' }]);
    expect(Number(await accountOf('5000')) - cost).toBeCloseTo(-12.5, 5);
    expect(await faults({})).toEqual([expect.stringContaining('is here already')]);
  });
});

describe('the money of a return', () => {
  test('what is not invoiced yet is not invoiced any more; what is, is credited at the price paid', async () => {
    const { owner } = business;
    const itemId = await opened('PAID-1', '9', '1.00');
    const order = await sent(itemId, '7', ['4', '3'], { price: '1.4271' }); // 9.99 in all
    const [first, second] = order.dispatches;
    if (!first || !second) throw new Error('two dispatches');
    const invoice = await owner.get(invoices.createInvoice, { body: { dispatches: [first], invoicedOn: today } });
    expect(invoice.net).toBe('5.71');
    // Two of the second dispatch come back before it is invoiced, as far as the books can tell: five are kept, four invoiced.
    const made = await take([back(order, '2')]);
    expect((await read(made.data.id)).toCredit).toEqual([]);
    const { rows } = await owner.get(invoices.listToInvoice, { query: { q: order.number } });
    expect(rows).toMatchObject([{ number: order.number, amount: '1.43' }]);
    const rest = await owner.get(invoices.createInvoice, { body: { dispatches: [second], invoicedOn: today } });
    expect(rest.lines).toMatchObject([{ quantity: '1', amount: '1.43' }]);
    expect((await owner.get(invoices.listToInvoice, { query: { q: order.number } })).rows).toEqual([]);
    // Two more come back of five that are invoiced.
    const more = await take([back(order, '2')]);
    const one = await read(more.data.id);
    expect(one.toCredit).toEqual([
      { invoiceId: rest.id, number: rest.number, lines: [{ lineId: expect.any(Number), sku: 'PAID-1', quantity: '1' }] },
      { invoiceId: invoice.id, number: invoice.number, lines: [{ lineId: expect.any(Number), sku: 'PAID-1', quantity: '1' }] },
    ]);
    const listed = async () => (await owner.get(contract.listReturns, { query: { show: 'to credit', orderId: order.id } })).rows.map(({ number }) => number);
    expect(await listed()).toEqual([more.data.number, made.data.number]);
    const credit = async (nth: number) => {
      const { invoiceId, lines } = one.toCredit[nth] as (typeof one.toCredit)[number];
      return owner.get(invoices.creditInvoice, {
        params: { id: invoiceId },
        body: { invoicedOn: today, lines: lines.map(({ lineId, quantity }) => ({ lineId, quantity, amount: null })) },
      });
    };
    expect([(await credit(0)).net, (await credit(1)).net]).toEqual(['1.43', '1.43']);
    expect([(await read(more.data.id)).toCredit, await listed()]).toEqual([[], []]);
    expect((await owner.get(invoices.listToInvoice, { query: { q: order.number } })).rows).toEqual([]);
    // Undone, the customer has two more than are invoiced.
    expect((await undo(more.data.movementId)).status).toBe(200);
    expect((await owner.get(invoices.listToInvoice, { query: { q: order.number } })).rows).toMatchObject([{ number: order.number }]);
    expect(await business.broken()).toEqual([]);
  });
});

test('the report adds up what came back by reason, item, customer and month, and what of it was thrown away', async () => {
  const { owner } = business;
  const customer = await owner.get(setup.createParty, { body: { name: 'Reed & Daughters', isCustomer: true } });
  const itemId = await opened('REPORT-1', '10', '2.00');
  const order = await sent(itemId, '8', ['8'], { customerId: customer.id });
  await take([back(order, '2'), back(order, '1', { condition: 'scrap', binId: null })], { customerId: customer.id });
  const gone = await take([back(order, '1')], { customerId: customer.id });
  await undo(gone.data.movementId);
  const report = async (by: (typeof contract.returnWays)[number], more = {}) =>
    (await owner.get(contract.returnReport, { query: { by, customerId: customer.id, ...more } })).rows.map(
      ({ name, returns, quantity, wentOut, worth, scrapped }) => [name, returns, quantity, wentOut, worth, scrapped],
    );
  expect(await report('reason')).toEqual([['Faulty', 1, '', '', '6.00', '2.00']]);
  expect(await report('item')).toEqual([['REPORT-1', 1, '3', '8', '6.00', '2.00']]);
  expect(await report('customer')).toEqual([['Reed & Daughters', 1, '', '', '6.00', '2.00']]);
  expect(await report('month')).toEqual([['2026-03', 1, '', '', '6.00', '2.00']]);
  expect(await report('item', { from: '2026-03-11' })).toEqual([]);
  expect(await report('item', { q: 'report nothing' })).toEqual([]);
  const query = { by: 'item' as const, customerId: customer.id };
  expect(await owner.get(contract.returnReportInAll, { query })).toEqual({ count: 1, returns: 1, worth: '6.00', scrapped: '2.00' });
  expect(await owner.get(contract.returnsInAll, { query: { customerId: customer.id, show: 'received' } })).toEqual({ count: 1, worth: '6.00' });
});
