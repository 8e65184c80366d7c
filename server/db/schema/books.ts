import { sql } from 'drizzle-orm';
import { type AnyPgColumn, bigint, date, index, integer, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { account } from './accounts';
import { bill, payment } from './bills';
import { item } from './catalog';
import { amount, key, moment } from './columns';
import { invoice, moneyIn } from './invoices';
import { landedSheet } from './landed';
import { movement } from './ledger';
import { person } from './people';
import { department } from './setup';
import { shipment } from './shipping';

export const journalEntry = pgTable(
  'journal_entry',
  {
    id: key(),
    movementId: integer('movement_id').references((): AnyPgColumn => movement.id),
    billId: integer('bill_id').references((): AnyPgColumn => bill.id),
    paymentId: integer('payment_id').references((): AnyPgColumn => payment.id),
    sheetId: integer('sheet_id').references((): AnyPgColumn => landedSheet.id),
    shipmentId: integer('shipment_id').references((): AnyPgColumn => shipment.id),
    invoiceId: integer('invoice_id').references((): AnyPgColumn => invoice.id),
    moneyId: integer('money_id').references((): AnyPgColumn => moneyIn.id),
    effectiveOn: date('effective_on').notNull(),
    postedAt: moment('posted_at').notNull(),
    text: text().notNull(),
  },
  (t) => [
    index('journal_entry_movement').on(t.movementId),
    index('journal_entry_bill').on(t.billId),
    index('journal_entry_shipment').on(t.shipmentId),
    index('journal_entry_invoice').on(t.invoiceId),
    index('journal_entry_money').on(t.moneyId),
    index('journal_entry_day').on(t.effectiveOn),
  ],
);

export const journalLine = pgTable(
  'journal_line',
  {
    id: bigint({ mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    entryId: integer('entry_id')
      .notNull()
      .references(() => journalEntry.id),
    accountId: integer('account_id')
      .notNull()
      .references(() => account.id),
    itemId: integer('item_id').references((): AnyPgColumn => item.id),
    /** Debit positive, credit negative. */
    amount: amount().notNull(),
    departmentId: integer('department_id').references((): AnyPgColumn => department.id),
  },
  (t) => [
    index('journal_line_entry').on(t.entryId),
    index('journal_line_account').on(t.accountId),
    index('journal_line_department')
      .on(t.departmentId)
      .where(sql`department_id is not null`),
  ],
);

/** Accounts of the accounting service, as they were brought in last. */
export const outsideAccount = pgTable('outside_account', { code: text().primaryKey(), name: text().notNull() });

/** An entry handed over to the accounting service. Taken back, it may go out again; only one handing over stands. */
export const handover = pgTable(
  'handover',
  {
    id: key(),
    entryId: integer('entry_id')
      .notNull()
      .references(() => journalEntry.id),
    /** Made of the entry and how often it went, so that asking twice gives the same document there. */
    reference: text().notNull().unique(),
    /** The number it has there. */
    outsideNumber: text('outside_number').notNull(),
    sentAt: moment('sent_at').notNull(),
    sentBy: integer('sent_by')
      .notNull()
      .references(() => person.id),
    takenBackAt: moment('taken_back_at'),
    takenBackBy: integer('taken_back_by').references(() => person.id),
  },
  (t) => [
    uniqueIndex('handover_standing')
      .on(t.entryId)
      .where(sql`taken_back_at is null`),
  ],
);
