import type { SpreadBy } from '@larder/core/costing/landed';
import { type AnyPgColumn, bigint, boolean, index, integer, numeric, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { amount, currencyAmount, exchangeRate, key, moment, quantity } from './columns';
import { movement, movementLine } from './ledger';
import { party } from './parties';
import { written } from './people';

/** A worksheet that spreads charges over the lines of one or several receipts. */
export const landedSheet = pgTable('landed_sheet', {
  id: key(),
  number: text().notNull().unique(),
  note: text().notNull().default(''),
  version: integer().notNull().default(1),
  undoneAt: moment('undone_at'),
  ...written(),
});

export const landedReceipt = pgTable(
  'landed_receipt',
  {
    sheetId: integer('sheet_id')
      .notNull()
      .references(() => landedSheet.id),
    movementId: integer('movement_id')
      .notNull()
      .references((): AnyPgColumn => movement.id),
  },
  (t) => [primaryKey({ columns: [t.sheetId, t.movementId] }), index('landed_receipt_movement').on(t.movementId)],
);

/** The lines a worksheet spreads over, as they were when it was made: how many, net of what had gone back, and what they cost. */
export const landedLine = pgTable(
  'landed_line',
  {
    sheetId: integer('sheet_id')
      .notNull()
      .references(() => landedSheet.id),
    lineId: bigint('line_id', { mode: 'number' })
      .notNull()
      .references((): AnyPgColumn => movementLine.id),
    quantity: quantity().notNull(),
    value: amount().notNull(),
  },
  (t) => [primaryKey({ columns: [t.sheetId, t.lineId] })],
);

export const landedCharge = pgTable(
  'landed_charge',
  {
    id: key(),
    sheetId: integer('sheet_id')
      .notNull()
      .references(() => landedSheet.id),
    position: integer().notNull(),
    name: text().notNull(),
    by: text().$type<SpreadBy>().notNull(),
    currency: text().notNull(),
    rate: exchangeRate().notNull().default('1'),
    amount: currencyAmount().notNull(),
    /** The estimate in company currency, and what bills have cleared of it. */
    estimate: amount().notNull(),
    cleared: amount().notNull().default('0'),
    /** Who bills it; nobody yet when it is not known. */
    partyId: integer('party_id').references((): AnyPgColumn => party.id),
    settledAt: moment('settled_at'),
    /** Taken off the worksheet, or the worksheet was undone. */
    removedAt: moment('removed_at'),
  },
  (t) => [index('landed_charge_sheet').on(t.sheetId)],
);

/** What of a charge falls on a receipt line, and what of that has gone to stock. */
export const landedShare = pgTable(
  'landed_share',
  {
    chargeId: integer('charge_id')
      .notNull()
      .references(() => landedCharge.id),
    lineId: bigint('line_id', { mode: 'number' })
      .notNull()
      .references((): AnyPgColumn => movementLine.id),
    leftOut: boolean('left_out').notNull().default(false),
    /** Typed by hand, when the charge is spread so. */
    typed: quantity(),
    amount: amount().notNull(),
    /** What the line had brought, net, when the charge was put on it; how many of that were still here, the fewest there ever were; and each amount posted times how many were here then. */
    brought: quantity().notNull(),
    here: quantity().notNull(),
    weight: numeric({ precision: 38, scale: 6 }).notNull(),
    toStock: amount('to_stock').notNull(),
  },
  (t) => [primaryKey({ columns: [t.chargeId, t.lineId] }), index('landed_share_line').on(t.lineId)],
);
