import { sql } from 'drizzle-orm';
import { type AnyPgColumn, bigint, boolean, check, date, index, integer, pgTable, primaryKey, text, unique } from 'drizzle-orm/pg-core';
import { written } from './people';
import { account } from './accounts';
import { amount, currencyAmount, exchangeRate, key, moment, price, quantity } from './columns';
import { purchaseTerms } from './inbound';
import { landedCharge } from './landed';
import { movementLine } from './ledger';
import { party } from './parties';
import { parcel } from './shipping';
import { taxCode } from './setup';

/** A bill or a credit of somebody: a supplier, a forwarder, the customs. It waits until it is posted, and may be undone. */
export const bill = pgTable(
  'bill',
  {
    id: key(),
    number: text().notNull().unique(),
    kind: text().$type<'bill' | 'credit'>().notNull(),
    partyId: integer('party_id')
      .notNull()
      .references((): AnyPgColumn => party.id),
    /** Their own number. */
    reference: text().notNull(),
    billedOn: date('billed_on').notNull(),
    dueOn: date('due_on'),
    currency: text().notNull(),
    rate: exchangeRate().notNull().default('1'),
    note: text().notNull().default(''),
    net: currencyAmount().notNull(),
    tax: currencyAmount().notNull(),
    /** What is owed, in company currency. */
    owed: amount().notNull(),
    /** The day its entry is of: no earlier than what it rests on. */
    bookedOn: date('booked_on'),
    postedAt: moment('posted_at'),
    undoneAt: moment('undone_at'),
    ...written(),
  },
  (t) => [index('bill_party').on(t.partyId), index('bill_reference').on(sql`lower(${t.reference})`), check('bill_kind', sql`${t.kind} in ('bill', 'credit')`)],
);

export const billLine = pgTable(
  'bill_line',
  {
    id: key(),
    billId: integer('bill_id')
      .notNull()
      .references(() => bill.id),
    position: integer().notNull(),
    kind: text().$type<'goods' | 'charge' | 'parcel' | 'other'>().notNull(),
    purchaseLineId: integer('purchase_line_id').references((): AnyPgColumn => purchaseTerms.id),
    /** In base units; nothing for a charge. */
    quantity: quantity(),
    price: price(),
    chargeId: integer('charge_id').references((): AnyPgColumn => landedCharge.id),
    /** What a carrier bills for a parcel. */
    parcelId: integer('parcel_id').references((): AnyPgColumn => parcel.id),
    /** No more bills for this charge are to come. */
    final: boolean().notNull().default(false),
    accountId: integer('account_id').references(() => account.id),
    text: text().notNull().default(''),
    /** Before tax, in the bill's currency; a credit's is written above zero. */
    amount: currencyAmount().notNull(),
    taxCodeId: integer('tax_code_id').references(() => taxCode.id),
    /** In company currency: what it clears of goods received or of an estimate, and what differs from that. */
    cleared: amount().notNull().default('0'),
    difference: amount().notNull().default('0'),
    toStock: amount('to_stock').notNull().default('0'),
    /** Counted so that all bills of the order line are rounded once; those entered before that was done stand by themselves. */
    cumulative: boolean().notNull().default(true),
  },
  (t) => [
    unique('bill_line_position').on(t.billId, t.position),
    index('bill_line_purchase').on(t.purchaseLineId),
    index('bill_line_charge').on(t.chargeId),
    index('bill_line_parcel').on(t.parcelId),
    check('bill_line_kind', sql`${t.kind} in ('goods', 'charge', 'parcel', 'other')`),
  ],
);

/** How many of each receipt a line of a bill covers; none for a credit that only takes cost off. */
export const billCover = pgTable(
  'bill_cover',
  {
    billLineId: integer('bill_line_id')
      .notNull()
      .references(() => billLine.id),
    lineId: bigint('line_id', { mode: 'number' })
      .notNull()
      .references((): AnyPgColumn => movementLine.id),
    quantity: quantity().notNull(),
  },
  (t) => [primaryKey({ columns: [t.billLineId, t.lineId] }), index('bill_cover_line').on(t.lineId)],
);

/**
 * Cents of an order line that belong to no receipt or bill: as many were billed as received, and the two differ by what an undo or a return in between had rounded.
 * They go to price variance, so that nothing stays open. Only grows.
 */
export const lineSettlement = pgTable(
  'line_settlement',
  {
    id: key(),
    purchaseLineId: integer('purchase_line_id')
      .notNull()
      .references((): AnyPgColumn => purchaseTerms.id),
    /** Added to what came in at, and to what bills cleared; company currency. */
    received: amount().notNull().default('0'),
    billed: amount().notNull().default('0'),
  },
  (t) => [index('line_settlement_line').on(t.purchaseLineId)],
);

export const payment = pgTable(
  'payment',
  {
    id: key(),
    billId: integer('bill_id')
      .notNull()
      .references(() => bill.id),
    paidOn: date('paid_on').notNull(),
    /** In the bill's currency. */
    amount: currencyAmount().notNull(),
    rate: exchangeRate().notNull().default('1'),
    /** What it takes off what is owed, in company currency, and what differs since the bill's rate. */
    settled: amount().notNull(),
    exchange: amount().notNull().default('0'),
    note: text().notNull().default(''),
    undoneAt: moment('undone_at'),
    ...written(),
  },
  (t) => [index('payment_bill').on(t.billId), check('payment_positive', sql`${t.amount} > 0`)],
);
