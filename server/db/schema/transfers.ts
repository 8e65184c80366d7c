import { sql } from 'drizzle-orm';
import { check, date, index, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { key, moment } from './columns';
import { documentLine } from './documents';
import { salesTerms } from './outbound';
import { person, written } from './people';
import { place } from './places';
import { site } from './setup';
import { carrier } from './shipping';

/** Goods that one site is to send to another. It is decided on as it is written. */
export const transfer = pgTable(
  'transfer',
  {
    id: key(),
    number: text().notNull().unique(),
    fromSiteId: integer('from_site_id')
      .notNull()
      .references(() => site.id),
    toSiteId: integer('to_site_id')
      .notNull()
      .references(() => site.id),
    sendBy: date('send_by').notNull(),
    /** The day it should arrive; null: nobody has said. */
    expectedOn: date('expected_on'),
    /** Who takes it; null: the business's own van. */
    carrierId: integer('carrier_id').references(() => carrier.id),
    tracking: text().notNull().default(''),
    note: text().notNull().default(''),
    cancelledAt: moment('cancelled_at'),
    cancelledBy: integer('cancelled_by').references(() => person.id),
    version: integer().notNull().default(1),
    ...written(),
  },
  (t) => [check('transfer_sites', sql`${t.fromSiteId} <> ${t.toSiteId}`), index('transfer_from').on(t.fromSiteId), index('transfer_to').on(t.toSiteId)],
);

/** What is written on a line of a transfer. `transfer_line` (a view) shows it with its document line. */
export const transferTerms = pgTable(
  'transfer_terms',
  {
    id: integer()
      .primaryKey()
      .references(() => documentLine.id, { onDelete: 'cascade' }),
    transferId: integer('transfer_id')
      .notNull()
      .references(() => transfer.id),
    /** The bin it is to be taken from; null: as the walk has it. */
    fromBinId: integer('from_bin_id').references(() => place.id),
    /** The bin it is to go to there; null: where it is proposed as it comes. */
    toBinId: integer('to_bin_id').references(() => place.id),
    /** The sales line that is short of it. */
    salesLineId: integer('sales_line_id').references(() => salesTerms.id, { onDelete: 'set null' }),
  },
  (t) => [index('transfer_terms_transfer').on(t.transferId), index('transfer_terms_sales_line').on(t.salesLineId)],
);
