import { goodsDocuments } from './stock';
import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { inAllOf } from './inAll';
import { Amount, Code, Day, Id, page, Paging, PathId, Search, ShortText } from './values';

export const knownSerials = endpoint({
  method: 'POST',
  path: '/api/stock/serials',
  summary: 'Which of these serials are known already, and where they are',
  reads: true,
  right: 'look',
  shows: ['lot', 'stock'],
  seenBy: 'sites',
  body: z.object({ itemId: Id, codes: z.array(z.string().max(60)).max(5000) }),
  response: z.object({ rows: z.array(z.object({ code: z.string(), where: z.string(), ours: z.boolean() })) }),
});

const Lot = z.object({
  id: Id,
  version: z.number(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  kind: z.enum(['lot', 'serial']),
  code: z.string(),
  useBy: z.string().nullable(),
  pastUse: z.boolean(),
  tag: z.string().nullable(),
  condition: z.string(),
  boughtOn: z.string().nullable(),
  warrantyUntil: z.string().nullable(),
  attributes: z.array(z.object({ attributeId: Id, value: z.string() })),
  places: z.array(z.object({ placeId: Id, kind: z.string(), where: z.string(), quantity: Amount })),
});
export type Lot = z.infer<typeof Lot>;
export const getLot = endpoint({
  method: 'GET',
  path: '/api/stock/lots/:id',
  summary: 'A lot or a serial unit: its facts and where it is',
  right: 'look',
  shows: ['lot', 'stock', 'attribute', 'item'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  response: Lot,
});
/** Which lots and serial units a list holds. */
export const LotFilter = z.object({
  q: Search,
  kind: z.enum(['lot', 'serial']).optional(),
  itemId: PathId.optional(),
  siteId: PathId.optional(),
  /** `here`: some of it lies in a place of ours; `past`: here, and past its use-by day. */
  state: z.enum(['here', 'past', 'gone', 'all']).default('here'),
  attributeId: PathId.optional(),
  attributeValue: Search,
});
export type LotFilter = z.input<typeof LotFilter>;
const LotRow = z.object({
  id: Id,
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  kind: z.enum(['lot', 'serial']),
  code: z.string(),
  tag: z.string().nullable(),
  useBy: z.string().nullable(),
  pastUse: z.boolean(),
  condition: z.string(),
  boughtOn: z.string().nullable(),
  warrantyUntil: z.string().nullable(),
  /** In places of ours, and where that is. */
  quantity: Amount,
  where: z.string(),
  /** Somebody is to be reminded of a day of it. */
  reminds: z.boolean(),
  /** Values of the business's own attributes, by their id. */
  attributes: z.record(z.string(), z.string()),
});
export type LotRow = z.infer<typeof LotRow>;
export const lotSorts = ['code', 'sku', 'useBy', 'warrantyUntil'] as const;
export const listLots = endpoint({
  method: 'GET',
  path: '/api/stock/lots',
  summary: 'Lots and serial units by code, tag, item or condition',
  right: 'look',
  shows: ['lot', 'stock', 'item', 'attribute', 'reminder'],
  seenBy: 'sites',
  query: LotFilter.extend({ sort: z.enum(lotSorts).default('code'), direction: z.enum(['up', 'down']).default('up'), ...Paging }),
  response: page(LotRow),
});
export const lotsInAll = inAllOf(listLots, {});
export const editLot = endpoint({
  method: 'PUT',
  path: '/api/stock/lots/:id',
  summary: 'Change the facts of a lot or a serial unit',
  right: 'items.edit',
  changes: ['lot', 'stock', 'sale'],
  params: z.object({ id: PathId }),
  body: z.object({
    version: z.number().int().positive(),
    useBy: Day.nullable().default(null),
    tag: z.union([Code, z.literal('')]).default(''),
    condition: ShortText.default(''),
    boughtOn: Day.nullable().default(null),
    warrantyUntil: Day.nullable().default(null),
    attributes: z
      .array(z.object({ attributeId: Id, value: ShortText }))
      .max(100)
      .default([]),
  }),
  response: Lot,
});

const TraceRow = z.object({
  /** Supplier, customer, or another way in or out in words. */
  who: z.string(),
  kind: z.string(),
  partyId: Id.nullable(),
  email: z.string(),
  document: z.object({ kind: z.enum(goodsDocuments), id: Id, number: z.string() }).nullable(),
  /** First and last day. */
  from: Day,
  to: Day,
  quantity: Amount,
  /** Of that, what went the other way again. */
  back: Amount,
  note: z.string(),
  bills: z.array(z.object({ id: Id, number: z.string() })),
  /** Invoices and credit notes over just these goods; for whoever may see those. */
  invoices: z.array(z.object({ id: Id, number: z.string(), kind: z.enum(['invoice', 'credit']) })),
  /** Each time some of it moved. */
  steps: z.array(z.object({ movementId: Id, kind: z.string(), day: Day, quantity: Amount })),
});
export type TraceRow = z.infer<typeof TraceRow>;
/** A lot or serial that another went into, or that went into it: by which work, and how many makings away. */
const LotLink = z.object({
  level: z.number(),
  /** Null: it is made without lots, and cannot be followed on. */
  lotId: Id.nullable(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  lot: z.string().nullable(),
  document: z.object({ kind: z.literal('work order'), id: Id, number: z.string() }),
  /** How many were made; empty of what went in. */
  quantity: Amount.or(z.literal('')),
  day: Day,
});
export type LotLink = z.infer<typeof LotLink>;
export const traceLot = endpoint({
  method: 'GET',
  path: '/api/stock/lots/:id/trace',
  summary: 'Where a lot or serial came from, what of it is here, who has or had it on loan, and who got it',
  right: 'look',
  shows: ['lot', 'stock', 'bill', 'invoice', 'party', 'purchase', 'sale', 'loan', 'work'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  response: z.object({
    came: z.array(TraceRow),
    went: z.array(TraceRow),
    /** Lent: of a holder and loan so many, and what of that is back or lost. */
    held: z.array(TraceRow),
    here: Amount,
    /** By making, level by level: what it went into, and what went into it. */
    into: z.array(LotLink),
    of: z.array(LotLink),
  }),
});
export const traceFile = endpoint({
  method: 'GET',
  path: '/api/stock/lots/:id/trace/file',
  summary: 'Who got a lot, as CSV: to write to them',
  right: 'look',
  seenBy: 'sites',
  file: 'text/csv',
  params: z.object({ id: PathId }),
  response: FileAnswer,
});
