import { sql } from 'drizzle-orm';
import { boolean, check, index, integer, pgTable, primaryKey, uniqueIndex } from 'drizzle-orm/pg-core';
import { key, moment } from './columns';
import { salesOrder } from './outbound';
import { person } from './people';
import { site } from './setup';
import { transfer } from './transfers';
import { workOrder } from './workOrders';

/** Orders, transfers and work orders that somebody picks in one go, at one site. */
export const pickRound = pgTable(
  'pick_round',
  {
    id: key(),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    pickerId: integer('picker_id')
      .notNull()
      .references(() => person.id),
    startedAt: moment('started_at').notNull(),
    endedAt: moment('ended_at'),
  },
  (t) => [
    index('pick_round_open')
      .on(t.pickerId)
      .where(sql`ended_at is null`),
  ],
);

/** A customer's order, a transfer, or a work order, in a round, and the slot of the trolley that its goods go into. */
export const roundOrder = pgTable(
  'round_order',
  {
    roundId: integer('round_id')
      .notNull()
      .references(() => pickRound.id),
    /** What it is picked for: one of the three. */
    orderId: integer('order_id').references(() => salesOrder.id),
    transferId: integer('transfer_id').references(() => transfer.id),
    workOrderId: integer('work_order_id').references(() => workOrder.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    slot: integer().notNull(),
    /** Its round is not ended: nobody else picks it at that site. */
    open: boolean().notNull().default(true),
  },
  (t) => [
    primaryKey({ columns: [t.roundId, t.slot] }),
    check('round_order_one', sql`num_nonnulls(${t.orderId}, ${t.transferId}, ${t.workOrderId}) = 1`),
    uniqueIndex('round_order_once')
      .on(t.orderId, t.siteId)
      .where(sql`open`),
    uniqueIndex('round_transfer_once')
      .on(t.transferId)
      .where(sql`open`),
    uniqueIndex('round_work_order_once')
      .on(t.workOrderId)
      .where(sql`open`),
  ],
);
