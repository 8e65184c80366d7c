import { boolean, date, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { amount, key, moment } from './columns';

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
