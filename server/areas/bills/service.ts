import { and, desc, eq, isNotNull, isNull, ne, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { amountText } from '@larder/core/books/currency';
import { planUndone, type PostedCost } from '@larder/core/costing/adjust';
import { decimal, sum, zero } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import type * as contract from '@larder/contract/bills';
import type { BodyOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { given } from '../../db/given';
import { bill, billCover, billLine, costChange, documentLine, landedCharge, landedSheet, purchaseLine, purchaseOrder } from '../../db/schema/index';
import { nextNumber } from '../../documents/number';
import { Entry, refuseBookDay, writeCosts, writeEntry } from '../../ledger/entry';
import { lock } from '../../ledger/lock';
import { moveStrandedValue } from '../../ledger/pastDays';
import { poolsOf, receiptLines, type ReceiptLine } from '../../ledger/receipts';
import { clearCents } from '../../ledger/clearCents';
import { postedLines, turnRound } from '../../ledger/turnRound';
import { formOf } from './queries';
import { clearGoods, workOut, type Form, type Worked, type WorkedLine } from './work';
import { refuseDoubts } from './workFaults';

/** Enters a bill or credit. It is posted at once, or waits when the person lets it wait for goods. */
export async function createBill(act: Act, form: Form): Promise<contract.BillPosted> {
  await lockFor(act, form);
  await refuseBookDay(act, form.billedOn, 'billedOn');
  const worked = await workOut(act, form);
  await refuseDoubts(act, form, worked, null);
  await refuseBookDay(act, worked.bookedOn, 'billedOn');
  const waits = worked.ahead.length > 0;
  if (act.tx.readOnly) return answer(null, null, worked);
  const number = await nextNumber(act, 'bill');
  const [added] = await act.tx.db
    .insert(bill)
    .values({
      number,
      kind: form.kind,
      partyId: form.partyId,
      reference: form.reference,
      billedOn: form.billedOn,
      dueOn: form.dueOn,
      currency: worked.currency,
      rate: form.rate,
      note: form.note,
      net: amountText(worked.currency, worked.net),
      tax: amountText(worked.currency, worked.tax),
      owed: worked.owed.toFixed(2),
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: bill.id });
  const id = added?.id as number;
  await act.tx.db
    .insert(billLine)
    .values(form.lines.map((line, index) => ({ billId: id, position: index + 1, ...columnsOf(line, worked.lines[index], worked.currency) })));
  if (!waits) await write(act, id, number, form, worked);
  return answer(id, number, worked);
}

/** Posts a bill that waited, now that its goods have come. */
export async function postBill(act: Act, id: number, { sentBack }: BodyOf<typeof contract.postBill>): Promise<contract.BillPosted> {
  const { form: entered, number, state } = await formOf(act, id);
  const form = { ...entered, sentBack };
  await lockFor(act, form, id);
  if (state !== 'waiting') throw new Refusal(409, 'not-waiting', `${number} is ${state} already.`);
  await refuseBookDay(act, form.billedOn, 'billedOn');
  const worked = await workOut(act, form);
  await refuseDoubts(act, { ...form, knownReference: true, waits: false }, worked, id);
  await refuseBookDay(act, worked.bookedOn, 'billedOn');
  if (!act.tx.readOnly) await write(act, id, number, form, worked);
  return answer(id, number, worked);
}

/** The order lines a bill names. */
const linesOf = (form: Form): number[] => form.lines.flatMap((line) => (line.kind === 'goods' || line.kind === 'credit' ? [line.purchaseLineId] : []));

/** Locks in the order everybody takes: orders, worksheets, bills, then pools. */
async function lockFor(act: Act, form: Form, id?: number): Promise<void> {
  const lines = linesOf(form);
  await lock.purchaseOrdersOf(act, lines);
  await lock.salesOrdersOfParcels(
    act,
    form.lines.flatMap((line) => (line.kind === 'parcel' ? [line.parcelId] : [])),
  );
  await lock.sheetsOf(
    act,
    form.lines.flatMap((line) => (line.kind === 'charge' ? [line.chargeId] : [])),
  );
  if (id !== undefined) await lock.bills(act, [id]);
  await lock.poolsOfLines(act, lines);
}

const columnsOf = (line: Form['lines'][number], worked: WorkedLine | undefined, currency: string) => ({
  kind: line.kind === 'credit' ? ('goods' as const) : line.kind,
  purchaseLineId: 'purchaseLineId' in line ? line.purchaseLineId : null,
  quantity: line.kind === 'goods' ? line.quantity : null,
  price: line.kind === 'goods' ? line.price : null,
  chargeId: line.kind === 'charge' ? line.chargeId : null,
  parcelId: line.kind === 'parcel' ? line.parcelId : null,
  final: line.kind === 'charge' && line.final,
  accountId: line.kind === 'other' ? line.accountId : null,
  text: line.kind === 'other' ? line.text : '',
  amount: amountText(currency, worked?.amount ?? zero),
  taxCodeId: line.taxCodeId,
});

async function write(act: Act, id: number, number: string, form: Form, worked: Worked): Promise<void> {
  const { db } = act.tx;
  const rows = await db.select({ id: billLine.id }).from(billLine).where(eq(billLine.billId, id)).orderBy(billLine.position);
  const { currency, bookedOn } = worked;
  const { rows: lines, row } = given(
    'worked',
    { id: billLine.id, amount: billLine.amount, cleared: billLine.cleared, difference: billLine.difference, toStock: billLine.toStock },
    worked.lines.map(({ amount, cleared, difference, costs }, index) => ({
      id: rows[index]?.id ?? 0,
      amount: amountText(currency, amount),
      cleared: cleared.toFixed(2),
      difference: difference.toFixed(2),
      toStock: sum(costs.map(({ toStock }) => toStock)).toFixed(2),
    })),
  );
  await db
    .update(billLine)
    .set({ amount: row.amount, cumulative: true, cleared: row.cleared, difference: row.difference, toStock: row.toStock })
    .from(lines)
    .where(eq(billLine.id, row.id));
  await db
    .update(bill)
    .set({
      postedAt: act.now.toISOString(),
      bookedOn,
      owed: worked.owed.toFixed(2),
      net: amountText(currency, worked.net),
      tax: amountText(currency, worked.tax),
    })
    .where(eq(bill.id, id));
  await count(act, id, 1);
  const covers = worked.lines.flatMap(({ line, covers: parts }, index) =>
    parts.map(({ receipt, quantity }) => ({
      billLineId: rows[index]?.id as number,
      lineId: receipt.lineId,
      quantity: line.kind === 'goods' ? quantity.toFixed() : '0',
    })),
  );
  if (covers.length > 0) await act.tx.db.insert(billCover).values(covers);
  const costs = worked.lines.flatMap((line, index) =>
    line.costs.map((cost) => ({
      ...cost,
      here: line.covers.find(({ receipt }) => receipt.lineId === cost.lineId)?.receipt.here ?? zero,
      billLineId: rows[index]?.id ?? null,
    })),
  );
  await writeCosts(act, bookedOn, 'billed price', costs);
  await writeEntry(act, { effectiveOn: bookedOn, text: `${number}: ${form.kind} ${form.reference}`, billId: id }, worked.entry);
  await clearCents(act, linesOf(form), bookedOn);
  if (bookedOn < act.today && costs.length > 0)
    await moveStrandedValue(
      act,
      costs.map(({ itemId }) => itemId),
      bookedOn,
    );
}

/** Counts what a bill covers on its order lines and charges, or (-1) takes it off again. */
async function count({ tx, now }: Act, billId: number, sign: 1 | -1): Promise<void> {
  const { db } = tx;
  const goods = db
    .select({
      lineId: sql<number>`${billLine.purchaseLineId}`.as('counted_line'),
      quantity: sql<string>`sum(coalesce(${billLine.quantity}, 0) * case ${bill.kind} when 'credit' then -1 else 1 end)`.as('counted_quantity'),
      cleared: sql<string>`sum(${billLine.cleared})`.as('counted_cleared'),
    })
    .from(billLine)
    .innerJoin(bill, eq(bill.id, billLine.billId))
    .where(and(eq(bill.id, billId), isNotNull(billLine.purchaseLineId)))
    .groupBy(billLine.purchaseLineId)
    .as('goods');
  await db
    .update(documentLine)
    .set({ billed: sql`${documentLine.billed} + ${sign} * ${goods.quantity}`, billedValue: sql`${documentLine.billedValue} + ${sign} * ${goods.cleared}` })
    .from(goods)
    .where(eq(documentLine.id, goods.lineId));
  const charges = db
    .select({
      chargeId: sql<number>`${billLine.chargeId}`.as('counted_charge'),
      cleared: sql<string>`sum(${billLine.cleared})`.as('counted_cleared'),
      final: sql<boolean>`bool_or(${billLine.final})`.as('counted_final'),
    })
    .from(billLine)
    .where(and(eq(billLine.billId, billId), isNotNull(billLine.chargeId)))
    .groupBy(billLine.chargeId)
    .as('charges');
  await db
    .update(landedCharge)
    .set({
      cleared: sql`${landedCharge.cleared} + ${sign} * ${charges.cleared}`,
      settledAt: sql`case when not ${charges.final} then ${landedCharge.settledAt} else ${sign === 1 ? now.toISOString() : null}::timestamptz end`,
    })
    .from(charges)
    .where(eq(landedCharge.id, charges.chargeId));
}

const answer = (id: number | null, number: string | null, worked: Worked): contract.BillPosted => ({
  id,
  number,
  net: amountText(worked.currency, worked.net),
  tax: amountText(worked.currency, worked.tax),
  owed: worked.owed.toFixed(2),
  bookedOn: worked.bookedOn,
  lines: worked.lines.map(({ line, text, amount, cleared, difference, costs, words }) => ({
    kind: line.kind,
    text,
    quantity: line.kind === 'goods' ? line.quantity : null,
    amount: amountText(worked.currency, amount),
    cleared: cleared.toFixed(2),
    difference: difference.toFixed(2),
    toStock: sum(costs.map(({ toStock }) => toStock)).toFixed(2),
    words,
  })),
  ...(worked.ahead.length > 0 ? { entry: [], words: ['It waits: nothing is posted until the goods have come.'] } : worked.entry.effects()),
});

const other = alias(bill, 'other_bill');
const otherLine = alias(billLine, 'other_line');

/** A bill for a charge that another bill has settled since stays: what the last one left to variance rests on it. */
async function refuseSettled({ tx }: Act, id: number, number: string): Promise<void> {
  const [settled] = await tx.db
    .select({ charge: sql<string>`${landedSheet.number} || ', ' || ${landedCharge.name}`, by: other.number })
    .from(billLine)
    .innerJoin(landedCharge, eq(landedCharge.id, billLine.chargeId))
    .innerJoin(landedSheet, eq(landedSheet.id, landedCharge.sheetId))
    .innerJoin(otherLine, and(eq(otherLine.chargeId, landedCharge.id), otherLine.final, ne(otherLine.billId, billLine.billId)))
    .innerJoin(other, eq(other.id, otherLine.billId))
    .where(and(eq(billLine.billId, id), isNotNull(landedCharge.settledAt), isNotNull(other.postedAt), isNull(other.undoneAt)))
    .limit(1);
  if (settled) throw new Refusal(409, 'rests-on-it', `${settled.by} settled ${settled.charge} after ${number}. Undo ${settled.by} first.`);
}

/** A bill whose goods a credit takes off again stays until that is undone. */
async function refuseCredited({ tx }: Act, id: number, number: string): Promise<void> {
  const { db } = tx;
  const mine = db
    .select({ lineId: sql<number>`${billLine.purchaseLineId}`.as('mine_line'), quantity: sql<string>`sum(${billLine.quantity})`.as('mine_quantity') })
    .from(billLine)
    .innerJoin(bill, eq(bill.id, billLine.billId))
    .where(and(eq(bill.id, id), eq(bill.kind, 'bill'), isNotNull(billLine.quantity)))
    .groupBy(billLine.purchaseLineId)
    .as('mine');
  const [credited] = await db
    .select({ by: other.number, what: sql<string>`${purchaseOrder.number} || ' line ' || ${purchaseLine.position}` })
    .from(mine)
    .innerJoin(purchaseLine, eq(purchaseLine.id, mine.lineId))
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(otherLine, and(eq(otherLine.purchaseLineId, purchaseLine.id), isNotNull(otherLine.quantity)))
    .innerJoin(other, and(eq(other.id, otherLine.billId), eq(other.kind, 'credit'), isNotNull(other.postedAt), isNull(other.undoneAt)))
    .where(sql`${purchaseLine.billed} < ${mine.quantity}`)
    .orderBy(desc(other.id))
    .limit(1);
  if (credited) throw new Refusal(409, 'rests-on-it', `${credited.by} credits what ${number} bills on ${credited.what}. Undo ${credited.by} first.`);
}

/** Undoes a bill: what it cleared is open again, and everything it posted is turned round; what has left with goods since stays with them. */
export async function undoBill(act: Act, id: number): Promise<contract.BookEffects> {
  const { form, number, state, paid } = await formOf(act, id);
  await lockFor(act, form, id);
  if (state === 'undone') throw new Refusal(409, 'already-undone', `${number} was undone already.`);
  if (paid) throw new Refusal(409, 'paid', `${number} has payments. Undo those first.`);
  await refuseSettled(act, id, number);
  await refuseCredited(act, id, number);
  const entry = await Entry.open(act);
  if (state !== 'waiting') {
    const lineIds = linesOf(form);
    const receipts = await receiptLines(act, { purchaseLineIds: lineIds });
    const receiptOf = (lineId: number) => receipts.find((one) => one.lineId === lineId) as ReceiptLine;
    const written = await writtenCosts(act, id);
    const costs = planUndone(
      written.map((cost): PostedCost => ({ ...cost, bearer: receiptOf(cost.lineId) })),
      poolsOf(receipts),
    );
    const posted = await postedLines(act, 'bill', id);
    turnRound(
      entry,
      posted.filter(({ purpose }) => purpose !== 'grni' && purpose !== 'credits-expected'),
      costs,
      { inventory: (lineId) => receiptOf(lineId).inventoryAccount, goneTo: () => 'price-variance' },
    );
    await openAgain(act, entry, id);
    if (!act.tx.readOnly) {
      await count(act, id, -1);
      await writeCosts(
        act,
        act.today,
        'billed price undone',
        costs.map((cost, index) => ({
          ...cost,
          amount: cost.posted.amount.neg(),
          variance: cost.variance.minus(cost.posted.variance),
          here: receiptOf(cost.lineId).here,
          billLineId: written[index]?.billLineId ?? null,
        })),
      );
      await writeEntry(act, { effectiveOn: act.today, text: `${number} undone`, billId: id }, entry);
      await clearCents(act, lineIds, act.today);
    }
  }
  if (!act.tx.readOnly) await act.tx.db.update(bill).set({ undoneAt: act.now.toISOString() }).where(eq(bill.id, id));
  return entry.effects();
}

/** What a bill's price differences did to cost, the last first. */
async function writtenCosts({ tx }: Act, id: number): Promise<(Omit<PostedCost, 'bearer'> & { billLineId: number; lineId: number })[]> {
  const rows = await tx.db
    .select({
      billLineId: billLine.id,
      lineId: sql<number>`${costChange.movementLineId}`,
      amount: costChange.amount,
      whole: sql<string>`${costChange.whole}`,
      here: sql<string>`coalesce(${costChange.here}, 0)`,
      variance: costChange.variance,
    })
    .from(costChange)
    .innerJoin(billLine, eq(billLine.id, costChange.billLineId))
    .where(eq(billLine.billId, id))
    .orderBy(desc(costChange.id));
  return rows.map(({ billLineId, lineId, amount, whole, here, variance }) => ({
    billLineId,
    lineId,
    amount: decimal(whole),
    toStock: decimal(amount),
    variance: decimal(variance),
    fellOn: { weight: decimal(here), amount: decimal(1) },
  }));
}

/** What a bill cleared waits for a bill again, or takes a credit off that was expected. */
async function openAgain({ tx }: Act, entry: Entry, id: number): Promise<void> {
  const goods = await tx.db
    .select({ id: purchaseLine.id, cleared: billLine.cleared, open: sql<string>`${purchaseLine.receivedValue} - ${purchaseLine.billedValue}` })
    .from(billLine)
    .innerJoin(purchaseLine, eq(purchaseLine.id, billLine.purchaseLineId))
    .where(eq(billLine.billId, id))
    .orderBy(billLine.id);
  const open = new Map(goods.map((line) => [line.id, decimal(line.open)]));
  for (const line of goods) clearGoods(entry, open, line.id, decimal(line.cleared).neg());
}
