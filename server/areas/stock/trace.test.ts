import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as receiving from '@larder/contract/receiving';
import * as invoices from '@larder/contract/invoices';
import * as loans from '@larder/contract/loans';
import * as lots from '@larder/contract/lots';
import * as post from '@larder/contract/post';
import * as recalls from '@larder/contract/recalls';
import * as returns from '@larder/contract/returns';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { deskOf } from '../../testing/desk';
import { ordered, sold } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

test('a recalled lot: back to its delivery and on to every customer; what was undone is left out', async () => {
  const { owner, bins, pool } = business;
  const binId = bins[0] as number;
  const itemId = await business.item('REC-1', { tracking: 'lot' });
  const bought = await ordered(business, itemId, '30', '2.00');
  await owner.get(receiving.receive, {
    body: { packingNote: 'DN 5', lines: [{ lineId: bought.lineId, quantity: '20', binId, lots: [{ code: '=R1', quantity: '20' }] }] },
  });
  const wrong = await owner.get(receiving.receive, {
    body: { lines: [{ lineId: bought.lineId, quantity: '3', binId, lots: [{ code: '=R1', quantity: '3' }] }] },
  });
  await owner.get(stock.undo, { body: { movementId: wrong.movementId as number } });
  const { rows } = await pool.query<{ id: number }>(`SELECT id FROM lot WHERE code = '=R1'`);
  const lotId = rows[0]?.id as number;
  const order = await sold(business, itemId, '6');
  await owner.get(picking.pick, { body: { orderId: order.id, lines: [{ lineId: order.lineId, binId, lotId, quantity: '6' }] } });
  await owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '4' }] } });
  const traced = await owner.get(lots.traceLot, { params: { id: lotId } });
  expect(traced.came).toMatchObject([{ who: 'Hexley Joinery', document: { number: bought.number }, quantity: '20', back: '0', note: 'packing note DN 5' }]);
  expect(traced.went).toMatchObject([{ who: 'Copse Lane School', kind: 'customer', document: { number: order.number }, quantity: '4' }]);
  expect(traced.here).toBe('16');
  const file = await fetch(`${business.base}/api/stock/lots/${lotId}/trace/file`, { headers: { Cookie: owner.cookie } });
  const text = await file.text();
  expect(text).toContain('Copse Lane School');
  expect(text).not.toMatch(/(^|,)=/m);
});

test('back to supplier and bill, on to customer, dispatch, invoice and credit note, and to each holder: the quantities add up', async () => {
  const { owner, bins, customerId } = business;
  const desk = deskOf(business);
  const binId = bins[0] as number;
  const itemId = await business.item('REC-2', { tracking: 'lot' });
  const { lineId } = await desk.order([{ itemId, quantity: '20', price: '2.00' }]);
  await owner.get(receiving.receive, { body: { lines: [{ lineId, quantity: '20', binId, lots: [{ code: 'R2', quantity: '20' }] }] } });
  await desk.billed(lineId, '20', '2.00');
  const [lot] = (await owner.get(lots.listLots, { query: { q: 'R2' } })).rows;
  const lotId = lot?.id as number;
  const order = await sold(business, itemId, '5');
  await owner.get(picking.pick, { body: { orderId: order.id, lines: [{ lineId: order.lineId, binId, lotId, quantity: '5' }] } });
  const gone = await owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '5' }] } });
  const reasonId = (await owner.get(setup.reference)).returnReasons[0]?.id as number;
  await owner.get(returns.createReturn, {
    body: {
      customerId,
      siteId: business.siteId,
      cameOn: '2026-03-10',
      lines: [{ salesLineId: order.lineId, itemId, quantity: '2', lotId, condition: 'shelf', binId, reasonId }],
    },
  });
  const holder = await owner.get(loans.createHolder, { body: { name: 'Ridge apiary', sort: 'place', email: 'ridge@larkmoor.example' } });
  const { id: loanId, number } = await owner.get(loans.lend, { body: { holderId: holder.id, lines: [{ itemId, lotId, binId, quantity: '3' }] } });
  const [line] = (await owner.get(loans.getLoan, { params: { id: loanId as number } })).lineRows;
  await owner.get(loans.bringBack, { body: { lines: [{ lineId: line?.id as number, quantity: '1', binId }] } });
  await business.pool.query("UPDATE party SET email = 'buyer@copse.example' WHERE id = $1", [customerId]);

  const traced = await owner.get(lots.traceLot, { params: { id: lotId } });
  expect(traced.came.map(({ who, bills, quantity }) => [who, bills.length, quantity])).toEqual([['Hexley Joinery', 1, '20']]);
  expect(
    traced.went.map(({ who, document, quantity, back, steps }) => [
      who,
      document?.number,
      quantity,
      back,
      steps.map(({ kind, quantity: many }) => [kind, many]),
    ]),
  ).toEqual([
    [
      'Copse Lane School',
      order.number,
      '5',
      '2',
      [
        ['dispatch', '5'],
        ['customer-return', '2'],
      ],
    ],
  ]);
  expect(traced.held.map(({ who, kind, document, quantity, back }) => [who, kind, document?.kind, document?.number, quantity, back])).toEqual([
    ['Ridge apiary', 'holder', 'loan', number, '3', '1'],
  ]);
  // 20 came; 5 went and 2 came back: 17 are ours, of which 2 are with the holder.
  expect(traced.here).toBe('17');
  expect(gone.movementId).not.toBeNull();

  const recall = { params: { id: lotId } };
  const { rows, quantity, template } = await owner.get(recalls.recallList, recall);
  expect(rows.map((row) => [row.who, row.holds, row.email, row.quantity, row.documents])).toEqual([
    ['Copse Lane School', 'bought', 'buyer@copse.example', '3', [order.number]],
    ['Ridge apiary', 'on loan', 'ridge@larkmoor.example', '2', [number]],
  ]);
  expect(quantity).toBe('5');
  const to = rows.map(({ partyId, email }) => ({ partyId, to: email }));
  const wrong = await owner.ask(recalls.sendRecall, { ...recall, body: { ...template, text: 'Dear {friend}', to } });
  expect([wrong.status, wrong.problem.errors[0]?.field]).toEqual([422, 'text']);
  const nobody = await owner.ask(recalls.sendRecall, { ...recall, body: { ...template, to: [...to, { partyId: business.supplierId, to: 'a@b.example' }] } });
  expect([nobody.status, nobody.problem.errors[0]]).toEqual([409, { field: 'to.2.partyId', sentence: 'They have nothing of R2 any more.' }]);
  expect((await owner.get(recalls.recallList, recall)).rows.flatMap(({ written }) => written)).toEqual([]);
  expect(await owner.get(recalls.sendRecall, { ...recall, body: { ...template, to } })).toEqual({ letters: 2 });
  const letters = (await owner.get(post.listLetters, { query: { q: 'R2' } })).rows;
  expect(letters.map((letter) => [letter.to, letter.subject, letter.about?.kind])).toEqual([
    ['ridge@larkmoor.example', 'Please do not use REC-2 Item REC-2, R2, from Test business', 'lot'],
    ['buyer@copse.example', 'Please do not use REC-2 Item REC-2, R2, from Test business', 'lot'],
  ]);
  expect(letters[1]?.recall).toContain(`you had 3 of REC-2 Item REC-2 from us, with the number R2 (${order.number}).`);
  expect((await owner.get(recalls.recallList, recall)).rows.map(({ written }) => written.map(({ state }) => state))).toEqual([['waiting'], ['waiting']]);
  const kept = await owner.get(recalls.keepRecallTemplate, { body: { subject: 'Stop: {lot}', text: 'Dear {customer}' } });
  expect((await owner.get(recalls.recallList, recall)).template).toEqual(kept);
});

test('an invoice and a credit note over the very goods of a lot are named', async () => {
  const { owner, bins } = business;
  const itemId = await business.item('REC-3', { tracking: 'serial' });
  const lines = [{ itemId, binId: bins[0] as number, quantity: '2', unitValue: '9.00', lots: [{ code: 'R3-1' }, { code: 'R3-2' }] }];
  await owner.get(stock.openStock, { body: { lines } as never });
  const known = (await owner.get(lots.listLots, { query: { q: 'R3-' } })).rows;
  const lotOf = (code: string) => known.find((one) => one.code === code)?.id as number;
  const order = await sold(business, itemId, '2');
  const sent = async (code: string) => {
    await owner.get(picking.pick, {
      body: { orderId: order.id, lines: [{ lineId: order.lineId, binId: bins[0] as number, lotId: lotOf(code), quantity: '1' }] },
    });
    const { movementId } = await owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '1' }] } });
    return owner.get(invoices.createInvoice, { body: { dispatches: [{ orderId: order.id, movementId: movementId as number }], invoicedOn: '2026-03-10' } });
  };
  const [first, second] = [await sent('R3-1'), await sent('R3-2')];
  const [line] = (await owner.get(invoices.getInvoice, { params: { id: first.id as number } })).lines;
  const credit = await owner.get(invoices.creditInvoice, {
    params: { id: first.id as number },
    body: { invoicedOn: '2026-03-10', lines: [{ lineId: line?.id as number, amount: '1.00' }] },
  });
  const of = async (code: string) =>
    (await owner.get(lots.traceLot, { params: { id: lotOf(code) } })).went.flatMap((row) => row.invoices.map((one) => one.number));
  expect([await of('R3-1'), await of('R3-2')]).toEqual([[first.number, credit.number], [second.number]]);
  const floor = await business.as('Floor');
  expect((await floor.get(lots.traceLot, { params: { id: lotOf('R3-1') } })).went.flatMap((row) => row.invoices)).toEqual([]);
});
