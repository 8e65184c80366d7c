import { integer, text } from 'drizzle-orm/pg-core';
import { currencyAmount, exchangeRate, key, moment, price, quantity } from './columns';
import { documentLine } from './documents';
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

/** What is written on a line of any order: in the unit it was written in, and at which price. Its stock side is the document line of the same id. */
export const termColumns = () => ({
  id: integer()
    .primaryKey()
    .references(() => documentLine.id, { onDelete: 'cascade' }),
  quantity: quantity().notNull(),
  unit: text().notNull(),
  factorNumerator: integer('factor_numerator').notNull().default(1),
  factorDenominator: integer('factor_denominator').notNull().default(1),
  price: price().notNull(),
  pricePer: quantity('price_per').notNull().default('1'),
  discount: quantity().notNull().default('0'),
  taxCodeId: integer('tax_code_id').references(() => taxCode.id),
  amount: currencyAmount().notNull(),
});
