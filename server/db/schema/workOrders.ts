import type { workUnits } from '@larder/contract/making';
import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { account } from './accounts';
import { amount, key, moment, price, quantity } from './columns';
import { documentLine } from './documents';
import { item } from './catalog';
import { movement } from './ledger';
import { bom } from './making';
import { salesTerms } from './outbound';
import { person, written } from './people';
import { place } from './places';
import { site } from './setup';

/** An order to make so many of an item at a site. What has become of it follows from its lines. */
export const workOrder = pgTable(
  'work_order',
  {
    id: key(),
    number: text().notNull().unique(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    /** The bill it was written from; null: its lines were typed. */
    bomId: integer('bom_id').references(() => bom.id),
    startsOn: date('starts_on').notNull(),
    dueOn: date('due_on').notNull(),
    steps: text().notNull().default(''),
    note: text().notNull().default(''),
    /** The other way round: its item was taken apart, and its products are the parts. */
    apart: boolean().notNull().default(false),
    /** The sales line that waits for it. */
    salesLineId: integer('sales_line_id').references(() => salesTerms.id, { onDelete: 'set null' }),
    /** The sales order had it made, and nobody has changed it since: it follows that order while it is not begun. */
    followsSale: boolean('follows_sale').notNull().default(false),
    /** The order whose rest it is, and the posting that parted them. */
    restOfId: integer('rest_of_id'),
    restBy: integer('rest_by').references(() => movement.id),
    releasedAt: moment('released_at'),
    releasedBy: integer('released_by').references(() => person.id),
    /** Nothing more is made on it. */
    endedAt: moment('ended_at'),
    endedBy: integer('ended_by').references(() => person.id),
    cancelledAt: moment('cancelled_at'),
    cancelledBy: integer('cancelled_by').references(() => person.id),
    version: integer().notNull().default(1),
    ...written(),
  },
  (t) => [
    index('work_order_item').on(t.itemId),
    index('work_order_due').on(t.dueOn),
    index('work_order_sales_line').on(t.salesLineId),
    index('work_order_rest').on(t.restBy),
    check('work_order_days', sql`${t.dueOn} >= ${t.startsOn}`),
    check('work_order_ends', sql`num_nonnulls(${t.endedAt}, ${t.cancelledAt}) <= 1 and (${t.endedAt} is null or ${t.releasedAt} is not null)`),
  ],
);

/** What is written on a component. `component_line` (a view) shows it with its document line. */
export const componentTerms = pgTable(
  'component_terms',
  {
    id: integer()
      .primaryKey()
      .references(() => documentLine.id, { onDelete: 'cascade' }),
    workOrderId: integer('work_order_id')
      .notNull()
      .references(() => workOrder.id),
    note: text().notNull().default(''),
  },
  (t) => [index('component_terms_order').on(t.workOrderId)],
);

/** What is written on an output: the first is what the order is for. `product_line` (a view) shows it with its document line. */
export const productTerms = pgTable(
  'product_terms',
  {
    id: integer()
      .primaryKey()
      .references(() => documentLine.id, { onDelete: 'cascade' }),
    workOrderId: integer('work_order_id')
      .notNull()
      .references(() => workOrder.id),
    /** Of the cost, against those of the other outputs; null: by value. */
    share: quantity(),
    /** The bin it goes to; null: the item's own. */
    binId: integer('bin_id').references(() => place.id),
    /** Of what its line counts as cancelled: was made, and scrapped. */
    scrapped: quantity().notNull().default('0'),
  },
  (t) => [index('product_terms_order').on(t.workOrderId), check('product_terms_scrapped', sql`${t.scrapped} >= 0 and ${t.share} >= 0`)],
);

/** Labour, a machine or work outside that is planned for the whole of an order. */
export const workCost = pgTable(
  'work_cost',
  {
    workOrderId: integer('work_order_id')
      .notNull()
      .references(() => workOrder.id, { onDelete: 'cascade' }),
    position: integer().notNull(),
    name: text().notNull(),
    per: text().$type<(typeof workUnits)[number]>().notNull(),
    quantity: quantity().notNull(),
    rate: price().notNull(),
    accountId: integer('account_id')
      .notNull()
      .references(() => account.id),
  },
  (t) => [primaryKey({ columns: [t.workOrderId, t.position] }), check('work_cost_positive', sql`${t.quantity} >= 0 and ${t.rate} >= 0`)],
);

/** What somebody wrote down of the work: its movement says what was used and made. Only grows. */
export const workRecord = pgTable(
  'work_record',
  {
    movementId: integer('movement_id')
      .primaryKey()
      .references(() => movement.id),
    workOrderId: integer('work_order_id')
      .notNull()
      .references(() => workOrder.id),
    workerId: integer('worker_id')
      .notNull()
      .references(() => person.id),
    /** Of what the order is for: made, and no good. */
    scrapped: quantity().notNull().default('0'),
    /** Of what the order is for: not made on it any more, by this; below zero what was made beyond what was ordered. */
    rest: quantity().notNull().default('0'),
    /** Nothing more was made on it after this. */
    ended: boolean().notNull(),
    /** Why it was completed though something used had not been taken from a shelf. */
    untakenReason: text('untaken_reason').notNull().default(''),
  },
  (t) => [index('work_record_order').on(t.workOrderId), check('work_record_scrapped', sql`${t.scrapped} >= 0`)],
);

/** What went into work in progress beside goods, and what left it beside them; below zero what left it. An undo turns its rows round. Only grows. */
export const workAmount = pgTable(
  'work_amount',
  {
    id: key(),
    movementId: integer('movement_id')
      .notNull()
      .references(() => movement.id),
    workOrderId: integer('work_order_id')
      .notNull()
      .references(() => workOrder.id),
    /** Taken up from an account; gone to making variance; or carried from one order to the one that is its rest. */
    kind: text().$type<'charge' | 'variance' | 'carried'>().notNull(),
    /** Of what is charged. */
    accountId: integer('account_id').references(() => account.id),
    name: text().notNull().default(''),
    per: text().$type<(typeof workUnits)[number]>(),
    quantity: quantity(),
    rate: price(),
    amount: amount().notNull(),
  },
  (t) => [
    index('work_amount_order').on(t.workOrderId),
    index('work_amount_movement').on(t.movementId),
    check(
      'work_amount_kind',
      sql`${t.kind} in ('charge', 'variance', 'carried') and (${t.kind} = 'charge') = (${t.accountId} is not null and ${t.quantity} is not null and ${t.rate} is not null and ${t.per} is not null)`,
    ),
  ],
);

/** What was used and never taken from a shelf when its order was completed all the same: open until it is recorded or given up. */
export const untaken = pgTable(
  'untaken',
  {
    id: key(),
    movementId: integer('movement_id')
      .notNull()
      .references(() => movement.id),
    lineId: integer('line_id')
      .notNull()
      .references(() => componentTerms.id),
    quantity: quantity().notNull(),
    givenUpAt: moment('given_up_at'),
    givenUpBy: integer('given_up_by').references(() => person.id),
    givenUpReason: text('given_up_reason').notNull().default(''),
  },
  (t) => [index('untaken_line').on(t.lineId), index('untaken_movement').on(t.movementId), check('untaken_positive', sql`${t.quantity} > 0`)],
);
