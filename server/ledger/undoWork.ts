import { decimal, sum, zero } from '@larder/core/decimal';
import type { PostedMovement } from '@larder/core/ledger/reversal';
import { refuseField } from '@larder/core/refusal';
import { and, desc, eq, gt, isNull, ne, or, sql, type SQL } from 'drizzle-orm';
import { unionAll, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import type { Db } from '../db/database';
import { among } from '../db/given';
import { jsonValues } from '../db/json';
import {
  componentLine,
  componentTerms,
  documentLine,
  movementLine,
  place,
  productLine,
  productTerms,
  standingMovement,
  workAmount,
  workOrder,
  workProgress,
  workRecord,
} from '../db/schema/index';
import { recordChanges } from '../documents/changes';
import { changeDemand } from './changeDemand';

/** Undoing what was posted of work orders: what rests on it, what it charged, and how its order stands afterwards. */

/** The work orders that a movement is of: by its lines, by what it charged, or as what parted a rest from them. */
export function workOrdersOf(db: Db, movementId: PgColumn): SQL<number[]> {
  const all = unionAll(
    db
      .select({ id: componentTerms.workOrderId })
      .from(movementLine)
      .innerJoin(componentTerms, eq(componentTerms.id, movementLine.demandLineId))
      .where(eq(movementLine.movementId, movementId)),
    db
      .select({ id: productTerms.workOrderId })
      .from(movementLine)
      .innerJoin(productTerms, eq(productTerms.id, movementLine.supplyLineId))
      .where(eq(movementLine.movementId, movementId)),
    db.select({ id: workRecord.workOrderId }).from(workRecord).where(eq(workRecord.movementId, movementId)),
    db.select({ id: workAmount.workOrderId }).from(workAmount).where(eq(workAmount.movementId, movementId)),
    db.select({ id: workOrder.id }).from(workOrder).where(eq(workOrder.restBy, movementId)),
  ).as('works');
  return sql<number[]>`(${db.select({ ids: jsonValues(all.id, { distinct: true }) }).from(all)})`;
}

/** What a movement did to work, so that it is turned round; null for what was none. Refuses, saying what to undo first, what something rests on. The work orders are locked. */
export async function workPosted(act: Act, movementId: number, orderIds: readonly number[]): Promise<PostedMovement['work'] | null> {
  if (orderIds.length === 0) return null;
  const { db } = act.tx;
  const [record] = await db.select().from(workRecord).where(eq(workRecord.movementId, movementId));
  const amounts = await db.select().from(workAmount).where(eq(workAmount.movementId, movementId)).orderBy(workAmount.id);
  const rests = await db.select().from(workOrder).where(eq(workOrder.restBy, movementId));
  for (const rest of rests) await refuseBegun(act, movementId, rest);
  const carried = amounts.find(({ kind, amount }) => kind === 'carried' && Number(amount) < 0);
  const orderId = record?.workOrderId ?? carried?.workOrderId ?? amounts[0]?.workOrderId ?? (await usedFor(act, movementId));
  if (orderId === null) {
    await refuseEndedSince(act, movementId, orderIds);
    return null;
  }
  await refuseLater(act, movementId, orderId);
  const [progress] = await db.select({ value: workProgress.value }).from(workProgress).where(eq(workProgress.workOrderId, orderId));
  const to = amounts.find(({ kind, amount }) => kind === 'carried' && Number(amount) > 0);
  return {
    orderId,
    before: decimal(progress?.value ?? 0),
    charges: amounts.flatMap(({ kind, accountId, name, per, quantity, rate, amount }) =>
      kind === 'charge' && accountId !== null && per !== null
        ? [{ accountId, name, per, quantity: decimal(quantity ?? 0), rate: decimal(rate ?? 0), amount: decimal(amount) }]
        : [],
    ),
    carried: carried && to ? { toOrderId: to.workOrderId, amount: decimal(to.amount) } : null,
    variance: sum(amounts.flatMap(({ kind, amount }) => (kind === 'variance' ? [decimal(amount).neg()] : []))),
  };
}

/** The order whose parts a movement without a record used: what was recorded late. */
async function usedFor({ tx: { db } }: Act, movementId: number): Promise<number | null> {
  const [used] = await db
    .select({ id: componentTerms.workOrderId })
    .from(movementLine)
    .innerJoin(componentTerms, eq(componentTerms.id, movementLine.demandLineId))
    .where(and(eq(movementLine.movementId, movementId), ne(movementLine.value, '0.00')))
    .limit(1);
  return used?.id ?? null;
}

const numberOf = async ({ tx: { db } }: Act, id: number): Promise<string> => {
  const [row] = await db.select({ number: workOrder.number }).from(workOrder).where(eq(workOrder.id, id));
  return row?.number ?? '';
};

/** What was taken for an order that has ended since stays as it is, until that is undone. */
async function refuseEndedSince({ tx: { db } }: Act, movementId: number, orderIds: readonly number[]): Promise<void> {
  const [ended] = await db
    .select({ number: workOrder.number, cancelled: sql<boolean>`${workOrder.cancelledAt} is not null` })
    .from(workOrder)
    .innerJoin(componentTerms, eq(componentTerms.workOrderId, workOrder.id))
    .innerJoin(movementLine, and(eq(movementLine.demandLineId, componentTerms.id), eq(movementLine.movementId, movementId)))
    .innerJoin(place, and(eq(place.kind, 'bin'), or(eq(place.id, movementLine.fromPlaceId), eq(place.id, movementLine.toPlaceId))))
    .where(and(among(workOrder.id, orderIds), or(sql`${workOrder.endedAt} is not null`, sql`${workOrder.cancelledAt} is not null`)));
  if (!ended) return;
  const first = ended.cancelled ? `Open ${ended.number} again first.` : `Undo what completed ${ended.number} first.`;
  throw refuseField(409, 'rests-on-it', 'movementId', `${ended.number} is ${ended.cancelled ? 'cancelled' : 'completed'}. ${first}`);
}

/** The rest of an order is taken back only while nothing was done on it. */
async function refuseBegun({ tx: { db } }: Act, movementId: number, rest: typeof workOrder.$inferSelect): Promise<void> {
  const [begun] = await db
    .select({ id: standingMovement.id })
    .from(movementLine)
    .innerJoin(standingMovement, eq(standingMovement.id, movementLine.movementId))
    .leftJoin(componentTerms, eq(componentTerms.id, movementLine.demandLineId))
    .leftJoin(productTerms, eq(productTerms.id, movementLine.supplyLineId))
    .where(and(or(eq(componentTerms.workOrderId, rest.id), eq(productTerms.workOrderId, rest.id)), ne(standingMovement.id, movementId)))
    .limit(1);
  const [records] = await db
    .select({ id: workRecord.movementId })
    .from(workRecord)
    .innerJoin(standingMovement, eq(standingMovement.id, workRecord.movementId))
    .where(eq(workRecord.workOrderId, rest.id))
    .limit(1);
  if (begun || records) throw refuseField(409, 'rests-on-it', 'movementId', `${rest.number} goes on with this already. Undo what was done there first.`);
}

/** Records are undone from the last: what came out of work in progress rests on what went in before. */
async function refuseLater(act: Act, movementId: number, orderId: number): Promise<void> {
  const { db } = act.tx;
  const [later] = await db
    .select({ id: workAmount.movementId })
    .from(workAmount)
    .innerJoin(standingMovement, eq(standingMovement.id, workAmount.movementId))
    .where(and(eq(workAmount.workOrderId, orderId), gt(workAmount.movementId, movementId)))
    .union(
      db
        .select({ id: workRecord.movementId })
        .from(workRecord)
        .innerJoin(standingMovement, eq(standingMovement.id, workRecord.movementId))
        .where(and(eq(workRecord.workOrderId, orderId), gt(workRecord.movementId, movementId))),
    )
    .orderBy(desc(sql`1`))
    .limit(1);
  const [rest] = await db
    .select({ number: workOrder.number })
    .from(workOrder)
    .where(and(eq(workOrder.restOfId, orderId), isNull(workOrder.cancelledAt), ne(workOrder.restBy, movementId)));
  if (rest) throw refuseField(409, 'rests-on-it', 'movementId', `${rest.number} is the rest of ${await numberOf(act, orderId)}. Undo what parted them first.`);
  if (later)
    throw refuseField(
      409,
      'rests-on-it',
      'movementId',
      `More was recorded on ${await numberOf(act, orderId)} since. Undo that first, the last one before the others.`,
    );
}

/** How work orders stand once a movement of them is undone: what a record made is to be made again, an order that it ended goes on, and the rest that it parted is cancelled. */
export async function takeWorkBack(act: Act, movementId: number): Promise<void> {
  if (act.tx.readOnly) return;
  const { db } = act.tx;
  const rests = await db.select().from(workOrder).where(eq(workOrder.restBy, movementId));
  for (const rest of rests) {
    await makeAgain(act, rest);
    await decideLines(act, rest.id, 'ended', { cancelledAt: act.now.toISOString(), cancelledBy: act.by.id });
    await recordChanges(act, 'work order', rest.id, {}, { decided: 'cancelled: what parted it was undone' });
    if (rest.restOfId !== null) await goesOn(act, rest.restOfId);
  }
  const [record] = await db.select().from(workRecord).where(eq(workRecord.movementId, movementId));
  if (!record) return;
  const [order] = await db.select({ apart: workOrder.apart }).from(workOrder).where(eq(workOrder.id, record.workOrderId));
  if (order?.apart) {
    await decideLines(act, record.workOrderId, 'ended', { endedAt: null, endedBy: null, cancelledAt: act.now.toISOString(), cancelledBy: act.by.id });
    await recordChanges(act, 'work order', record.workOrderId, {}, { decided: 'put together again: it was undone' });
    return;
  }
  const main = await mainOf(act, record.workOrderId);
  const rest = decimal(record.rest);
  const notMade = rest.gt(zero) ? rest : zero;
  const beyond = rest.lt(zero) ? rest.neg() : zero;
  if (main) {
    await db
      .update(documentLine)
      .set({
        cancelled: sql`${documentLine.cancelled} - ${notMade.plus(record.scrapped).toFixed()}`,
        baseQuantity: sql`${documentLine.baseQuantity} - ${beyond.toFixed()}`,
      })
      .where(eq(documentLine.id, main.id));
    await db
      .update(productTerms)
      .set({ scrapped: sql`${productTerms.scrapped} - ${record.scrapped}` })
      .where(eq(productTerms.id, main.id));
  }
  if (record.ended) await goesOn(act, record.workOrderId);
}

/** What an order is for. */
async function mainOf({ tx: { db } }: Act, workOrderId: number) {
  const [main] = await db
    .select({ id: productLine.id, quantity: productLine.quantity })
    .from(productLine)
    .where(and(eq(productLine.workOrderId, workOrderId), sql`${productLine.position} = 1`));
  return main;
}

/** What was to be made as the rest of an order is to be made on that order again. */
async function makeAgain(act: Act, rest: typeof workOrder.$inferSelect): Promise<void> {
  const [part, origin] = [await mainOf(act, rest.id), rest.restOfId === null ? undefined : await mainOf(act, rest.restOfId)];
  if (part && origin)
    await act.tx.db
      .update(documentLine)
      .set({ cancelled: sql`${documentLine.cancelled} - ${part.quantity}` })
      .where(eq(documentLine.id, origin.id));
}

/** An order that had ended goes on: its parts are wanted again. */
async function goesOn(act: Act, id: number): Promise<void> {
  const [order] = await act.tx.db
    .select({ ended: sql<boolean>`${workOrder.endedAt} is not null` })
    .from(workOrder)
    .where(eq(workOrder.id, id));
  if (!order?.ended) return;
  await decideLines(act, id, 'wanted', { endedAt: null, endedBy: null });
  await recordChanges(act, 'work order', id, {}, { decided: 'goes on: what completed it was undone' });
}

/** Decides on an order, and with it what its parts want. */
async function decideLines(act: Act, id: number, becomes: 'wanted' | 'ended', set: Partial<typeof workOrder.$inferInsert>): Promise<void> {
  const { db } = act.tx;
  const lines = await db
    .select({ id: componentLine.id, itemId: componentLine.itemId, siteId: componentLine.siteId })
    .from(componentLine)
    .where(and(eq(componentLine.workOrderId, id), componentLine.stocked));
  await changeDemand(act, { decided: lines.map((line) => ({ ...line, becomes })) }, async () => {
    await db
      .update(workOrder)
      .set({ ...set, version: sql`${workOrder.version} + 1` })
      .where(eq(workOrder.id, id));
    return undefined;
  });
}
