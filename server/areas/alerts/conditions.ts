import { addDays, dayInWords } from '@larder/core/day';
import { quantityText } from '@larder/core/decimal';
import type { AlertKind } from '@larder/core/planning/alerts';
import { and, eq, gt, gte, isNotNull, isNull, lt, lte, sql } from 'drizzle-orm';
import type { Db } from '../../db/database';
import { among, positive } from '../../db/given';
import {
  balance,
  bill,
  billLine,
  item,
  itemPolicy,
  itemSite,
  loan,
  lot,
  party,
  place,
  purchaseLine,
  purchaseOrder,
  salesLine,
  salesOrder,
  salesTerms,
  site,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { isStanding } from '../../documents/orderFields';
import { dueSites } from '../counts/queries';
import { attributeDays, loanDays } from '../reminders/service';
import { belowPoint } from '../stock/queries';

/** Something that is so. */
export interface Found {
  subject: string;
  siteId: number | null;
  categoryId: number | null;
  text: string;
  leadsTo: string;
}

/** When it is looked at, and of which items only (null: of all). */
export interface Asked {
  today: string;
  itemIds: readonly number[] | null;
}

const ofItems = ({ itemIds }: Asked) => (itemIds === null ? undefined : among(item.id, itemIds));

/** Items at or below their point, and those of which nothing is left, at sites in use where they have levels. */
async function levelsOf(db: Db, asked: Asked, out: boolean): Promise<Found[]> {
  const rows = await db
    .select({
      itemId: item.id,
      sku: item.sku,
      categoryId: item.categoryId,
      siteId: site.id,
      site: site.name,
      free: sql<string>`coalesce(${itemSite.free}, 0)`,
      point: sql<string>`${plain(itemPolicy.point)}`,
    })
    .from(itemPolicy)
    .innerJoin(item, and(eq(item.id, itemPolicy.itemId), isNull(item.retiredAt)))
    .innerJoin(site, and(eq(site.id, itemPolicy.siteId), isNull(site.retiredAt)))
    .leftJoin(itemSite, and(eq(itemSite.itemId, itemPolicy.itemId), eq(itemSite.siteId, itemPolicy.siteId)))
    .where(and(ofItems(asked), isNotNull(itemPolicy.point), out ? sql`coalesce(${itemSite.onHand}, 0) <= 0` : belowPoint(itemSite)));
  return rows.map(({ itemId, sku, categoryId, siteId, site: name, free, point }) => ({
    subject: `${itemId}/${siteId}`,
    siteId,
    categoryId,
    text: out ? `${sku} at ${name} is out of stock` : `${sku} at ${name} is low: ${quantityText(free)} free, reorder at ${quantityText(point)}`,
    leadsTo: `/planning?item=${itemId}`,
  }));
}

/** Confirmed orders that lack goods, site by site. */
async function shortOnes(db: Db, asked: Asked): Promise<Found[]> {
  const orders =
    asked.itemIds === null
      ? undefined
      : sql`${salesOrder.id} in (${db.select({ id: salesLine.orderId }).from(salesLine).where(among(salesLine.itemId, asked.itemIds))})`;
  const rows = await db
    .select({
      id: salesOrder.id,
      number: salesOrder.number,
      customer: party.name,
      siteId: site.id,
      site: site.name,
      what: sql<string>`string_agg(trim_scale(${salesLine.short})::text || ' of ' || ${item.sku}, ', ' order by ${salesLine.position})`,
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(site, eq(site.id, salesLine.siteId))
    .where(and(positive(salesLine.short), orders))
    .groupBy(salesOrder.id, party.name, site.id);
  return rows.map(({ id, number, customer, siteId, site: name, what }) => ({
    subject: `${id}/${siteId}`,
    siteId,
    categoryId: null,
    text: `${number} for ${customer} is short at ${name}: ${what}`,
    leadsTo: `/outbound/orders/${id}`,
  }));
}

/** Deliveries whose day is past. */
async function overdueOnes(db: Db, { today }: Asked): Promise<Found[]> {
  const day = sql<string>`min(coalesce(${purchaseLine.expectedOn}, ${purchaseOrder.expectedOn}))`;
  const rows = await db
    .select({
      id: purchaseOrder.id,
      number: purchaseOrder.number,
      supplier: party.name,
      siteId: purchaseOrder.siteId,
      site: site.name,
      day: sql<string>`${day}::text`,
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .innerJoin(site, eq(site.id, purchaseOrder.siteId))
    .where(positive(purchaseLine.incoming))
    .groupBy(purchaseOrder.id, party.name, site.name)
    .having(sql`${day} < ${today}`);
  return rows.map(({ id, number, supplier, siteId, site: name, day: on }) => ({
    subject: String(id),
    siteId,
    categoryId: null,
    text: `${number} of ${supplier} for ${name} is overdue since ${dayInWords(on)}`,
    leadsTo: `/inbound/orders/${id}`,
  }));
}

/** Orders that should have gone out. */
async function lateOnes(db: Db, { today }: Asked): Promise<Found[]> {
  const rows = await db
    .selectDistinct({
      id: salesOrder.id,
      number: salesOrder.number,
      customer: party.name,
      siteId: salesOrder.siteId,
      site: site.name,
      shipBy: salesOrder.shipBy,
    })
    .from(salesLine)
    .innerJoin(salesOrder, and(eq(salesOrder.id, salesLine.orderId), isStanding(salesOrder, salesOrder.confirmedAt)))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(site, eq(site.id, salesOrder.siteId))
    .where(and(lt(salesOrder.shipBy, today), lt(salesLine.dispatched, salesLine.baseQuantity)));
  return rows.map(({ id, number, customer, siteId, site: name, shipBy }) => ({
    subject: String(id),
    siteId,
    categoryId: null,
    text: `${number} for ${customer} should have left ${name} on ${dayInWords(shipBy)}`,
    leadsTo: `/outbound/orders/${id}`,
  }));
}

/** Days before a use-by day, and before a day of the business's own. */
const [daysOfLots, daysOfOwn] = [30, 7];

async function lotsNear(db: Db, { today }: Asked): Promise<Found[]> {
  const rows = await db
    .selectDistinct({ id: lot.id, code: lot.code, useBy: lot.useBy, sku: item.sku, categoryId: item.categoryId, siteId: place.siteId, site: site.name })
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .innerJoin(balance, and(eq(balance.lotId, lot.id), eq(balance.itemId, lot.itemId), positive(balance.quantity)))
    .innerJoin(place, and(eq(place.id, balance.placeId), eq(place.kind, 'bin')))
    .innerJoin(site, eq(site.id, place.siteId))
    .where(and(isNotNull(lot.useBy), lte(lot.useBy, addDays(today, daysOfLots))));
  return rows.map(({ id, code, useBy, sku, categoryId, siteId, site: name }) => ({
    subject: `${id}/${siteId ?? ''}`,
    siteId,
    categoryId,
    text: `${sku} lot ${code} at ${name} ${useBy !== null && useBy < today ? 'is past' : 'is near'} its use-by day, ${dayInWords(useBy ?? today)}`,
    leadsTo: `/stock/lots/${id}`,
  }));
}

async function loansDue(db: Db, { today }: Asked): Promise<Found[]> {
  const rows = await loanDays(db, lte(loan.dueOn, today));
  return rows.map(({ loanId, what, day, siteId }) => ({
    subject: `${loanId ?? ''}/${day}`,
    siteId,
    categoryId: null,
    text: `${what} is due back, on ${dayInWords(day)}`,
    leadsTo: `/stock/loans/${loanId ?? ''}`,
  }));
}

async function ownDays(db: Db, { today }: Asked): Promise<Found[]> {
  const rows = (await attributeDays(db)).filter(({ day }) => day >= today && day <= addDays(today, daysOfOwn));
  return rows.map(({ itemId, lotId, attributeId, what, called, day }) => ({
    subject: `${itemId ?? ''}/${lotId ?? ''}/${attributeId ?? ''}/${day}`,
    siteId: null,
    categoryId: null,
    text: `${what}: ${called} is on ${dayInWords(day)}`,
    leadsTo: lotId === null ? `/items/${itemId ?? ''}` : `/stock/lots/${lotId}`,
  }));
}

const countsDue = async (db: Db, { today }: Asked): Promise<Found[]> =>
  (await dueSites(db, today)).map(({ siteId, site: name, due }) => ({
    subject: String(siteId),
    siteId,
    categoryId: null,
    text: `${due} items are due to be counted at ${name}`,
    leadsTo: '/stock/counts',
  }));

/** Happenings are told for so many days after them, should nothing have run meanwhile. */
const lately = 7;

async function dearerBills(db: Db, { today }: Asked): Promise<Found[]> {
  const rows = await db
    .select({
      id: billLine.id,
      billId: bill.id,
      number: bill.number,
      supplier: party.name,
      sku: item.sku,
      categoryId: item.categoryId,
      siteId: purchaseLine.siteId,
      price: sql<string>`trim_scale(${billLine.price})::text`,
      agreed: sql<string>`trim_scale(round(${purchaseLine.price} * ${purchaseLine.quantity} / (${purchaseLine.pricePer} * ${purchaseLine.baseQuantity}), 6))::text`,
    })
    .from(billLine)
    .innerJoin(bill, and(eq(bill.id, billLine.billId), eq(bill.kind, 'bill'), isNotNull(bill.postedAt), isNull(bill.undoneAt)))
    .innerJoin(party, eq(party.id, bill.partyId))
    .innerJoin(purchaseLine, eq(purchaseLine.id, billLine.purchaseLineId))
    .innerJoin(item, eq(item.id, purchaseLine.itemId))
    .where(
      and(
        gte(bill.billedOn, addDays(today, -lately)),
        eq(bill.currency, purchaseLine.currency),
        sql`${billLine.price} > round(${purchaseLine.price} * ${purchaseLine.quantity} / (${purchaseLine.pricePer} * ${purchaseLine.baseQuantity}), 6)`,
      ),
    );
  return rows.map(({ id, billId, number, supplier, sku, categoryId, siteId, price, agreed }) => ({
    subject: String(id),
    siteId,
    categoryId,
    text: `${supplier} bills ${price} for ${sku} on ${number}; ${agreed} was agreed`,
    leadsTo: `/books/bills/${billId}`,
  }));
}

/** Lines of orders of which some went out for less than it had cost. */
async function soldBelowCost(db: Db, { today }: Asked): Promise<Found[]> {
  const got = sql`${salesTerms.amount} * ${salesOrder.rate} * ${salesLine.dispatched} / nullif(${salesLine.baseQuantity}, 0)`;
  const rows = await db
    .select({
      id: salesLine.id,
      orderId: salesOrder.id,
      number: salesOrder.number,
      customer: party.name,
      sku: item.sku,
      categoryId: item.categoryId,
      siteId: salesLine.siteId,
    })
    .from(salesLine)
    .innerJoin(salesTerms, eq(salesTerms.id, salesLine.id))
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .where(and(gte(salesOrder.shipBy, addDays(today, -lately)), gt(salesLine.dispatched, '0'), sql`${got} < ${salesLine.dispatchedCost}`));
  return rows.map(({ id, orderId, number, customer, sku, categoryId, siteId }) => ({
    subject: String(id),
    siteId,
    categoryId,
    text: `${sku} on ${number} for ${customer} went out for less than it cost`,
    leadsTo: `/outbound/orders/${orderId}`,
  }));
}

/** What is so of each kind; the first three can be asked of some items only. */
export const conditions: Record<AlertKind, (db: Db, asked: Asked) => Promise<Found[]>> = {
  low: (db, asked) => levelsOf(db, asked, false),
  out: (db, asked) => levelsOf(db, asked, true),
  short: shortOnes,
  overdue: overdueOnes,
  late: lateOnes,
  'due-back': loansDue,
  'use-by': lotsNear,
  'count-due': countsDue,
  attribute: ownDays,
  'price-rise': dearerBills,
  'below-cost': soldBelowCost,
};
/** What a movement or a decision changes at once. */
export const ofStock: readonly AlertKind[] = ['low', 'out', 'short'];
