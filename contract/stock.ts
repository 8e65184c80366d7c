import { z } from 'zod';
import { endpoint, FileAnswer, moved } from './endpoint';
import { Amount, Code, Cost, Day, Id, IncomingLines, page, Paging, PathId, Posted, Search, ShortText, SignedQuantity, Text } from './values';

export const stockSorts = ['sku', 'name', 'onHand', 'reserved', 'free', 'onOrder', 'unitCost', 'value'] as const;
/** Which items a stock table holds. */
export const StockFilter = z.object({
  categoryId: PathId.optional(),
  supplierId: PathId.optional(),
  state: z.enum(['all', 'in-stock', 'out', 'low', 'short']).default('all'),
});
export type StockFilter = z.input<typeof StockFilter>;
const StockRow = z.object({
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  onHand: Amount,
  reserved: Amount,
  free: Amount,
  onOrder: Amount,
  short: Amount,
  unitCost: Cost,
  value: Cost,
  reorderPoint: Amount.nullable(),
  orderUpTo: Amount.nullable(),
});
export type StockRow = z.infer<typeof StockRow>;
export const stockTable = endpoint({
  method: 'GET',
  path: '/api/stock/table',
  summary: 'Stock per item, over all sites or at one',
  right: 'look',
  shows: ['stock', 'item'],
  seenBy: 'sites',
  query: StockFilter.extend({
    q: Search,
    siteId: PathId.optional(),
    sort: z.enum(stockSorts).default('sku'),
    direction: z.enum(['up', 'down']).default('up'),
    ...Paging,
  }),
  response: page(StockRow),
});

const Expected = z.object({ day: Day, quantity: Amount, document: z.string(), kind: z.enum(['purchase order', 'sales order']), id: Id });
/** What a bin holds of one lot or serial. */
const LotBalance = z.object({ lotId: Id, code: z.string(), useBy: z.string().nullable(), pastUse: z.boolean(), quantity: Amount });

export const itemStock = endpoint({
  method: 'GET',
  path: '/api/stock/items/:id',
  summary: 'Where an item lies, its past and what is expected',
  right: 'look',
  shows: ['stock', 'item', 'lot', 'purchase', 'sale', 'place'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({
    itemId: Id,
    sku: z.string(),
    name: z.string(),
    tracking: z.enum(['none', 'lot', 'serial']),
    pictureId: Id.nullable(),
    unit: z.string(),
    step: z.string(),
    unitCost: Cost,
    value: Cost,
    today: Day,
    /** The item's last movement that these figures know of. */
    seq: z.number(),
    daysOfCover: z.number().nullable(),
    reorderPoint: Amount.nullable(),
    orderUpTo: Amount.nullable(),
    sites: z.array(
      z.object({
        siteId: Id,
        site: z.string(),
        onHand: Amount,
        reserved: Amount,
        free: Amount,
        bench: Amount,
        onOrder: Amount,
        short: Amount,
        reorderPoint: Amount.nullable(),
        orderUpTo: Amount.nullable(),
        bins: z.array(z.object({ binId: Id, bin: z.string(), quantity: Amount, sellable: z.boolean(), lots: z.array(LotBalance) })),
      }),
    ),
    past: z.array(z.object({ day: Day, quantity: Amount })),
    expected: z.array(Expected),
    reservedFor: z.array(z.object({ orderId: Id, number: z.string(), customer: z.string(), reserved: Amount, short: Amount, shipBy: Day })),
  }),
});
export type ItemStock = z.infer<(typeof itemStock)['response']>;

const TrailRow = z.object({
  lineId: Id,
  movementId: Id,
  kind: z.string(),
  postedAt: z.string(),
  effectiveOn: Day,
  person: z.string(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  from: z.string(),
  to: z.string(),
  quantity: Amount,
  change: Amount,
  value: Cost,
  lotId: Id.nullable(),
  lot: z.string().nullable(),
  document: z.object({ kind: z.enum(['purchase order', 'sales order']), id: Id, number: z.string() }).nullable(),
  why: z.string(),
  undone: z.boolean(),
  undoes: Id.nullable(),
});
export type TrailRow = z.infer<typeof TrailRow>;
export const trail = endpoint({
  method: 'GET',
  path: '/api/stock/trail',
  summary: 'Movements, newest first, of an item, a bin or a document',
  right: 'look',
  shows: ['stock', 'item', 'lot', 'place'],
  seenBy: 'sites',
  query: z.object({
    itemId: PathId.optional(),
    siteId: PathId.optional(),
    placeId: PathId.optional(),
    lotId: PathId.optional(),
    measure: z.enum(['on-hand', 'bench', 'all']).default('all'),
    ...Paging,
  }),
  response: page(TrailRow),
});

export const binContents = endpoint({
  method: 'GET',
  path: '/api/stock/bins/:id',
  summary: 'What lies in a bin',
  right: 'look',
  shows: ['stock', 'place', 'item', 'lot'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  response: z.object({
    id: Id,
    code: z.string(),
    siteId: Id,
    site: z.string(),
    /** Goods here may be sold; otherwise it is quarantine. */
    sellable: z.boolean(),
    rows: z.array(
      z.object({
        itemId: Id,
        sku: z.string(),
        name: z.string(),
        unit: z.string(),
        quantity: Amount,
        lotId: Id.nullable(),
        lot: z.string().nullable(),
        useBy: Day.nullable(),
        pastUse: z.boolean(),
      }),
    ),
  }),
});

export const CorrectionForm = z.object({
  way: z.enum(['there-are-now', 'plus-or-minus']),
  reasonId: Id,
  effectiveOn: Day.optional(),
  note: Text.default(''),
  /** The person has said that a later count of a bin, which contains this already, does not matter. */
  countedSince: z.boolean().default(false),
  /** `seq` is the item's last movement that was known when the line was entered; needed for "there are now". */
  lines: z
    .array(
      z.object({ itemId: Id, binId: Id, lotId: Id.nullable().default(null), quantity: SignedQuantity, seq: z.number().int().min(0).nullable().default(null) }),
    )
    .min(1, 'Enter at least one line.')
    .max(500, 'At most 500 lines at once.'),
});
export type CorrectionForm = z.infer<typeof CorrectionForm>;
export const correct = endpoint({
  method: 'POST',
  path: '/api/stock/corrections',
  summary: 'Put stock right',
  right: 'stock.correct',
  changes: moved,
  posts: true,
  body: CorrectionForm,
  response: Posted,
});
export const undo = endpoint({
  method: 'POST',
  path: '/api/stock/undo',
  summary: 'Undo a posting; the trace stays',
  right: 'undo',
  changes: moved,
  posts: true,
  /** `countedSince`: the person has said that a count which contains it already does not matter. */
  body: z.object({ movementId: Id, note: Text.default(''), countedSince: z.boolean().default(false) }),
  response: Posted,
});

export const OpeningForm = z.object({
  effectiveOn: Day.optional(),
  note: Text.default(''),
  countedSince: z.boolean().default(false),
  lines: IncomingLines,
});
export type OpeningForm = z.infer<typeof OpeningForm>;
export const openStock = endpoint({
  method: 'POST',
  path: '/api/stock/opening',
  summary: 'Bring in the stock a business begins with',
  right: 'stock.correct',
  changes: moved,
  posts: true,
  body: OpeningForm,
  response: Posted,
});

/** Serials that are known of an item already, and where each is: asked while they are entered. */
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
  shows: ['lot', 'stock', 'item', 'attribute'],
  seenBy: 'sites',
  query: LotFilter.extend({ sort: z.enum(lotSorts).default('code'), direction: z.enum(['up', 'down']).default('up'), ...Paging }),
  response: page(LotRow),
});
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
  document: z.object({ kind: z.enum(['purchase order', 'sales order']), id: Id, number: z.string() }).nullable(),
  /** First and last day. */
  from: Day,
  to: Day,
  quantity: Amount,
  /** Of that, what went the other way again. */
  back: Amount,
  note: z.string(),
  bills: z.array(z.object({ id: Id, number: z.string() })),
});
export type TraceRow = z.infer<typeof TraceRow>;
export const traceLot = endpoint({
  method: 'GET',
  path: '/api/stock/lots/:id/trace',
  summary: 'Where a lot or serial came from, what of it is here, and who got it',
  right: 'look',
  shows: ['lot', 'stock', 'bill', 'party', 'purchase', 'sale'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  response: z.object({ came: z.array(TraceRow), went: z.array(TraceRow), here: Amount }),
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
