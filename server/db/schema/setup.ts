import { sql } from 'drizzle-orm';
import { type AnyPgColumn, boolean, check, date, index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { exchangeRate, key, moment, quantity } from './columns';

export const company = pgTable(
  'company',
  {
    id: integer().primaryKey(),
    name: text().notNull(),
    currency: text().notNull().default('GBP'),
    timeZone: text('time_zone').notNull().default('Europe/London'),
    /** Days from confirming to shipping that the business promises. */
    shipDays: integer('ship_days').notNull().default(2),
    /** Days through which a quote's prices are offered. */
    quoteDays: integer('quote_days').notNull().default(30),
    /** How much is free at a site may be seen by whom may look only at others. */
    freeSeenElsewhere: boolean('free_seen_elsewhere').notNull().default(true),
    closedThrough: date('closed_through'),
    /** After how many days items of each class are due to be counted; null: never. */
    countEveryA: integer('count_every_a').default(30),
    countEveryB: integer('count_every_b').default(90),
    countEveryC: integer('count_every_c').default(365),
    /** By how many per cent what one made costs may differ from its bill before it is asked about; null: never asked. */
    makingDifference: integer('making_difference').default(20),
    /** What the numbers of lots that are made consist of: see `core/making/lotNumber`. */
    lotPattern: text('lot_pattern').notNull().default('{order}-{n}'),
    /** Up to these shares of all that is used, in per cent, items of the highest value are of class A, then of class B. */
    shareA: integer('share_a').notNull().default(80),
    shareB: integer('share_b').notNull().default(95),
    /** Of how many of a hundred orders each class should be there at once, in per cent. */
    serviceA: quantity('service_a').notNull().default('98'),
    serviceB: quantity('service_b').notNull().default('95'),
    serviceC: quantity('service_c').notNull().default('90'),
    /** What it costs to place and take in one order, and to send and take in one transfer, and what goods cost in a year while they lie, in per cent of their worth. */
    orderCost: quantity('order_cost').notNull().default('12'),
    transferCost: quantity('transfer_cost').notNull().default('2'),
    holdingRate: quantity('holding_rate').notNull().default('20'),
    /** The day the classes of items were reckoned last. */
    classifiedOn: date('classified_on'),
    /** What stands on its papers: where it is, by which number tax offices know it, and how it is paid. */
    address: text().notNull().default(''),
    taxNumber: text('tax_number').notNull().default(''),
    payTo: text('pay_to').notNull().default(''),
    /** Which of `server/ledger/repair.ts` this database has had. */
    repaired: integer().notNull().default(0),
    /** Made-up data, with passwords that everybody knows. */
    demo: boolean().notNull().default(false),
  },
  (t) => [check('company_is_one', sql`${t.id} = 1`)],
);

export const site = pgTable(
  'site',
  {
    id: key(),
    code: text().notNull(),
    name: text().notNull(),
    retiredAt: moment('retired_at'),
  },
  (t) => [uniqueIndex('site_code').on(sql`lower(${t.code})`)],
);

export const unit = pgTable('unit', {
  id: key(),
  code: text().notNull().unique(),
  name: text().notNull(),
  step: quantity().notNull().default('1'),
  retiredAt: moment('retired_at'),
});

export const reason = pgTable('reason', {
  id: key(),
  code: text().notNull().unique(),
  name: text().notNull(),
  /** What the reason is for, and so which place the goods come from or go to. */
  place: text().notNull().default('found-or-lost'),
  accountId: integer('account_id').notNull(),
  /** Own use only: the tax that is due on it, unless the sheet says otherwise. */
  taxCodeId: integer('tax_code_id').references((): AnyPgColumn => taxCode.id),
  retiredAt: moment('retired_at'),
});

/** Who in the business costs are borne by. */
export const department = pgTable('department', { id: key(), code: text().notNull().unique(), name: text().notNull(), retiredAt: moment('retired_at') });

export const taxCode = pgTable('tax_code', { id: key(), code: text().notNull().unique(), name: text().notNull(), retiredAt: moment('retired_at') });

export const taxRate = pgTable(
  'tax_rate',
  {
    taxCodeId: integer('tax_code_id')
      .notNull()
      .references(() => taxCode.id),
    fromDay: date('from_day').notNull(),
    /** Per cent. */
    rate: quantity().notNull(),
    /** Share of tax paid that can be claimed back, per cent. */
    recoverable: quantity().notNull().default('100'),
  },
  (t) => [primaryKey({ columns: [t.taxCodeId, t.fromDay] })],
);

export const currencyRate = pgTable(
  'currency_rate',
  {
    currency: text().notNull(),
    fromDay: date('from_day').notNull(),
    rate: exchangeRate().notNull(),
  },
  (t) => [primaryKey({ columns: [t.currency, t.fromDay] })],
);

/** Running numbers of documents. A gapless one is taken last in the posting's transaction. */
export const counter = pgTable('counter', {
  kind: text().primaryKey(),
  prefix: text().notNull(),
  next: integer().notNull().default(1),
  gapless: boolean().notNull().default(false),
});

/** Every change of an editable thing: who, when, from what to what. */
export const change = pgTable(
  'change',
  {
    id: key(),
    kind: text().notNull(),
    subjectId: integer('subject_id').notNull(),
    at: moment().notNull(),
    personId: integer('person_id').notNull(),
    field: text().notNull(),
    was: jsonb(),
    is: jsonb(),
    /** It tells what something costs. */
    cost: boolean().notNull().default(false),
  },
  (t) => [index('change_subject').on(t.kind, t.subjectId, t.id)],
);
