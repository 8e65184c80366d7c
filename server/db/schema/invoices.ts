import { sql } from 'drizzle-orm';
import { type AnyPgColumn, bigint, check, date, index, integer, numeric, pgTable, primaryKey, text, unique } from 'drizzle-orm/pg-core';
import { account } from './accounts';
import { amount, currencyAmount, exchangeRate, key, moment, quantity } from './columns';
import { movementLine } from './ledger';
import { salesTerms } from './outbound';
import { party } from './parties';
import { written } from './people';
import { taxCode } from './setup';
import { shipment } from './shipping';

/** An invoice to a customer, or a credit note on one. It is issued when it is written, and stays: what was wrong is credited. */
export const invoice = pgTable(
  'invoice',
  {
    id: key(),
    number: text().notNull().unique(),
    /** The running number within its kind: without gaps. */
    running: integer().notNull(),
    kind: text().$type<'invoice' | 'credit'>().notNull(),
    /** Of a credit note: the invoice it takes something off. */
    creditsId: integer('credits_id').references((): AnyPgColumn => invoice.id),
    partyId: integer('party_id')
      .notNull()
      .references(() => party.id),
    /** To whom and where, as it was issued. */
    address: text().notNull().default(''),
    invoicedOn: date('invoiced_on').notNull(),
    dueOn: date('due_on').notNull(),
    currency: text().notNull(),
    rate: exchangeRate().notNull().default('1'),
    /** The customer's own number for what it is about. */
    reference: text().notNull().default(''),
    /** Words above and below its lines. */
    opening: text().notNull().default(''),
    closing: text().notNull().default(''),
    net: currencyAmount().notNull(),
    tax: currencyAmount().notNull(),
    /** What is owed, in company currency. */
    owed: amount().notNull(),
    /** How it came to the customer: null while it has not. */
    handedOverAt: moment('handed_over_at'),
    ...written(),
  },
  (t) => [
    unique('invoice_running').on(t.kind, t.running),
    index('invoice_party').on(t.partyId),
    index('invoice_credits').on(t.creditsId),
    index('invoice_day').on(t.invoicedOn),
    check('invoice_kind', sql`${t.kind} in ('invoice', 'credit') and (${t.kind} = 'credit') = (${t.creditsId} is not null)`),
  ],
);

/** A line of an invoice, or of a credit note: goods of an order's line, what is charged for a shipment, or something else in words. */
export const invoiceLine = pgTable(
  'invoice_line',
  {
    id: key(),
    invoiceId: integer('invoice_id')
      .notNull()
      .references(() => invoice.id),
    position: integer().notNull(),
    kind: text().$type<'goods' | 'freight' | 'other'>().notNull(),
    salesLineId: integer('sales_line_id').references(() => salesTerms.id),
    shipmentId: integer('shipment_id').references(() => shipment.id),
    /** Of a credit note: the line it takes something off. */
    creditsLineId: integer('credits_line_id').references((): AnyPgColumn => invoiceLine.id),
    text: text().notNull(),
    /** In base units; nothing for a charge, and for a credit that only takes something off the price. */
    quantity: quantity(),
    /** Before tax, in its currency; a credit's is written above zero. In company currency as well. */
    amount: currencyAmount().notNull(),
    company: amount().notNull(),
    accountId: integer('account_id')
      .notNull()
      .references(() => account.id),
    taxCodeId: integer('tax_code_id').references(() => taxCode.id),
    /** Per cent. */
    taxRate: numeric('tax_rate').notNull().default('0'),
  },
  (t) => [
    unique('invoice_line_position').on(t.invoiceId, t.position),
    index('invoice_line_sales').on(t.salesLineId),
    index('invoice_line_shipment').on(t.shipmentId),
    index('invoice_line_credits').on(t.creditsLineId),
    check('invoice_line_kind', sql`${t.kind} in ('goods', 'freight', 'other') and (${t.kind} = 'goods') = (${t.salesLineId} is not null)`),
    check('invoice_line_amount', sql`${t.amount} >= 0 and (${t.quantity} is null or ${t.quantity} > 0)`),
  ],
);

/** How many of what went out a line of an invoice is for, or a line of a credit note takes off it again. */
export const invoiceCover = pgTable(
  'invoice_cover',
  {
    invoiceLineId: integer('invoice_line_id')
      .notNull()
      .references(() => invoiceLine.id),
    lineId: bigint('line_id', { mode: 'number' })
      .notNull()
      .references((): AnyPgColumn => movementLine.id),
    quantity: quantity().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.invoiceLineId, t.lineId] }),
    index('invoice_cover_line').on(t.lineId),
    check('invoice_cover_positive', sql`${t.quantity} > 0`),
  ],
);

/** Tax of an invoice at one rate (per cent): on how much, how much, and how much in company currency. */
export const invoiceTax = pgTable(
  'invoice_tax',
  {
    invoiceId: integer('invoice_id')
      .notNull()
      .references(() => invoice.id),
    rate: numeric().notNull(),
    base: currencyAmount().notNull(),
    tax: currencyAmount().notNull(),
    company: amount().notNull(),
  },
  (t) => [primaryKey({ columns: [t.invoiceId, t.rate] })],
);

/** Money of a customer: it comes in for one invoice or several, goes back to them, or is moved from one invoice to another (then it comes to nothing). */
export const moneyIn = pgTable(
  'money_in',
  {
    id: key(),
    partyId: integer('party_id')
      .notNull()
      .references(() => party.id),
    paidOn: date('paid_on').notNull(),
    currency: text().notNull(),
    /** In its currency; below zero: paid back. */
    amount: currencyAmount().notNull(),
    rate: exchangeRate().notNull().default('1'),
    note: text().notNull().default(''),
    undoneAt: moment('undone_at'),
    ...written(),
  },
  (t) => [index('money_in_party').on(t.partyId)],
);

/** What of it is for one invoice. */
export const moneyPart = pgTable(
  'money_part',
  {
    moneyId: integer('money_id')
      .notNull()
      .references(() => moneyIn.id),
    invoiceId: integer('invoice_id')
      .notNull()
      .references(() => invoice.id),
    amount: currencyAmount().notNull(),
    /** What it takes off what is owed, in company currency, and what differs since the invoice's rate. */
    settled: amount().notNull(),
    exchange: amount().notNull().default('0'),
  },
  (t) => [primaryKey({ columns: [t.moneyId, t.invoiceId] }), index('money_part_invoice').on(t.invoiceId)],
);
