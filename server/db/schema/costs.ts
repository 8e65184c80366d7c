import { type AnyPgColumn, bigint, date, index, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { billLine } from './bills';
import { item, lot } from './catalog';
import { amount, key, quantity } from './columns';
import { landedCharge } from './landed';
import { movementLine } from './ledger';

/** A change of cost that moves no goods: billed price, landed cost. */
export const costChange = pgTable(
  'cost_change',
  {
    id: key(),
    itemId: integer('item_id')
      .notNull()
      .references((): AnyPgColumn => item.id),
    movementLineId: bigint('movement_line_id', { mode: 'number' }).references(() => movementLine.id),
    lotId: integer('lot_id').references((): AnyPgColumn => lot.id),
    amount: amount().notNull(),
    cause: text().notNull(),
    /** The whole part of which `amount` went to stock, how many of the receipt were here then, and what no stock could bear. */
    whole: amount(),
    here: quantity(),
    variance: amount().notNull().default('0'),
    billLineId: integer('bill_line_id').references((): AnyPgColumn => billLine.id),
    chargeId: integer('charge_id').references((): AnyPgColumn => landedCharge.id),
    effectiveOn: date('effective_on').notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    reverses: integer()
      .unique()
      .references((): AnyPgColumn => costChange.id),
  },
  (t) => [index('cost_change_item').on(t.itemId, t.effectiveOn), index('cost_change_bill').on(t.billLineId), index('cost_change_line').on(t.movementLineId)],
);
