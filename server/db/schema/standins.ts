import { boolean, date, integer, pgTable, text, unique } from 'drizzle-orm/pg-core';
import { amount, key, moment, quantity } from './columns';

/** What the accounting service that ships with the product keeps: its own accounts and documents, known to it by our reference. */
export const standinAccount = pgTable('standin_account', { code: text().primaryKey(), name: text().notNull() });

export const standinDocument = pgTable('standin_document', {
  id: key(),
  reference: text().notNull().unique(),
  kind: text().notNull(),
  day: date().notNull(),
  party: text().notNull(),
  text: text().notNull(),
  reversed: boolean().notNull().default(false),
  at: moment('at').notNull(),
});

export const standinDocumentLine = pgTable('standin_document_line', {
  id: key(),
  documentId: integer('document_id')
    .notNull()
    .references(() => standinDocument.id),
  accountCode: text('account_code')
    .notNull()
    .references(() => standinAccount.code),
  amount: amount().notNull(),
});

/** What the simulated carrier knows of a parcel that was booked with it, by the reference it was booked under. */
export const standinParcel = pgTable(
  'standin_parcel',
  {
    id: key(),
    carrier: text().notNull(),
    reference: text().notNull(),
    position: integer().notNull(),
    tracking: text().notNull().unique(),
    zone: integer().notNull(),
    service: text().notNull(),
    /** Kilograms it is priced by. */
    weight: quantity().notNull(),
    price: amount().notNull(),
    bookedAt: moment('booked_at').notNull(),
    /** It stands ready for the driver since then; taken then. */
    readyAt: moment('ready_at'),
    cancelledAt: moment('cancelled_at'),
  },
  (t) => [unique('standin_parcel_once').on(t.reference, t.position)],
);
