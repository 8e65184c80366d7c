import type * as contract from '@larder/contract/planning';
import type { ResponseOf } from '@larder/contract/endpoint';
import { addDays } from '@larder/core/day';
import { daysOfCover } from '@larder/core/planning/reorderPoint';
import { and, desc, eq, exists, gt, isNull, lt, lte, ne, sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { purchases } from '../inbound/queries';
import { sales } from '../outbound/queries';
import { lowOnes, topUpList } from './topUp';
import { atSites, oneRow, positive } from '../../db/given';
import {
  binDoubt,
  carrier,
  item,
  itemPolicy,
  itemSite,
  itemSupplier,
  party,
  person,
  place,
  purchaseLine,
  purchaseOrder,
  reservation,
  salesLine,
  salesOrder,
  shipment,
  site,
  workOrder,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { isDraft, isStanding } from '../../documents/orderFields';
import { saleAt } from '../../documents/seen';
import { usedDays, usedSince } from '../../documents/used';

export { lowConditions, lowOf, type Low } from './runningLow';

const figures = and(eq(itemSite.itemId, itemPolicy.itemId), eq(itemSite.siteId, itemPolicy.siteId));

/** How many that run low Today shows at most. */
const mostLow = 100;
/** Orders to ship within so many days are Today's. */
const soon = 7;

/** How much waits in each area; what is counted is what the lists there hold. */
export async function openCounts(act: Act, siteId?: number): Promise<ResponseOf<typeof contract.openCounts>> {
  const { db } = act.tx;
  const day = act.today;
  const seen = act.sites('look', siteId);
  const at = (column: PgColumn) => atSites(column, seen);
  const toCome = db
    .select({ one: sql`1` })
    .from(purchaseLine)
    .where(and(eq(purchaseLine.orderId, purchaseOrder.id), positive(purchaseLine.incoming)));
  const toGo = db
    .select({ one: sql`1` })
    .from(salesLine)
    .where(and(eq(salesLine.orderId, salesOrder.id), lt(salesLine.dispatched, salesLine.baseQuantity)));
  const soonOpen = and(isStanding(salesOrder, salesOrder.confirmedAt), saleAt(seen), lte(salesOrder.shipBy, addDays(day, soon)), exists(toGo));
  const [counts] = await db
    .select({
      comingIn: db.$count(purchaseOrder, and(isStanding(purchaseOrder, purchaseOrder.placedAt), at(purchaseOrder.siteId), exists(toCome))),
      low: db.$count(lowOnes(act, seen).as('low')),
      goingOut: db.$count(salesOrder, soonOpen),
      making: db.$count(workOrder, and(isNull(workOrder.endedAt), isNull(workOrder.cancelledAt), lte(workOrder.startsOn, day), at(workOrder.siteId))),
      quotes: db.$count(salesOrder, and(isDraft(salesOrder, salesOrder.confirmedAt), saleAt(seen))),
    })
    .from(oneRow);
  if (!counts) throw new Error('one row was asked for');
  return counts;
}

/** Everything Today shows, from the same queries as the areas themselves. */
export async function today(act: Act, siteId?: number): Promise<ResponseOf<typeof contract.today>> {
  const here = { siteId, limit: 200 };
  const coming = (await purchases(act, { ...here, show: 'open', to: 'site' })).rows;
  const going = (await sales(act, { ...here, show: 'open' })).rows.filter(({ shipBy }) => shipBy <= addDays(act.today, soon));
  const low = (await topUpList(act, { siteId })).filter(({ putOff }) => putOff === null).slice(0, mostLow);
  return {
    day: act.today,
    cover: await cover(act, siteId),
    comingIn: coming.map(({ id, number, supplier, expectedOn, received, ordered, lines, late }) => ({
      id,
      number,
      supplier,
      expectedOn,
      received,
      ordered,
      lines,
      late,
    })),
    low: low.map(({ itemId, sku, name, siteId: at, site, free, short, onOrder, reorderPoint, orderUpTo, propose }) => ({
      itemId,
      sku,
      name,
      siteId: at,
      site,
      free,
      short,
      onOrder,
      reorderPoint,
      orderUpTo,
      propose,
    })),
    goingOut: going.map(({ id, number, customer, shipBy, state, ordered, picked, dispatched, short, late }) => ({
      id,
      number,
      customer,
      shipBy,
      state,
      ordered,
      picked,
      dispatched,
      short,
      late,
    })),
    served: await served(act, siteId),
    toCount: await toCount(act, siteId),
    unbooked: await unbooked(act, siteId),
    counts: await openCounts(act, siteId),
  };
}

/** Lines that stock which came in within the last day was reserved for, and that wait to be picked. */
async function served({ tx, now, sites }: Act, siteId?: number): Promise<ResponseOf<typeof contract.today>['served']> {
  const dayAgo = new Date(now.getTime() - 86_400_000).toISOString();
  return tx.db
    .select({
      lineId: salesLine.id,
      orderId: salesOrder.id,
      number: salesOrder.number,
      customer: party.name,
      sku: item.sku,
      reserved: plain(salesLine.reserved),
      short: plain(salesLine.short),
      at: sql<string>`${reservation.servedAt}`,
    })
    .from(reservation)
    .innerJoin(salesLine, eq(salesLine.id, reservation.lineId))
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .where(and(gt(reservation.servedAt, dayAgo), positive(reservation.quantity), positive(salesLine.wanted), atSites(salesLine.siteId, sites('look', siteId))))
    .orderBy(desc(reservation.servedAt), reservation.id)
    .limit(20);
}

/** Bins in which less was found than they should hold, and that nobody has counted since. */
async function toCount({ tx, sites }: Act, siteId?: number): Promise<ResponseOf<typeof contract.today>['toCount']> {
  return tx.db
    .select({
      itemId: item.id,
      sku: item.sku,
      binId: place.id,
      bin: place.code,
      siteId: site.id,
      site: site.name,
      at: binDoubt.since,
      person: person.name,
      reason: binDoubt.reason,
    })
    .from(binDoubt)
    .innerJoin(item, eq(item.id, binDoubt.itemId))
    .innerJoin(place, eq(place.id, binDoubt.placeId))
    .innerJoin(site, eq(site.id, place.siteId))
    .innerJoin(person, eq(person.id, binDoubt.personId))
    .where(atSites(site.id, sites('look', siteId)))
    .orderBy(desc(binDoubt.since), binDoubt.itemId)
    .limit(20);
}

/** Bookings that a carrier has refused or has not answered, the oldest first. */
async function unbooked({ tx, sites }: Act, siteId?: number): Promise<ResponseOf<typeof contract.today>['unbooked']> {
  return tx.db
    .select({
      shipmentId: shipment.id,
      number: shipment.number,
      orderId: salesOrder.id,
      order: salesOrder.number,
      carrier: carrier.name,
      fault: shipment.fault,
    })
    .from(shipment)
    .innerJoin(salesOrder, eq(salesOrder.id, shipment.orderId))
    .innerJoin(carrier, eq(carrier.id, shipment.carrierId))
    .where(and(ne(shipment.fault, ''), isNull(shipment.bookedAt), isNull(shipment.cancelledAt), atSites(shipment.siteId, sites('look', siteId))))
    .orderBy(shipment.id)
    .limit(20);
}

/** Days the 400 items in use that end first last at the rate of the last 90 days, against its supplier's lead time. */
async function cover({ tx, today: day, sites }: Act, siteId?: number): Promise<ResponseOf<typeof contract.today>['cover']> {
  const { db } = tx;
  const seen = sites('look', siteId);
  const used = usedSince(addDays(day, -usedDays), seen).as('used');
  const leadDays = db
    .select({ days: sql`coalesce(${itemSupplier.leadDays}, ${party.leadDays})` })
    .from(itemSupplier)
    .innerJoin(party, eq(party.id, itemSupplier.supplierId))
    .where(eq(itemSupplier.itemId, item.id))
    .orderBy(itemSupplier.position)
    .limit(1);
  const rows = await db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      free: sql<string>`sum(${itemSite.free})`,
      used: used.quantity,
      leadDays: sql<number>`coalesce((${leadDays}), 7)`,
      low: sql<boolean>`bool_or(coalesce(${itemSite.free} + ${itemSite.onOrder} + ${itemSite.coming} - ${itemSite.short} <= ${itemPolicy.point}, false))`,
    })
    .from(item)
    .innerJoin(itemSite, eq(itemSite.itemId, item.id))
    .leftJoin(itemPolicy, figures)
    .innerJoin(used, eq(used.itemId, item.id))
    .where(and(isNull(item.retiredAt), positive(used.quantity), atSites(itemSite.siteId, seen)))
    .groupBy(item.id, used.quantity)
    .orderBy(sql`sum(${itemSite.free}) / ${used.quantity}`, item.id)
    .limit(400);
  return rows.map(({ free, used, low, ...row }) => ({
    ...row,
    days: daysOfCover(Number(free), Number(used) / usedDays) ?? 0,
    state: Number(free) <= 0 ? 'out' : low ? 'low' : 'fine',
  }));
}
