import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, jsonb, pgTable, text, unique } from 'drizzle-orm/pg-core';
import { party } from './catalog';
import { amount, currencyAmount, exchangeRate, key, moment, quantity } from './columns';
import { orderColumns, orderLineColumns } from './order';
import { person } from './people';
import { taxCode } from './setup';

export const purchaseOrder = pgTable(
  'purchase_order',
  {
    ...orderColumns(),
    supplierId: integer('supplier_id')
      .notNull()
      .references(() => party.id),
    /** The customer it goes to straight from the supplier; null: it comes to the site. */
    shipsToId: integer('ships_to_id').references(() => party.id),
    expectedOn: date('expected_on'),
    /** The day it was placed in the world, when that is not the day it was written here. */
    orderedOn: date('ordered_on'),
    placedAt: moment('placed_at'),
    placedBy: integer('placed_by').references(() => person.id),
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
    ...orderLineColumns(),
    orderId: integer('order_id')
      .notNull()
      .references(() => purchaseOrder.id),
    expectedOn: date('expected_on'),
    /** Of the order when the line was written: what is still to come may be ordered anew in another. */
    currency: text().notNull(),
    rate: exchangeRate().notNull().default('1'),
    /** Of the base quantity: called off, or will not come any more. */
    cancelled: quantity().notNull().default('0'),
    /** Kept by the ledger's triggers: what came net of what went back, and what went back. */
    received: quantity().notNull().default('0'),
    returned: quantity().notNull().default('0'),
    receivedValue: amount('received_value').notNull().default('0'),
    /** What posted bills cover, and what that cleared of goods received, in company currency. */
    billed: quantity().notNull().default('0'),
    billedValue: amount('billed_value').notNull().default('0'),
    /** Goes from the supplier straight to a customer, as its order says. */
    direct: boolean().notNull().default(false),
    outstanding: quantity().generatedAlwaysAs(sql`case when active then greatest(base_quantity - cancelled - received, 0) else 0 end`),
    /** What of that comes to a site. */
    incoming: quantity().generatedAlwaysAs(sql`case when active and kept and not direct then greatest(base_quantity - cancelled - received, 0) else 0 end`),
  },
  (t) => [
    unique('purchase_line_position').on(t.orderId, t.position),
    index('purchase_line_open')
      .on(t.itemId, t.siteId)
      .where(sql`incoming > 0`),
    index('purchase_line_unkept')
      .on(t.orderId)
      .where(sql`not kept`),
    check('purchase_line_positive', sql`${t.quantity} > 0 and ${t.baseQuantity} > 0 and ${t.price} >= 0 and ${t.pricePer} > 0`),
    check('purchase_line_cancelled', sql`${t.cancelled} >= 0 and ${t.cancelled} <= ${t.baseQuantity}`),
    check('purchase_line_received', sql`${t.received} >= 0`),
  ],
);

/** What an order costs beside its goods: carriage, packing, tooling. In the order's currency. */
export const purchaseCharge = pgTable(
  'purchase_charge',
  {
    id: key(),
    orderId: integer('order_id')
      .notNull()
      .references(() => purchaseOrder.id),
    position: integer().notNull(),
    label: text().notNull(),
    amount: currencyAmount().notNull(),
    taxCodeId: integer('tax_code_id').references(() => taxCode.id),
  },
  (t) => [unique('purchase_charge_position').on(t.orderId, t.position), check('purchase_charge_positive', sql`${t.amount} > 0`)],
);

/** What a person has counted at the receiving desk and not received yet; it waits here whatever becomes of the screen. */
export const deskTally = pgTable('desk_tally', {
  personId: integer('person_id')
    .primaryKey()
    .references(() => person.id),
  tally: jsonb().notNull(),
  /** Keys of what was done, the last ones: each counts once. */
  done: text().array().notNull().default([]),
  version: integer().notNull().default(1),
  changedAt: moment('changed_at').notNull(),
});
