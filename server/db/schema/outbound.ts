import { sql } from 'drizzle-orm';
import { check, date, index, integer, pgTable, text, unique } from 'drizzle-orm/pg-core';
import { item, lot, party } from './catalog';
import { amount, key, moment, quantity } from './columns';
import { orderColumns, orderLineColumns } from './order';
import { person } from './people';
import { site } from './setup';

export const salesOrder = pgTable('sales_order', {
  ...orderColumns(),
  customerId: integer('customer_id')
    .notNull()
    .references(() => party.id),
  shipBy: date('ship_by').notNull(),
  confirmedAt: moment('confirmed_at'),
  confirmedBy: integer('confirmed_by').references(() => person.id),
});

export const salesLine = pgTable(
  'sales_line',
  {
    ...orderLineColumns(),
    orderId: integer('order_id')
      .notNull()
      .references(() => salesOrder.id),
    shipBy: date('ship_by').notNull(),
    promisedOn: date('promised_on'),
    /** Kept by the ledger's trigger. */
    picked: quantity().notNull().default('0'),
    dispatched: quantity().notNull().default('0'),
    dispatchedCost: amount('dispatched_cost').notNull().default('0'),
    /** Kept by the trigger on reservations. */
    reserved: quantity().notNull().default('0'),
    wanted: quantity().generatedAlwaysAs(sql`case when active and kept then base_quantity - picked else 0 end`),
    short: quantity().generatedAlwaysAs(sql`case when active and kept then base_quantity - picked - reserved else 0 end`),
  },
  (t) => [
    unique('sales_line_position').on(t.orderId, t.position),
    index('sales_line_wanted')
      .on(t.itemId, t.siteId)
      .where(sql`wanted > 0`),
    index('sales_line_bench')
      .on(t.itemId, t.siteId)
      .where(sql`picked > dispatched`),
    check('sales_line_positive', sql`${t.quantity} > 0 and ${t.baseQuantity} > 0 and ${t.price} >= 0 and ${t.pricePer} > 0`),
    check('sales_line_counters', sql`${t.dispatched} >= 0 and ${t.picked} >= ${t.dispatched} and ${t.picked} <= ${t.baseQuantity}`),
    check('sales_line_reserved', sql`${t.reserved} >= 0 and (${t.reserved} = 0 or (${t.active} and ${t.reserved} <= ${t.baseQuantity} - ${t.picked}))`),
  ],
);

/** Stock promised to a line and not yet picked; a lot or serial may be pinned. */
export const reservation = pgTable(
  'reservation',
  {
    id: key(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    salesLineId: integer('sales_line_id')
      .notNull()
      .references(() => salesLine.id),
    lotId: integer('lot_id').references(() => lot.id),
    quantity: quantity().notNull(),
  },
  (t) => [
    unique('reservation_once').on(t.salesLineId, t.lotId).nullsNotDistinct(),
    index('reservation_item').on(t.itemId, t.siteId),
    check('reservation_not_negative', sql`${t.quantity} >= 0`),
  ],
);

/** Where a line's goods come from, when somebody chose: which source, how many, promised for when. */
export const supply = pgTable(
  'supply',
  {
    id: key(),
    salesLineId: integer('sales_line_id')
      .notNull()
      .references(() => salesLine.id),
    source: text().notNull(),
    purchaseLineId: integer('purchase_line_id'),
    fromSiteId: integer('from_site_id').references(() => site.id),
    quantity: quantity().notNull(),
    promisedOn: date('promised_on'),
  },
  (t) => [check('supply_source', sql`${t.source} in ('wait', 'bring', 'direct')`), check('supply_positive', sql`${t.quantity} > 0`)],
);
