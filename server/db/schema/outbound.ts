import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, pgTable, primaryKey, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { category, item } from './catalog';
import { key, moment, price, quantity } from './columns';
import { purchaseTerms } from './inbound';
import { orderColumns, termColumns } from './order';
import { party, priceList } from './parties';
import { person } from './people';
import { place } from './places';
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
    /** What the customer asked for, when this is sold in its place. */
    askedItemId: integer('asked_item_id').references(() => item.id),
    /** Of a quote: so many base units another site is asked to send to the line's own as it is confirmed, and which. */
    bring: quantity().notNull().default('0'),
    bringFromId: integer('bring_from_id').references(() => site.id),
  },
  (t) => [
    index('sales_terms_order').on(t.orderId),
    check('sales_terms_bring', sql`${t.bring} >= 0 and (${t.bring} = 0 or ${t.bringFromId} is not null)`),
    check('sales_terms_positive', sql`${t.quantity} > 0 and ${t.price} >= 0 and ${t.pricePer} > 0`),
  ],
);

/** What was ordered of a supplier for a sales line, to go straight to its customer: how many base units, on which purchase line. None of it is left once that line was called off. */
export const supply = pgTable(
  'supply',
  {
    id: key(),
    salesLineId: integer('sales_line_id')
      .notNull()
      .references(() => salesTerms.id),
    purchaseLineId: integer('purchase_line_id')
      .notNull()
      .unique()
      .references(() => purchaseTerms.id),
    quantity: quantity().notNull(),
  },
  (t) => [index('supply_sales_line').on(t.salesLineId), check('supply_not_negative', sql`${t.quantity} >= 0`)],
);

/** Less of an item was found in a bin than it should hold: it is to be counted, and picked from last until somebody has said what is there. */
export const binDoubt = pgTable(
  'bin_doubt',
  {
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    placeId: integer('place_id')
      .notNull()
      .references(() => place.id),
    since: moment('since').notNull(),
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
    reason: text().notNull().default(''),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.placeId] })],
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
