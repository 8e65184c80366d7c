import type { workUnits } from '@larder/contract/making';
import { sql } from 'drizzle-orm';
import { check, date, index, integer, pgTable, primaryKey, text, unique } from 'drizzle-orm/pg-core';
import { account } from './accounts';
import { item } from './catalog';
import { key, moment, price, quantity } from './columns';
import { person } from './people';
import { unit } from './setup';

/** A version of a bill of materials: what so many of an item are made of, from a day on. Of the versions of an item, the one that began last is in use. */
export const bom = pgTable(
  'bom',
  {
    id: key(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    /** Counts the versions of the item. */
    number: integer().notNull(),
    name: text().notNull().default(''),
    startsOn: date('starts_on').notNull(),
    /** Base units that its parts are for. */
    makes: quantity().notNull(),
    /** Of the cost, against those of its by-products; null: by value. */
    share: quantity(),
    steps: text().notNull().default(''),
    note: text().notNull().default(''),
    version: integer().notNull().default(1),
    retiredAt: moment('retired_at'),
    createdAt: moment('created_at').notNull(),
    createdBy: integer('created_by')
      .notNull()
      .references(() => person.id),
  },
  (t) => [unique('bom_number').on(t.itemId, t.number), check('bom_makes', sql`${t.makes} > 0 and ${t.share} >= 0`)],
);

/** A part: so many for what its bill makes, as it was written, and in base units. */
export const bomPart = pgTable(
  'bom_part',
  {
    bomId: integer('bom_id')
      .notNull()
      .references(() => bom.id, { onDelete: 'cascade' }),
    position: integer().notNull(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    quantity: quantity().notNull(),
    /** Null: its base unit. */
    unitId: integer('unit_id').references(() => unit.id),
    baseQuantity: quantity('base_quantity').notNull(),
    /** Per cent on top. */
    waste: quantity().notNull().default('0'),
    note: text().notNull().default(''),
  },
  (t) => [
    primaryKey({ columns: [t.bomId, t.position] }),
    unique('bom_part_item').on(t.bomId, t.itemId),
    index('bom_part_used').on(t.itemId),
    check('bom_part_positive', sql`${t.quantity} > 0 and ${t.baseQuantity} > 0 and ${t.waste} >= 0`),
  ],
);

/** What may be taken in place of a part, in the order of preference: so many base units for what its line says. */
export const bomAlternative = pgTable(
  'bom_alternative',
  {
    bomId: integer('bom_id')
      .notNull()
      .references(() => bom.id, { onDelete: 'cascade' }),
    /** Of the part. */
    part: integer().notNull(),
    position: integer().notNull(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    quantity: quantity().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.bomId, t.part, t.position] }),
    index('bom_alternative_item').on(t.itemId),
    check('bom_alternative_positive', sql`${t.quantity} > 0`),
  ],
);

/** Labour, a machine or work outside: so many hours or pieces for what its bill makes, at a rate, taken from an account. */
export const bomCost = pgTable(
  'bom_cost',
  {
    bomId: integer('bom_id')
      .notNull()
      .references(() => bom.id, { onDelete: 'cascade' }),
    position: integer().notNull(),
    name: text().notNull(),
    per: text().$type<(typeof workUnits)[number]>().notNull(),
    quantity: quantity().notNull(),
    rate: price().notNull(),
    accountId: integer('account_id')
      .notNull()
      .references(() => account.id),
  },
  (t) => [
    primaryKey({ columns: [t.bomId, t.position] }),
    check('bom_cost_positive', sql`${t.quantity} > 0 and ${t.rate} >= 0 and ${t.per} in ('hour', 'piece')`),
  ],
);

/** What else comes of the same work. */
export const bomByProduct = pgTable(
  'bom_by_product',
  {
    bomId: integer('bom_id')
      .notNull()
      .references(() => bom.id, { onDelete: 'cascade' }),
    position: integer().notNull(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    quantity: quantity().notNull(),
    share: quantity(),
  },
  (t) => [
    primaryKey({ columns: [t.bomId, t.position] }),
    unique('bom_by_product_item').on(t.bomId, t.itemId),
    index('bom_by_product_used').on(t.itemId),
    check('bom_by_product_positive', sql`${t.quantity} > 0 and ${t.share} >= 0`),
  ],
);
