import type { Tally } from '@larder/core/inbound/tally';
import { sql } from 'drizzle-orm';
import { check, date, index, integer, jsonb, pgTable, text, unique } from 'drizzle-orm/pg-core';
import { currencyAmount, exchangeRate, key, moment } from './columns';
import { orderColumns, termColumns } from './order';
import { party } from './parties';
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
    /** Where it goes there, when that is not the customer's own address. */
    shipTo: text('ship_to').notNull().default(''),
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

/** What was agreed with the supplier for a line. `purchase_line` (a view) shows it with its document line. */
export const purchaseTerms = pgTable(
  'purchase_terms',
  {
    ...termColumns(),
    orderId: integer('order_id')
      .notNull()
      .references(() => purchaseOrder.id),
    expectedOn: date('expected_on'),
    /** Of the order when the line was written: what is still to come may be ordered anew in another. */
    currency: text().notNull(),
    rate: exchangeRate().notNull().default('1'),
  },
  (t) => [index('purchase_terms_order').on(t.orderId), check('purchase_terms_positive', sql`${t.quantity} > 0 and ${t.price} >= 0 and ${t.pricePer} > 0`)],
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
  tally: jsonb().$type<Tally>().notNull(),
  /** Keys of what was done, the last ones: each counts once. */
  done: text().array().notNull().default([]),
  version: integer().notNull().default(1),
  changedAt: moment('changed_at').notNull(),
});
