import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, pgTable, text, unique } from 'drizzle-orm/pg-core';
import { item, party } from './catalog';
import { amount, exchangeRate, key, moment, price, quantity } from './columns';
import { person } from './people';
import { site, taxCode } from './setup';

export const purchaseOrder = pgTable(
  'purchase_order',
  {
    id: key(),
    number: text().notNull().unique(),
    supplierId: integer('supplier_id')
      .notNull()
      .references(() => party.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    currency: text().notNull(),
    rate: exchangeRate().notNull().default('1'),
    expectedOn: date('expected_on'),
    note: text().notNull().default(''),
    createdAt: moment('created_at').notNull(),
    createdBy: integer('created_by')
      .notNull()
      .references(() => person.id),
    placedAt: moment('placed_at'),
    placedBy: integer('placed_by').references(() => person.id),
    closedAt: moment('closed_at'),
    closedBy: integer('closed_by').references(() => person.id),
    cancelledAt: moment('cancelled_at'),
    cancelledBy: integer('cancelled_by').references(() => person.id),
    version: integer().notNull().default(1),
  },
  (t) => [
    index('purchase_order_open')
      .on(t.expectedOn)
      .where(sql`placed_at is not null and closed_at is null and cancelled_at is null`),
  ],
);

export const purchaseLine = pgTable(
  'purchase_line',
  {
    id: key(),
    orderId: integer('order_id')
      .notNull()
      .references(() => purchaseOrder.id),
    position: integer().notNull(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    /** The order's site, kept here for the figures per item and site. */
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    quantity: quantity().notNull(),
    unit: text().notNull(),
    factorNumerator: integer('factor_numerator').notNull().default(1),
    factorDenominator: integer('factor_denominator').notNull().default(1),
    baseQuantity: quantity('base_quantity').notNull(),
    price: price().notNull(),
    pricePer: quantity('price_per').notNull().default('1'),
    discount: quantity().notNull().default('0'),
    taxCodeId: integer('tax_code_id').references(() => taxCode.id),
    amount: amount().notNull(),
    expectedOn: date('expected_on'),
    /** Placed, and neither closed nor cancelled; follows the order's decisions. */
    active: boolean().notNull().default(false),
    /** Kept by the ledger's trigger. */
    received: quantity().notNull().default('0'),
    receivedValue: amount('received_value').notNull().default('0'),
    outstanding: quantity().generatedAlwaysAs(sql`case when active then greatest(base_quantity - received, 0) else 0 end`),
  },
  (t) => [
    unique('purchase_line_position').on(t.orderId, t.position),
    index('purchase_line_open')
      .on(t.itemId, t.siteId)
      .where(sql`outstanding > 0`),
    check('purchase_line_positive', sql`${t.quantity} > 0 and ${t.baseQuantity} > 0 and ${t.price} >= 0 and ${t.pricePer} > 0`),
    check('purchase_line_received', sql`${t.received} >= 0`),
  ],
);
