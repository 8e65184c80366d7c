import { and, eq, gt, lte, max, sql, type SQL } from 'drizzle-orm';
import { unionAll, type PgColumn } from 'drizzle-orm/pg-core';
import type { Db } from '../db/database';
import { costChange, keptMonth, monthBalance, monthPool, movementLine } from '../db/schema/index';

/** A day in the past, and the end of a month before it from which it is reckoned; null where none is kept. */
export interface PastDay {
  day: string;
  since: string | null;
}

/** From where a day is reckoned: the last end of a month up to it that is kept. */
export async function pastDay(db: Db, day: string): Promise<PastDay> {
  const [kept] = await db
    .select({ month: max(keptMonth.month) })
    .from(keptMonth)
    .where(lte(keptMonth.month, day));
  return { day, since: kept?.month ?? null };
}

/** Dated after the end of the month that it is reckoned from, and not after the day. */
const within = ({ day, since }: PastDay, on: typeof movementLine.effectiveOn | typeof costChange.effectiveOn): SQL | undefined =>
  and(lte(on, day), since === null ? undefined : gt(on, since));

/** What of it is looked at. */
export interface Of {
  /** Only of this item. */
  itemId?: number | undefined;
  /** Only in this place. */
  placeId?: number | undefined;
}

/** What owned places held at the end of the day, as parts that add up: to be summed by whatever is asked. */
export function heldParts(db: Db, past: PastDay, { itemId, placeId }: Of = {}) {
  const ofItem = (column: PgColumn) => (itemId === undefined ? undefined : eq(column, itemId));
  const ofPlace = (column: PgColumn) => (placeId === undefined ? undefined : eq(column, placeId));
  const moved = (at: PgColumn, quantity: SQL<string>) =>
    db
      .select({
        itemId: sql<number>`${movementLine.itemId}`.as('part_item'),
        placeId: sql<number>`${at}`.as('part_place'),
        lotId: sql<number | null>`${movementLine.lotId}`.as('part_lot'),
        quantity: quantity.as('part_quantity'),
      })
      .from(movementLine)
      .where(and(within(past, movementLine.effectiveOn), ofItem(movementLine.itemId), ofPlace(at)));
  const kept = db
    .select({
      itemId: sql<number>`${monthBalance.itemId}`.as('part_item'),
      placeId: sql<number>`${monthBalance.placeId}`.as('part_place'),
      lotId: sql<number | null>`${monthBalance.lotId}`.as('part_lot'),
      quantity: sql<string>`${monthBalance.quantity}`.as('part_quantity'),
    })
    .from(monthBalance)
    .where(and(past.since === null ? sql`false` : eq(monthBalance.month, past.since), ofItem(monthBalance.itemId), ofPlace(monthBalance.placeId)));
  return unionAll(
    kept,
    moved(movementLine.toPlaceId, sql<string>`${movementLine.quantity}`),
    moved(movementLine.fromPlaceId, sql<string>`-${movementLine.quantity}`),
  ).as('held_part');
}

/** What each item's pool was worth at the end of the day, over all sites. */
export function worthOf(db: Db, past: PastDay, { itemId }: Of = {}) {
  const ofItem = (column: PgColumn) => (itemId === undefined ? undefined : eq(column, itemId));
  const parts = unionAll(
    db
      .select({ itemId: sql<number>`${monthPool.itemId}`.as('worth_item'), value: sql<string>`${monthPool.value}`.as('worth_value') })
      .from(monthPool)
      .where(and(past.since === null ? sql`false` : eq(monthPool.month, past.since), ofItem(monthPool.itemId))),
    db
      .select({ itemId: sql<number>`${movementLine.itemId}`.as('worth_item'), value: sql<string>`${movementLine.value}`.as('worth_value') })
      .from(movementLine)
      .where(and(within(past, movementLine.effectiveOn), ofItem(movementLine.itemId))),
    db
      .select({ itemId: sql<number>`${costChange.itemId}`.as('worth_item'), value: sql<string>`${costChange.amount}`.as('worth_value') })
      .from(costChange)
      .where(and(within(past, costChange.effectiveOn), ofItem(costChange.itemId))),
  ).as('worth_part');
  return db
    .select({ itemId: sql<number>`${parts.itemId}`.as('worth_of_item'), value: sql<string>`sum(${parts.value})`.as('worth') })
    .from(parts)
    .groupBy(parts.itemId);
}
