import type * as contract from '@larder/contract/inbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { grantedAt, type Sites } from '@larder/contract/rights';
import { Refusal } from '@larder/core/refusal';
import { and, desc, eq, gt, gte, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { addDays } from '@larder/core/day';
import type { PriceBreak } from '@larder/core/inbound/terms';
import { among, atSites } from '../../db/given';
import { jsonRows } from '../../db/json';
import { bill, item, itemSupplier, movementLine, party, payment, place, purchaseLine, purchaseOrder, purchaseTerms, site, unit } from '../../db/schema/index';
import { plain } from '../../db/text';

type Supplier = ResponseOf<typeof contract.getSupplier>;

/** Everything the supplier's page tells. */
export async function supplier({ tx, today, sites, by }: Act, id: number): Promise<Supplier> {
  const seen = sites('look');
  const [head] = await readHead(tx, id, today);
  if (!head) throw new Refusal(404, 'not-found', 'There is no such supplier.');
  const [punctual] = await readPunctual(tx, id, today, seen);
  const { owed, overdue, ...terms } = head;
  // What is owed is the company's.
  const isSeen = grantedAt(by.grants, 'look', null);
  return {
    ...terms,
    owed: isSeen ? owed : null,
    overdue: isSeen ? overdue : null,
    punctual: punctual ?? { lines: 0, onTime: 0, inFull: 0 },
    items: await readItems(tx, id),
    orders: await readOrders(tx, id, today, seen),
  };
}

/** Days before `today` that are looked back on. */
const lookBack = (today: string): string => addDays(today, -365);

function readHead({ db }: Act['tx'], id: number, today: string) {
  const taken = db
    .select({ days: sql<number>`min(${movementLine.effectiveOn}) - min(${purchaseOrder.placedAt})::date`.as('days') })
    .from(purchaseOrder)
    .innerJoin(purchaseTerms, eq(purchaseTerms.orderId, purchaseOrder.id))
    .innerJoin(movementLine, eq(movementLine.supplyLineId, purchaseTerms.id))
    .where(and(eq(purchaseOrder.supplierId, party.id), gte(purchaseOrder.placedAt, sql`${lookBack(today)}::date`)))
    .groupBy(purchaseOrder.id)
    .as('taken');
  const usual = db.select({ days: sql`trim_scale(round(percentile_cont(0.5) within group (order by ${taken.days})::numeric, 1))::text` }).from(taken);
  const paid = db
    .select({ sum: sql`coalesce(sum(${payment.settled}), 0)` })
    .from(payment)
    .where(and(eq(payment.billId, bill.id), isNull(payment.undoneAt)));
  const open = sql`(${bill.owed} - (${paid})) * case when ${bill.kind} = 'credit' then -1 else 1 end`;
  const owed = db
    .select({
      all: sql<string | null>`sum(${open})`.as('owed'),
      overdue: sql<string | null>`sum(${open}) filter (where ${bill.dueOn} < ${today})`.as('overdue'),
    })
    .from(bill)
    .where(and(eq(bill.partyId, party.id), isNotNull(bill.postedAt), isNull(bill.undoneAt)))
    .as('owed_now');
  return db
    .select({
      id: party.id,
      name: party.name,
      email: party.email,
      leadDays: party.leadDays,
      usualDays: sql<string | null>`(${usual})`,
      owed: sql<string>`coalesce(${owed.all}, 0)::text`,
      overdue: sql<string>`coalesce(${owed.overdue}, 0)::text`,
    })
    .from(party)
    .leftJoinLateral(owed, sql`true`)
    .where(and(eq(party.id, id), party.isSupplier));
}

const expectedOn = sql`coalesce(${purchaseLine.expectedOn}, ${purchaseOrder.expectedOn})`;

/** Lines whose day has passed: whole by that day, and whole at all. What was called off is not counted against anybody. */
function readPunctual({ db }: Act['tx'], id: number, today: string, sites: Sites) {
  const inTime = db
    .select({ sum: sql`coalesce(sum(case when ${place.kind} = 'supplier' then ${movementLine.quantity} else -${movementLine.quantity} end), 0)` })
    .from(movementLine)
    .innerJoin(place, eq(place.id, movementLine.fromPlaceId))
    .where(and(eq(movementLine.supplyLineId, purchaseLine.id), sql`${movementLine.effectiveOn} <= ${expectedOn}`));
  const due = db
    .select({
      wanted: sql<string>`${purchaseLine.baseQuantity} - ${purchaseLine.cancelled}`.as('wanted'),
      came: sql<string>`${purchaseLine.received}`.as('came'),
      inTime: sql<string>`(${inTime})`.as('in_time'),
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .where(
      and(
        eq(purchaseOrder.supplierId, id),
        atSites(purchaseOrder.siteId, sites),
        isNotNull(purchaseOrder.placedAt),
        isNull(purchaseOrder.cancelledAt),
        gt(purchaseLine.baseQuantity, purchaseLine.cancelled),
        sql`${expectedOn} < ${today}`,
        sql`${expectedOn} >= ${lookBack(today)}`,
      ),
    )
    .as('due');
  return db
    .select({
      lines: sql<number>`count(*)`,
      onTime: sql<number>`count(*) filter (where ${due.inTime} >= ${due.wanted})`,
      inFull: sql<number>`count(*) filter (where ${due.came} >= ${due.wanted})`,
    })
    .from(due);
}

/** What the supplier sells us, with the prices it was ordered at, each from the day it changed. */
async function readItems({ db }: Act['tx'], id: number): Promise<Supplier['items']> {
  const day = sql<string>`${purchaseOrder.placedAt}::date`;
  const ofDay = db
    .selectDistinctOn([day], {
      day: day.as('day'),
      price:
        sql<string>`round(${purchaseLine.price} * ${purchaseLine.quantity} * ${purchaseLine.rate} / (${purchaseLine.baseQuantity} * ${purchaseLine.pricePer}), 6)`.as(
          'price_of_day',
        ),
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .where(and(eq(purchaseLine.itemId, item.id), eq(purchaseOrder.supplierId, id), isNotNull(purchaseOrder.placedAt), isNull(purchaseOrder.cancelledAt)))
    .orderBy(day, desc(purchaseLine.id))
    .as('of_day');
  const beside = db
    .select({ day: ofDay.day, price: ofDay.price, before: sql<string | null>`lag(${ofDay.price}) over (order by ${ofDay.day})`.as('before') })
    .from(ofDay)
    .as('beside');
  return db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      code: itemSupplier.code,
      packSize: plain(itemSupplier.packSize),
      minimum: plain(itemSupplier.minimum),
      price: plain(itemSupplier.price),
      breaks: itemSupplier.breaks,
      prices: jsonRows(
        { day: beside.day, price: sql<string>`trim_scale(${beside.price})::text` },
        (select) => select.from(beside).where(sql`${beside.before} is distinct from ${beside.price}`),
        { orderBy: sql`${beside.day}` },
      ),
    })
    .from(itemSupplier)
    .innerJoin(item, eq(item.id, itemSupplier.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(and(eq(itemSupplier.supplierId, id), isNull(item.retiredAt)))
    .orderBy(item.sku)
    .limit(500);
}

/** Orders of which something is still to come. */
async function readOrders({ db }: Act['tx'], id: number, today: string, sites: Sites): Promise<Supplier['orders']> {
  const toCome = db
    .select({ outstanding: sql<string>`sum(${purchaseLine.outstanding})`.as('to_come') })
    .from(purchaseLine)
    .where(eq(purchaseLine.orderId, purchaseOrder.id))
    .as('to_come_of_order');
  return db
    .select({
      id: purchaseOrder.id,
      number: purchaseOrder.number,
      expectedOn: purchaseOrder.expectedOn,
      site: site.name,
      outstanding: sql<string>`trim_scale(${toCome.outstanding})::text`,
      late: sql<boolean>`coalesce(${purchaseOrder.expectedOn} < ${today}, false)`,
    })
    .from(purchaseOrder)
    .innerJoin(site, eq(site.id, purchaseOrder.siteId))
    .innerJoinLateral(toCome, sql`true`)
    .where(and(eq(purchaseOrder.supplierId, id), atSites(purchaseOrder.siteId, sites), sql`${toCome.outstanding} > 0`))
    .orderBy(sql`${purchaseOrder.expectedOn} nulls last`, purchaseOrder.id)
    .limit(100);
}

/** What a supplier asks for these items; those it has no terms for are left out. */
export async function supplierTerms({ tx }: Act, id: number, itemIds: string): Promise<ResponseOf<typeof contract.supplierTerms>> {
  const { db } = tx;
  const [head] = await db
    .select({ taxCodeId: party.taxCodeId, leadDays: party.leadDays })
    .from(party)
    .where(and(eq(party.id, id), party.isSupplier));
  if (!head) throw new Refusal(404, 'not-found', 'There is no such supplier.');
  const ids = itemIds.split(',').filter(Boolean).map(Number);
  const rows = await db
    .select({
      itemId: item.id,
      code: sql<string>`coalesce(${itemSupplier.code}, '')`,
      packSize: sql<string>`trim_scale(coalesce(${itemSupplier.packSize}, ${unit.step}))::text`,
      minimum: sql<string>`trim_scale(coalesce(${itemSupplier.minimum}, 0))::text`,
      price: sql<string | null>`trim_scale(coalesce(${itemSupplier.price}, ${item.purchasePrice}))::text`,
      leadDays: itemSupplier.leadDays,
      breaks: sql<PriceBreak[]>`coalesce(${itemSupplier.breaks}, '[]')`,
      taxCodeId: item.taxCodeId,
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(itemSupplier, and(eq(itemSupplier.itemId, item.id), eq(itemSupplier.supplierId, id)))
    .where(among(item.id, ids));
  return { ...head, rows };
}
