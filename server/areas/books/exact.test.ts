import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as catalog from '@larder/contract/catalog';
import * as inbound from '@larder/contract/inbound';
import * as landed from '@larder/contract/landed';
import * as receiving from '@larder/contract/receiving';
import * as lotContract from '@larder/contract/lots';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { deskOf, type Desk } from '../../testing/desk';

/** To the last cent, also when things go back. */
let business: Business;
let desk: Desk;
beforeAll(async () => {
  business = await openBusiness();
  desk = deskOf(business);
});
afterEach(async () => expect(await business.broken()).toEqual([]));
afterAll(() => business.close());

let made = 0;
const item = (part: Parameters<Business['item']>[1] = {}) => business.item(`EX-${(made += 1)}`, part);
/** What changed on the accounts, in cents; those that did not are left out. */
async function posted(work: () => Promise<unknown>): Promise<Record<string, number>> {
  const before = await desk.accounts();
  await work();
  const after = await desk.accounts();
  return Object.fromEntries(Object.keys(after).flatMap((name) => (after[name] === before[name] ? [] : [[name, (after[name] ?? 0) - (before[name] ?? 0)]])));
}
async function ordered(quantity: string, price: string, part: Parameters<Business['item']>[1] = {}) {
  const itemId = await item(part);
  return { itemId, ...(await desk.order([{ itemId, quantity, price }])) };
}

describe('goods that went back are taken off their own receipts', () => {
  test('5 and 5 came, 3 went back, 7 are billed 2.00 dearer: all 14.00 is for goods that are here', async () => {
    const { itemId, id, lineId } = await ordered('10', '10.00');
    for (const quantity of ['5', '5']) await desk.receive([{ lineId, quantity }]);
    await desk.back(id, lineId, '3');
    expect((await desk.billed(lineId, '7', '12.00')).lines[0]).toMatchObject({ toStock: '14.00', difference: '14.00' });
    expect(await desk.worth(itemId)).toBe('84.00');
  });
  test('5 and 5 came, 5 went back, 5 are billed: 10.00', async () => {
    const { id, lineId } = await ordered('10', '10.00');
    for (const quantity of ['5', '5']) await desk.receive([{ lineId, quantity }]);
    await desk.back(id, lineId, '5');
    expect((await desk.billed(lineId, '5', '12.00')).lines[0]).toMatchObject({ toStock: '10.00' });
  });
  test.each(['average', 'fifo'] as const)('replaced, and some sold: what is here bears its share (%s)', async (costMethod) => {
    const { itemId, id, lineId } = await ordered('10', '10.00', { costMethod });
    await desk.receive([{ lineId, quantity: '6' }]);
    await desk.back(id, lineId, '4');
    await desk.receive([{ lineId, quantity: '8' }]);
    await desk.correct(itemId, '-5');
    // 2 and 8 came to stay, 5 are here, by either way those of the second receipt
    expect((await desk.billed(lineId, '10', '11.00')).lines[0]).toMatchObject({ toStock: '5.00', difference: '10.00' });
  });
  test('the receipt that is named gives its goods back', async () => {
    const { itemId, id, lineId } = await ordered('10', '10.00', { costMethod: 'fifo' });
    await desk.receive([{ lineId, quantity: '5' }]);
    const second = await desk.receive([{ lineId, quantity: '5' }]);
    const { rows } = await business.pool.query<{ id: number }>('SELECT id::int FROM movement_line WHERE movement_id = $1', [second]);
    await desk.charge([second], [{ name: 'Freight', by: 'quantity', amount: '10.00' }]);
    const back = await desk.back(id, lineId, '2', { then: 'credited', receiptLineId: rows[0]?.id as number });
    expect(back.status).toBe(200);
    expect(await desk.worth(itemId)).toBe('86.00');
    expect((await desk.back(id, lineId, '4', { then: 'credited', receiptLineId: rows[0]?.id as number })).problem.title).toContain('Only 3 of');
  });
  test('by serial: 1 of 5 went back, 4 are billed 1.00 dearer: 4.00', async () => {
    const { itemId, id, lineId } = await ordered('5', '10.00', { tracking: 'serial', costMethod: 'specific' });
    await desk.receive([{ lineId, quantity: '5', lots: ['A', 'B', 'C', 'D', 'E'].map((code) => `${code}-${itemId}`) }]);
    const { rows } = await business.owner.get(lotContract.listLots, { query: { q: `B-${itemId}`, itemId } });
    await desk.back(id, lineId, '1', { then: 'credited', lotId: rows[0]?.id as number });
    expect((await desk.billed(lineId, '4', '11.00')).lines[0]).toMatchObject({ toStock: '4.00' });
  });
  test('what still stands of a receipt after a return is not undone, naming the return', async () => {
    const { id, lineId } = await ordered('10', '10.00');
    const first = await desk.receive([{ lineId, quantity: '5' }]);
    const second = await desk.receive([{ lineId, quantity: '5' }]);
    const back = await desk.back(id, lineId, '2');
    expect((await desk.undo(first)).problem.title).toBe('2 of these went back to the supplier. Undo that first.');
    expect((await desk.undo(second)).status).toBe(200);
    expect((await desk.undo(back.data.movementId as number)).status).toBe(200);
    expect((await desk.undo(first)).status).toBe(200);
  });
});

describe('freight after a return', () => {
  test('all of one item went back: the other bears it, whether or not it is left out', async () => {
    const [a, b] = [await item({ weightKg: '1' }), await item({ weightKg: '1' })];
    const { id, lineIds } = await desk.order([a, b].map((itemId) => ({ itemId, quantity: '5', price: '4.00' })));
    const movementId = await desk.receive(lineIds.map((lineId) => ({ lineId, quantity: '5' })));
    await desk.back(id, lineIds[0] as number, '5');
    const { rows } = await business.pool.query<{ id: number }>('SELECT id::int FROM movement_line WHERE movement_id = $1 ORDER BY position', [movementId]);
    const charges = [
      { name: 'Freight', by: 'weight' as const, amount: '6.00' },
      { name: 'Duty', by: 'value' as const, amount: '1.00', leftOut: [rows[0]?.id as number] },
    ];
    expect((await desk.charge([movementId], charges)).data).toMatchObject({ toStock: '7.00', toSold: '0.00' });
    expect([await desk.worth(a), await desk.worth(b)]).toEqual(['0.00', '27.00']);
  });
  test('one serial went back: the others bear it; all went back: it says so', async () => {
    const { itemId, id, lineId } = await ordered('3', '10.00', { tracking: 'serial', costMethod: 'specific' });
    const movementId = await desk.receive([{ lineId, quantity: '3', lots: ['X', 'Y', 'Z'].map((code) => `${code}-${itemId}`) }]);
    const lots = (await business.owner.get(lotContract.listLots, { query: { itemId } })).rows;
    await desk.back(id, lineId, '1', { then: 'credited', lotId: lots[0]?.id as number });
    expect((await desk.charge([movementId], [{ name: 'Freight', by: 'quantity', amount: '3.01' }])).data).toMatchObject({ toStock: '3.01' });
    for (const { id: lotId } of lots.slice(1)) await desk.back(id, lineId, '1', { then: 'credited', lotId });
    expect((await desk.charge([movementId], [{ name: 'Freight', by: 'quantity', amount: '3.00' }])).problem.title).toContain('went back to the supplier');
  });
  test('changed after a return, it ends where putting it in at once would', async () => {
    const { itemId, id, lineId } = await ordered('10', '10.00');
    const movementId = await desk.receive([{ lineId, quantity: '10' }]);
    const sheet = (await desk.charge([movementId], [{ name: 'Freight', by: 'quantity', amount: '30.00' }])).data;
    await desk.back(id, lineId, '3');
    const { version, charges } = await business.owner.get(landed.getSheet, { params: { id: sheet.id as number } });
    const body = { movementIds: [movementId], version, charges: [{ id: charges[0]?.id as number, name: 'Freight', by: 'quantity' as const, amount: '40.00' }] };
    expect(await business.owner.get(landed.editSheet, { params: { id: sheet.id as number }, body })).toMatchObject({ toStock: '7.00', toSold: '3.00' });
    expect(await desk.worth(itemId)).toBe('98.00');
    await desk.undoSheet(sheet.id as number);
    expect(await desk.worth(itemId)).toBe('70.00');
  });
});

describe('amounts of a line are cumulative', () => {
  test('3 at 10.00 come one by one, the second is undone and comes again; billed, nothing stays open', async () => {
    const { itemId, lineId } = await ordered('3', '3.333333');
    const change = await posted(async () => {
      await desk.receive([{ lineId, quantity: '1' }]);
      const second = await desk.receive([{ lineId, quantity: '1' }]);
      await desk.receive([{ lineId, quantity: '1' }]);
      await desk.undo(second);
      await desk.receive([{ lineId, quantity: '1' }]);
      expect(await desk.worth(itemId)).toBe('10.00');
      await desk.billed(lineId, '3', '3.333333');
    });
    expect(change).toEqual({ inventory: 1000, payable: -1000 });
  });
  test('two of three stand at 6.66: billed, nothing stays open; the third brings the rest', async () => {
    const { itemId, lineId } = await ordered('3', '3.333333');
    await desk.receive([{ lineId, quantity: '1' }]);
    const second = await desk.receive([{ lineId, quantity: '1' }]);
    await desk.receive([{ lineId, quantity: '1' }]);
    await desk.undo(second);
    expect((await desk.billed(lineId, '2', '3.333333')).lines[0]).toMatchObject({ amount: '6.67', cleared: '6.66', difference: '0.01' });
    await desk.receive([{ lineId, quantity: '1' }]);
    await desk.billed(lineId, '1', '3.333333');
    expect(await desk.worth(itemId)).toBe('10.00');
  });
  test('three bills of 1 at 3.333333 come to 10.00, with one undone in between too', async () => {
    const { lineId } = await ordered('3', '3.333333');
    await desk.receive([{ lineId, quantity: '3' }]);
    const change = await posted(async () => {
      await desk.billed(lineId, '1', '3.333333');
      const second = await desk.billed(lineId, '1', '3.333333');
      await desk.billed(lineId, '1', '3.333333');
      expect((await desk.undoBill(second.id)).status).toBe(200);
      expect((await desk.billed(lineId, '1', '3.333333')).net).toBe('3.34');
    });
    expect(change).toEqual({ grni: 1000, payable: -1000 });
  });
  test('credits for what went back likewise; goods sent back one by one leave nothing', async () => {
    const { itemId, id, lineId } = await ordered('3', '3.333333');
    await desk.receive([{ lineId, quantity: '3' }]);
    const change = await posted(async () => {
      await desk.billed(lineId, '3', '3.333333');
      for (let n = 0; n < 3; n += 1) await desk.back(id, lineId, '1', { then: 'credited' });
      for (let n = 0; n < 3; n += 1) await desk.billed(lineId, '1', '3.333333', { kind: 'credit' });
    });
    expect(change).toEqual({ inventory: -1000, grni: 1000 });
    expect(await desk.worth(itemId)).toBe('0.00');
  });
});

describe('an undo leaves no cent behind', () => {
  test.each(['average', 'fifo'] as const)('receive 6, sell 1, charge 0.03, undo (%s)', async (costMethod) => {
    const { itemId, lineId } = await ordered('6', '1.00', { costMethod });
    const movementId = await desk.receive([{ lineId, quantity: '6' }]);
    await desk.correct(itemId, '-1');
    const change = await posted(async () => {
      const { data } = await desk.charge([movementId], [{ name: 'Freight', by: 'value', amount: '0.03' }]);
      expect((await desk.undoSheet(data.id as number)).status).toBe(200);
    });
    expect(change).toEqual({});
    expect(await posted(async () => desk.undoBill((await desk.billed(lineId, '6', '1.005')).id))).toEqual({});
    expect(await desk.worth(itemId)).toBe('5.00');
  });
  test('receive 2, sell 1, charge 0.03, changed to 0.06, undone', async () => {
    const { itemId, lineId } = await ordered('2', '1.00');
    const movementId = await desk.receive([{ lineId, quantity: '2' }]);
    await desk.correct(itemId, '-1');
    const change = await posted(async () => {
      const { data } = await desk.charge([movementId], [{ name: 'Freight', by: 'value', amount: '0.03' }]);
      const sheet = await business.owner.get(landed.getSheet, { params: { id: data.id as number } });
      const charges = [{ id: sheet.charges[0]?.id as number, name: 'Freight', by: 'value' as const, amount: '0.06' }];
      await business.owner.get(landed.editSheet, { params: { id: sheet.id }, body: { movementIds: [movementId], version: sheet.version, charges } });
      expect(await desk.worth(itemId)).toBe('1.03');
      await desk.undoSheet(sheet.id);
    });
    expect(change).toEqual({});
  });
  test('a charge taken off the worksheet leaves nothing either', async () => {
    const { lineId } = await ordered('3', '1.00');
    const movementId = await desk.receive([{ lineId, quantity: '3' }]);
    const freight = { name: 'Freight', by: 'value' as const, amount: '0.05' };
    const { data } = await desk.charge([movementId], [freight]);
    const sheet = await business.owner.get(landed.getSheet, { params: { id: data.id as number } });
    const edit = (version: number, charges: landed.LandedForm['charges']) =>
      business.owner.get(landed.editSheet, { params: { id: sheet.id }, body: { movementIds: [movementId], version, charges } });
    const kept = { ...freight, id: sheet.charges[0]?.id as number };
    expect(
      await posted(async () => {
        await edit(sheet.version, [kept, { name: 'Duty', by: 'quantity', amount: '0.07' }]);
        await edit(sheet.version + 1, [kept]);
      }),
    ).toEqual({});
  });
  test('half a cent goes up: 12 came, 7 are here, a charge of 1.62 and one of 15.06', async () => {
    const { itemId, lineId } = await ordered('12', '1.00');
    const movementId = await desk.receive([{ lineId, quantity: '12' }]);
    await desk.correct(itemId, '-5');
    for (const [amount, toStock] of [
      ['1.62', '0.95'],
      ['15.06', '8.79'],
    ] as const)
      expect((await desk.charge([movementId], [{ name: 'Freight', by: 'value', amount }])).data).toMatchObject({ toStock });
  });
  test('10 at 1.00, a credit of 15.00 takes 10.00 off stock: undone, stock is worth 10.00', async () => {
    const { itemId, lineId } = await ordered('10', '1.00');
    await desk.receive([{ lineId, quantity: '10' }]);
    const change = await posted(async () => {
      const { data } = await desk.bill([{ kind: 'credit', purchaseLineId: lineId, amount: '15.00' }], { kind: 'credit' });
      expect(await desk.worth(itemId)).toBe('0.00');
      await desk.undoBill(data.id as number);
    });
    expect(change).toEqual({});
    expect(await desk.worth(itemId)).toBe('10.00');
  });
  test('billed down from 10.00 to 4.00 on a pool of 55.00, undone: 55.00', async () => {
    const itemId = await item();
    const cheap = await desk.order([{ itemId, quantity: '10', price: '1.00' }]);
    await desk.receive([{ lineId: cheap.lineId, quantity: '10' }]);
    const dear = await desk.order([{ itemId, quantity: '10', price: '10.00' }]);
    await desk.receive([{ lineId: dear.lineId, quantity: '10' }]);
    await desk.correct(itemId, '-10');
    expect(await posted(async () => desk.undoBill((await desk.billed(dear.lineId, '10', '4.00')).id))).toEqual({});
    expect(await desk.worth(itemId)).toBe('55.00');
  });
  test('what was sold since keeps its part of the price, what is here gives it back', async () => {
    const { itemId, lineId } = await ordered('10', '10.00');
    await desk.receive([{ lineId, quantity: '10' }]);
    const { id } = await desk.billed(lineId, '10', '12.00');
    await desk.correct(itemId, '-6');
    expect(await posted(() => desk.undoBill(id))).toEqual({ inventory: -800, payable: 12000, grni: -10000, 'price-variance': -1200 });
  });
});

test('a bill in yen, paid in three parts: paid, and nothing stays owed', async () => {
  const { lineId } = await ordered('3', '0.04');
  await desk.receive([{ lineId, quantity: '3' }]);
  const change = await posted(async () => {
    const { id, owed } = await desk.billed(lineId, '3', '7', { currency: 'JPY', rate: '0.00525' });
    expect(owed).toBe('0.11');
    const pay = (amount: string, more = {}) => business.owner.ask(bills.pay, { params: { id }, body: { paidOn: '2026-03-10', amount, ...more } });
    for (let n = 0; n < 3; n += 1) expect((await pay('7')).status).toBe(200);
    const { state, payments, open } = await business.owner.get(bills.getBill, { params: { id } });
    expect([state, open]).toEqual(['paid', '0']);
    await business.owner.get(bills.undoPayment, { params: { id: payments[1]?.id as number }, body: {} });
    expect((await pay('7.5')).problem.errors).toEqual([{ field: 'amount', sentence: 'JPY has no decimals: give a whole amount.' }]);
    expect((await pay('7')).status).toBe(200);
  });
  expect(change).toMatchObject({ bank: -11 });
  expect(change).not.toHaveProperty('payable');
});

describe('a currency', () => {
  test('has its own decimals, and the own one no rate', async () => {
    const { lineId } = await ordered('2', '10.00');
    await desk.receive([{ lineId, quantity: '2' }]);
    const goods = [{ kind: 'goods' as const, purchaseLineId: lineId, quantity: '2', price: '10.00' }];
    const refused = async (more: object, lines = goods) => (await desk.bill(lines as never, more)).problem.errors?.[0];
    expect(await refused({ currency: 'GBP', rate: '2' })).toEqual({ field: 'rate', sentence: "GBP is the business's own currency: its rate is 1." });
    expect(await refused({ currency: 'ZZZ', rate: '2' })).toEqual({ field: 'currency', sentence: 'There is no currency ZZZ.' });
    const dinar = await desk.bill([{ kind: 'goods', purchaseLineId: lineId, quantity: '1', price: '4.1255' }], { currency: 'KWD', rate: '2.4' });
    expect(dinar.data).toMatchObject({ net: '4.126', owed: '9.90' });
    expect((await business.owner.get(bills.getBill, { params: { id: dinar.data.id as number } })).net).toBe('4.126');
  });
});

test('credit lines of one credit count together: 3 and 3 for 5 sent back', async () => {
  const { id, lineId } = await ordered('8', '2.00');
  await desk.receive([{ lineId, quantity: '8' }]);
  await desk.billed(lineId, '8', '2.00');
  await desk.back(id, lineId, '5', { then: 'credited' });
  const three = { kind: 'goods' as const, purchaseLineId: lineId, quantity: '3', price: '2.00' };
  const { status, problem } = await desk.bill([three, three], { kind: 'credit' });
  expect([status, problem.errors[0]?.field]).toEqual([422, 'lines.1.quantity']);
  expect((await desk.bill([three, { ...three, quantity: '2' }], { kind: 'credit' })).data).toMatchObject({ net: '10.00' });
});

describe('after a return', () => {
  test('it is asked whether the goods are replaced or credited: 8 of 10 came, 2 went back', async () => {
    for (const [then, onOrder] of [
      ['replaced', '4'],
      ['credited', '2'],
    ] as const) {
      const { itemId, id, lineId } = await ordered('10', '1.00');
      await desk.receive([{ lineId, quantity: '8' }]);
      const asked = await desk.back(id, lineId, '2', {});
      expect([asked.status, asked.problem.asks]).toEqual([409, ['replaced', 'credited']]);
      const { data } = await desk.back(id, lineId, '2', { then });
      expect(await desk.onOrder(itemId)).toBe(onOrder);
      await desk.undo(data.movementId as number);
      expect(await desk.onOrder(itemId)).toBe('2');
    }
  });
  test('the full bill can be entered: a credit is expected for what went back, and comes', async () => {
    const { id, lineId } = await ordered('10', '10.00');
    await desk.receive([{ lineId, quantity: '10' }]);
    await desk.back(id, lineId, '2', { then: 'credited' });
    const goods = [{ kind: 'goods' as const, purchaseLineId: lineId, quantity: '10', price: '11.00' }];
    const asked = await desk.bill(goods);
    expect([asked.status, asked.problem.asks, asked.problem.title.includes('2 of')]).toEqual([409, ['sent-back', 'waits'], true]);
    const change = await posted(async () => {
      expect((await desk.bill(goods, { sentBack: true })).data.lines[0]).toMatchObject({ difference: '10.00', toStock: '8.00' });
      expect((await desk.billed(lineId, '2', '11.00', { kind: 'credit' })).lines[0]).toMatchObject({ cleared: '-20.00' });
    });
    expect(change).toEqual({ inventory: 800, grni: 8000, payable: -8800 });
    expect((await desk.bill([{ ...goods[0]!, quantity: '1' }])).problem.asks).toEqual(['sent-back', 'waits']);
  });
});

describe('the day', () => {
  const next = (days: number): void => {
    business.clock.now = new Date(Date.parse('2026-03-10T10:00:00Z') + days * 86_400_000);
  };
  afterAll(() => next(0));
  test('goods without an order whose bill is to come are received on the day they came; the bill finds them', async () => {
    next(2);
    const itemId = await item();
    const body = {
      supplierId: business.supplierId,
      billComes: true,
      effectiveOn: '2026-03-11',
      lines: [{ itemId, binId: business.bins[0] as number, quantity: '4', unitValue: '2.50' }],
    };
    await business.owner.get(receiving.receiveUnordered, { body });
    const { rows } = await business.owner.get(stock.trail, { query: { itemId } });
    expect(rows.map(({ effectiveOn }) => effectiveOn)).toEqual(['2026-03-11']);
  });
  test('an order entered today may have been placed before, and goods came in on it yesterday; not before it was placed, nor tomorrow', async () => {
    next(3);
    const itemId = await item();
    const late = await desk.order([{ itemId, quantity: '4', price: '1.00' }]);
    await expect(desk.receive([{ lineId: late.lineId, quantity: '1' }], { effectiveOn: '2026-03-12' })).rejects.toThrow('was placed on 2026-03-13');
    const placed = await desk.order([{ itemId, quantity: '4', price: '1.00' }], { orderedOn: '2026-03-09' });
    await desk.receive([{ lineId: placed.lineId, quantity: '4' }], { effectiveOn: '2026-03-12' });
    await expect(desk.order([{ itemId, quantity: '4', price: '1.00' }], { orderedOn: '2026-03-14' })).rejects.toThrow('lies in the future');
    // told later, it may be put earlier too; not later than what came in on it
    const order = await business.owner.get(inbound.getPurchase, { params: { id: late.id } });
    const amend = (orderedOn: string, version: number) =>
      business.owner.ask(inbound.amendPurchase, { params: { id: late.id }, body: { expectedOn: null, lines: [], orderedOn, version } });
    expect((await amend('2026-03-10', order.version)).data).toMatchObject({ orderedOn: '2026-03-10' });
    await desk.receive([{ lineId: late.lineId, quantity: '1' }], { effectiveOn: '2026-03-11' });
    expect((await amend('2026-03-12', order.version + 1)).problem.errors[0]?.field).toBe('orderedOn');
  });
  test('a bill of a day before its goods is booked on the day they came, so that no day without goods has a value', async () => {
    next(5);
    const { lineId } = await ordered('4', '10.00');
    await desk.receive([{ lineId, quantity: '4' }]);
    const { id } = await desk.billed(lineId, '4', '12.00', { billedOn: '2026-03-11' });
    expect(await business.owner.get(bills.getBill, { params: { id } })).toMatchObject({ billedOn: '2026-03-11', bookedOn: '2026-03-15' });
    const { rows } = await business.pool.query('SELECT DISTINCT effective_on::text AS day FROM journal_entry WHERE bill_id = $1', [id]);
    expect(rows).toEqual([{ day: '2026-03-15' }]);
  });
  test('sold for a day before the dearer ones came: that day has no value without stock, and today is as it was', async () => {
    next(6);
    const itemId = await item();
    const cheap = await desk.order([{ itemId, quantity: '10', price: '1.00' }]);
    await desk.receive([{ lineId: cheap.lineId, quantity: '10' }]);
    next(8);
    const dear = await desk.order([{ itemId, quantity: '10', price: '2.00' }]);
    await desk.receive([{ lineId: dear.lineId, quantity: '10' }]);
    next(9);
    expect((await desk.correct(itemId, '-10', { effectiveOn: '2026-03-17' })).status).toBe(200);
    expect(await desk.worth(itemId)).toBe('15.00');
    const { rows } = await business.pool.query(`SELECT effective_on::text AS day, amount FROM cost_change WHERE item_id = ${itemId} ORDER BY id`);
    expect(rows).toEqual([
      { day: '2026-03-17', amount: '5.00' },
      { day: '2026-03-18', amount: '-5.00' },
    ]);
  });
});

describe('a bin that was counted', () => {
  test('undoing what is older asks, since the count contains it; what is newer does not', async () => {
    const { itemId, lineId } = await ordered('20', '1.00');
    const first = await desk.receive([{ lineId, quantity: '10' }]);
    const counted = await desk.count(itemId, '9');
    const second = await desk.receive([{ lineId, quantity: '5' }]);
    const asked = await desk.undo(first);
    expect([asked.status, asked.problem.asks]).toEqual([409, ['counted-since']]);
    expect(asked.problem.title).toBe(`A-1 was counted on 2026-03-10, and that count of EX-${made} contains this already. Undo it all the same?`);
    expect((await desk.undo(second)).status).toBe(200);
    expect((await desk.undo(counted.data.movementId as number)).status).toBe(200);
    expect((await desk.undo(first)).status).toBe(200);
  });
  test('said all the same, it is undone; a count that agreed counts too', async () => {
    const { itemId, lineId } = await ordered('20', '1.00');
    const first = await desk.receive([{ lineId, quantity: '10' }]);
    expect((await desk.count(itemId, '10')).data.movementId).toBeNull();
    expect((await desk.undo(first)).problem.asks).toEqual(['counted-since']);
    expect((await desk.undo(first, { countedSince: true })).status).toBe(200);
  });
  test('a receipt dated before the count asks; of the same day or later it does not', async () => {
    business.clock.now = new Date('2026-03-12T10:00:00Z');
    const { itemId, lineId } = await ordered('20', '1.00', {});
    const order = await desk.order([{ itemId, quantity: '9', price: '1.00' }], { orderedOn: '2026-03-01' });
    await desk.receive([{ lineId, quantity: '5' }]);
    await desk.count(itemId, '5');
    await expect(desk.receive([{ lineId: order.lineId, quantity: '1' }], { effectiveOn: '2026-03-11' })).rejects.toThrow('Enter it all the same?');
    await desk.receive([{ lineId: order.lineId, quantity: '1' }], { effectiveOn: '2026-03-11', countedSince: true });
    await desk.receive([{ lineId: order.lineId, quantity: '1' }], { effectiveOn: '2026-03-12' });
    business.clock.now = new Date('2026-03-10T10:00:00Z');
  });
});

test('what was lost before an item was kept by lots does not come back without one', async () => {
  const { itemId, lineId } = await ordered('5', '1.00');
  await desk.receive([{ lineId, quantity: '5' }]);
  const lost = await desk.correct(itemId, '-5');
  const was = await business.owner.get(catalog.getItem, { params: { id: itemId } });
  const form = { sku: was.sku, name: was.name, unitId: was.unitId, version: was.version, purchasePrice: '1.00', tracking: 'lot' as const };
  await business.owner.get(catalog.editItem, { params: { id: itemId }, body: form });
  const refused = await desk.undo(lost.data.movementId as number);
  expect([refused.status, refused.problem.type]).toEqual([409, 'tracking-changed']);
  expect(refused.problem.title).toBe(`${was.sku} is kept by lots. It was not when this was posted, so this cannot be undone; correct the stock instead.`);
});

describe('more than any account can hold is told by its field', () => {
  const huge = '999999999';
  test('goods without an order, opening stock, a charge, a bill', async () => {
    const itemId = await item();
    const lines = [{ itemId, binId: business.bins[0] as number, quantity: huge, unitValue: huge }];
    const fields = async (asked: Promise<{ status: number; problem: { errors: { field: string }[] } }>) => {
      const { status, problem } = await asked;
      return [status, problem.errors[0]?.field];
    };
    expect(await fields(business.owner.ask(receiving.receiveUnordered, { body: { lines } }))).toEqual([422, 'lines.0.quantity']);
    expect(await fields(business.owner.ask(stock.openStock, { body: { lines } }))).toEqual([422, 'lines.0.quantity']);
    const body = { supplierId: business.supplierId, siteId: business.siteId, lines: [{ itemId, quantity: huge, price: huge }] };
    expect(await fields(business.owner.ask(inbound.createPurchase, { body }))).toEqual([422, 'lines.0.price']);
    const { lineId } = await ordered('2', '1.00');
    const movementId = await desk.receive([{ lineId, quantity: '2' }]);
    const charge = { name: 'Freight', by: 'value' as const, amount: '999999999999', currency: 'EUR', rate: '999999' };
    expect(await fields(desk.charge([movementId], [charge]))).toEqual([422, 'charges.0.amount']);
    expect(await fields(desk.bill([{ kind: 'goods', purchaseLineId: lineId, quantity: '2', price: huge }], { currency: 'EUR', rate: '999999' }))).toEqual([
      422,
      'lines.0.price',
    ]);
    const other = { kind: 'other' as const, text: 'Pallets', accountId: 1, amount: '999999999999' };
    expect((await desk.bill([other], { currency: 'EUR', rate: '999999' })).status).toBe(422);
  });
});

test('an item with stock or open orders is retired only when that is meant', async () => {
  const { itemId, number, lineId } = await ordered('5', '1.00');
  await desk.receive([{ lineId, quantity: '2' }]);
  const was = await business.owner.get(catalog.getItem, { params: { id: itemId } });
  const retire = (more: object) =>
    business.owner.ask(catalog.editItem, {
      params: { id: itemId },
      body: { sku: was.sku, name: was.name, unitId: was.unitId, version: was.version, purchasePrice: '1.00', retired: true, ...more },
    });
  const { problem } = await retire({});
  expect([problem.asks, problem.title]).toEqual([['retired-in-use'], `${was.sku} has 2 in stock and is on order on ${number}. Retire all the same?`]);
  expect((await business.owner.ask(catalog.editItems, { body: { ids: [itemId], retired: true } })).problem.asks).toEqual(['retired-in-use']);
  expect((await retire({ retiredInUse: true })).data).toMatchObject({ retired: true });
});

describe('orders in another currency, and prices for a hundred', () => {
  test('a line at 4.20 for 100 is received, billed dearer and clear to the cent', async () => {
    const itemId = await item();
    const { lineId } = await desk.order([{ itemId, quantity: '250', price: '4.20', pricePer: '100' }]);
    await desk.receive([{ lineId, quantity: '100' }]);
    expect(await desk.worth(itemId)).toBe('4.20');
    await desk.receive([{ lineId, quantity: '150' }]);
    expect((await desk.billed(lineId, '250', '4.40')).lines[0]).toMatchObject({
      amount: '11.00',
      cleared: '10.50',
      toStock: '0.50',
      words: '0.002 more for each than ordered, 0.50 in all',
    });
  });
  test('ordered in euros at one rate, billed at another: the difference goes where the goods are', async () => {
    const itemId = await item();
    const { lineId, id } = await desk.order([{ itemId, quantity: '10', price: '10.00' }], { currency: 'EUR', rate: '0.85' });
    await desk.receive([{ lineId, quantity: '10' }]);
    expect(await desk.worth(itemId)).toBe('85.00');
    await desk.correct(itemId, '-5');
    const { lines, owed } = await desk.billed(lineId, '10', '10.00', { currency: 'EUR', rate: '0.87' });
    expect([owed, lines[0]?.difference, lines[0]?.toStock]).toEqual(['87.00', '2.00', '1.00']);
    expect(await business.owner.get(inbound.getPurchase, { params: { id } })).toMatchObject({ currency: 'EUR', rate: '0.85', total: '120.00' });
  });
  test('two receipts of one order in two currencies: what has come keeps its own', async () => {
    const itemId = await item();
    const placed = await desk.order([{ itemId, quantity: '10', price: '10.00' }], { currency: 'EUR', rate: '0.85' });
    await desk.receive([{ lineId: placed.lineId, quantity: '4' }]);
    const was = await business.owner.get(inbound.getPurchase, { params: { id: placed.id } });
    const body = { expectedOn: null, version: was.version, currency: 'USD', rate: '0.75', lines: [{ lineId: placed.lineId, price: '11.00' }] };
    const now = await business.owner.get(inbound.amendPurchase, { params: { id: placed.id }, body });
    expect(now.lines.map(({ currency, rate, price, outstanding, cancelled }) => [currency, rate, price, outstanding, cancelled])).toEqual([
      ['EUR', '0.85', '10', '0', '6'],
      ['USD', '0.75', '11', '6', '0'],
    ]);
    await desk.receive([{ lineId: now.lines[1]?.id as number, quantity: '6' }]);
    expect(await desk.worth(itemId)).toBe('83.50');
    await desk.billed(placed.lineId, '4', '10.00', { currency: 'EUR', rate: '0.85' });
    const change = await posted(() => desk.billed(now.lines[1]?.id as number, '6', '11.00', { currency: 'USD', rate: '0.75' }));
    expect(change).toEqual({ grni: 4950, payable: -4950 });
    const odd = await business.owner.ask(inbound.amendPurchase, {
      params: { id: placed.id },
      body: { ...body, version: now.version, currency: 'GBP', rate: '2' },
    });
    expect(odd.problem.errors[0]?.field).toBe('rate');
  });
});
