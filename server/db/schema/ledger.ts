import type { MovementKind } from '@larder/core/ledger/types';
import { sql } from 'drizzle-orm';
import { type AnyPgColumn, bigint, boolean, check, date, foreignKey, index, integer, numeric, pgTable, text, unique } from 'drizzle-orm/pg-core';
import { account } from './accounts';
import { item, lot } from './catalog';
import { amount, key, moment, price, quantity } from './columns';
import { documentLine } from './documents';
import { person } from './people';
import { place } from './places';
import { department, reason, site, taxCode } from './setup';

/** What an item's owned places hold and are worth, and the sums over its sites. Kept by triggers; locked first by every posting. */
export const costPool = pgTable(
  'pool',
  {
    itemId: integer('item_id')
      .primaryKey()
      .references((): AnyPgColumn => item.id),
    quantity: quantity().notNull().default('0'),
    value: amount().notNull().default('0'),
    unitCost: price('unit_cost')
      .notNull()
      .generatedAlwaysAs(sql`case when quantity > 0 then value / quantity else 0 end`),
    /** What it held, and was worth, when it last held anything. */
    lastQuantity: quantity('last_quantity'),
    lastValue: amount('last_value'),
    lastSeq: bigint('last_seq', { mode: 'number' }).notNull().default(0),
    onHand: quantity('on_hand').notNull().default('0'),
    reserved: quantity().notNull().default('0'),
    free: quantity()
      .notNull()
      .generatedAlwaysAs(sql`on_hand - reserved`),
    onOrder: quantity('on_order').notNull().default('0'),
    inTransit: quantity('in_transit').notNull().default('0'),
    short: quantity().notNull().default('0'),
    onLoan: quantity('on_loan').notNull().default('0'),
    quarantine: quantity().notNull().default('0'),
    /** When any bin of it was last counted. */
    countedOn: date('counted_on'),
  },
  (t) => [
    check('pool_not_negative', sql`${t.quantity} >= 0 and ${t.value} >= 0 and (${t.quantity} > 0 or ${t.value} = 0)`),
    index('pool_on_hand').on(t.onHand, t.itemId),
    index('pool_reserved').on(t.reserved, t.itemId),
    index('pool_free').on(t.free, t.itemId),
    index('pool_on_order').on(t.onOrder, t.itemId),
    index('pool_in_transit').on(t.inTransit, t.itemId),
    index('pool_unit_cost').on(t.unitCost, t.itemId),
    index('pool_value').on(t.value, t.itemId),
  ],
);

/** Figures per item and site, kept by triggers. */
export const itemSite = pgTable(
  'item_site',
  {
    itemId: integer('item_id')
      .notNull()
      .references((): AnyPgColumn => item.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    onHand: quantity('on_hand').notNull().default('0'),
    reserved: quantity().notNull().default('0'),
    free: quantity()
      .notNull()
      .generatedAlwaysAs(sql`on_hand - reserved`),
    bench: quantity().notNull().default('0'),
    /** In bins that are not sold from, or of lots past their day. */
    quarantine: quantity().notNull().default('0'),
    /** On its way to here; lent out by this site; in its work. */
    inTransit: quantity('in_transit').notNull().default('0'),
    onLoan: quantity('on_loan').notNull().default('0'),
    inWork: quantity('in_work').notNull().default('0'),
    onOrder: quantity('on_order').notNull().default('0'),
    /** To come from other sites: asked for of them, or in transit. */
    coming: quantity().notNull().default('0'),
    short: quantity().notNull().default('0'),
    /** What all the site has of it is worth: its part of the pool, or the cost of the very units there when each keeps its own. */
    value: amount().notNull().default('0'),
    /** When any bin of it here was last counted. */
    countedOn: date('counted_on'),
  },
  (t) => [
    unique('item_site_key').on(t.itemId, t.siteId),
    check('item_site_reserved', sql`${t.reserved} <= ${t.onHand} and ${t.reserved} >= 0`),
    index('item_site_on_hand').on(t.siteId, t.onHand, t.itemId),
    index('item_site_free').on(t.siteId, t.free, t.itemId),
    index('item_site_reserved').on(t.siteId, t.reserved, t.itemId),
    index('item_site_on_order').on(t.siteId, t.onOrder, t.itemId),
    index('item_site_in_transit').on(t.siteId, t.inTransit, t.itemId),
    index('item_site_value').on(t.siteId, t.value, t.itemId),
  ],
);

/** What lies where: kept by the ledger's trigger in the same statement as the lines. */
export const balance = pgTable(
  'balance',
  {
    itemId: integer('item_id')
      .notNull()
      .references((): AnyPgColumn => item.id),
    placeId: integer('place_id')
      .notNull()
      .references(() => place.id),
    lotId: integer('lot_id').references((): AnyPgColumn => lot.id),
    quantity: quantity().notNull(),
    owned: boolean().notNull(),
  },
  (t) => [
    unique('balance_key').on(t.itemId, t.placeId, t.lotId).nullsNotDistinct(),
    index('balance_place')
      .on(t.placeId)
      .where(sql`quantity <> 0`),
    check('balance_not_negative', sql`not ${t.owned} or ${t.quantity} >= 0`),
  ],
);

export const movement = pgTable(
  'movement',
  {
    id: key(),
    kind: text().$type<MovementKind>().notNull(),
    effectiveOn: date('effective_on').notNull(),
    happenedAt: moment('happened_at'),
    postedAt: moment('posted_at').notNull(),
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
    reverses: integer()
      .unique()
      .references((): AnyPgColumn => movement.id),
    reasonId: integer('reason_id').references(() => reason.id),
    note: text().notNull().default(''),
  },
  (t) => [index('movement_posted').on(t.postedAt)],
);

/** What bears the cost of a movement that has a reason, as it was then: the account, the department, and the tax on what the business used itself. Only grows. */
export const costBearer = pgTable(
  'cost_bearer',
  {
    movementId: integer('movement_id')
      .primaryKey()
      .references(() => movement.id),
    accountId: integer('account_id')
      .notNull()
      .references(() => account.id),
    departmentId: integer('department_id').references(() => department.id),
    taxCodeId: integer('tax_code_id').references(() => taxCode.id),
    /** Per cent, as it was on that day; without a tax code, zero. */
    taxRate: numeric('tax_rate').notNull().default('0'),
    /** What the goods had cost that tax is due on, and the tax; below zero where it is taken back. */
    taxBase: amount('tax_base').notNull().default('0'),
    tax: amount().notNull().default('0'),
  },
  (t) => [
    index('cost_bearer_taxed')
      .on(t.movementId)
      .where(sql`tax_code_id is not null`),
  ],
);

export const movementLine = pgTable(
  'movement_line',
  {
    id: bigint({ mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    movementId: integer('movement_id')
      .notNull()
      .references(() => movement.id),
    position: integer().notNull(),
    itemId: integer('item_id')
      .notNull()
      .references((): AnyPgColumn => item.id),
    lotId: integer('lot_id').references((): AnyPgColumn => lot.id),
    quantity: quantity().notNull(),
    fromPlaceId: integer('from_place_id')
      .notNull()
      .references(() => place.id),
    toPlaceId: integer('to_place_id')
      .notNull()
      .references(() => place.id),
    /** Signed change of the item's pool. */
    value: amount().notNull(),
    /** What went to cost variance instead. */
    variance: amount().notNull().default('0'),
    seq: bigint({ mode: 'number' }).notNull(),
    effectiveOn: date('effective_on').notNull(),
    /** The document lines it serves: the one whose goods come, and the one they go for. */
    supplyLineId: integer('supply_line_id').references((): AnyPgColumn => documentLine.id),
    demandLineId: integer('demand_line_id').references((): AnyPgColumn => documentLine.id),
  },
  (t) => [
    unique('movement_line_seq').on(t.itemId, t.seq),
    index('movement_line_day').on(t.itemId, t.effectiveOn),
    index('movement_line_movement').on(t.movementId),
    index('movement_line_supply')
      .on(t.supplyLineId)
      .where(sql`supply_line_id is not null`),
    // All that is asked of the lines of some days, so that the lines themselves are not read for it.
    index('movement_line_dated').on(t.effectiveOn, t.itemId, t.quantity, t.toPlaceId, t.fromPlaceId, t.lotId, t.value, t.demandLineId),
    index('movement_line_demand')
      .on(t.demandLineId)
      .where(sql`demand_line_id is not null`),
    check('movement_line_positive', sql`${t.quantity} > 0`),
    check('movement_line_moves', sql`${t.fromPlaceId} <> ${t.toPlaceId}`),
  ],
);

/** What lines put into layers of cost and take out of them, for items kept by layers. A layer is known by the running number of the line that made it. Only grows. */
export const layerLine = pgTable(
  'layer_line',
  {
    id: key(),
    itemId: integer('item_id').notNull(),
    layerSeq: bigint('layer_seq', { mode: 'number' }).notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    quantity: quantity().notNull(),
    value: amount().notNull(),
  },
  (t) => [
    unique('layer_line_key').on(t.itemId, t.seq, t.layerSeq),
    foreignKey({ name: 'layer_line_made_by', columns: [t.itemId, t.layerSeq], foreignColumns: [movementLine.itemId, movementLine.seq] }),
    foreignKey({ name: 'layer_line_of', columns: [t.itemId, t.seq], foreignColumns: [movementLine.itemId, movementLine.seq] }),
  ],
);

/** What is left of each layer and what it is worth; kept by triggers. */
export const costLayer = pgTable(
  'cost_layer',
  {
    itemId: integer('item_id').notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    quantity: quantity().notNull(),
    value: amount().notNull(),
  },
  (t) => [
    unique('cost_layer_key').on(t.itemId, t.seq),
    foreignKey({ name: 'cost_layer_made_by', columns: [t.itemId, t.seq], foreignColumns: [movementLine.itemId, movementLine.seq] }),
    check('cost_layer_not_negative', sql`${t.quantity} >= 0 and ${t.value} >= 0 and (${t.quantity} > 0 or ${t.value} = 0)`),
  ],
);

/** Goods that went back to their supplier, by the receipt they are taken off; an undo takes its rows back below zero. Only grows. */
export const goodsReturned = pgTable(
  'goods_returned',
  {
    id: key(),
    lineId: bigint('line_id', { mode: 'number' })
      .notNull()
      .references(() => movementLine.id),
    /** The line of the receipt they came on. */
    ofLineId: bigint('of_line_id', { mode: 'number' })
      .notNull()
      .references(() => movementLine.id),
    quantity: quantity().notNull(),
    /** What the order paid for them. */
    value: amount().notNull(),
    /** Of those, not replaced and so not expected again. */
    calledOff: quantity('called_off').notNull().default('0'),
  },
  (t) => [index('goods_returned_line').on(t.lineId), index('goods_returned_of').on(t.ofLineId)],
);

/** A bin that was said to hold so many of something: with the running number of the last movement known then. */
export const binCount = pgTable(
  'bin_count',
  {
    id: key(),
    itemId: integer('item_id')
      .notNull()
      .references((): AnyPgColumn => item.id),
    lotId: integer('lot_id').references((): AnyPgColumn => lot.id),
    placeId: integer('place_id')
      .notNull()
      .references(() => place.id),
    quantity: quantity().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    countedOn: date('counted_on').notNull(),
    /** The correction that was posted for it; none when it agreed. */
    movementId: integer('movement_id').references(() => movement.id),
  },
  (t) => [index('bin_count_place').on(t.itemId, t.placeId, t.seq)],
);
