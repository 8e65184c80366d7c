import { type AnyPgColumn, date, index, integer, pgTable, unique } from 'drizzle-orm/pg-core';
import { item, lot } from './catalog';
import { amount, quantity } from './columns';
import { place } from './places';

/** Ends of months, each its last day, of which it is kept what lay where and what it was worth. What is dated back is added to them. */
export const keptMonth = pgTable('kept_month', { month: date().primaryKey() });

const ofItem = () =>
  integer('item_id')
    .notNull()
    .references((): AnyPgColumn => item.id);

/** What owned places held at the end of a month. */
export const monthBalance = pgTable(
  'month_balance',
  {
    month: date().notNull(),
    itemId: ofItem(),
    placeId: integer('place_id')
      .notNull()
      .references(() => place.id),
    lotId: integer('lot_id').references((): AnyPgColumn => lot.id),
    quantity: quantity().notNull(),
  },
  (t) => [unique('month_balance_key').on(t.itemId, t.month, t.placeId, t.lotId).nullsNotDistinct(), index('month_balance_month').on(t.month)],
);

/** What an item's pool held at the end of a month, and what it was worth. */
export const monthPool = pgTable(
  'month_pool',
  { month: date().notNull(), itemId: ofItem(), quantity: quantity().notNull(), value: amount().notNull() },
  (t) => [unique('month_pool_key').on(t.itemId, t.month), index('month_pool_month').on(t.month)],
);
