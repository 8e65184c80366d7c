import { addDays, daysBetween, type Day } from '@larder/core/day';
import type { DemandDay } from '@larder/core/planning/forecast/demandDays';
import { weeksOfYear } from '@larder/core/planning/suggestion';
import { and, eq, gte, isNotNull, isNull, lt, sql, type SQL } from 'drizzle-orm';
import { alias, unionAll, type PgColumn } from 'drizzle-orm/pg-core';
import type { Db } from '../../db/database';
import { among, atSites } from '../../db/given';
import {
  company,
  componentLine,
  demandBefore,
  demandEvent,
  item,
  itemPolicy,
  itemSite,
  movementLine,
  place,
  salesLine,
  salesOrder,
  transfer,
  transferLine,
  workOrder,
} from '../../db/schema/index';

/** How far back the past is looked at: three years of whole weeks, in days. */
const lookedBack = 3 * weeksOfYear * 7;

/** Which items are looked at, at which sites (null: all), and which day is today. */
export interface Looked {
  itemIds: readonly number[];
  sites: readonly number[] | null;
  today: Day;
}

/** Something that is known of an item at a site on a day, in base units. */
interface OnDay {
  itemId: number;
  siteId: number;
  day: Day;
  many: number;
}

/** The past of an item at a site, day by day, from the first on which it was there or wanted until yesterday. */
export interface ItemPast {
  itemId: number;
  siteId: number;
  from: Day;
  days: DemandDay[];
}

/** The day of the business on which a moment falls; the company is joined. */
export const dayOf = (moment: PgColumn): SQL => sql`(${moment} at time zone ${company.timeZone})::date`;
const sumOf = (quantity: SQL | PgColumn): SQL<number> => sql<number>`sum(${quantity})::float8`;

/**
 * What was wanted day by day: of confirmed orders that were not cancelled, on the day they were confirmed; of work, on the day it was released; by a site
 * that is topped up from this one, on the day it asked; what was used up; and what was
 * brought in of the time before. Whether it was there is not asked. What came back was wanted all the same.
 */
async function readWanted(db: Db, { itemIds, sites, today }: Looked): Promise<OnDay[]> {
  const begin = addDays(today, -lookedBack);
  const within = (day: SQL) => and(sql`${day} >= ${begin}`, sql`${day} < ${today}`);
  const of = (itemId: PgColumn, siteId: PgColumn) => and(among(itemId, itemIds), atSites(siteId, sites));
  const confirmed = dayOf(salesOrder.confirmedAt);
  const released = dayOf(workOrder.releasedAt);
  const asked = dayOf(transfer.createdAt);
  const [used, usedFor] = [alias(place, 'used_from'), alias(place, 'used_for')];
  const select = (itemId: PgColumn, siteId: PgColumn, day: SQL, many: SQL<number>) => ({
    itemId: sql<number>`${itemId}`.as('item_id'),
    siteId: sql<number>`${siteId}`.as('site_id'),
    day: sql<Day>`${day}::text`.as('day'),
    many: many.as('many'),
  });
  const [before, ordered, worked, sent, usedUp] = await Promise.all([
    db
      .select(select(demandBefore.itemId, demandBefore.siteId, sql`${demandBefore.day}`, sql<number>`${demandBefore.quantity}::float8`))
      .from(demandBefore)
      .where(and(of(demandBefore.itemId, demandBefore.siteId), within(sql`${demandBefore.day}`))),
    db
      .select(select(salesLine.itemId, salesLine.siteId, confirmed, sumOf(sql`${salesLine.baseQuantity} - ${salesLine.direct}`)))
      .from(salesLine)
      .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
      .crossJoin(company)
      .where(and(of(salesLine.itemId, salesLine.siteId), isNotNull(salesOrder.confirmedAt), isNull(salesOrder.cancelledAt), within(confirmed)))
      .groupBy(sql`1, 2, 3`),
    db
      .select(select(componentLine.itemId, componentLine.siteId, released, sumOf(componentLine.needed)))
      .from(componentLine)
      .innerJoin(workOrder, eq(workOrder.id, componentLine.workOrderId))
      .crossJoin(company)
      .where(and(of(componentLine.itemId, componentLine.siteId), isNull(workOrder.cancelledAt), isNotNull(workOrder.releasedAt), within(released)))
      .groupBy(sql`1, 2, 3`),
    db
      .select(select(transferLine.itemId, transferLine.fromSiteId, asked, sumOf(transferLine.quantity)))
      .from(transferLine)
      .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
      .innerJoin(
        itemPolicy,
        and(eq(itemPolicy.itemId, transferLine.itemId), eq(itemPolicy.siteId, transferLine.toSiteId), eq(itemPolicy.waySiteId, transferLine.fromSiteId)),
      )
      .crossJoin(company)
      .where(and(of(transferLine.itemId, transferLine.fromSiteId), isNull(transfer.cancelledAt), within(asked)))
      .groupBy(sql`1, 2, 3`),
    db
      .select(select(movementLine.itemId, used.siteId, sql`${movementLine.effectiveOn}`, sumOf(movementLine.quantity)))
      .from(movementLine)
      .innerJoin(used, eq(used.id, movementLine.fromPlaceId))
      .innerJoin(usedFor, and(eq(usedFor.id, movementLine.toPlaceId), eq(usedFor.kind, 'own-use')))
      .where(and(of(movementLine.itemId, used.siteId), gte(movementLine.effectiveOn, begin), lt(movementLine.effectiveOn, today)))
      .groupBy(sql`1, 2, 3`),
  ]);
  return [...before, ...ordered, ...worked, ...sent, ...usedUp];
}

/** By how much what lay in bins that are sold from changed, day by day. */
async function readChanges(db: Db, { itemIds, sites, today }: Looked): Promise<OnDay[]> {
  const begin = addDays(today, -lookedBack);
  const side = (placeId: PgColumn, sign: SQL) =>
    db
      .select({
        itemId: sql<number>`${movementLine.itemId}`.as('item_id'),
        siteId: sql<number>`${place.siteId}`.as('site_id'),
        day: sql<Day>`${movementLine.effectiveOn}::text`.as('day'),
        many: sql<number>`${sign} ${movementLine.quantity}`.as('many'),
      })
      .from(movementLine)
      .innerJoin(place, and(eq(place.id, placeId), eq(place.kind, 'bin'), place.sellable))
      .where(and(among(movementLine.itemId, itemIds), atSites(place.siteId, sites), gte(movementLine.effectiveOn, begin)));
  const moved = unionAll(side(movementLine.toPlaceId, sql``), side(movementLine.fromPlaceId, sql`-`)).as('moved');
  return db
    .select({ itemId: moved.itemId, siteId: moved.siteId, day: moved.day, many: sql<number>`sum(${moved.many})::float8` })
    .from(moved)
    .groupBy(moved.itemId, moved.siteId, moved.day);
}

/** Tells an item at a site from others. */
export const pairOf = ({ itemId, siteId }: { itemId: number; siteId: number }): string => `${itemId}/${siteId}`;

function byPair(rows: readonly OnDay[]): Map<string, OnDay[]> {
  const found = new Map<string, OnDay[]>();
  for (const row of rows) {
    const there = found.get(pairOf(row));
    if (there) there.push(row);
    else found.set(pairOf(row), [row]);
  }
  return found;
}

/** Days that are marked not to count. */
async function readApart(db: Db, { itemIds }: Looked) {
  const rows = await db
    .select({ siteId: demandEvent.siteId, itemId: sql<number | null>`${item.id}`, startsOn: demandEvent.startsOn, endsOn: demandEvent.endsOn })
    .from(demandEvent)
    .leftJoin(item, and(among(item.id, itemIds), sql`(${item.id} = ${demandEvent.itemId} or ${item.categoryId} = ${demandEvent.categoryId})`))
    .where(and(eq(demandEvent.counts, false), sql`(${item.id} is not null or num_nonnulls(${demandEvent.itemId}, ${demandEvent.categoryId}) = 0)`));
  return (itemId: number, siteId: number) =>
    rows.filter((one) => (one.itemId === null || one.itemId === itemId) && (one.siteId === null || one.siteId === siteId));
}

/** The past of items at sites at which something of them was ever wanted, within the last three years. */
export async function readPasts(db: Db, looked: Looked): Promise<ItemPast[]> {
  const { itemIds, sites, today } = looked;
  const [wanted, changes, apartOf, standing, madeToOrder] = await Promise.all([
    readWanted(db, looked),
    readChanges(db, looked),
    readApart(db, looked),
    db
      .select({ itemId: itemSite.itemId, siteId: itemSite.siteId, onHand: sql<number>`${itemSite.onHand}::float8` })
      .from(itemSite)
      .where(and(among(itemSite.itemId, itemIds), atSites(itemSite.siteId, sites))),
    db
      .select({ id: item.id })
      .from(item)
      .where(and(among(item.id, itemIds), eq(item.madeToOrder, true))),
  ]);
  const toOrder = new Set(madeToOrder.map(({ id }) => id));
  const [wantedOf, changesOf] = [byPair(wanted), byPair(changes)];
  const onHandOf = new Map(standing.map((row) => [pairOf(row), row.onHand]));
  return [...wantedOf].map(([pair, asked]) => {
    const { itemId, siteId } = asked[0] as OnDay;
    const moved = changesOf.get(pair) ?? [];
    const from = [...asked, ...moved].reduce((first, { day }) => (day < first ? day : first), addDays(today, -1));
    const length = daysBetween(from, today);
    const perDay = new Array<number>(length).fill(0);
    for (const { day, many } of asked) perDay[daysBetween(from, day)] = (perDay[daysBetween(from, day)] ?? 0) + many;
    // What is put together when it is ordered need not lie there.
    const there = toOrder.has(itemId) ? new Array<boolean>(length).fill(true) : heldOn(length, from, onHandOf.get(pair) ?? 0, moved);
    const apart = new Array<boolean>(length).fill(false);
    for (const { startsOn, endsOn } of apartOf(itemId, siteId))
      apart.fill(true, Math.max(0, daysBetween(from, startsOn)), Math.max(0, Math.min(length, daysBetween(from, endsOn) + 1)));
    return { itemId, siteId, from, days: perDay.map((many, at) => ({ wanted: Math.max(0, many), there: there[at] === true, apart: apart[at] === true })) };
  });
}

/**
 * On which of so many days from one on, until yesterday, some of it lay there in the morning or in the evening, by what lies there now and what changed.
 * Of the days before any ever lay there nothing is known: they count as if some had.
 */
function heldOn(length: number, from: Day, now: number, changes: readonly OnDay[]): boolean[] {
  const changed = new Array<number>(length + 1).fill(0);
  for (const { day, many } of changes) {
    const at = Math.min(length, daysBetween(from, day));
    changed[at] = (changed[at] ?? 0) + many;
  }
  const first = changes.reduce((earliest, { day }) => Math.min(earliest, daysBetween(from, day)), length);
  const held = new Array<boolean>(length).fill(false).fill(true, 0, first);
  let evening = now - (changed[length] ?? 0);
  for (let at = length - 1; at >= first; at -= 1) {
    const morning = evening - (changed[at] ?? 0);
    held[at] = evening > 0 || morning > 0;
    evening = morning;
  }
  return held;
}
