import { z } from 'zod';
import { endpoint } from './endpoint';
import { Amount, Code, Id, NeededText, Paging, page, PathId, Price, Quantity, QuantityOrZero, Search, ShortText, Text, Version } from './values';

const ItemSupplier = z.object({
  supplierId: Id,
  code: ShortText.default(''),
  packSize: Quantity.default('1'),
  minimum: QuantityOrZero.default('0'),
  price: Price.nullable().default(null),
});
const ItemPolicy = z
  .object({
    siteId: Id,
    binId: Id.nullable().default(null),
    reorderPoint: QuantityOrZero.nullable().default(null),
    orderUpTo: QuantityOrZero.nullable().default(null),
  })
  .refine((policy) => (policy.reorderPoint === null) === (policy.orderUpTo === null), {
    message: 'Give the reorder point and the order-up-to level together.',
    path: ['orderUpTo'],
  })
  .refine((policy) => policy.reorderPoint === null || Number(policy.orderUpTo) > Number(policy.reorderPoint), {
    message: 'Order up to more than the reorder point.',
    path: ['orderUpTo'],
  });

export const ItemForm = z.object({
  sku: Code,
  name: NeededText,
  description: Text.default(''),
  categoryId: Id.nullable().default(null),
  unitId: Id,
  brand: ShortText.default(''),
  salesPrice: Price.nullable().default(null),
  purchasePrice: Price.nullable().default(null),
  taxCodeId: Id.nullable().default(null),
  barcodes: z.array(Code).max(20, 'At most 20 barcodes.').default([]),
  suppliers: z.array(ItemSupplier).max(20, 'At most 20 suppliers.').default([]),
  policies: z.array(ItemPolicy).max(100).default([]),
});
export type ItemForm = z.infer<typeof ItemForm>;

const ItemRow = z.object({
  id: Id,
  sku: z.string(),
  name: z.string(),
  category: z.string().nullable(),
  unit: z.string(),
  step: z.string(),
  salesPrice: Amount.nullable(),
  purchasePrice: Amount.nullable(),
  onHand: Amount,
  reserved: Amount,
  free: Amount,
  onOrder: Amount,
  retired: z.boolean(),
  reorderPoint: Amount.nullable(),
  orderUpTo: Amount.nullable(),
});
export type ItemRow = z.infer<typeof ItemRow>;
const Item = z.object({
  id: Id,
  version: Version,
  sku: z.string(),
  name: z.string(),
  description: z.string(),
  categoryId: Id.nullable(),
  category: z.string().nullable(),
  unitId: Id,
  unit: z.string(),
  step: z.string(),
  brand: z.string(),
  salesPrice: Amount.nullable(),
  purchasePrice: Amount.nullable(),
  taxCodeId: Id.nullable(),
  tracking: z.string(),
  retired: z.boolean(),
  barcodes: z.array(z.string()),
  suppliers: z.array(z.object({ supplierId: Id, supplier: z.string(), code: z.string(), packSize: Amount, minimum: Amount, price: Amount.nullable() })),
  policies: z.array(z.object({ siteId: Id, binId: Id.nullable(), bin: z.string().nullable(), reorderPoint: Amount.nullable(), orderUpTo: Amount.nullable() })),
});
export type Item = z.infer<typeof Item>;

export const itemSorts = ['best', 'sku', 'name', 'salesPrice', 'onHand', 'free'] as const;
export const listItems = endpoint({
  method: 'GET',
  path: '/api/catalog/items',
  summary: 'Items by words in any order, SKU or barcode',
  right: 'look',
  query: z.object({
    q: Search,
    categoryId: PathId.optional(),
    sort: z.enum(itemSorts).default('sku'),
    direction: z.enum(['up', 'down']).default('up'),
    ...Paging,
  }),
  response: page(ItemRow),
});
export const getItem = endpoint({
  method: 'GET',
  path: '/api/catalog/items/:id',
  summary: 'One item',
  right: 'look',
  params: z.object({ id: PathId }),
  response: Item,
});
export const createItem = endpoint({
  method: 'POST',
  path: '/api/catalog/items',
  summary: 'Set up an item',
  right: 'items.edit',
  body: ItemForm,
  response: Item,
});
export const editItem = endpoint({
  method: 'PUT',
  path: '/api/catalog/items/:id',
  summary: 'Change an item',
  right: 'items.edit',
  params: z.object({ id: PathId }),
  body: ItemForm.extend({ version: Version }),
  response: Item,
});

const Found = z.object({
  kind: z.enum(['item', 'bin', 'purchase order', 'sales order', 'supplier', 'customer']),
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
  query: z.object({ q: z.string().trim().min(1).max(200) }),
  response: z.object({ rows: z.array(Found) }),
});
