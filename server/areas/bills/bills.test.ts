import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as books from '@larder/contract/books';
import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import * as landed from '@larder/contract/landed';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';

let business: Business;
let forwarderId: number;
beforeAll(async () => {
  business = await openBusiness();
  forwarderId = (await business.owner.get(setup.createParty, { body: { name: 'Quayline Forwarding', isSupplier: true } })).id;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const day = '2026-03-10';
interface Bought {
  itemId: number;
  quantity: string;
  price: string;
}

/** Orders and receives everything; the order's lines and the receipt. */
async function receive(lines: Bought[]): Promise<{ lineIds: number[]; movementId: number; orderId: number }> {
  const { owner, supplierId, siteId } = business;
  const { id, version } = await owner.get(inbound.createPurchase, { body: { supplierId, siteId, lines } });
  const order = await owner.get(inbound.decidePurchase, { params: { id }, body: { decision: 'place', version } });
  const binId = business.bins[0] as number;
  const posted = await owner.get(receiving.receive, { body: { lines: order.lines.map((line) => ({ lineId: line.id, quantity: line.baseQuantity, binId })) } });
  return { lineIds: order.lines.map((line) => line.id), movementId: posted.movementId as number, orderId: id };
}

const goods = (purchaseLineId: number, quantity: string, price: string) => ({ kind: 'goods' as const, purchaseLineId, quantity, price });
let references = 0;
const billBody = (lines: bills.BillForm['lines'], more: Partial<bills.BillForm> = {}): bills.BillForm => ({
  partyId: business.supplierId,
  reference: `R-${(references += 1)}`,
  billedOn: day,
  lines,
  ...more,
});
const enter = (lines: bills.BillForm['lines'], more: Partial<bills.BillForm> = {}) => business.owner.get(bills.createBill, { body: billBody(lines, more) });
const balanceOf = async (code: string) => (await business.owner.get(books.listAccounts)).rows.find((account) => account.code === code)?.balance;
const valueOf = async (itemId: number) => (await business.owner.get(stock.itemStock, { params: { id: itemId } })).value;
const takeAway = (itemId: number, quantity: string) =>
  business.owner.get(stock.correct, {
    body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId: business.bins[0] as number, quantity: `-${quantity}` }] },
  });

describe('bills', () => {
  test('billed as ordered: goods received are cleared, and the bill is owed', async () => {
    const itemId = await business.item('B-1');
    const { lineIds } = await receive([{ itemId, quantity: '10', price: '2.00' }]);
    const before = await balanceOf('2110');
    const posted = await enter([goods(lineIds[0] as number, '10', '2.00')]);
    expect(posted).toMatchObject({ net: '20.00', tax: '0.00', owed: '20.00' });
    expect(posted.entry.map(({ code, amount }) => [code, amount])).toEqual([
      ['2100', '-20.00'],
      ['2110', '20.00'],
    ]);
    expect(Number(await balanceOf('2110')) - Number(before)).toBe(20);
    expect(await valueOf(itemId)).toBe('20.00');
  });

  test('another price: to stock as far as the goods are here, the rest to price variance; undone, it comes off the same way', async () => {
    const itemId = await business.item('B-2');
    const { lineIds } = await receive([{ itemId, quantity: '10', price: '2.00' }]);
    await takeAway(itemId, '4');
    const posted = await enter([goods(lineIds[0] as number, '10', '2.50')]);
    expect(posted.lines[0]).toMatchObject({ cleared: '20.00', difference: '5.00', toStock: '3.00', words: '0.50 more for each than ordered, 5.00 in all' });
    expect(await valueOf(itemId)).toBe('15.00');
    const variance = await balanceOf('5210');
    const undone = await business.owner.get(bills.undoBill, { params: { id: posted.id as number }, body: {} });
    expect(undone.words).toContain('Stock is worth 3.00 less.');
    expect(await valueOf(itemId)).toBe('12.00');
    expect(Number(variance) - Number(await balanceOf('5210'))).toBe(2);
    expect((await business.owner.ask(bills.undoBill, { params: { id: posted.id as number }, body: {} })).status).toBe(409);
  });

  test('in part, cumulatively; and more than has come waits until it has', async () => {
    const itemId = await business.item('B-3');
    const { lineIds } = await receive([{ itemId, quantity: '3', price: '3.3333' }]);
    const line = lineIds[0] as number;
    const first = await enter([goods(line, '1', '3.3333')]);
    const rest = await enter([goods(line, '2', '3.3333')]);
    expect([first.lines[0]?.cleared, rest.lines[0]?.cleared]).toEqual(['3.33', '6.67']);
    const asked = await business.owner.ask(bills.createBill, { body: billBody([goods(line, '1', '3.00')]) });
    expect(asked).toMatchObject({ status: 409, problem: { asks: ['waits'] } });
    const order = await business.owner.get(inbound.createPurchase, {
      body: { supplierId: business.supplierId, siteId: business.siteId, lines: [{ itemId, quantity: '5', price: '1.00' }] },
    });
    const placed = await business.owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
    const waiting = await enter([goods(placed.lines[0]?.id as number, '5', '1.20')], { waits: true });
    expect(waiting.entry).toEqual([]);
    expect((await business.owner.get(bills.listBills, { query: { show: 'waiting' } })).rows.map(({ number }) => number)).toEqual([waiting.number]);
    expect((await business.owner.ask(bills.postBill, { params: { id: waiting.id as number }, body: {} })).status).toBe(409);
    await business.owner.get(receiving.receive, {
      body: { lines: [{ lineId: placed.lines[0]?.id as number, quantity: '5', binId: business.bins[0] as number }] },
    });
    expect(await business.owner.get(bills.postBill, { params: { id: waiting.id as number }, body: {} })).toMatchObject({ owed: '6.00' });
  });

  test('a receipt that was billed is not undone: it says what to undo first', async () => {
    const itemId = await business.item('B-4');
    const { lineIds, movementId } = await receive([{ itemId, quantity: '2', price: '1.00' }]);
    const { number } = await enter([goods(lineIds[0] as number, '2', '1.00')]);
    const refused = await business.owner.ask(stock.undo, { body: { movementId } });
    expect(refused).toMatchObject({ status: 409, problem: { title: `${number} rests on this. Undo ${number} first.` } });
  });

  test('their number twice asks; tax; payments in part, over, undone, at another rate', async () => {
    const itemId = await business.item('B-5');
    const { lineIds } = await receive([{ itemId, quantity: '10', price: '10.00' }]);
    const line = { ...goods(lineIds[0] as number, '4', '10.00'), taxCodeId: 1 };
    const body = billBody([line], { reference: 'SAME-1', currency: 'EUR', rate: '0.85', dueOn: '2026-04-09' });
    const posted = await business.owner.get(bills.createBill, { body });
    expect(posted).toMatchObject({ net: '40.00', tax: '8.00', owed: '40.80' });
    expect((await business.owner.ask(bills.createBill, { body })).problem.asks).toEqual(['known-reference']);
    expect((await business.owner.ask(bills.createBill, { body: { ...body, rate: '0' } })).problem.errors[0]?.sentence).toContain('exchange rate');
    const id = posted.id as number;
    const pay = (amount: string, more = {}) => business.owner.ask(bills.pay, { params: { id }, body: { paidOn: day, amount, ...more } });
    expect((await pay('20.00', { rate: '0.90' })).data.entry.map(({ code, amount }) => [code, amount])).toEqual([
      ['1000', '-18.00'],
      ['2100', '17.00'],
      ['5230', '1.00'],
    ]);
    expect((await pay('30.00')).problem.asks).toEqual(['over']);
    expect((await pay('28.00')).status).toBe(200);
    const paid = await business.owner.get(bills.getBill, { params: { id } });
    expect(paid).toMatchObject({ state: 'paid', open: '0.00' });
    expect((await business.owner.ask(bills.undoBill, { params: { id }, body: {} })).problem.title).toContain('has payments');
    for (const payment of paid.payments) await business.owner.get(bills.undoPayment, { params: { id: payment.id }, body: {} });
    expect((await business.owner.ask(bills.undoPayment, { params: { id: paid.payments[0]?.id as number }, body: {} })).status).toBe(409);
    await business.owner.get(bills.undoBill, { params: { id }, body: {} });
    for (const q of ['same-1', 'hexley 48.00', posted.number as string, '10/3'])
      expect((await business.owner.get(bills.listBills, { query: { q, show: 'all' } })).rows.map(({ number }) => number)).toContain(posted.number);
  });

  test('two people enter the same bill at once: the goods are billed once, and the same request again is done once', async () => {
    const itemId = await business.item('B-7');
    const { lineIds } = await receive([{ itemId, quantity: '10', price: '2.00' }]);
    const body = billBody([goods(lineIds[0] as number, '10', '2.00')]);
    const both = await Promise.all([1, 2].map((n) => business.owner.ask(bills.createBill, { body: { ...body, reference: `TWICE-${n}` } })));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(both.find(({ status }) => status === 409)?.problem.asks).toEqual(['waits']);
    const other = await receive([{ itemId, quantity: '5', price: '2.00' }]);
    const once = billBody([goods(other.lineIds[0] as number, '5', '2.00')]);
    const key = 'the same bill sent twice';
    const sent = await Promise.all([1, 2].map(() => business.owner.ask(bills.createBill, { body: once }, { key })));
    expect(new Set(sent.map(({ data }) => data.number)).size).toBe(1);
  });

  test('a credit takes cost off goods that are here; other costs and wrong lines', async () => {
    const itemId = await business.item('B-6');
    const { lineIds } = await receive([{ itemId, quantity: '10', price: '2.00' }]);
    await enter([goods(lineIds[0] as number, '10', '2.00')]);
    await takeAway(itemId, '5');
    const credit = await enter([{ kind: 'credit', purchaseLineId: lineIds[0] as number, amount: '4.00' }], { kind: 'credit' });
    expect(credit.lines[0]).toMatchObject({ difference: '-4.00', toStock: '-2.00' });
    expect(await valueOf(itemId)).toBe('8.00');
    const accounts = (await business.owner.get(books.listAccounts)).rows;
    const idOf = (code: string) => accounts.find((account) => account.code === code)?.id ?? 0;
    expect((await enterOther(idOf('6200'))).status).toBe(200);
    expect((await enterOther(idOf('1200'))).problem.errors[0]?.field).toBe('lines.0.accountId');
    const wrong = await business.owner.ask(bills.createBill, { body: billBody([goods(lineIds[0] as number, '1', '1.00')], { partyId: forwarderId }) });
    expect(wrong.problem.errors[0]?.sentence).toContain('ordered from somebody else');
    expect((await business.owner.ask(bills.createBill, { body: billBody([], { billedOn: '2026-03-11' }) })).status).toBe(422);
  });
});

const enterOther = (accountId: number) =>
  business.owner.ask(bills.createBill, { body: billBody([{ kind: 'other', text: 'Pallets', accountId, amount: '12.00' }], { partyId: forwarderId }) });

describe('landed cost', () => {
  const facts = [
    { sku: 'TANK', quantity: '18', price: '64.00', lengthCm: '50', widthCm: '38', heightCm: '50' },
    { sku: 'VEIL', quantity: '240', price: '7.35', lengthCm: '30', widthCm: '15', heightCm: '10' },
    { sku: 'CAGE', quantity: '500', price: '0.62', lengthCm: '10', widthCm: '6', heightCm: '5' },
  ];

  test('freight by volume and insurance by value, the tanks left out: worked to the cent, billed above and below, cleared to zero', async () => {
    const items = await Promise.all(facts.map(({ sku, quantity: _q, price: _p, ...size }) => business.item(`L-${sku}`, size)));
    const { movementId, lineIds } = await receive(facts.map(({ quantity, price }, index) => ({ itemId: items[index] as number, quantity, price })));
    const lines = (await business.owner.get(landed.receiptLines, { query: { movementIds: String(movementId) } })).rows;
    const body: landed.LandedForm = {
      movementIds: [movementId],
      charges: [
        { name: 'Freight', by: 'volume', amount: '518.40', partyId: forwarderId },
        { name: 'Insurance', by: 'value', amount: '61.75', leftOut: [lines[0]?.lineId as number] },
      ],
    };
    const foreseen = await business.owner.ask(landed.createSheet, { body }, { preview: true });
    expect(foreseen.data).toMatchObject({ id: null, toStock: '580.15', toSold: '0.00' });
    const sheet = await business.owner.get(landed.createSheet, { body });
    expect(await Promise.all(items.map(valueOf))).toEqual(['1453.52', '2006.95', '345.68']);
    const shown = await business.owner.get(landed.getSheet, { params: { id: sheet.id as number } });
    const [freight, insurance] = shown.charges;

    // The supplier bills the goods at another price, the forwarder more than estimated, the insurers less.
    await enter([goods(lineIds[0] as number, '18', '65.00')]);
    const blocked = await business.owner.ask(stock.undo, { body: { movementId } });
    expect(blocked.status).toBe(409);
    const above = await enter([{ kind: 'charge', chargeId: freight?.id as number, amount: '578.40' }], { partyId: forwarderId });
    expect(above.entry.map(({ code, amount }) => [code, amount])).toEqual([
      ['2100', '-578.40'],
      ['2130', '518.40'],
      ['5220', '60.00'],
    ]);
    const changed = await business.owner.ask(landed.editSheet, {
      params: { id: shown.id },
      body: { ...body, version: shown.version, charges: [{ ...body.charges[0], id: freight?.id, amount: '650.00' } as never] },
    });
    expect(changed.problem.title).toContain('has been billed and stays');
    expect((await business.owner.ask(landed.undoSheet, { params: { id: shown.id }, body: {} })).problem.title).toContain(`(${above.number})`);
    const below = await enter([{ kind: 'charge', chargeId: insurance?.id as number, amount: '55.35', final: true }], { partyId: forwarderId });
    expect(below.lines[0]).toMatchObject({ cleared: '61.75', difference: '-6.40' });
    const clearing = await business.owner.get(landed.clearing);
    expect(clearing).toEqual({ rows: [], balance: '0.00' });
    expect(await balanceOf('5220')).toBe('53.60');
    const again = await business.owner.ask(bills.createBill, { body: billBody([{ kind: 'charge', chargeId: insurance?.id as number, amount: '1.00' }]) });
    expect(again.problem.errors[0]?.sentence).toContain('settled already');

    // What the last bill left to variance rests on those before it: they are undone one after the other.
    const undo = (id: number | null) => business.owner.ask(bills.undoBill, { params: { id: id as number }, body: {} });
    const third = await business.owner.get(landed.createSheet, {
      body: { movementIds: [movementId], charges: [{ name: 'Storage', by: 'value', amount: '50.00' }] },
    });
    const [storage] = (await business.owner.get(landed.getSheet, { params: { id: third.id as number } })).charges;
    const charge = (amount: string, final: boolean) => enter([{ kind: 'charge', chargeId: storage?.id as number, amount, final }], { partyId: forwarderId });
    const first = await charge('20.00', false);
    const last = await charge('10.00', true);
    expect((await undo(first.id)).problem.title).toBe(`${last.number} settled ${third.number}, Storage after ${first.number}. Undo ${last.number} first.`);
    expect((await undo(last.id)).status).toBe(200);
    expect((await business.owner.get(landed.clearing)).balance).toBe('30.00');
    expect((await undo(first.id)).status).toBe(200);
    expect((await business.owner.get(landed.clearing)).rows.map(({ name, open }) => [name, open])).toEqual([['Storage', '50.00']]);
    await business.owner.get(landed.undoSheet, { params: { id: third.id as number }, body: {} });
  });

  test('a carrier’s bill with tax on its charge: the estimate is cleared by what is before tax, and the tax is claimed back', async () => {
    const { movementId } = await receive([{ itemId: await business.item('L-TAXED'), quantity: '4', price: '10.00' }]);
    const { id } = await business.owner.get(landed.createSheet, {
      body: { movementIds: [movementId], charges: [{ name: 'Carriage', by: 'value', amount: '50.00', partyId: forwarderId }] },
    });
    const [charge] = (await business.owner.get(landed.getSheet, { params: { id: id as number } })).charges;
    const rows = (await business.owner.get(books.listAccounts)).rows;
    const other = rows.find(({ purpose }) => purpose === 'other-costs')?.id as number;
    const billed = await enter(
      [
        { kind: 'charge', chargeId: charge?.id as number, amount: '50.00', taxCodeId: 1 },
        { kind: 'other', text: 'Fuel', accountId: other, amount: '5.00', taxCodeId: 1 },
      ],
      { partyId: forwarderId },
    );
    expect(billed).toMatchObject({ net: '55.00', tax: '11.00', owed: '66.00' });
    expect(billed.entry.map(({ code, amount }) => [code, amount])).toEqual([
      ['1310', '11.00'],
      ['2100', '-66.00'],
      ['2130', '50.00'],
      ['6200', '5.00'],
    ]);
    expect((await business.owner.get(landed.clearing)).balance).toBe('0.00');
  });

  test('changed before it is billed: only the difference is posted, and no later share exceeds the earlier one; undone, it comes off', async () => {
    const itemId = await business.item('L-SHARE');
    const { movementId } = await receive([{ itemId, quantity: '10', price: '1.00' }]);
    await takeAway(itemId, '5');
    const body: landed.LandedForm = { movementIds: [movementId], charges: [{ name: 'Freight', by: 'quantity', amount: '10.00' }] };
    const sheet = await business.owner.get(landed.createSheet, { body });
    expect(sheet).toMatchObject({ toStock: '5.00', toSold: '5.00' });
    const { charges, version } = await business.owner.get(landed.getSheet, { params: { id: sheet.id as number } });
    await takeAway(itemId, '3');
    const edited = await business.owner.get(landed.editSheet, {
      params: { id: sheet.id as number },
      body: { ...body, version, charges: [{ ...body.charges[0], id: charges[0]?.id, amount: '20.00' } as never] },
    });
    expect(edited).toMatchObject({ toStock: '2.00', toSold: '8.00' });
    const undone = await business.owner.get(landed.undoSheet, { params: { id: sheet.id as number }, body: {} });
    expect(undone).toMatchObject({ toStock: '-4.00', toSold: '-16.00' });
    expect((await business.owner.get(landed.clearing)).balance).toBe('0.00');
    expect((await business.owner.ask(stock.undo, { body: { movementId } })).problem.title).toContain('The goods have left it since');
    expect((await business.owner.ask(landed.undoSheet, { params: { id: sheet.id as number }, body: {} })).status).toBe(409);
  });

  test('what cannot be: nothing weighs anything, nothing is left, a charge of nothing, an undone receipt', async () => {
    const itemId = await business.item('L-BAD');
    const { movementId } = await receive([{ itemId, quantity: '10', price: '1.00' }]);
    const [line] = (await business.owner.get(landed.receiptLines, { query: { movementIds: String(movementId) } })).rows;
    const ask = (charge: object) =>
      business.owner.ask(landed.createSheet, {
        body: { movementIds: [movementId], charges: [{ name: 'Freight', by: 'weight', amount: '10.00', ...charge }] } as never,
      });
    expect((await ask({})).problem).toMatchObject({ title: 'Freight cannot be spread by weight: L-BAD has none.', errors: [{ field: 'charges.0.by' }] });
    expect((await ask({ by: 'value', leftOut: [line?.lineId] })).problem.errors[0]?.field).toBe('charges.0.leftOut');
    expect((await ask({ amount: '0' })).problem.errors[0]?.sentence).toBe('The amount must be more than zero.');
    expect((await ask({ amount: '-5' })).status).toBe(422);
    await business.owner.get(stock.undo, { body: { movementId } });
    expect((await ask({ by: 'value' })).problem.title).toContain('was undone');
    expect((await business.owner.ask(landed.createSheet, { body: { movementIds: [999999], charges: [{ name: 'x', by: 'value', amount: '1' }] } })).status).toBe(
      404,
    );
  });
});

test('accounts, their open items and the journal add up, and every entry names its document', async () => {
  const { rows } = await business.owner.get(books.listAccounts);
  expect(rows.reduce((sum, { balance }) => sum + Math.round(Number(balance) * 100), 0)).toBe(0);
  for (const purpose of ['grni', 'payable', 'landed-clearing']) {
    const { id } = rows.find((account) => account.purpose === purpose) ?? { id: 0 };
    const account = await business.owner.get(books.getAccount, { params: { id } });
    const open = (account.openItems ?? []).reduce((sum, { amount }) => sum + Math.round(Number(amount) * 100), 0);
    expect(open).toBe(Math.round(Number(account.balance) * 100));
  }
  const journal = await business.owner.get(books.journal, { query: { q: 'quayline' } });
  expect(journal.rows.length).toBeGreaterThan(0);
  expect(journal.rows.every(({ document }) => document?.kind === 'bill')).toBe(true);
  const added = await business.owner.get(books.createAccount, { body: { code: '6300', name: 'Pallets', type: 'expense' } });
  expect((await business.owner.ask(books.createAccount, { body: { code: '6300', name: 'Again', type: 'expense' } })).problem.errors[0]?.field).toBe('code');
  expect((await business.owner.get(books.editAccount, { params: { id: added.id }, body: { code: '6310', name: 'Pallets bought' } })).code).toBe('6310');
});
