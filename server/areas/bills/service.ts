import { eq } from 'drizzle-orm';
import { planCosts } from '@larder/core/costing/adjust';
import { decimal, least, money, sum, zero, type Decimal } from '@larder/core/decimal';
import { Refusal, refuseField } from '@larder/core/refusal';
import type * as contract from '@larder/contract/bills';
import type { BodyOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { bill, billLine, payment } from '../../db/schema/index';
import { nextNumber } from '../../documents/number';
import { Entry, refuseBookDay, writeCosts, writeEntry } from '../../ledger/entry';
import { lock } from '../../ledger/lock';
import { poolsOf, receiptLines, type ReceiptLine } from '../../ledger/receipts';
import { formOf } from './queries';
import { clearGoods, refuseDoubts, workOut, type Form, type Worked, type WorkedLine } from './work';

/** Enters a bill or credit. It is posted at once, or waits when the person lets it wait for goods. */
export async function createBill(act: Act, form: Form): Promise<contract.BillPosted> {
  await lockFor(act, form);
  await refuseBookDay(act, form.billedOn, 'billedOn');
  const worked = await workOut(act, form);
  await refuseDoubts(act, form, worked, null);
  const waits = worked.ahead.length > 0;
  if (act.tx.readOnly) return answer(null, null, worked);
  const number = await nextNumber(act, 'bill');
  const [company] = await act.tx.rows<{ currency: string }>('SELECT currency FROM company');
  const [added] = await act.tx.db
    .insert(bill)
    .values({
      number,
      kind: form.kind,
      partyId: form.partyId,
      reference: form.reference,
      billedOn: form.billedOn,
      dueOn: form.dueOn,
      currency: form.currency ?? company?.currency ?? '',
      rate: form.rate,
      note: form.note,
      net: worked.net.toFixed(2),
      tax: worked.tax.toFixed(2),
      owed: worked.owed.toFixed(2),
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: bill.id });
  const id = added?.id as number;
  await act.tx.db.insert(billLine).values(form.lines.map((line, index) => ({ billId: id, position: index + 1, ...columnsOf(line, worked.lines[index]) })));
  if (!waits) await write(act, id, number, form, worked);
  return answer(id, number, worked);
}

/** Posts a bill that waited, now that its goods have come. */
export async function postBill(act: Act, id: number): Promise<contract.BillPosted> {
  const { form, number, state } = await formOf(act, id);
  await lockFor(act, form, id);
  if (state !== 'waiting') throw new Refusal(409, 'not-waiting', `${number} is ${state} already.`);
  await refuseBookDay(act, form.billedOn, 'billedOn');
  const worked = await workOut(act, form);
  await refuseDoubts(act, { ...form, knownReference: true, waits: false }, worked, id);
  if (!act.tx.readOnly) await write(act, id, number, form, worked);
  return answer(id, number, worked);
}

/** Locks in the order everybody takes: orders, worksheets, bills, then pools. */
async function lockFor(act: Act, form: Form, id?: number): Promise<void> {
  const lines = form.lines.flatMap((line) => (line.kind === 'goods' || line.kind === 'credit' ? [line.purchaseLineId] : []));
  await lock.purchaseOrdersOf(act, lines);
  await lock.sheetsOf(
    act,
    form.lines.flatMap((line) => (line.kind === 'charge' ? [line.chargeId] : [])),
  );
  if (id !== undefined) await lock.bills(act, [id]);
  await lock.poolsOfLines(act, lines);
}

const columnsOf = (line: Form['lines'][number], worked: WorkedLine | undefined) => ({
  kind: line.kind === 'credit' ? 'goods' : line.kind,
  purchaseLineId: 'purchaseLineId' in line ? line.purchaseLineId : null,
  quantity: line.kind === 'goods' ? line.quantity : null,
  price: line.kind === 'goods' ? line.price : null,
  chargeId: line.kind === 'charge' ? line.chargeId : null,
  final: line.kind === 'charge' && line.final,
  accountId: line.kind === 'other' ? line.accountId : null,
  text: line.kind === 'other' ? line.text : '',
  amount: (worked?.amount ?? zero).toFixed(2),
  taxCodeId: line.taxCodeId,
});

async function write(act: Act, id: number, number: string, form: Form, worked: Worked): Promise<void> {
  const rows = await act.tx.rows<{ id: number }>('SELECT id FROM bill_line WHERE bill_id = $1 ORDER BY position', [id]);
  await act.tx.rows(
    'UPDATE bill_line b SET cleared = x.cleared, difference = x.difference, to_stock = x.stock FROM unnest($1::int[], $2::numeric[], $3::numeric[], $4::numeric[]) x(id, cleared, difference, stock) WHERE b.id = x.id',
    [
      rows.map((row) => row.id),
      worked.lines.map(({ cleared }) => cleared.toFixed(2)),
      worked.lines.map(({ difference }) => difference.toFixed(2)),
      worked.lines.map(({ costs }) => sum(costs.map(({ toStock }) => toStock)).toFixed(2)),
    ],
  );
  await act.tx.rows('UPDATE bill SET posted_at = $2, owed = $3 WHERE id = $1', [id, act.now.toISOString(), worked.owed.toFixed(2)]);
  await count(act, id, 1);
  const text = `${form.kind} ${form.reference}`;
  await writeCosts(
    act,
    form.billedOn,
    'billed price',
    worked.lines.flatMap(({ costs }, index) => costs.map((cost) => ({ ...cost, billLineId: rows[index]?.id ?? null }))),
  );
  await writeEntry(act, { effectiveOn: form.billedOn, text: `${number}: ${text}`, billId: id }, worked.entry);
}

/** Counts what a bill covers on its order lines and charges, or (-1) takes it off again. */
async function count({ tx, now }: Act, billId: number, sign: 1 | -1): Promise<void> {
  await tx.rows(
    `UPDATE purchase_line p SET billed = p.billed + $2 * x.quantity, billed_value = p.billed_value + $2 * x.cleared
     FROM (SELECT purchase_line_id AS id, sum(coalesce(l.quantity, 0) * CASE b.kind WHEN 'credit' THEN -1 ELSE 1 END) AS quantity, sum(l.cleared) AS cleared FROM bill_line l JOIN bill b ON b.id = l.bill_id WHERE b.id = $1 AND purchase_line_id IS NOT NULL GROUP BY 1) x WHERE p.id = x.id`,
    [billId, sign],
  );
  await tx.rows(
    `UPDATE landed_charge c SET cleared = c.cleared + $2 * x.cleared, settled_at = CASE WHEN NOT x.final THEN c.settled_at WHEN $2 = 1 THEN $3::timestamptz END
     FROM (SELECT charge_id AS id, sum(cleared) AS cleared, bool_or(final) AS final FROM bill_line WHERE bill_id = $1 AND charge_id IS NOT NULL GROUP BY 1) x WHERE c.id = x.id`,
    [billId, sign, now.toISOString()],
  );
}

const answer = (id: number | null, number: string | null, worked: Worked): contract.BillPosted => ({
  id,
  number,
  net: worked.net.toFixed(2),
  tax: worked.tax.toFixed(2),
  owed: worked.owed.toFixed(2),
  lines: worked.lines.map(({ line, text, amount, cleared, difference, costs, words }) => ({
    kind: line.kind,
    text,
    quantity: line.kind === 'goods' ? line.quantity : null,
    amount: amount.toFixed(2),
    cleared: cleared.toFixed(2),
    difference: difference.toFixed(2),
    toStock: sum(costs.map(({ toStock }) => toStock)).toFixed(2),
    words,
  })),
  ...(worked.ahead.length > 0 ? { entry: [], words: ['It waits: nothing is posted until the goods have come.'] } : worked.entry.effects()),
});

/** A bill for a charge that another bill has settled since stays: what the last one left to variance rests on it. */
async function refuseSettled({ tx }: Act, id: number, number: string): Promise<void> {
  const [settled] = await tx.rows<{ charge: string; by: string }>(
    `SELECT s.number || ', ' || c.name AS charge, o.number AS by FROM bill_line l JOIN landed_charge c ON c.id = l.charge_id JOIN landed_sheet s ON s.id = c.sheet_id JOIN bill_line f ON f.charge_id = c.id AND f.final AND f.bill_id <> l.bill_id JOIN bill o ON o.id = f.bill_id
     WHERE l.bill_id = $1 AND c.settled_at IS NOT NULL AND o.posted_at IS NOT NULL AND o.undone_at IS NULL LIMIT 1`,
    [id],
  );
  if (settled) throw new Refusal(409, 'rests-on-it', `${settled.by} settled ${settled.charge} after ${number}. Undo ${settled.by} first.`);
}

/** Undoes a bill: what it cleared is open again, and its price differences come off by the rule they went on by. */
export async function undoBill(act: Act, id: number): Promise<contract.BookEffects> {
  const { form, number, state, paid } = await formOf(act, id);
  await lockFor(act, form, id);
  if (state === 'undone') throw new Refusal(409, 'already-undone', `${number} was undone already.`);
  if (paid) throw new Refusal(409, 'paid', `${number} has payments. Undo those first.`);
  await refuseSettled(act, id, number);
  const entry = await Entry.open(act);
  if (state !== 'waiting') {
    const lineIds = form.lines.flatMap((line) => (line.kind === 'goods' || line.kind === 'credit' ? [line.purchaseLineId] : []));
    const receipts = await receiptLines(act, { purchaseLineIds: lineIds });
    const written = await act.tx.rows<{ billLineId: number; lineId: number; itemId: number; whole: string; share: string }>(
      `SELECT c.bill_line_id AS "billLineId", c.movement_line_id AS "lineId", c.item_id AS "itemId", c.whole, c.share FROM cost_change c JOIN bill_line b ON b.id = c.bill_line_id WHERE b.bill_id = $1 ORDER BY c.id DESC`,
      [id],
    );
    const standing = (lineId: number, share: Decimal) => {
      const receipt = receipts.find((one) => one.lineId === lineId) as ReceiptLine;
      return { poolKey: receipt.poolKey, share: least(share, receipt.here) };
    };
    const parts = written.map(({ lineId, itemId, whole, share }) => ({
      itemId,
      lineId,
      amount: decimal(whole).neg(),
      ...standing(lineId, decimal(share)),
    }));
    const costs = planCosts(parts, poolsOf(receipts));
    // What never lay here has its difference on its cost account, which is turned round with everything else.
    const ours = (lineId: number) => receipts.find((one) => one.lineId === lineId)?.ours === true;
    for (const { itemId, lineId, toStock, toGone, variance } of costs.filter((cost) => ours(cost.lineId))) {
      entry.add(receipts.find((receipt) => receipt.lineId === lineId)?.inventoryAccount ?? 'inventory', toStock, itemId);
      entry.add('price-variance', toGone);
      entry.add('cost-variance', variance);
    }
    // Everything else of the entry is turned round; what its price differences were is in the parts above.
    const others = await act.tx.rows<{ accountId: number; purpose: string | null; amount: string }>(
      `SELECT a.id AS "accountId", a.purpose, sum(j.amount) AS amount FROM journal_entry e JOIN journal_line j ON j.entry_id = e.id JOIN account a ON a.id = j.account_id WHERE e.bill_id = $1 AND e.payment_id IS NULL AND a.type <> 'inventory' AND a.purpose IS DISTINCT FROM 'cost-variance' AND a.purpose IS DISTINCT FROM 'grni' AND a.purpose IS DISTINCT FROM 'credits-expected' GROUP BY 1, 2`,
      [id],
    );
    const goods = await act.tx.rows<{ id: number; cleared: string; open: string }>(
      'SELECT p.id, l.cleared, p.received_value - p.billed_value AS open FROM bill_line l JOIN purchase_line p ON p.id = l.purchase_line_id WHERE l.bill_id = $1 ORDER BY l.id',
      [id],
    );
    const open = new Map(goods.map((line) => [line.id, decimal(line.open)]));
    for (const line of goods) clearGoods(entry, open, line.id, decimal(line.cleared).neg());
    const whole = sum(written.filter(({ lineId }) => ours(lineId)).map((row) => decimal(row.whole)));
    const stockAndClamped = await stockPart(act, id);
    for (const { accountId, purpose, amount } of others)
      entry.add(accountId, purpose === 'price-variance' ? decimal(amount).minus(whole.minus(stockAndClamped)).neg() : decimal(amount).neg());
    if (!others.some(({ purpose }) => purpose === 'price-variance')) entry.add('price-variance', whole.minus(stockAndClamped));
    if (!act.tx.readOnly) {
      await count(act, id, -1);
      await writeCosts(
        act,
        act.today,
        'billed price undone',
        costs.map((cost, index) => ({ ...cost, billLineId: written[index]?.billLineId ?? null })),
      );
      await writeEntry(act, { effectiveOn: act.today, text: `${number} undone`, billId: id }, entry);
    }
  }
  if (!act.tx.readOnly) await act.tx.db.update(bill).set({ undoneAt: act.now.toISOString() }).where(eq(bill.id, id));
  return entry.effects();
}

/** What a bill's price differences put into stock and into cost variance. */
async function stockPart({ tx }: Act, billId: number) {
  const [row] = await tx.rows<{ amount: string }>(
    `SELECT coalesce(sum(j.amount), 0) AS amount FROM journal_entry e JOIN journal_line j ON j.entry_id = e.id JOIN account a ON a.id = j.account_id WHERE e.bill_id = $1 AND e.payment_id IS NULL AND (a.type = 'inventory' OR a.purpose = 'cost-variance')`,
    [billId],
  );
  return decimal(row?.amount ?? 0);
}

/** Records a payment. What differs because the rate has changed since the bill is an exchange difference. */
export async function pay(act: Act, id: number, form: BodyOf<typeof contract.pay>): Promise<contract.BookEffects> {
  await lock.bills(act, [id]);
  const { number, state, kind, rate, open, billedOn } = await formOf(act, id);
  if (state === 'waiting' || state === 'undone') throw new Refusal(409, 'not-owed', `${number} is ${state}; there is nothing to pay.`);
  await refuseBookDay(act, form.paidOn, 'paidOn');
  if (form.paidOn < billedOn) throw refuseField(409, 'before-bill', 'paidOn', `${number} is of ${billedOn}; it cannot have been paid before.`);
  if (decimal(form.amount).gt(open) && !form.over)
    throw refuseField(409, 'over-payment', 'amount', `Only ${open} of ${number} is open. Pay ${form.amount} all the same?`, ['over']);
  const settled = money(decimal(form.amount).times(rate));
  const paid = money(decimal(form.amount).times(form.rate ?? rate));
  const sign = kind === 'credit' ? -1 : 1;
  const entry = await Entry.open(act);
  entry.add('payable', settled.times(sign));
  entry.add('bank', paid.times(-sign));
  entry.add('exchange-difference', paid.minus(settled).times(sign));
  if (act.tx.readOnly) return entry.effects();
  const [added] = await act.tx.db
    .insert(payment)
    .values({
      billId: id,
      paidOn: form.paidOn,
      amount: form.amount,
      rate: form.rate ?? rate,
      settled: settled.toFixed(2),
      exchange: paid.minus(settled).toFixed(2),
      note: form.note,
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: payment.id });
  await writeEntry(act, { effectiveOn: form.paidOn, text: `${number} paid`, billId: id, paymentId: added?.id as number }, entry);
  return entry.effects();
}

export async function undoPayment(act: Act, id: number): Promise<contract.BookEffects> {
  const [found] = await act.tx.rows<{ billId: number; number: string; undone: boolean; kind: string; settled: string; exchange: string }>(
    `SELECT b.id AS "billId", b.number, b.kind, p.undone_at IS NOT NULL AS undone, p.settled, p.exchange FROM payment p JOIN bill b ON b.id = p.bill_id WHERE p.id = $1`,
    [id],
  );
  if (!found) throw new Refusal(404, 'not-found', 'There is no such payment.');
  await lock.bills(act, [found.billId]);
  const [now] = await act.tx.rows<{ undone: boolean }>('SELECT undone_at IS NOT NULL AS undone FROM payment WHERE id = $1', [id]);
  if (now?.undone) throw new Refusal(409, 'already-undone', `This payment of ${found.number} was undone already.`);
  const sign = found.kind === 'credit' ? 1 : -1;
  const entry = await Entry.open(act);
  entry.add('payable', decimal(found.settled).times(sign));
  entry.add('bank', decimal(found.settled).plus(found.exchange).times(-sign));
  entry.add('exchange-difference', decimal(found.exchange).times(sign));
  if (act.tx.readOnly) return entry.effects();
  await act.tx.db.update(payment).set({ undoneAt: act.now.toISOString() }).where(eq(payment.id, id));
  await writeEntry(act, { effectiveOn: act.today, text: `${found.number}: payment undone`, billId: found.billId, paymentId: id }, entry);
  return entry.effects();
}
