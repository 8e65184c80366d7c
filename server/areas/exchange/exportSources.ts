import type * as contract from '@larder/contract/exchange';
import type { BodyOf, ParamsOf } from '@larder/contract/endpoint';
import { and, eq, isNotNull, isNull, lt, not, sql, type SQL } from 'drizzle-orm';
import { atSites, positive } from '../../db/given';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { itemsWithFigures } from './references';
import { lotsSeen, lotWords, movedAt } from '../stock/queries';
import type { Sites } from '@larder/contract/rights';
import type { Db, Query } from '../../db/database';
import {
  attributeValue,
  balance,
  bill,
  family,
  familyValue,
  item,
  itemPolicy,
  itemSite,
  itemSupplier,
  lot,
  movement,
  movementLine,
  party,
  payment,
  person,
  place,
  costPool,
  purchaseLine,
  purchaseOrder,
  purchaseTerms,
  reason,
  salesLine,
  salesOrder,
  salesTerms,
  site,
} from '../../db/schema/index';
import { plain } from '../../db/text';

export type List = ParamsOf<typeof contract.exportFile>['list'];
type Show = NonNullable<BodyOf<typeof contract.exportFile>['show']>;
type Cells = Record<string, unknown> & { own?: Record<string, string> | null };

export interface Source {
  /** Rows with a column for each field, in the order of the file. */
  read: (db: Db, where: SQL | undefined, sites: Sites) => Query<Cells>;
  /** What the words of the list's own search field look through. */
  words: SQL | PgColumn;
  /** Holds rows to sites, where they are of one. */
  at?: (sites: Sites) => SQL | undefined;
  /** Fields that tell what things cost: left out for whom may not see that. */
  costs?: readonly string[];
  /** Taken out only by whom may see what things cost in the whole company. */
  company?: true;
  /** The column of the item, where rows have one. */
  item?: PgColumn;
  /** Conditions of what the list may be held to. */
  shows?: Partial<Record<Show, SQL | undefined>>;
  /** Fields beyond those that can be brought in. */
  more?: { key: string; name: string }[];
}

/** The order of a file: by its first two columns. */
const inOrder = sql`1, 2`;
const day = (column: PgColumn) => sql<string | null>`${column}::text`;
/** Own attributes of an item or a lot, by the field each is. */
const ownOf = (owner: PgColumn, id: PgColumn) =>
  sql<Record<string, string> | null>`(${new QueryBuilder()
    .select({ all: sql`json_object_agg('attribute ' || ${attributeValue.attributeId}, ${attributeValue.value})` })
    .from(attributeValue)
    .where(eq(owner, id))})`;
const figuresAt = (at: typeof costPool | typeof itemSite) => ({
  onHand: plain(at.onHand),
  reserved: plain(at.reserved),
  free: plain(at.free),
  onOrder: plain(at.onOrder),
});
const figures = [
  { key: 'onHand', name: 'On hand' },
  { key: 'reserved', name: 'Reserved' },
  { key: 'free', name: 'Free' },
  { key: 'onOrder', name: 'On order' },
];

const named = (pairs: readonly (readonly [string, string])[]) => pairs.map(([key, name]) => ({ key, name }));

const [value1, value2, value3] = [alias(familyValue, 'value_1'), alias(familyValue, 'value_2'), alias(familyValue, 'value_3')];
const from = alias(place, 'from_place');
const to = alias(place, 'to_place');

/** Price breaks as a file writes them: `100: 0.95; 500: 0.90`. */
const breaksWritten = sql<string>`(${new QueryBuilder()
  .select({ all: sql`coalesce(string_agg((b ->> 'from') || ': ' || (b ->> 'price'), '; ' order by (b ->> 'from')::numeric), '')` })
  .from(sql`jsonb_array_elements(${itemSupplier.breaks}) b`)})`;

const partiesAs = (is: PgColumn): Source => ({
  read: (db, where) =>
    db
      .select({ name: party.name, email: party.email, address: party.address, leadDays: sql<string>`${party.leadDays}::text` })
      .from(party)
      .where(and(eq(is, true), where))
      .orderBy(inOrder),
  words: sql`lower(${party.name})`,
});

const paidOf = sql`coalesce((${new QueryBuilder()
  .select({ sum: sql`sum(${payment.amount})` })
  .from(payment)
  .where(and(eq(payment.billId, bill.id), isNull(payment.undoneAt)))}), 0)`;

/** Each list as a file: where its rows are from, what its words look through, and what it may be held to. */
export const sources: Record<List, Source> = {
  items: {
    read: (db, where, sites) => itemsWithFigures(db, sites, { figures: figuresAt(costPool), own: ownOf(attributeValue.itemId, item.id) }, where),
    words: item.findable,
    costs: ['purchasePrice'],
    more: figures,
  },
  families: {
    read: (db, where) =>
      db
        .select({
          sku: item.sku,
          family: family.name,
          axis1: value1.axisName,
          value1: value1.name,
          axis2: value2.axisName,
          value2: value2.name,
          axis3: value3.axisName,
          value3: value3.name,
        })
        .from(item)
        .innerJoin(family, eq(family.id, item.familyId))
        .leftJoin(value1, eq(value1.id, item.value1Id))
        .leftJoin(value2, eq(value2.id, item.value2Id))
        .leftJoin(value3, eq(value3.id, item.value3Id))
        .where(where)
        .orderBy(inOrder),
    words: sql`lower(${family.name} || ' ' || ${item.sku})`,
  },
  suppliers: partiesAs(party.isSupplier),
  customers: partiesAs(party.isCustomer),
  terms: {
    read: (db, where) =>
      db
        .select({
          supplier: party.name,
          sku: item.sku,
          code: itemSupplier.code,
          packSize: plain(itemSupplier.packSize),
          minimum: plain(itemSupplier.minimum),
          price: plain(itemSupplier.price),
          leadDays: sql<string | null>`${itemSupplier.leadDays}::text`,
          breaks: breaksWritten,
        })
        .from(itemSupplier)
        .innerJoin(item, eq(item.id, itemSupplier.itemId))
        .innerJoin(party, eq(party.id, itemSupplier.supplierId))
        .where(where)
        .orderBy(inOrder),
    words: sql`lower(${party.name} || ' ' || ${item.sku})`,
    costs: ['price', 'breaks'],
  },
  bins: {
    read: (db, where) =>
      db
        .select({
          site: site.name,
          code: place.code,
          zone: place.zone,
          walk: sql<string>`${place.walk}::text`,
          use: sql<string>`case when ${place.sellable} then 'sale' else 'quarantine' end`,
        })
        .from(place)
        .innerJoin(site, eq(site.id, place.siteId))
        .where(and(eq(place.kind, 'bin'), not(place.unplaced), isNull(place.retiredAt), where))
        .orderBy(inOrder),
    words: sql`lower(${place.code})`,
    at: (sites) => atSites(place.siteId, sites),
  },
  policies: {
    read: (db, where) =>
      db
        .select({
          sku: item.sku,
          site: site.name,
          bin: place.code,
          reorderPoint: plain(itemPolicy.reorderPoint),
          orderUpTo: plain(itemPolicy.orderUpTo),
        })
        .from(itemPolicy)
        .innerJoin(item, eq(item.id, itemPolicy.itemId))
        .innerJoin(site, eq(site.id, itemPolicy.siteId))
        .leftJoin(place, eq(place.id, itemPolicy.binId))
        .where(where)
        .orderBy(inOrder),
    words: item.findable,
    at: (sites) => atSites(itemPolicy.siteId, sites),
  },
  stock: {
    read: (db, where) =>
      db
        .select({
          sku: item.sku,
          name: item.name,
          site: site.name,
          ...figuresAt(itemSite),
          short: plain(itemSite.short),
          unitCost: plain(costPool.unitCost),
          value: itemSite.value,
        })
        .from(itemSite)
        .innerJoin(item, eq(item.id, itemSite.itemId))
        .innerJoin(site, eq(site.id, itemSite.siteId))
        .innerJoin(costPool, eq(costPool.itemId, item.id))
        .where(where)
        .orderBy(inOrder),
    words: item.findable,
    at: (sites) => atSites(itemSite.siteId, sites),
    costs: ['unitCost', 'value'],
    more: [
      { key: 'sku', name: 'SKU' },
      { key: 'name', name: 'Name' },
      { key: 'site', name: 'Site' },
      ...figures,
      { key: 'short', name: 'Short' },
      { key: 'unitCost', name: 'Unit cost' },
      { key: 'value', name: 'Value' },
    ],
  },
  lots: {
    read: (db, where, sites) => {
      const here = db
        .select({ sum: sql`trim_scale(coalesce(sum(${balance.quantity}), 0))::text` })
        .from(balance)
        .innerJoin(place, eq(place.id, balance.placeId))
        .where(and(eq(balance.itemId, lot.itemId), eq(balance.lotId, lot.id), place.owned, atSites(place.siteId, sites)));
      return db
        .select({
          sku: item.sku,
          code: lot.code,
          name: item.name,
          useBy: day(lot.useBy),
          tag: lot.tag,
          condition: lot.condition,
          boughtOn: day(lot.boughtOn),
          warrantyUntil: day(lot.warrantyUntil),
          onHand: sql<string>`(${here})`,
          own: ownOf(attributeValue.lotId, lot.id),
        })
        .from(lot)
        .innerJoin(item, eq(item.id, lot.itemId))
        .where(where)
        .orderBy(inOrder);
    },
    words: lotWords,
    at: lotsSeen,
    more: named([
      ['name', 'Name'],
      ['onHand', 'Here'],
    ]),
  },
  bills: {
    company: true,
    read: (db, where) =>
      db
        .select({
          number: bill.number,
          kind: bill.kind,
          party: party.name,
          reference: bill.reference,
          billedOn: day(bill.billedOn),
          dueOn: day(bill.dueOn),
          currency: bill.currency,
          total: sql<string>`(${bill.net} + ${bill.tax})::text`,
          open: sql<string>`(case when ${bill.undoneAt} is not null or ${bill.postedAt} is null then 0 else ${bill.net} + ${bill.tax} - ${paidOf} end)::text`,
        })
        .from(bill)
        .innerJoin(party, eq(party.id, bill.partyId))
        .where(where)
        .orderBy(inOrder),
    words: sql`lower(${bill.number} || ' ' || ${bill.reference} || ' ' || ${party.name})`,
    shows: {
      open: and(isNotNull(bill.postedAt), isNull(bill.undoneAt), sql`${paidOf} < ${bill.net} + ${bill.tax}`),
      waiting: and(isNull(bill.postedAt), isNull(bill.undoneAt)),
    },
    more: named([
      ['number', 'Bill'],
      ['kind', 'Kind'],
      ['party', 'From'],
      ['reference', 'Their number'],
      ['billedOn', 'Of'],
      ['dueOn', 'Due'],
      ['currency', 'Currency'],
      ['total', 'Total'],
      ['open', 'Open'],
    ]),
  },
  trail: {
    read: (db, where) =>
      db
        .select({
          when: sql<string>`${movement.postedAt}::text`,
          who: person.name,
          what: movement.kind,
          sku: item.sku,
          name: item.name,
          from: from.code,
          to: to.code,
          quantity: plain(movementLine.quantity),
          value: movementLine.value,
          lot: lot.code,
          why: sql<string>`concat_ws(': ', ${reason.name}, nullif(${movement.note}, ''))`,
          document: sql<string | null>`coalesce(${purchaseOrder.number}, ${salesOrder.number})`,
        })
        .from(movementLine)
        .innerJoin(movement, eq(movement.id, movementLine.movementId))
        .innerJoin(person, eq(person.id, movement.personId))
        .innerJoin(item, eq(item.id, movementLine.itemId))
        .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
        .innerJoin(to, eq(to.id, movementLine.toPlaceId))
        .leftJoin(lot, eq(lot.id, movementLine.lotId))
        .leftJoin(reason, eq(reason.id, movement.reasonId))
        .leftJoin(purchaseTerms, eq(purchaseTerms.id, movementLine.supplyLineId))
        .leftJoin(purchaseOrder, eq(purchaseOrder.id, purchaseTerms.orderId))
        .leftJoin(salesTerms, eq(salesTerms.id, movementLine.demandLineId))
        .leftJoin(salesOrder, eq(salesOrder.id, salesTerms.orderId))
        .where(where)
        .orderBy(inOrder),
    words: item.findable,
    at: movedAt,
    costs: ['value'],
    item: movementLine.itemId,
    more: named([
      ['when', 'When'],
      ['who', 'Who'],
      ['what', 'What'],
      ['why', 'Why'],
      ['document', 'Document'],
      ['sku', 'SKU'],
      ['name', 'Name'],
      ['from', 'From'],
      ['to', 'To'],
      ['quantity', 'Quantity'],
      ['lot', 'Lot or serial'],
      ['value', 'Value'],
    ]),
  },
  purchases: {
    read: (db, where) =>
      db
        .select({
          number: purchaseOrder.number,
          supplier: party.name,
          site: site.name,
          expectedOn: day(purchaseOrder.expectedOn),
          sku: item.sku,
          name: item.name,
          quantity: plain(purchaseLine.quantity),
          unit: purchaseLine.unit,
          price: plain(purchaseLine.price),
          pricePer: plain(purchaseLine.pricePer),
          currency: purchaseLine.currency,
          amount: purchaseLine.amount,
          received: plain(purchaseLine.received),
        })
        .from(purchaseLine)
        .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
        .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
        .innerJoin(site, eq(site.id, purchaseOrder.siteId))
        .innerJoin(item, eq(item.id, purchaseLine.itemId))
        .where(where)
        .orderBy(inOrder),
    words: sql`lower(${purchaseOrder.number} || ' ' || ${party.name})`,
    at: (sites) => atSites(purchaseOrder.siteId, sites),
    costs: ['price', 'amount'],
    shows: {
      open: and(isNotNull(purchaseOrder.placedAt), isNull(purchaseOrder.closedAt), isNull(purchaseOrder.cancelledAt), positive(purchaseLine.outstanding)),
      drafts: and(isNull(purchaseOrder.placedAt), isNull(purchaseOrder.cancelledAt)),
    },
    more: named([
      ['number', 'Order'],
      ['supplier', 'Supplier'],
      ['site', 'Site'],
      ['expectedOn', 'Expected'],
      ['sku', 'SKU'],
      ['name', 'Name'],
      ['quantity', 'Ordered'],
      ['unit', 'Unit'],
      ['price', 'Price'],
      ['pricePer', 'Price for'],
      ['currency', 'Currency'],
      ['amount', 'Amount'],
      ['received', 'Received'],
    ]),
  },
  sales: {
    read: (db, where) =>
      db
        .select({
          number: salesOrder.number,
          customer: party.name,
          site: site.name,
          shipBy: day(salesOrder.shipBy),
          sku: item.sku,
          name: item.name,
          quantity: plain(salesLine.quantity),
          unit: salesLine.unit,
          price: plain(salesLine.price),
          amount: salesLine.amount,
          picked: plain(salesLine.picked),
          dispatched: plain(salesLine.dispatched),
          short: plain(salesLine.short),
        })
        .from(salesLine)
        .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
        .innerJoin(party, eq(party.id, salesOrder.customerId))
        .innerJoin(site, eq(site.id, salesOrder.siteId))
        .innerJoin(item, eq(item.id, salesLine.itemId))
        .where(where)
        .orderBy(inOrder),
    words: sql`lower(${salesOrder.number} || ' ' || ${party.name})`,
    at: (sites) => atSites(salesOrder.siteId, sites),
    shows: {
      open: and(
        isNotNull(salesOrder.confirmedAt),
        isNull(salesOrder.closedAt),
        isNull(salesOrder.cancelledAt),
        lt(salesLine.dispatched, salesLine.baseQuantity),
      ),
      quotes: and(isNull(salesOrder.confirmedAt), isNull(salesOrder.cancelledAt)),
    },
    more: named([
      ['number', 'Order'],
      ['customer', 'Customer'],
      ['site', 'Site'],
      ['shipBy', 'Ship by'],
      ['sku', 'SKU'],
      ['name', 'Name'],
      ['quantity', 'Ordered'],
      ['unit', 'Unit'],
      ['price', 'Price'],
      ['amount', 'Amount'],
      ['picked', 'Picked'],
      ['dispatched', 'Dispatched'],
      ['short', 'Short'],
    ]),
  },
};
