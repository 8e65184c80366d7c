import { sql } from 'drizzle-orm';
import { check, date, index, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { key, moment, quantity } from './columns';
import { orderColumns, termColumns } from './order';
import { party } from './parties';
import { person } from './people';
import { site } from './setup';

export const salesOrder = pgTable('sales_order', {
  ...orderColumns(),
  customerId: integer('customer_id')
    .notNull()
    .references(() => party.id),
  shipBy: date('ship_by').notNull(),
  confirmedAt: moment('confirmed_at'),
  confirmedBy: integer('confirmed_by').references(() => person.id),
});

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
