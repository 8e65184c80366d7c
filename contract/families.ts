import { mostAxes } from '@larder/core/catalog/family';
import { itemKinds } from '@larder/core/catalog/kind';
import { z } from 'zod';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Code, Cost, Id, NeededText, PathId, Price, QuantityOrZero, Search, ShortText, Text, Version, Typed } from './values';

const Value = z.object({ name: NeededText, code: Code });
const Axis = z.object({ name: NeededText, values: z.array(Value).min(1, 'Give at least one value.').max(200, 'At most 200 values on an axis.') });

const Shared = z.object({
  name: NeededText,
  code: Code,
  description: Text.default(''),
  categoryId: Id.nullable().default(null),
  unitId: Id,
  brand: ShortText.default(''),
  taxCodeId: Id.nullable().default(null),
  returnable: z.boolean().default(true),
  kind: z.enum(itemKinds).default('stocked'),
  maker: ShortText.default(''),
  /** Accounts of all members; null: as their category says. */
  inventoryAccountId: Id.nullable().default(null),
  costAccountId: Id.nullable().default(null),
  salesAccountId: Id.nullable().default(null),
});

/** A member to be made: which value on each axis, and what it has of its own. */
export const NewMember = z.object({
  values: z.array(ShortText).min(1).max(mostAxes),
  sku: Code,
  salesPrice: Price.nullable().default(null),
  purchasePrice: Price.nullable().default(null),
  barcode: z.union([Code, z.literal('')]).default(''),
  weightKg: Typed('measure').nullable().default(null),
  supplierCode: ShortText.default(''),
  /** Opening stock by site: how many, and what one of them is worth. */
  opening: z
    .array(z.object({ siteId: Id, quantity: QuantityOrZero, unitValue: Price }))
    .max(50)
    .default([]),
});
export type NewMember = z.infer<typeof NewMember>;

/** Values that an axis gets later; `axis` counts from 1. */
const NewValues = z
  .array(z.object({ axis: z.number().int().min(1).max(mostAxes), name: NeededText, code: Code }))
  .max(100)
  .default([]);

export const FamilyForm = Shared.extend({
  skuPattern: Code,
  axes: z.array(Axis).min(1, 'Name at least one axis.').max(mostAxes, 'At most three axes.'),
  supplierId: Id.nullable().default(null),
  members: z.array(NewMember).min(1, 'Leave at least one combination in.').max(2000, 'At most 2,000 combinations at once.'),
  /** The person has said that so many are meant. */
  many: z.boolean().default(false),
});
export type FamilyForm = z.infer<typeof FamilyForm>;

const FamilyRow = z.object({
  id: Id,
  name: z.string(),
  code: z.string(),
  axes: z.array(z.string()),
  members: z.number(),
  onHand: Amount,
  free: Amount,
  retired: z.boolean(),
});
export type FamilyRow = z.infer<typeof FamilyRow>;
const Family = FamilyRow.extend({
  version: Version,
  description: z.string(),
  categoryId: Id.nullable(),
  unitId: Id,
  brand: z.string(),
  taxCodeId: Id.nullable(),
  returnable: z.boolean(),
  kind: z.enum(itemKinds),
  maker: z.string(),
  inventoryAccountId: Id.nullable(),
  costAccountId: Id.nullable(),
  salesAccountId: Id.nullable(),
  skuPattern: z.string(),
  axisValues: z.array(z.object({ name: z.string(), values: z.array(Value.extend({ id: Id })) })),
  list: z.array(
    z.object({
      itemId: Id,
      sku: z.string(),
      name: z.string(),
      valueIds: z.array(Id),
      onHand: Amount,
      free: Amount,
      salesPrice: Amount.nullable(),
      purchasePrice: Cost.nullable(),
      ownFacts: z.array(z.string()),
      retired: z.boolean(),
    }),
  ),
});
export type Family = z.infer<typeof Family>;

const One = { params: z.object({ id: PathId }) };
export const listFamilies = endpoint({
  method: 'GET',
  path: '/api/catalog/families',
  summary: 'Variant families',
  right: 'look',
  shows: ['item', 'stock'],
  seenBy: 'sites',
  query: z.object({ q: Search, life: z.enum(['active', 'retired', 'all']).default('active') }),
  response: z.object({ rows: z.array(FamilyRow) }),
});
export const getFamily = endpoint({
  method: 'GET',
  path: '/api/catalog/families/:id',
  summary: 'One variant family with its members',
  right: 'look',
  shows: ['item', 'stock', 'reference'],
  seenBy: 'sites',
  ...One,
  response: Family,
});
export const createFamily = endpoint({
  method: 'POST',
  path: '/api/catalog/families',
  summary: 'Make a variant family, its members and their opening stock',
  right: 'items.edit',
  changes: moved,
  posts: true,
  body: FamilyForm,
  response: z.object({ id: Id.nullable(), members: z.number() }),
});
export const editFamily = endpoint({
  method: 'PUT',
  path: '/api/catalog/families/:id',
  summary: 'Change what the members of a family share',
  right: 'items.edit',
  changes: ['item', 'stock', 'lot', 'journal', 'handover', 'purchase', 'sale', 'steps'],
  ...One,
  body: Shared.extend({ skuPattern: Code, retired: z.boolean().default(false), retiredInUse: z.boolean().default(false), version: Version }),
  response: Family,
});
/** Adds combinations, with values that are new to an axis or not: only what is not there yet is made. */
export const addMembers = endpoint({
  method: 'POST',
  path: '/api/catalog/families/:id/members',
  summary: 'Add combinations to a family',
  right: 'items.edit',
  changes: moved,
  ...One,
  body: z.object({
    newValues: NewValues,
    members: z.array(NewMember).max(2000),
  }),
  response: Family,
});
/** Puts loose items into a family by giving their values, which may be new to an axis. */
export const joinFamily = endpoint({
  method: 'POST',
  path: '/api/catalog/families/:id/join',
  summary: 'Put loose items into a family by their values',
  right: 'items.edit',
  changes: ['item', 'stock', 'lot', 'journal', 'handover', 'purchase', 'sale', 'steps'],
  ...One,
  body: z.object({
    items: z
      .array(z.object({ itemId: Id, values: z.array(NeededText).min(1).max(mostAxes) }))
      .min(1, 'Choose at least one item.')
      .max(200),
  }),
  response: Family,
});
export const leaveFamily = endpoint({
  method: 'POST',
  path: '/api/catalog/families/:id/leave',
  summary: 'Take members out of a family; they stay as loose items',
  right: 'items.edit',
  changes: ['item', 'stock', 'lot', 'journal', 'handover', 'purchase', 'sale', 'steps'],
  ...One,
  body: z.object({ itemIds: z.array(Id).min(1, 'Choose at least one member.').max(2000) }),
  response: Family,
});
/** Which of these SKUs and barcodes are in use, and by what: asked while a family is typed. */
export const takenCodes = endpoint({
  method: 'POST',
  path: '/api/catalog/taken',
  summary: 'Which SKUs and barcodes are in use already',
  right: 'look',
  seenBy: 'everyone',
  body: z.object({ skus: z.array(z.string().max(60)).max(2000).default([]), barcodes: z.array(z.string().max(60)).max(2000).default([]) }),
  response: z.object({ skus: z.array(z.object({ code: z.string(), name: z.string() })), barcodes: z.array(z.object({ code: z.string(), name: z.string() })) }),
});
