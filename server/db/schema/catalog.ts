import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, jsonb, numeric, pgTable, primaryKey, text, unique, uniqueIndex, type AnyPgColumn } from 'drizzle-orm/pg-core';
import type { CostMethodName } from '@larder/core/costing/method';
import type { ItemKind } from '@larder/core/catalog/kind';
import type { PriceBreak } from '@larder/core/inbound/terms';
import type { Way } from '@larder/core/planning/levels';
import type { Tracking } from '@larder/core/stock/lots';
import { account } from './accounts';
import { bytea, key, moment, price, quantity } from './columns';
import { party } from './parties';
import { place } from './places';
import { site, taxCode, unit } from './setup';

export const category = pgTable('category', {
  id: key(),
  name: text().notNull().unique(),
  inventoryAccountId: integer('inventory_account_id').references(() => account.id),
  costAccountId: integer('cost_account_id').references(() => account.id),
  salesAccountId: integer('sales_account_id').references(() => account.id),
  retiredAt: moment('retired_at'),
});

/** A variant family: what its members share, and the pattern of their SKUs. */
export const family = pgTable(
  'family',
  {
    id: key(),
    name: text().notNull(),
    /** Stands for the name in SKUs. */
    code: text().notNull(),
    description: text().notNull().default(''),
    skuPattern: text('sku_pattern').notNull(),
    categoryId: integer('category_id').references(() => category.id),
    unitId: integer('unit_id')
      .notNull()
      .references(() => unit.id),
    brand: text().notNull().default(''),
    taxCodeId: integer('tax_code_id').references(() => taxCode.id),
    returnable: boolean().notNull().default(true),
    kind: text().$type<ItemKind>().notNull().default('stocked'),
    maker: text().notNull().default(''),
    inventoryAccountId: integer('inventory_account_id').references(() => account.id),
    costAccountId: integer('cost_account_id').references(() => account.id),
    salesAccountId: integer('sales_account_id').references(() => account.id),
    version: integer().notNull().default(1),
    retiredAt: moment('retired_at'),
  },
  (t) => [uniqueIndex('family_name').on(sql`lower(${t.name})`)],
);

/** A value on one of the up to three axes of a family. */
export const familyValue = pgTable(
  'family_value',
  {
    id: key(),
    familyId: integer('family_id')
      .notNull()
      .references(() => family.id),
    /** 1 to 3; every value carries its axis's name. */
    axis: integer().notNull(),
    axisName: text('axis_name').notNull(),
    position: integer().notNull(),
    name: text().notNull(),
    code: text().notNull(),
  },
  (t) => [uniqueIndex('family_value_name').on(t.familyId, t.axis, sql`lower(${t.name})`), check('family_value_axis', sql`${t.axis} between 1 and 3`)],
);

/** A picture, re-encoded small when it came in. */
export const picture = pgTable('picture', {
  id: key(),
  /** WebP, at most 96 and 640 pixels on a side. */
  small: bytea().notNull(),
  large: bytea().notNull(),
  addedAt: moment('added_at').notNull(),
});

/** Every word that items are found by: what is written a little differently is looked up here. Kept by refresh_findable(). */
export const word = pgTable('word', { word: text().primaryKey() }, (t) => [index('word_like').using('gin', sql`${t.word} gin_trgm_ops`)]);

export const item = pgTable(
  'item',
  {
    id: key(),
    sku: text().notNull(),
    name: text().notNull(),
    description: text().notNull().default(''),
    categoryId: integer('category_id').references(() => category.id),
    unitId: integer('unit_id')
      .notNull()
      .references(() => unit.id),
    brand: text().notNull().default(''),
    weightKg: numeric('weight_kg', { precision: 12, scale: 4 }),
    salesPrice: price('sales_price'),
    purchasePrice: price('purchase_price'),
    taxCodeId: integer('tax_code_id').references(() => taxCode.id),
    tracking: text().$type<Tracking>().notNull().default('none'),
    costMethod: text('cost_method').$type<CostMethodName>().notNull().default('average'),
    kind: text().$type<ItemKind>().notNull().default('stocked'),
    /** Of its own; null: as its category says. */
    inventoryAccountId: integer('inventory_account_id').references(() => account.id),
    costAccountId: integer('cost_account_id').references(() => account.id),
    salesAccountId: integer('sales_account_id').references(() => account.id),
    maker: text().notNull().default(''),
    returnable: boolean().notNull().default(true),
    /** Of one base unit, in centimetres. */
    lengthCm: numeric('length_cm', { precision: 10, scale: 2 }),
    widthCm: numeric('width_cm', { precision: 10, scale: 2 }),
    heightCm: numeric('height_cm', { precision: 10, scale: 2 }),
    /** How many days it is good for from the day it is made; null: it does not spoil. */
    shelfLifeDays: integer('shelf_life_days'),
    /** It is put together when it is ordered: the sales order has it made. */
    madeToOrder: boolean('made_to_order').notNull().default(false),
    /** What is made of it is looked over before it is sold. */
    inspected: boolean().notNull().default(false),
    notes: text().notNull().default(''),
    pictureId: integer('picture_id').references(() => picture.id),
    familyId: integer('family_id').references(() => family.id),
    value1Id: integer('value_1_id').references(() => familyValue.id),
    value2Id: integer('value_2_id').references(() => familyValue.id),
    value3Id: integer('value_3_id').references(() => familyValue.id),
    /** Shared facts that this member has of its own. */
    ownFacts: text('own_facts')
      .array()
      .notNull()
      .default(sql`'{}'`),
    version: integer().notNull().default(1),
    retiredAt: moment('retired_at'),
    /** Lower-case words, codes and supplier's codes: what finding looks through. */
    findable: text().notNull().default(''),
  },
  (t) => [
    uniqueIndex('item_sku').on(sql`lower(${t.sku})`),
    index('item_findable').using('gin', sql`${t.findable} gin_trgm_ops`),
    index('item_name').on(t.name, t.id),
    check('item_tracking', sql`${t.tracking} in ('none', 'lot', 'serial')`),
    check('item_shelf_life', sql`${t.shelfLifeDays} between 0 and 36500`),
    check('item_kind', sql`${t.kind} in ('stocked', 'not-stocked', 'service', 'charge')`),
    index('item_category').on(t.categoryId),
    uniqueIndex('item_member')
      .on(t.familyId, sql`coalesce(${t.value1Id}, 0)`, sql`coalesce(${t.value2Id}, 0)`, sql`coalesce(${t.value3Id}, 0)`)
      .where(sql`family_id is not null`),
  ],
);

export const barcode = pgTable(
  'barcode',
  {
    code: text().notNull(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    position: integer().notNull().default(1),
    /** The unit the code is on; null for the base unit. */
    unitId: integer('unit_id').references(() => unit.id),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.code] }), index('barcode_code').on(t.code), index('barcode_lower').on(sql`lower(${t.code})`)],
);

/** A unit an item is bought or sold in: how many base units one of it is. */
export const itemUnit = pgTable(
  'item_unit',
  {
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    unitId: integer('unit_id')
      .notNull()
      .references(() => unit.id),
    numerator: integer().notNull(),
    denominator: integer().notNull().default(1),
    /** What a purchase line, a sales line is written in when nothing else is said. */
    buys: boolean().notNull().default(false),
    sells: boolean().notNull().default(false),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.unitId] }), check('item_unit_positive', sql`${t.numerator} > 0 and ${t.denominator} > 0`)],
);

/** What may be given instead of an item, best first. */
export const itemSubstitute = pgTable(
  'item_substitute',
  {
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    substituteId: integer('substitute_id')
      .notNull()
      .references(() => item.id),
    position: integer().notNull().default(1),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.substituteId] }), check('item_substitute_other', sql`${t.itemId} <> ${t.substituteId}`)],
);

/** A fact that the business itself keeps on items or on serial units. */
export const attribute = pgTable(
  'attribute',
  {
    id: key(),
    name: text().notNull(),
    subject: text().$type<'item' | 'unit'>().notNull(),
    kind: text().$type<'text' | 'number' | 'date' | 'choice'>().notNull(),
    choices: text()
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** Of a day: so many days before (negative) or after it, these roles are reminded; null for no reminder. */
    reminderDays: integer('reminder_days'),
    reminderRoles: integer('reminder_roles')
      .array()
      .notNull()
      .default(sql`'{}'`),
    reminderPeople: integer('reminder_people')
      .array()
      .notNull()
      .default(sql`'{}'`),
    position: integer().notNull().default(1),
    retiredAt: moment('retired_at'),
  },
  (t) => [
    uniqueIndex('attribute_name').on(t.subject, sql`lower(${t.name})`),
    check('attribute_subject', sql`${t.subject} in ('item', 'unit')`),
    check('attribute_kind', sql`${t.kind} in ('text', 'number', 'date', 'choice')`),
  ],
);

/** The value of an attribute on an item, or on a lot or serial unit; numbers and days in their plain written form. */
export const attributeValue = pgTable(
  'attribute_value',
  {
    id: key(),
    attributeId: integer('attribute_id')
      .notNull()
      .references(() => attribute.id),
    itemId: integer('item_id').references(() => item.id),
    lotId: integer('lot_id').references((): AnyPgColumn => lot.id),
    value: text().notNull(),
  },
  (t) => [
    unique('attribute_value_once').on(t.attributeId, t.itemId, t.lotId).nullsNotDistinct(),
    index('attribute_value_item').on(t.itemId),
    index('attribute_value_lot').on(t.lotId),
    index('attribute_value_value').on(t.attributeId, sql`lower(${t.value})`),
    check('attribute_value_subject', sql`(${t.itemId} is null) <> (${t.lotId} is null)`),
  ],
);

export const itemSupplier = pgTable(
  'item_supplier',
  {
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    supplierId: integer('supplier_id')
      .notNull()
      .references(() => party.id),
    position: integer().notNull().default(1),
    code: text().notNull().default(''),
    packSize: quantity('pack_size').notNull().default('1'),
    minimum: quantity().notNull().default('0'),
    price: price(),
    /** Days to deliver this item; null: as the supplier's. */
    leadDays: integer('lead_days'),
    /** Other prices from so many base units on, the smallest first. */
    breaks: jsonb().$type<PriceBreak[]>().notNull().default([]),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.supplierId] }),
    index('item_supplier_code').on(sql`lower(${t.code})`),
    index('item_supplier_supplier').on(t.supplierId),
  ],
);

/** How an item is kept at a site. */
export const itemPolicy = pgTable(
  'item_policy',
  {
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    binId: integer('bin_id').references(() => place.id),
    reorderPoint: quantity('reorder_point'),
    orderUpTo: quantity('order_up_to'),
    /** What is free should last so many days at least, at the rate it is wanted. */
    coverDays: integer('cover_days'),
    /** It comes in whole packs of so many; null: in those of whoever sends it. */
    packSize: quantity('pack_size'),
    /** How more of it comes: see `core/planning/levels`. */
    way: text().$type<Way['by']>().notNull().default('best'),
    waySupplierId: integer('way_supplier_id').references(() => party.id),
    waySiteId: integer('way_site_id').references((): AnyPgColumn => site.id),
    /** How many are wanted a day, as the last look at its past has it. */
    perDay: quantity('per_day'),
    /** Levels as they count: never less than what is wanted in the days that are to be covered. */
    point: quantity().generatedAlwaysAs(sql`case when reorder_point is not null then greatest(reorder_point, ceil(per_day * cover_days)) end`),
    upTo: quantity('up_to').generatedAlwaysAs(sql`order_up_to + greatest(ceil(per_day * cover_days) - reorder_point, 0)`),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.siteId] }),
    check('item_policy_pack', sql`${t.packSize} > 0`),
    check('item_policy_cover', sql`${t.coverDays} between 1 and 365`),
    check('item_policy_way', sql`(${t.way} = 'bring') = (${t.waySiteId} is not null) and (${t.way} = 'buy' or ${t.waySupplierId} is null)`),
  ],
);

/** A lot, or a serial: a lot of one, whose present place is kept here. */
export const lot = pgTable(
  'lot',
  {
    id: key(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    kind: text().$type<'lot' | 'serial'>().notNull(),
    code: text().notNull(),
    useBy: date('use_by'),
    pastUse: boolean('past_use').notNull().default(false),
    placeId: integer('place_id').references(() => place.id),
    /** The business's own tag on a serial unit. */
    tag: text(),
    condition: text().notNull().default(''),
    boughtOn: date('bought_on'),
    warrantyUntil: date('warranty_until'),
    version: integer().notNull().default(1),
  },
  (t) => [
    uniqueIndex('lot_code').on(t.itemId, sql`lower(${t.code})`),
    index('lot_by_code').on(sql`lower(${t.code})`),
    uniqueIndex('lot_tag').on(sql`lower(${t.tag})`),
    index('lot_use_by')
      .on(t.useBy)
      .where(sql`use_by is not null`),
    check('lot_kind', sql`${t.kind} in ('lot', 'serial')`),
  ],
);
