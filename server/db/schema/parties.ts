import type { HolderSort } from '@larder/core/stock/loans';
import { sql } from 'drizzle-orm';
import { boolean, index, integer, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { amount, key, moment } from './columns';
import { taxCode } from './setup';

/** Prices that customers buy at. */
export const priceList = pgTable(
  'price_list',
  {
    id: key(),
    name: text().notNull(),
    /** For customers who have none of their own, and for what theirs says nothing of; one at most. */
    forAll: boolean('for_all').notNull().default(false),
    version: integer().notNull().default(1),
    retiredAt: moment('retired_at'),
  },
  (t) => [
    uniqueIndex('price_list_name').on(sql`lower(${t.name})`),
    uniqueIndex('price_list_for_all')
      .on(t.forAll)
      .where(sql`${t.forAll}`),
  ],
);

/** A supplier, a customer, a holder of loans, or several of these at once. */
export const party = pgTable(
  'party',
  {
    id: key(),
    name: text().notNull(),
    isSupplier: boolean('is_supplier').notNull().default(false),
    isCustomer: boolean('is_customer').notNull().default(false),
    isHolder: boolean('is_holder').notNull().default(false),
    /** Of a holder who is no customer: a person, a team or a place of work. */
    holderSort: text('holder_sort').$type<HolderSort>(),
    email: text().notNull().default(''),
    phone: text().notNull().default(''),
    address: text().notNull().default(''),
    notes: text().notNull().default(''),
    /** What a customer pays in; null: the business's own. */
    salesCurrency: text('sales_currency'),
    /** In company currency, how much a customer may owe, what is ordered and not yet invoiced included; null: any amount. */
    creditLimit: amount('credit_limit'),
    leadDays: integer('lead_days').notNull().default(7),
    /** What a supplier asks an order to come to at least, in company currency; null: nothing. */
    minimumOrder: amount('minimum_order'),
    /** Days that a customer has to pay in. */
    payDays: integer('pay_days').notNull().default(30),
    /** What a supplier charges on everything; null: as each item says. */
    taxCodeId: integer('tax_code_id').references(() => taxCode.id),
    /** What is charged to a customer on everything; null: as each item says. */
    salesTaxCodeId: integer('sales_tax_code_id').references(() => taxCode.id),
    /** The prices a customer buys at; null: those for all. */
    priceListId: integer('price_list_id').references(() => priceList.id),
    version: integer().notNull().default(1),
    retiredAt: moment('retired_at'),
  },
  (t) => [uniqueIndex('party_name').on(sql`lower(${t.name})`)],
);

/** Somebody to speak to at a supplier or customer. */
export const contact = pgTable(
  'contact',
  {
    id: key(),
    partyId: integer('party_id')
      .notNull()
      .references(() => party.id),
    position: integer().notNull(),
    name: text().notNull(),
    /** What they do there. */
    role: text().notNull().default(''),
    email: text().notNull().default(''),
    phone: text().notNull().default(''),
  },
  (t) => [index('contact_party').on(t.partyId)],
);

/** Another address of a supplier or customer: where goods go, when they do not go to its own. */
export const partyAddress = pgTable(
  'party_address',
  {
    id: key(),
    partyId: integer('party_id')
      .notNull()
      .references(() => party.id),
    position: integer().notNull(),
    label: text().notNull(),
    address: text().notNull(),
  },
  (t) => [index('party_address_party').on(t.partyId)],
);
