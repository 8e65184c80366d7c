import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, numeric, pgTable, primaryKey, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { key, moment, price, quantity } from './columns';
import { account } from './books';
import { site, taxCode, unit } from './setup';
import { place } from './ledger';

export const category = pgTable('category', {
  id: key(),
  name: text().notNull().unique(),
  inventoryAccountId: integer('inventory_account_id').references(() => account.id),
  costAccountId: integer('cost_account_id').references(() => account.id),
});

/** A supplier, a customer, a holder of loans, or several of these at once. */
export const party = pgTable(
  'party',
  {
    id: key(),
    name: text().notNull(),
    isSupplier: boolean('is_supplier').notNull().default(false),
    isCustomer: boolean('is_customer').notNull().default(false),
    isHolder: boolean('is_holder').notNull().default(false),
    email: text().notNull().default(''),
    address: text().notNull().default(''),
    currency: text().notNull().default('GBP'),
    leadDays: integer('lead_days').notNull().default(7),
    version: integer().notNull().default(1),
    retiredAt: moment('retired_at'),
  },
  (t) => [uniqueIndex('party_name').on(sql`lower(${t.name})`)],
);

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
    tracking: text().notNull().default('none'),
    costMethod: text('cost_method').notNull().default('average'),
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
  ],
);

export const barcode = pgTable(
  'barcode',
  {
    code: text().primaryKey(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    position: integer().notNull().default(1),
  },
  (t) => [index('barcode_item').on(t.itemId)],
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
  },
  (t) => [primaryKey({ columns: [t.itemId, t.siteId] })],
);

/** A lot, or a serial: a lot of one, whose present place is kept here. */
export const lot = pgTable(
  'lot',
  {
    id: key(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    kind: text().notNull(),
    code: text().notNull(),
    useBy: date('use_by'),
    pastUse: boolean('past_use').notNull().default(false),
    placeId: integer('place_id').references(() => place.id),
  },
  (t) => [uniqueIndex('lot_code').on(t.itemId, t.code), check('lot_kind', sql`${t.kind} in ('lot', 'serial')`)],
);
