import type { Condition } from '@larder/core/outbound/comingBack';
import { sql } from 'drizzle-orm';
import { type AnyPgColumn, bigint, check, date, index, integer, pgTable, text, unique } from 'drizzle-orm/pg-core';
import { account } from './accounts';
import { item, lot } from './catalog';
import { amount, key, moment, price, quantity } from './columns';
import { movement, movementLine } from './ledger';
import { salesTerms } from './outbound';
import { party } from './parties';
import { written } from './people';
import { place } from './places';
import { reason, site } from './setup';

/** Goods that a customer brings back. It is received once its movement stands; until then it is written on, or discarded. */
export const customerReturn = pgTable(
  'customer_return',
  {
    id: key(),
    number: text().notNull().unique(),
    customerId: integer('customer_id')
      .notNull()
      .references(() => party.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    cameOn: date('came_on').notNull(),
    /** What the customer calls it. */
    reference: text().notNull().default(''),
    note: text().notNull().default(''),
    movementId: integer('movement_id').references(() => movement.id),
    discardedAt: moment('discarded_at'),
    version: integer().notNull().default(1),
    ...written(),
  },
  (t) => [index('customer_return_customer').on(t.customerId), index('customer_return_movement').on(t.movementId)],
);

export const customerReturnLine = pgTable(
  'customer_return_line',
  {
    id: key(),
    returnId: integer('return_id')
      .notNull()
      .references(() => customerReturn.id),
    position: integer().notNull(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    /** The order line it went out on; null: it was sold before there were records. */
    salesLineId: integer('sales_line_id').references(() => salesTerms.id),
    lotId: integer('lot_id').references(() => lot.id),
    /** Of what was sold before there were records: its lot or serial, and what one is worth. */
    lotCode: text('lot_code').notNull().default(''),
    unitValue: price('unit_value'),
    /** Base units. */
    quantity: quantity().notNull(),
    condition: text().$type<Condition>().notNull(),
    binId: integer('bin_id').references(() => place.id),
    reasonId: integer('reason_id')
      .notNull()
      .references(() => reason.id),
    note: text().notNull().default(''),
  },
  (t) => [
    unique('customer_return_line_position').on(t.returnId, t.position),
    index('customer_return_line_item').on(t.itemId),
    index('customer_return_line_sales').on(t.salesLineId),
    check('customer_return_line_positive', sql`${t.quantity} > 0`),
    check(
      'customer_return_line_condition',
      sql`${t.condition} in ('shelf', 'quarantine', 'scrap', 'supplier') and (${t.condition} in ('scrap', 'supplier')) = (${t.binId} is null)`,
    ),
  ],
);

/** Goods that a customer brought back, by what they went out with; an undo takes its rows back below zero. Only grows. */
export const cameBack = pgTable(
  'came_back',
  {
    id: key(),
    lineId: bigint('line_id', { mode: 'number' })
      .notNull()
      .references((): AnyPgColumn => movementLine.id),
    ofLineId: bigint('of_line_id', { mode: 'number' })
      .notNull()
      .references((): AnyPgColumn => movementLine.id),
    returnId: integer('return_id')
      .notNull()
      .references(() => customerReturn.id),
    quantity: quantity().notNull(),
    /** What they had cost as they left. */
    value: amount().notNull(),
    /** Of what was thrown away as it came: the account that bears it. */
    lossAccountId: integer('loss_account_id').references(() => account.id),
  },
  (t) => [index('came_back_line').on(t.lineId), index('came_back_of').on(t.ofLineId), index('came_back_return').on(t.returnId)],
);
