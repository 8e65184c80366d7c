import { boolean, integer, text } from 'drizzle-orm/pg-core';
import { item } from './catalog';
import { currencyAmount, exchangeRate, key, moment, price, quantity } from './columns';
import { person } from './people';
import { site, taxCode } from './setup';

/** Columns that every order has. */
export const orderColumns = () => ({
  id: key(),
  number: text().notNull().unique(),
  siteId: integer('site_id')
    .notNull()
    .references(() => site.id),
  currency: text().notNull(),
  rate: exchangeRate().notNull().default('1'),
  note: text().notNull().default(''),
  createdAt: moment('created_at').notNull(),
  createdBy: integer('created_by')
    .notNull()
    .references(() => person.id),
  closedAt: moment('closed_at'),
  closedBy: integer('closed_by').references(() => person.id),
  cancelledAt: moment('cancelled_at'),
  cancelledBy: integer('cancelled_by').references(() => person.id),
  version: integer().notNull().default(1),
});

/** Columns that every order line has: what was written, in the unit it was written in and in the item's base unit. */
export const orderLineColumns = () => ({
  id: key(),
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
  amount: currencyAmount().notNull(),
  /** Of an item kept in stock; services, charges and goods that are used at once are neither reserved nor on order. */
  kept: boolean().notNull().default(true),
  /** Decided on, and neither closed nor cancelled; follows the order's decisions. */
  active: boolean().notNull().default(false),
});
