import { dayOf } from '@larder/core/day';
import { decimal, greatest, least, zero } from '@larder/core/decimal';
import { costMethods } from '@larder/core/costing/method';
import { goodsOpen } from '@larder/core/ledger/goodsOpen';
import type { Movement, MovementLine } from '@larder/core/ledger/types';
import { and, desc, eq, inArray, isNotNull, isNull, like, not, or, sql } from 'drizzle-orm';
import { positive, notNone } from '../db/given';
import type { Tracking } from '@larder/core/stock/lots';
import type pg from 'pg';
import { actOf, type Act } from '../act';
import { transaction } from '../db/database';
import {
  balance,
  bill,
  company,
  costChange,
  costLayer,
  item,
  itemDay,
  lineSettlement,
  lot,
  movement,
  movementLine,
  payment,
  person,
  place,
  costPool,
  purchaseLine,
  purchaseOrder,
  undoneLine,
} from '../db/schema/index';
import { post } from './door';
import { Entry, writeEntry } from './entry';
import { lock } from './lock';
import { moveStrandedValue } from './pastDays';
import { clearCents, linesWithCents } from './clearCents';
import { readState } from './state';

/** How many repairs there are: a business founded now needs none of them. */
export const repairs = 1;

/**
 * Puts right, once for each database, the cents that earlier versions left: by ordinary entries of today that say so. Returns what was put right, in words.
 * Books that are right already stay as they are.
 */
export async function repair(database: pg.Pool, now: Date): Promise<string[]> {
  return transaction(database, 'write', async (tx) => {
    const [business] = await tx.db.select({ zone: company.timeZone, repaired: company.repaired }).from(company).for('update');
    const [by] = await tx.db.select({ id: person.id, name: person.name, email: person.email }).from(person).orderBy(person.id).limit(1);
    if (!business || !by || business.repaired >= repairs) return [];
    const act = actOf({ tx, by: { ...by, grants: [] }, now, today: dayOf(now, business.zone) });
    const done = [
      ...(await receivedAmounts(act)),
      ...(await openLines(act)),
      ...(await paidBills(act)),
      ...(await undoneDocuments(act)),
      ...(await untracked(act)),
      ...(await pastDays(act)),
    ];
    await tx.db.update(company).set({ repaired: repairs });
    return done;
  });
}

/** What came in on a line is the cumulative share of its amount: receipts undone in between left cents. */
async function receivedAmounts(act: Act): Promise<string[]> {
  const { db } = act.tx;
  const fit = sql`round(round(${purchaseLine.amount} * ${purchaseLine.rate}, 2) * ${purchaseLine.received} / ${purchaseLine.baseQuantity}, 2)`;
  const last = db
    .select({ came: sql<boolean>`${place.kind} = 'supplier' and ${movement.reverses} is null`.as('came') })
    .from(movementLine)
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .innerJoin(place, eq(place.id, movementLine.fromPlaceId))
    .where(eq(movementLine.supplyLineId, purchaseLine.id))
    .orderBy(desc(movementLine.id))
    .limit(1)
    .as('last_move');
  const rows = await db
    .select({
      id: purchaseLine.id,
      label: sql<string>`${purchaseOrder.number} || ' line ' || ${purchaseLine.position}`,
      open: sql<string>`${purchaseLine.receivedValue} - ${purchaseLine.billedValue}`,
      missing: sql<string>`${fit} - ${purchaseLine.receivedValue}`,
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoinLateral(last, sql`${last.came}`)
    .where(sql`${purchaseLine.receivedValue} <> ${fit}`)
    .orderBy(purchaseLine.id);
  for (const { id, label, open, missing } of rows) {
    await db.insert(lineSettlement).values({ purchaseLineId: id, received: missing });
    const { grni, creditsExpected } = goodsOpen(decimal(open), decimal(open).plus(missing));
    const entry = await Entry.open(act);
    entry.add('grni', grni);
    entry.add('credits-expected', creditsExpected);
    entry.add('price-variance', decimal(missing));
    await writeEntry(act, { effectiveOn: act.today, text: `put right: what came in on ${label} was off by ${missing}` }, entry);
  }
  return rows.map(({ label, missing }) => `what came in on ${label} was off by ${missing}`);
}

/** A line as much billed as received has nothing open. */
async function openLines(act: Act): Promise<string[]> {
  const rows = await linesWithCents(act);
  await clearCents(
    act,
    rows.map(({ id }) => id),
    act.today,
  );
  return rows.map(({ label, open }) => `${label} was billed whole and had ${open} open`);
}

/** A paid bill owes nothing: the last payment takes the rest. */
async function paidBills(act: Act): Promise<string[]> {
  const { db } = act.tx;
  const paid = db
    .select({
      billId: payment.billId,
      paid: sql<string>`sum(${payment.amount})`.as('paid'),
      settled: sql<string>`sum(${payment.settled})`.as('paid_off'),
      last: sql<number>`max(${payment.id})`.as('last'),
    })
    .from(payment)
    .where(isNull(payment.undoneAt))
    .groupBy(payment.billId)
    .as('paid_of_bill');
  const rows = await db
    .select({
      id: bill.id,
      number: bill.number,
      credit: sql<boolean>`${bill.kind} = 'credit'`,
      left: sql<string>`${bill.owed} - ${paid.settled}`,
      paymentId: paid.last,
    })
    .from(bill)
    .innerJoin(paid, eq(paid.billId, bill.id))
    .where(and(isNotNull(bill.postedAt), isNull(bill.undoneAt), sql`${paid.paid} = ${bill.net} + ${bill.tax}`, sql`${paid.settled} <> ${bill.owed}`))
    .orderBy(bill.id);
  for (const { id, number, credit, left, paymentId } of rows) {
    await db
      .update(payment)
      .set({ settled: sql`${payment.settled} + ${left}`, exchange: sql`${payment.exchange} - ${left}` })
      .where(eq(payment.id, paymentId));
    const amount = credit ? decimal(left).neg() : decimal(left);
    const entry = await Entry.open(act);
    entry.add('payable', amount);
    entry.add('exchange-difference', amount.neg());
    await writeEntry(act, { effectiveOn: act.today, text: `put right: ${number} was paid and owed ${left}`, billId: id, paymentId }, entry);
  }
  return rows.map(({ number, left }) => `${number} was paid and owed ${left}`);
}

/** What is left on each account of documents that were undone though no goods of theirs had moved. */
function leftOf({ db }: Act['tx']) {
  const concerned = and(not(undoneLine.moved), sql`coalesce(${undoneLine.purpose}, '') not in ('grni', 'credits-expected')`);
  const off = db
    .select({ number: undoneLine.number })
    .from(undoneLine)
    .where(and(concerned, or(eq(undoneLine.type, 'inventory'), eq(undoneLine.purpose, 'cost-variance'))))
    .groupBy(undoneLine.number)
    .having(sql`sum(${undoneLine.amount}) <> 0`);
  const { kind, id, number, accountId, itemId } = undoneLine;
  const stock = sql<boolean>`${undoneLine.type} = 'inventory'`;
  return db
    .select({ kind, id, number, accountId, itemId, stock, left: sql<string>`sum(${undoneLine.amount})` })
    .from(undoneLine)
    .where(and(concerned, inArray(undoneLine.number, off)))
    .groupBy(kind, id, number, accountId, itemId, stock)
    .having(sql`sum(${undoneLine.amount}) <> 0`)
    .orderBy(kind, id);
}
type Left = Awaited<ReturnType<typeof leftOf>>[number];

/** What an undone bill or worksheet left on accounts though no goods had moved comes off; of stock no more than it is worth. */
async function undoneDocuments(act: Act): Promise<string[]> {
  const rows = await leftOf(act.tx);
  for (const number of new Set(rows.map((row) => row.number)))
    await turnRest(
      act,
      rows.filter((row) => row.number === number),
    );
  return [...new Set(rows.map(({ number }) => number))].map(
    (number) =>
      `${number} was undone and had left ${rows
        .filter((row) => row.number === number && row.stock)
        .map(({ left }) => left)
        .join(', ')} in stock`,
  );
}

async function turnRest(act: Act, rows: readonly Left[]): Promise<void> {
  const [first] = rows;
  if (!first) return;
  await lock.pools(
    act,
    rows.flatMap(({ itemId }) => (itemId === null ? [] : [itemId])),
  );
  const entry = await Entry.open(act);
  for (const { accountId, itemId, stock, left } of rows) {
    if (!stock || itemId === null) {
      entry.add(accountId, decimal(left).neg(), itemId);
      continue;
    }
    // Of a pool, or of its newest layer, no more than it is worth comes off.
    const newest = act.tx.db
      .select({ value: costLayer.value, line: movementLine.id })
      .from(costLayer)
      .innerJoin(movementLine, and(eq(movementLine.itemId, costLayer.itemId), eq(movementLine.seq, costLayer.seq)))
      .where(and(eq(costLayer.itemId, costPool.itemId), positive(costLayer.quantity)))
      .orderBy(desc(costLayer.value), desc(costLayer.seq))
      .limit(1)
      .as('newest');
    const [held] = await act.tx.db
      .select({ value: sql<string>`coalesce(${newest.value}, ${costPool.value})`, quantity: costPool.quantity, lineId: newest.line, lastSeq: costPool.lastSeq })
      .from(costPool)
      .leftJoinLateral(newest, sql`true`)
      .where(eq(costPool.itemId, itemId));
    if (!held) throw new Error('an item has no pool');
    const worth = decimal(held.quantity).isZero() ? zero : decimal(held.value);
    const off = decimal(left).gt(0) ? least(decimal(left), worth) : worth.isZero() ? zero : decimal(left);
    entry.add(accountId, off.neg(), itemId);
    entry.add('cost-variance', off.minus(left));
    if (!off.isZero())
      await act.tx.db.insert(costChange).values({
        itemId,
        movementLineId: held.lineId,
        amount: off.neg().toFixed(2),
        cause: 'put right',
        effectiveOn: act.today,
        seq: held.lastSeq + 1,
      });
  }
  const of = first.kind === 'bill' ? { billId: first.id } : { sheetId: first.id };
  await writeEntry(act, { effectiveOn: act.today, text: `put right: what ${first.number} left when it was undone`, ...of }, entry);
}

/** What lies without a lot though its item is kept by lots, or with one though it is not, gets one, or loses it. */
async function untracked(act: Act): Promise<string[]> {
  const { db } = act.tx;
  const rows = await db
    .select({
      itemId: balance.itemId,
      sku: item.sku,
      tracking: item.tracking,
      lotId: balance.lotId,
      placeId: balance.placeId,
      place: place.code,
      quantity: sql<string>`trim_scale(${balance.quantity})`,
    })
    .from(balance)
    .innerJoin(item, eq(item.id, balance.itemId))
    .innerJoin(place, eq(place.id, balance.placeId))
    .leftJoin(lot, eq(lot.id, balance.lotId))
    .where(and(balance.owned, positive(balance.quantity), sql`coalesce(${lot.kind}, 'none') <> ${item.tracking}`))
    .orderBy(balance.itemId, balance.placeId);
  const [relabelled] = await db
    .select({ id: place.id })
    .from(place)
    .where(and(eq(place.kind, 'relabel'), isNull(place.siteId)));
  if (!relabelled) throw new Error('there is no place for what is relabelled');
  for (const row of rows) await relabel(act, row, relabelled.id);
  return rows.map(
    ({ sku, quantity, place: bin, tracking }) => `${quantity} of ${sku} at ${bin} lay there ${tracking === 'none' ? 'with' : 'without'} a lot or serial`,
  );
}

async function relabel(
  act: Act,
  { itemId, lotId, placeId, tracking, quantity }: { itemId: number; lotId: number | null; placeId: number; tracking: Tracking; quantity: string },
  relabelId: number,
): Promise<void> {
  await lock.pools(act, [itemId]);
  const parts = tracking === 'serial' ? Array.from({ length: Math.ceil(Number(quantity)) }, () => decimal(1)) : [decimal(quantity)];
  for (const part of parts) {
    const out: MovementLine = {
      itemId,
      lotId,
      quantity: part,
      fromPlaceId: placeId,
      toPlaceId: relabelId,
      valuation: { by: 'current' },
      serves: [],
      field: 'lines',
    };
    const relabelling: Movement = {
      kind: 'relabel',
      effectiveOn: act.today,
      lines: [out],
      reasonId: null,
      reversesId: null,
      note: 'put right: its lot was not known',
    };
    const state = (await readState(act, relabelling)).items.get(itemId);
    if (!state) throw new Error('the item was not read');
    const { value } = costMethods[state.costMethod].take(state, { quantity: part, lotId, named: [] });
    const back: MovementLine = {
      ...out,
      lotId: tracking === 'none' ? null : await unknownLot(act, itemId, tracking),
      fromPlaceId: relabelId,
      toPlaceId: placeId,
      valuation: { by: 'stated', value: greatest(value, zero) },
    };
    await post(act, { ...relabelling, lines: [out, back] });
  }
}

/** A new lot, or serial, whose code is not known. */
async function unknownLot({ tx: { db } }: Act, itemId: number, kind: 'lot' | 'serial'): Promise<number> {
  const number = (await db.$count(lot, and(eq(lot.itemId, itemId), like(lot.code, 'UNKNOWN-%')))) + 1;
  const [made] = await db
    .insert(lot)
    .values({ itemId, kind, code: `UNKNOWN-${number}` })
    .returning({ id: lot.id });
  if (!made) throw new Error('the lot was not written');
  return made.id;
}

/** No value of stock on any day without stock. */
async function pastDays(act: Act): Promise<string[]> {
  const rows = await act.tx.db
    .select({ itemId: itemDay.itemId, sku: item.sku, day: sql<string>`min(${itemDay.day})` })
    .from(itemDay)
    .innerJoin(item, eq(item.id, itemDay.itemId))
    .where(and(eq(itemDay.quantity, '0'), notNone(itemDay.value)))
    .groupBy(itemDay.itemId, item.sku)
    .orderBy(itemDay.itemId);
  await lock.pools(
    act,
    rows.map(({ itemId }) => itemId),
  );
  for (const { itemId, day } of rows) await moveStrandedValue(act, [itemId], day);
  return rows.map(({ sku, day }) => `${sku} had a value without stock on ${day}`);
}
