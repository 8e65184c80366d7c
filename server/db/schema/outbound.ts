import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { category, item } from './catalog';
import { key, moment, price, quantity } from './columns';
import { orderColumns, termColumns } from './order';
import { party, priceList } from './parties';
import { person } from './people';
import { site } from './setup';

export const salesOrder = pgTable(
  'sales_order',
  {
    ...orderColumns(),
    customerId: integer('customer_id')
      .notNull()
      .references(() => party.id),
    shipBy: date('ship_by').notNull(),
    /** The number the customer has for it. */
    reference: text().notNull().default(''),
    /** Its prices are offered through this day; null for orders of the time before there was one. */
    validUntil: date('valid_until'),
    /** Per cent off all lines, after what is taken off each. */
    discount: quantity().notNull().default('0'),
    /** Where the goods go; empty: to the customer's own address. */
    shipTo: text('ship_to').notNull().default(''),
    /** It goes out whole or not at all. */
    whole: boolean().notNull().default(false),
    confirmedAt: moment('confirmed_at'),
    confirmedBy: integer('confirmed_by').references(() => person.id),
  },
  (t) => [index('sales_order_customer').on(t.customerId)],
);

/** What was agreed with the customer for a line. `sales_line` (a view) shows it with its document line. */
export const salesTerms = pgTable(
  'sales_terms',
  {
    ...termColumns(),
    orderId: integer('order_id')
      .notNull()
      .references(() => salesOrder.id),
  },
  (t) => [index('sales_terms_order').on(t.orderId), check('sales_terms_positive', sql`${t.quantity} > 0 and ${t.price} >= 0 and ${t.pricePer} > 0`)],
);

/** Where a line's goods come from, when somebody chose: which source, how many, promised for when. */
export const supply = pgTable(
  'supply',
  {
    id: key(),
    salesLineId: integer('sales_line_id')
      .notNull()
      .references(() => salesTerms.id),
    source: text().notNull(),
    purchaseLineId: integer('purchase_line_id'),
    fromSiteId: integer('from_site_id').references(() => site.id),
    quantity: quantity().notNull(),
    promisedOn: date('promised_on'),
  },
  (t) => [check('supply_source', sql`${t.source} in ('wait', 'bring', 'direct')`), check('supply_positive', sql`${t.quantity} > 0`)],
);

/** What a price list says of an item, or of all items of a category: from so many base units on, on which days. */
export const priceRow = pgTable(
  'price_row',
  {
    id: key(),
    listId: integer('list_id')
      .notNull()
      .references(() => priceList.id),
    position: integer().notNull(),
    itemId: integer('item_id').references(() => item.id),
    categoryId: integer('category_id').references(() => category.id),
    from: quantity('from_quantity').notNull().default('0'),
    price: price(),
    /** Per cent off the item's own sales price. */
    percentOff: quantity('percent_off'),
    startsOn: date('starts_on'),
    endsOn: date('ends_on'),
  },
  (t) => [
    index('price_row_list').on(t.listId),
    index('price_row_item').on(t.itemId),
    check('price_row_subject', sql`num_nonnulls(${t.itemId}, ${t.categoryId}) = 1`),
    check('price_row_price', sql`num_nonnulls(${t.price}, ${t.percentOff}) = 1 and (${t.itemId} is not null or ${t.price} is null)`),
    check('price_row_days', sql`${t.startsOn} is null or ${t.endsOn} is null or ${t.startsOn} <= ${t.endsOn}`),
  ],
);

/** What a customer calls an item. */
export const customerCode = pgTable(
  'customer_code',
  {
    customerId: integer('customer_id')
      .notNull()
      .references(() => party.id),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    code: text().notNull(),
  },
  (t) => [uniqueIndex('customer_code_code').on(t.customerId, sql`lower(${t.code})`), index('customer_code_item').on(t.itemId)],
);
