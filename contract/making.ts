import { z } from 'zod';
import { endpoint } from './endpoint';
import { Amount, Cost, Day, Id, NeededText, page, Paging, PathId, Percent, Price, Quantity, Search, ShortText, Text, Typed, Version } from './values';

/** Making: bills of materials, what they cost over all levels, and how many can be made. */

/** Per cent beyond what is used; more than all of it again is not waste. */
const Waste = Percent.default('0');
/** A part of the cost, against those of the other outputs. */
const Share = Typed('percent').refine((text) => Number(text) >= 0, 'A share is 0 or more.');
export const workUnits = ['hour', 'piece'] as const;
const mostParts = 1000;

const BomFields = z.object({
  itemId: Id.nullable()
    .default(null)
    .refine((id) => id !== null, 'Choose what is made.'),
  name: ShortText.default(''),
  /** The day it holds from. */
  startsOn: Day,
  /** Base units of the item that its parts are for. */
  makes: Quantity.default('1'),
  /** Of the cost, beside those of what else comes of it; null: by value. */
  share: Share.nullable().default(null),
  parts: z
    .array(
      z.object({
        itemId: Id,
        /** Null: its base unit. */
        unitId: Id.nullable().default(null),
        quantity: Quantity,
        waste: Waste,
        note: ShortText.default(''),
        /** What may be taken in its place, first the one that is preferred; each so many of its base units for what the line says. */
        alternatives: z
          .array(z.object({ itemId: Id, quantity: Quantity }))
          .max(20, 'At most 20 alternatives.')
          .default([]),
      }),
    )
    .min(1, 'Say what it is made of.')
    .max(mostParts, 'At most 1,000 parts.'),
  costs: z
    .array(
      z.object({
        name: NeededText,
        per: z.enum(workUnits),
        /** Hours, or pieces. */
        quantity: Quantity,
        /** For one hour or piece, in company currency. */
        rate: Price,
        accountId: Id.nullable()
          .default(null)
          .refine((id) => id !== null, 'Choose the account it is taken from.'),
      }),
    )
    .max(50, 'At most 50 other costs.')
    .default([]),
  byProducts: z
    .array(z.object({ itemId: Id, quantity: Quantity, share: Share.nullable().default(null) }))
    .max(100, 'At most 100 other outputs.')
    .default([]),
  /** What is done, step by step. */
  steps: Text.default(''),
  note: Text.default(''),
});
const twice = (ids: readonly number[], index: number) => ids.indexOf(ids[index] as number) < index;
/** Each part and output once, shares of all outputs or of none. */
function refuseUnsound({ itemId, parts, costs, byProducts, share }: z.infer<typeof BomFields>, context: z.RefinementCtx): void {
  const refuse = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message });
  const partIds = parts.map((part) => part.itemId);
  for (const [index, part] of parts.entries()) {
    if (part.itemId === itemId) refuse(['parts', index, 'itemId'], 'It cannot be made of itself.');
    else if (twice(partIds, index)) refuse(['parts', index, 'itemId'], `Line ${partIds.indexOf(part.itemId) + 1} has this part as well.`);
    for (const [at, other] of part.alternatives.entries())
      if (
        other.itemId === part.itemId ||
        twice(
          part.alternatives.map((one) => one.itemId),
          at,
        )
      )
        refuse(['parts', index, 'alternatives', at, 'itemId'], 'This one is there already.');
  }
  const costNames = costs.map(({ name }) => name.toLowerCase());
  for (const [index, name] of costNames.entries())
    if (costNames.indexOf(name) < index) refuse(['costs', index, 'name'], `Line ${costNames.indexOf(name) + 1} is called this as well.`);
  const outputIds = [itemId, ...byProducts.map((one) => one.itemId)] as number[];
  for (const [index, { itemId: id }] of byProducts.entries()) {
    if (partIds.includes(id)) refuse(['byProducts', index, 'itemId'], 'It is one of the parts.');
    else if (twice(outputIds, index + 1)) refuse(['byProducts', index, 'itemId'], 'It comes of it already.');
  }
  const shares = [share, ...byProducts.map((one) => one.share)];
  if (byProducts.length > 0 && shares.some((one) => one !== null) && shares.some((one) => one === null))
    refuse(['share'], 'Give shares to all outputs, or to none.');
  else if (byProducts.length > 0 && shares.every((one) => one !== null && Number(one) === 0)) refuse(['share'], 'One of the shares must be more than zero.');
}
/** A bill of materials as it is written. */
export const BomForm = BomFields.superRefine(refuseUnsound);
export type BomForm = z.infer<typeof BomForm>;

export const bomStates = ['in use', 'later', 'replaced', 'retired'] as const;
const BomRow = z.object({
  id: Id,
  itemId: Id,
  sku: z.string(),
  itemName: z.string(),
  unit: z.string(),
  category: z.string(),
  /** Counts the versions of one item. */
  number: z.number(),
  name: z.string(),
  startsOn: Day,
  state: z.enum(bomStates),
  makes: Amount,
  parts: z.number(),
  /** What one costs now: made, over all levels, and as it is in stock. */
  made: Cost.nullable(),
  own: Cost.nullable(),
});
export type BomRow = z.infer<typeof BomRow>;
export const bomShows = ['in use', 'all'] as const;
export const listBoms = endpoint({
  method: 'GET',
  path: '/api/making/boms',
  summary: 'Bills of materials by the SKU of what is made, with what one costs when it is made and in stock',
  right: 'look',
  shows: ['bom', 'item', 'stock', 'reference'],
  seenBy: 'everyone',
  query: z.object({ q: Search, show: z.enum(bomShows).default('in use'), partId: PathId.optional(), ...Paging }),
  response: page(BomRow),
});

/** An item as lines of a bill name it. */
const Named = { itemId: Id, sku: z.string(), name: z.string(), unit: z.string() };
const Bom = z.object({
  id: Id,
  version: Version,
  ...Named,
  number: z.number(),
  label: z.string(),
  startsOn: Day,
  state: z.enum(bomStates),
  makes: Amount,
  share: Amount.nullable(),
  parts: z.array(
    z.object({
      ...Named,
      unitId: Id.nullable(),
      /** The unit the line is written in. */
      writtenIn: z.string(),
      /** Those it can be written in beside its base unit. */
      units: z.array(z.object({ unitId: Id, unit: z.string(), factor: Amount })),
      quantity: Amount,
      waste: Amount,
      note: z.string(),
      alternatives: z.array(z.object({ ...Named, quantity: Amount })),
    }),
  ),
  costs: z.array(z.object({ name: z.string(), per: z.enum(workUnits), quantity: Amount, rate: Cost, accountId: Id })),
  byProducts: z.array(z.object({ ...Named, quantity: Amount, share: Amount.nullable() })),
  steps: z.string(),
  note: z.string(),
  versions: z.array(z.object({ id: Id, number: z.number(), name: z.string(), startsOn: Day, state: z.enum(bomStates) })),
});
export type Bom = z.infer<typeof Bom>;
const one = z.object({ id: PathId });
export const getBom = endpoint({
  method: 'GET',
  path: '/api/making/boms/:id',
  summary: 'One bill of materials, and the other versions there are of it',
  right: 'look',
  shows: ['bom', 'item', 'reference'],
  seenBy: 'everyone',
  params: one,
  response: Bom,
});
const changing = { right: 'making.write', changes: ['bom'] } as const;
export const createBom = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/making/boms',
  summary: 'Add a bill of materials, or another version of one, from a day on',
  body: BomForm,
  response: Bom,
});
export const editBom = endpoint({
  ...changing,
  method: 'PUT',
  path: '/api/making/boms/:id',
  summary: 'Change a bill of materials; work that was ordered by it stays as it was',
  params: one,
  body: BomFields.extend({ version: Version }).superRefine(refuseUnsound),
  response: Bom,
});
export const retireBom = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/making/boms/:id/retire',
  summary: 'Retire a version of a bill of materials, or take it back',
  params: one,
  body: z.object({ retired: z.boolean(), version: Version }),
  response: Bom,
});

/** A line of what something costs when it is made; `level` 1 are its own parts. */
const CostRow = z.object({
  level: z.number(),
  ...Named,
  /** In one of what is made, waste included. */
  quantity: Amount,
  /** What one costs: as it is in stock, or bought; and made, when it is. Null where nothing says. */
  own: Cost.nullable(),
  made: Cost.nullable(),
  /** What it comes to in one of what is made. */
  amount: Cost.nullable(),
});
export type CostRow = z.infer<typeof CostRow>;
const CostOf = z.object({
  /** Parts and other costs of all levels, of one of the item; null for whom may not see cost. */
  parts: Cost.nullable(),
  work: Cost.nullable(),
  made: Cost.nullable(),
  /** What the item costs as it is in stock, or bought. */
  own: Cost.nullable(),
  /** Per cent of the cost of the work that the item takes beside its by-products. */
  share: Cost.nullable(),
  /** SKUs of parts of which nothing says what they cost. */
  unknown: z.array(z.string()),
  rows: z.array(CostRow),
});
export const bomCost = endpoint({
  method: 'POST',
  path: '/api/making/cost',
  summary: 'What one costs that is made by a bill as it is typed: part by part, over all levels, beside what it costs now',
  right: 'look',
  reads: true,
  shows: ['bom', 'item', 'stock'],
  seenBy: 'everyone',
  body: BomForm,
  response: CostOf,
});

export const whereUsed = endpoint({
  method: 'GET',
  path: '/api/making/items/:id/used',
  summary: 'What an item goes into, by the bills in use, over all levels; and its own bills',
  right: 'look',
  shows: ['bom', 'item'],
  seenBy: 'everyone',
  params: one,
  response: z.object({
    rows: z.array(z.object({ level: z.number(), bomId: Id, ...Named, /** So many of the part in one of it. */ quantity: Amount })),
    boms: z.array(z.object({ id: Id, number: z.number(), name: z.string(), startsOn: Day, state: z.enum(bomStates), makes: Amount })),
  }),
});

/** Goods that are to come of what is missing. */
const Coming = z.object({ kind: z.enum(['purchase', 'transfer', 'work']), orderId: Id, orderNumber: z.string(), quantity: Amount, expectedOn: Day.nullable() });
const NeededRow = z.object({
  level: z.number(),
  ...Named,
  step: z.string(),
  stocked: z.boolean(),
  needed: Amount,
  /** All that is free at the site, and what of it is used. */
  free: Amount,
  taken: Amount,
  made: Amount,
  missing: Amount,
  coming: z.array(Coming),
  /** What is missing and does not come: to be bought, brought or made. */
  open: Amount,
  /** Other sites that have some free, the one with most first. */
  elsewhere: z.array(z.object({ siteId: Id, site: z.string(), free: Amount })),
  alternatives: z.array(z.object({ sku: z.string(), quantity: Amount, free: Amount })),
  /** From whom it is bought, when it is. */
  supplierId: Id.nullable(),
  supplier: z.string().nullable(),
});
export type NeededRow = z.infer<typeof NeededRow>;
export const canMakeItem = endpoint({
  method: 'GET',
  path: '/api/making/items/:id/can-make',
  summary: 'How many of an item can be made at a site of what is free there, what limits it, and what is missing for so many',
  right: 'look',
  shows: ['bom', 'item', 'stock', 'purchase', 'transfer', 'party', 'place'],
  seenBy: 'sites',
  params: one,
  query: z.object({ siteId: PathId, quantity: Quantity.optional() }),
  response: z.object({
    ...Named,
    step: z.string(),
    bomId: Id,
    free: Amount,
    /** Null: nothing that is kept in stock limits it. */
    canMake: Amount.nullable(),
    limits: z.array(z.object({ itemId: Id, sku: z.string(), name: z.string() })),
    /** What the rows are for: what was asked, else one more than can be made. */
    quantity: Amount,
    rows: z.array(NeededRow),
  }),
});
export const canMakeAll = endpoint({
  method: 'GET',
  path: '/api/making/can-make',
  summary: 'All that is made, with how many can be made at a site of what is free there, and what limits each',
  right: 'look',
  heavy: true,
  shows: ['bom', 'item', 'stock', 'place'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId, q: Search }),
  response: z.object({
    rows: z.array(
      z.object({
        ...Named,
        bomId: Id,
        free: Amount,
        short: Amount,
        reorderPoint: Amount.nullable(),
        canMake: Amount.nullable(),
        limits: z.array(z.object({ itemId: Id, sku: z.string() })),
      }),
    ),
  }),
});
