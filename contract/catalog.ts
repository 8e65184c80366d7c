import { itemKinds } from '@larder/core/catalog/kind';
import { costMethodNames } from '@larder/core/costing/method';
import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { inAllOf } from './inAll';
import { levelFields, refuseLevels, WayGiven } from './levels';
import { Amount, Code, Cost, Id, NeededText, page, Paging, PathId, Price, Quantity, QuantityOrZero, Search, ShortText, Text, Version, Typed } from './values';

const ItemSupplier = z.object({
  supplierId: Id,
  code: ShortText.default(''),
  packSize: Quantity.default('1'),
  minimum: QuantityOrZero.default('0'),
  price: Price.nullable().default(null),
  /** Days to deliver this item; null: as the supplier's. */
  leadDays: z.number().int('Give whole days.').min(0, 'Give days from 0 to 365.').max(365, 'Give days from 0 to 365.').nullable().default(null),
  /** Other prices from so many base units on. */
  breaks: z
    .array(z.object({ from: Quantity, price: Price }))
    .max(20, 'At most 20 price breaks.')
    .default([]),
});
const ItemPolicy = z.object({ siteId: Id, binId: Id.nullable().default(null), ...levelFields }).superRefine(refuseLevels);

export const trackings = ['none', 'lot', 'serial'] as const;
const Size = Typed('measure').nullable().default(null);

/** A code, and the unit it is on: the case has its own. A code alone is the base unit's. */
const Barcode = z.union([Code.transform((code) => ({ code, unitId: null })), z.object({ code: Code, unitId: Id.nullable().default(null) })]);
const ItemUnit = z.object({
  unitId: Id,
  numerator: z.number().int().min(1).max(1_000_000),
  denominator: z.number().int().min(1).max(1_000_000).default(1),
  buys: z.boolean().default(false),
  sells: z.boolean().default(false),
});
export const AttributeValue = z.object({ attributeId: Id, value: ShortText });

export const ItemForm = z.object({
  sku: Code,
  name: NeededText,
  kind: z.enum(itemKinds).default('stocked'),
  description: Text.default(''),
  categoryId: Id.nullable().default(null),
  /** Accounts of its own; null: as its category says. */
  inventoryAccountId: Id.nullable().default(null),
  costAccountId: Id.nullable().default(null),
  salesAccountId: Id.nullable().default(null),
  unitId: Id,
  brand: ShortText.default(''),
  salesPrice: Price.nullable().default(null),
  purchasePrice: Price.nullable().default(null),
  taxCodeId: Id.nullable().default(null),
  tracking: z.enum(trackings).default('none'),
  costMethod: z.enum(costMethodNames).default('average'),
  maker: ShortText.default(''),
  returnable: z.boolean().default(true),
  weightKg: Size,
  lengthCm: Size,
  widthCm: Size,
  heightCm: Size,
  /** How many days it is good for from the day it is made; null: it does not spoil. */
  shelfLifeDays: z
    .number('Give whole days.')
    .int('Give whole days.')
    .min(0, 'Give days from 0 to 36,500.')
    .max(36_500, 'Give days from 0 to 36,500.')
    .nullable()
    .default(null),
  /** It is put together when it is ordered: the sales order has it made, as far as it is short of it. */
  madeToOrder: z.boolean().default(false),
  /** What is made of it is looked over before it is sold: it goes to quarantine first. */
  inspected: z.boolean().default(false),
  notes: Text.default(''),
  pictureId: Id.nullable().default(null),
  retired: z.boolean().default(false),
  /** It is retired though it has stock or open orders: the person has said so. */
  retiredInUse: z.boolean().default(false),
  barcodes: z.array(Barcode).max(20, 'At most 20 barcodes.').default([]),
  /** Codes that look like a GTIN with a wrong check digit are meant as they are. */
  oddBarcodes: z.boolean().default(false),
  /** Codes that another item has are meant to be on both; a scan then asks which. */
  sharedBarcodes: z.boolean().default(false),
  units: z.array(ItemUnit).max(10, 'At most 10 units.').default([]),
  substitutes: z.array(Id).max(20, 'At most 20 substitutes.').default([]),
  attributes: z.array(AttributeValue).max(100).default([]),
  suppliers: z.array(ItemSupplier).max(20, 'At most 20 suppliers.').default([]),
  policies: z.array(ItemPolicy).max(100).default([]),
});
export type ItemForm = z.infer<typeof ItemForm>;
export type ItemDraft = z.input<typeof ItemForm>;

const ItemRow = z.object({
  id: Id,
  sku: z.string(),
  name: z.string(),
  kind: z.enum(itemKinds),
  category: z.string().nullable(),
  unit: z.string(),
  step: z.string(),
  salesPrice: Amount.nullable(),
  purchasePrice: Cost.nullable(),
  onHand: Amount,
  reserved: Amount,
  free: Amount,
  onOrder: Amount,
  retired: z.boolean(),
  tracking: z.enum(trackings),
  pictureId: Id.nullable(),
  family: z.string().nullable(),
  /** The first supplier, and its code. */
  supplier: z.string().nullable(),
  /** Units it is bought and sold in beside the base unit. */
  units: z.array(z.object({ unitId: Id, unit: z.string(), factor: Amount, buys: z.boolean(), sells: z.boolean() })),
  /** Values of the business's own attributes, by their id. */
  attributes: z.record(z.string(), z.string()),
  reorderPoint: Amount.nullable(),
  orderUpTo: Amount.nullable(),
  /** Of the best ones for some words: the words are exactly one of its codes. */
  byCode: z.boolean().optional(),
});
export type ItemRow = z.infer<typeof ItemRow>;
const Item = z.object({
  id: Id,
  version: Version,
  sku: z.string(),
  name: z.string(),
  kind: z.enum(itemKinds),
  description: z.string(),
  categoryId: Id.nullable(),
  category: z.string().nullable(),
  inventoryAccountId: Id.nullable(),
  costAccountId: Id.nullable(),
  salesAccountId: Id.nullable(),
  unitId: Id,
  unit: z.string(),
  step: z.string(),
  brand: z.string(),
  salesPrice: Amount.nullable(),
  purchasePrice: Cost.nullable(),
  taxCodeId: Id.nullable(),
  costMethod: z.enum(costMethodNames),
  tracking: z.enum(trackings),
  maker: z.string(),
  returnable: z.boolean(),
  weightKg: Amount.nullable(),
  lengthCm: Amount.nullable(),
  widthCm: Amount.nullable(),
  heightCm: Amount.nullable(),
  shelfLifeDays: z.number().nullable(),
  madeToOrder: z.boolean(),
  inspected: z.boolean(),
  notes: z.string(),
  pictureId: Id.nullable(),
  retired: z.boolean(),
  family: z.object({ id: Id, name: z.string(), values: z.array(z.string()), ownFacts: z.array(z.string()) }).nullable(),
  barcodes: z.array(z.object({ code: z.string(), unitId: Id.nullable(), unit: z.string().nullable() })),
  units: z.array(ItemUnit.extend({ unit: z.string() })),
  substitutes: z.array(z.object({ itemId: Id, sku: z.string(), name: z.string(), free: Amount })),
  attributes: z.array(AttributeValue),
  suppliers: z.array(
    z.object({
      supplierId: Id,
      supplier: z.string(),
      code: z.string(),
      packSize: Amount,
      minimum: Amount,
      price: Cost.nullable(),
      leadDays: z.number().nullable(),
      breaks: z.array(z.object({ from: Amount, price: Cost })),
    }),
  ),
  policies: z.array(
    z.object({
      siteId: Id,
      binId: Id.nullable(),
      bin: z.string().nullable(),
      reorderPoint: Amount.nullable(),
      orderUpTo: Amount.nullable(),
      coverDays: z.number().nullable(),
      packSize: Amount.nullable(),
      way: WayGiven,
    }),
  ),
});
export type Item = z.infer<typeof Item>;

/** Which items a list holds. */
export const ItemFilter = z.object({
  q: Search,
  categoryId: PathId.optional(),
  supplierId: PathId.optional(),
  tracking: z.enum(trackings).optional(),
  kind: z.enum(itemKinds).optional(),
  /** Members of this family, or (0) items of none. */
  familyId: z.coerce.number().int().min(0).max(2147483647).optional(),
  state: z.enum(['all', 'in-stock', 'low', 'short', 'out']).default('all'),
  /** `active` leaves the retired out. */
  life: z.enum(['active', 'retired', 'all']).default('active'),
  attributeId: PathId.optional(),
  attributeValue: Search,
});
export type ItemFilter = z.input<typeof ItemFilter>;

export const itemSorts = ['best', 'sku', 'name', 'salesPrice', 'onHand', 'free'] as const;
export const listItems = endpoint({
  method: 'GET',
  path: '/api/catalog/items',
  summary: 'Items by words in any order, SKU or barcode',
  right: 'look',
  shows: ['item', 'stock', 'party', 'reference', 'attribute'],
  seenBy: 'sites',
  query: ItemFilter.extend({
    sort: z.enum(itemSorts).default('sku'),
    direction: z.enum(['up', 'down']).default('up'),
    /** Of the best ones first those that this customer has bought; what the customer calls an item means it, too. */
    customerId: PathId.optional(),
    ...Paging,
  }),
  response: page(ItemRow),
});
export const itemsMeant = endpoint({
  method: 'POST',
  path: '/api/catalog/meant',
  summary: 'The items that codes mean, code by code: barcodes, SKUs, serials, and what suppliers and a customer call them',
  right: 'look',
  reads: true,
  shows: ['item', 'stock', 'party', 'reference', 'attribute', 'price', 'lot'],
  seenBy: 'sites',
  body: z.object({ codes: z.array(z.string().trim().min(1).max(200)).max(500, 'At most 500 codes at once.'), customerId: Id.nullable().default(null) }),
  response: z.object({ rows: z.array(z.object({ code: z.string(), items: z.array(ItemRow) })) }),
});
export const itemsInAll = inAllOf(listItems, {});
export const getItem = endpoint({
  method: 'GET',
  path: '/api/catalog/items/:id',
  summary: 'One item',
  right: 'look',
  shows: ['item', 'stock', 'attribute', 'party', 'reference', 'place'],
  seenBy: 'everyone',
  params: z.object({ id: PathId }),
  response: Item,
});
export const createItem = endpoint({
  method: 'POST',
  path: '/api/catalog/items',
  summary: 'Set up an item',
  right: 'items.edit',
  changes: ['item', 'stock', 'lot', 'journal', 'handover', 'purchase', 'sale', 'steps'],
  body: ItemForm,
  response: Item,
});
export const editItem = endpoint({
  method: 'PUT',
  path: '/api/catalog/items/:id',
  summary: 'Change an item',
  right: 'items.edit',
  changes: ['item', 'stock', 'lot', 'journal', 'handover', 'purchase', 'sale', 'steps'],
  params: z.object({ id: PathId }),
  body: ItemForm.extend({ version: Version }),
  response: Item,
});

export const deleteItem = endpoint({
  method: 'POST',
  path: '/api/catalog/items/:id/delete',
  summary: 'Delete an item that was never used; others are retired',
  right: 'items.edit',
  changes: ['item', 'stock', 'lot', 'journal', 'handover', 'purchase', 'sale', 'steps'],
  params: z.object({ id: PathId }),
  body: z.object({ version: Version }),
  response: z.object({}),
});
/** Bulk change of chosen items: what is left out stays as it is. */
export const editItems = endpoint({
  method: 'POST',
  path: '/api/catalog/items/bulk',
  summary: 'Change the same facts of many items',
  right: 'items.edit',
  changes: ['item', 'stock', 'lot', 'journal', 'handover', 'purchase', 'sale', 'steps'],
  body: z.object({
    ids: z.array(Id).min(1, 'Choose at least one item.').max(2000, 'At most 2,000 items at once.'),
    categoryId: Id.nullable().optional(),
    taxCodeId: Id.nullable().optional(),
    brand: ShortText.optional(),
    maker: ShortText.optional(),
    returnable: z.boolean().optional(),
    retired: z.boolean().optional(),
    retiredInUse: z.boolean().default(false),
    /** Changes the sales price by so many per cent, rounded to whole cents. */
    priceChange: Typed('percent').optional(),
    attribute: AttributeValue.optional(),
  }),
  response: z.object({ changed: z.number() }),
});
export const giveBarcode = endpoint({
  method: 'POST',
  path: '/api/catalog/items/:id/own-barcode',
  summary: 'Give an item a barcode of our own',
  right: 'items.edit',
  changes: ['item', 'stock', 'lot', 'journal', 'handover', 'purchase', 'sale', 'steps'],
  params: z.object({ id: PathId }),
  response: Item,
});
export const teachCode = endpoint({
  method: 'POST',
  path: '/api/catalog/items/:id/codes',
  summary: 'Teach an unknown code to an item',
  right: 'items.edit',
  changes: ['item', 'stock', 'lot', 'journal', 'handover', 'purchase', 'sale', 'steps'],
  params: z.object({ id: PathId }),
  body: z.object({ code: Code, unitId: Id.nullable().default(null), shared: z.boolean().default(false) }),
  response: Item,
});
/** Pictures are sent as base64 and come back re-encoded small, at `/api/catalog/pictures/:id/small` and `/large`. */
export const addPicture = endpoint({
  method: 'POST',
  path: '/api/catalog/pictures',
  summary: 'Take in a picture',
  heavy: true,
  right: 'items.edit',
  body: z.object({ base64: z.string().min(1, 'Choose a picture.').max(14_000_000, 'The picture is larger than 10 MB.') }),
  response: z.object({ id: Id }),
});

export const getPicture = endpoint({
  method: 'GET',
  path: '/api/catalog/pictures/:id/:size',
  summary: 'A picture, small or large',
  right: 'look',
  seenBy: 'everyone',
  file: 'image/webp',
  params: z.object({ id: PathId, size: z.enum(['small', 'large']) }),
  response: FileAnswer,
});

const Found = z.object({
  kind: z.enum(['item', 'bin', 'lot', 'serial', 'purchase order', 'sales order', 'supplier', 'customer']),
  id: Id,
  code: z.string(),
  name: z.string(),
  exact: z.boolean(),
});
export type Found = z.infer<typeof Found>;
export const find = endpoint({
  method: 'GET',
  path: '/api/catalog/find',
  summary: 'Whatever a code or words may mean',
  right: 'look',
  shows: ['item', 'lot', 'place', 'purchase', 'sale', 'party'],
  seenBy: 'sites',
  query: z.object({ q: z.string().trim().min(1).max(200) }),
  response: z.object({ rows: z.array(Found) }),
});

/** What a scanned or typed code means as goods: an item with its unit, and what a GS1 code says besides. */
export const readCode = endpoint({
  method: 'GET',
  path: '/api/catalog/code',
  summary: 'The items a code means, with unit, lot, use-by, serial and quantity',
  right: 'look',
  shows: ['item', 'lot', 'stock'],
  seenBy: 'everyone',
  query: z.object({ code: z.string().min(1).max(200) }),
  response: z.object({
    items: z.array(
      z.object({ itemId: Id, sku: z.string(), name: z.string(), tracking: z.enum(trackings), unit: z.string(), factor: Amount, lotId: Id.nullable() }),
    ),
    lot: z.string().nullable(),
    useBy: z.string().nullable(),
    serial: z.string().nullable(),
    /** Of base units, when the code says how many; else null. */
    quantity: Amount.nullable(),
  }),
});
