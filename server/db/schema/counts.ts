import { sql } from 'drizzle-orm';
import { bigint, boolean, check, index, integer, jsonb, numeric, pgTable, primaryKey, text, unique } from 'drizzle-orm/pg-core';
import type { CountPlan, RecountWhy } from '@larder/core/stock/counting';
import { item, lot } from './catalog';
import { amount, key, moment, quantity } from './columns';
import { movement } from './ledger';
import { person, written } from './people';
import { place } from './places';
import { reason, site } from './setup';

/** A count of bins of a site, or of some items in them. How far it is follows from its bins and lines; only how it ended is kept. */
export const countSheet = pgTable(
  'count_sheet',
  {
    id: key(),
    number: text().notNull().unique(),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    /** What it was chosen by, as it was asked for. */
    plan: jsonb().$type<CountPlan>().notNull(),
    /** Only the items of `count_item` are counted in its bins; else all that lies there. */
    restricted: boolean().notNull(),
    /** Whoever counts is not told how many there should be. */
    blind: boolean().notNull(),
    /** A difference above this share of what there should be, in per cent, or above this value, is counted again. */
    recountShare: numeric('recount_share'),
    recountValue: amount('recount_value'),
    note: text().notNull().default(''),
    closedAt: moment('closed_at'),
    closedBy: integer('closed_by').references(() => person.id),
    ...written(),
  },
  (t) => [
    index('count_sheet_site').on(t.siteId),
    index('count_sheet_open')
      .on(t.id)
      .where(sql`closed_at is null`),
  ],
);

export const countItem = pgTable(
  'count_item',
  {
    sheetId: integer('sheet_id')
      .notNull()
      .references(() => countSheet.id),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
  },
  (t) => [primaryKey({ columns: [t.sheetId, t.itemId] })],
);

/** A bin that is counted, by one person at a time. */
export const countBin = pgTable(
  'count_bin',
  {
    id: key(),
    sheetId: integer('sheet_id')
      .notNull()
      .references(() => countSheet.id),
    placeId: integer('place_id')
      .notNull()
      .references(() => place.id),
    heldBy: integer('held_by').references(() => person.id),
    heldAt: moment('held_at'),
    doneAt: moment('done_at'),
    doneBy: integer('done_by').references(() => person.id),
  },
  (t) => [unique('count_bin_key').on(t.sheetId, t.placeId), index('count_bin_place').on(t.placeId)],
);

/** What was counted of something in a bin. */
export const countLine = pgTable(
  'count_line',
  {
    id: key(),
    binId: integer('bin_id')
      .notNull()
      .references(() => countBin.id),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    lotId: integer('lot_id').references(() => lot.id),
    counted: quantity().notNull(),
    /** What the bin held at that moment, and the item's last movement then. */
    expected: quantity().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    /** Scanned one by one: the item's last movement at the first scan. None where the total was typed. */
    scannedSince: bigint('scanned_since', { mode: 'number' }),
    countedAt: moment('counted_at').notNull(),
    countedBy: integer('counted_by')
      .notNull()
      .references(() => person.id),
    /** How often it was counted, and why it is to be counted again. */
    rounds: integer().notNull().default(1),
    recount: text().$type<RecountWhy>(),
    reasonId: integer('reason_id').references(() => reason.id),
    settledAt: moment('settled_at'),
    settledBy: integer('settled_by').references(() => person.id),
    /** What was posted for it; nothing where it agreed. */
    posted: quantity().notNull().default('0'),
    movementId: integer('movement_id').references(() => movement.id),
  },
  (t) => [
    unique('count_line_key').on(t.binId, t.itemId, t.lotId).nullsNotDistinct(),
    index('count_line_item').on(t.itemId),
    index('count_line_movement')
      .on(t.movementId)
      .where(sql`movement_id is not null`),
    check('count_line_counted', sql`${t.counted} >= 0`),
    check('count_line_posted', sql`(${t.posted} <> 0) = (${t.movementId} is not null) and (${t.movementId} is null or ${t.settledAt} is not null)`),
  ],
);

/** Each time that something was counted, as it was said then. Only grows. */
export const countEntry = pgTable(
  'count_entry',
  {
    id: key(),
    lineId: integer('line_id')
      .notNull()
      .references(() => countLine.id),
    counted: quantity().notNull(),
    expected: quantity().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    at: moment('at').notNull(),
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
  },
  (t) => [index('count_entry_line').on(t.lineId)],
);

/** How much an item is used in a year, and the class that it is counted by; reckoned anew each day. */
export const itemClass = pgTable('item_class', {
  itemId: integer('item_id')
    .primaryKey()
    .references(() => item.id),
  class: text().$type<'A' | 'B' | 'C'>().notNull(),
  usedValue: amount('used_value').notNull(),
});
