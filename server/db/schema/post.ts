import { sql } from 'drizzle-orm';
import { check, index, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { lot } from './catalog';
import { bytea, key, moment } from './columns';
import { purchaseOrder } from './inbound';
import { invoice } from './invoices';
import { salesOrder } from './outbound';
import { party } from './parties';
import { person } from './people';

/** Letters of the business, as they are sent: written in one transaction with what they are about, and sent by a job after it. */
export const letter = pgTable(
  'letter',
  {
    id: key(),
    purchaseOrderId: integer('purchase_order_id').references(() => purchaseOrder.id),
    salesOrderId: integer('sales_order_id').references(() => salesOrder.id),
    invoiceId: integer('invoice_id').references(() => invoice.id),
    /** Of a recall: what is recalled, and to whom it is written. */
    lotId: integer('lot_id').references(() => lot.id),
    partyId: integer('party_id').references(() => party.id),
    /** Where in the application one acts on what it tells; only of letters to our own people. */
    leadsTo: text('leads_to').notNull().default(''),
    /** Whom of our own people it is for; they alone read it, beside whoever sets the business up. */
    forId: integer('for_id').references(() => person.id),
    messageId: text('message_id').notNull().unique(),
    sender: text().notNull(),
    recipient: text().notNull(),
    subject: text().notNull(),
    body: text().notNull(),
    /** Names of the files in it. */
    attached: text().array().notNull(),
    /** The whole letter as it goes out (RFC 5322). */
    raw: bytea().notNull(),
    writtenAt: moment('written_at').notNull(),
    /** Null: the application by itself. */
    writtenBy: integer('written_by').references(() => person.id),
    sentAt: moment('sent_at'),
    tries: integer().notNull().default(0),
    /** When it is tried again, and what went wrong the last time. */
    nextTryAt: moment('next_try_at'),
    fault: text().notNull().default(''),
  },
  (t) => [
    index('letter_order').on(t.purchaseOrderId),
    index('letter_sale').on(t.salesOrderId),
    index('letter_invoice').on(t.invoiceId),
    index('letter_lot').on(t.lotId),
  ],
);

/** What the mail server that ships with the product took in. */
export const delivered = pgTable('delivered', {
  id: key(),
  messageId: text('message_id').notNull(),
  recipients: text().array().notNull(),
  raw: bytea().notNull(),
  at: moment('at').notNull(),
});

/** The business's own words on a kind of paper: above its lines and below them. */
export const paperWords = pgTable('paper_words', { kind: text().primaryKey(), opening: text().notNull(), closing: text().notNull() });

/** The picture that stands on the business's papers. */
export const logo = pgTable(
  'logo',
  { id: integer().primaryKey(), type: text().$type<'image/png' | 'image/jpeg'>().notNull(), bytes: bytea().notNull() },
  (t) => [check('logo_is_one', sql`${t.id} = 1`)],
);

/** The business's own words for a kind of letter. */
export const letterTemplate = pgTable('letter_template', { kind: text().primaryKey(), subject: text().notNull(), text: text().notNull() });
