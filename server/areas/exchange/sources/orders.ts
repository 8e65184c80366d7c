import { and, eq, gt, isNotNull, isNull, lt, sql } from 'drizzle-orm';
import { atSites, positive } from '../../../db/given';
import { item, party, purchaseLine, purchaseOrder, salesLine, salesOrder, site } from '../../../db/schema/index';
import { plain } from '../../../db/text';
import { type Source, inOrder, day, named } from './source';

export const purchases: Source = {
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
};

const standing = and(isNotNull(salesOrder.confirmedAt), isNull(salesOrder.closedAt), isNull(salesOrder.cancelledAt));
const open = and(standing, lt(salesLine.dispatched, salesLine.baseQuantity));

/** The lines themselves that are late, short, on the bench ...: not all lines of their orders. */
export const sales: Source = {
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
        currency: salesOrder.currency,
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
    open,
    short: and(standing, positive(salesLine.short)),
    ready: and(standing, positive(salesLine.reserved)),
    bench: and(standing, gt(salesLine.picked, salesLine.dispatched)),
    supplier: and(standing, gt(salesLine.direct, salesLine.sent)),
    'to-invoice': sql`${salesLine.dispatched} - ${salesLine.returned} > ${salesLine.invoiced}`,
    direct: and(isNotNull(salesOrder.confirmedAt), positive(salesLine.direct)),
    quotes: and(isNull(salesOrder.confirmedAt), isNull(salesOrder.cancelledAt)),
  },
  lateOn: (today) => and(open, sql`coalesce(${salesLine.shipBy}, ${salesOrder.shipBy}) < ${today}`),
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
    ['currency', 'Currency'],
    ['picked', 'Picked'],
    ['dispatched', 'Dispatched'],
    ['short', 'Short'],
  ]),
};
