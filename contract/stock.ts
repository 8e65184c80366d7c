import { z } from 'zod';
import { endpoint } from './endpoint';
import { inAllOf } from './inAll';
import { moved } from './nouns';
import { Amount, Cost, Day, Id, IncomingLines, ItemCodes, page, Paging, PathId, Posted, Search, ShortText, SignedQuantity, Text } from './values';

export const stockSorts = [
  'sku',
  'name',
  'onHand',
  'reserved',
  'free',
  'short',
  'onOrder',
  'inTransit',
  'onLoan',
  'quarantine',
  'unitCost',
  'value',
  'countedOn',
] as const;
/** Items as everybody may narrow them down, whatever is asked of their stock. */
export const ItemsHeld = z.object({
  categoryId: PathId.optional(),
  supplierId: PathId.optional(),
  /** Of which something lies in a bin of this zone. */
  zone: ShortText.optional(),
  attributeId: PathId.optional(),
  attributeValue: Search,
  /** From the first code to the last, both among them; what begins with the last is, too. */
  fromSku: ShortText.optional(),
  toSku: ShortText.optional(),
});
/** Which items a stock table holds. */
export const StockFilter = ItemsHeld.extend({ state: z.enum(['all', 'in-stock', 'out', 'low', 'short']).default('all') });
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
  /** On its way from another site. */
  inTransit: Amount,
  short: Amount,
  /** Lent out by these sites; in bins that are not sold from, or past its day. */
  onLoan: Amount,
  quarantine: Amount,
  unitCost: Cost,
  value: Cost,
  /** How long what is free lasts as it went out in the last 90 days; null where nothing went out. */
  daysOfCover: z.number().nullable(),
  /** When a bin of it was last counted. */
  countedOn: Day.nullable(),
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
export const stockInAll = inAllOf(stockTable, { value: Cost });

export const pastSorts = ['sku', 'name', 'onHand', 'inTransit', 'onLoan', 'quarantine', 'unitCost', 'value'] as const;
/** Which items a stock table of a past day holds. */
export const PastFilter = ItemsHeld.extend({ asOf: Day, state: z.enum(['all', 'in-stock', 'out']).default('all') });
export type PastFilter = z.input<typeof PastFilter>;
const PastRow = StockRow.pick({
  itemId: true,
  sku: true,
  name: true,
  unit: true,
  onHand: true,
  inTransit: true,
  onLoan: true,
  quarantine: true,
  unitCost: true,
  value: true,
}).extend({
  /** Picked, and not sent yet. */
  bench: Amount,
});
export type PastRow = z.infer<typeof PastRow>;
export const pastStock = endpoint({
  method: 'GET',
  path: '/api/stock/past',
  summary: 'Stock per item as it stood at the end of a day, over all sites or at one',
  right: 'look',
  shows: ['stock', 'item'],
  seenBy: 'sites',
  query: PastFilter.extend({
    q: Search,
    siteId: PathId.optional(),
    sort: z.enum(pastSorts).default('sku'),
    direction: z.enum(['up', 'down']).default('up'),
    ...Paging,
  }),
  response: page(PastRow),
});
export const pastInAll = inAllOf(pastStock, { value: Cost });

/** The documents that goods come and go on. */
export const goodsDocuments = ['purchase order', 'sales order', 'transfer', 'loan', 'work order'] as const;
const Expected = z.object({ day: Day, quantity: Amount, document: z.string(), kind: z.enum(goodsDocuments), id: Id });
/** What a bin holds of one lot or serial. */
const LotBalance = z.object({ lotId: Id, code: z.string(), useBy: z.string().nullable(), pastUse: z.boolean(), quantity: Amount });

const BinHeld = z.object({ binId: Id, bin: z.string(), quantity: Amount, sellable: z.boolean(), lots: z.array(LotBalance) });

export const itemStock = endpoint({
  method: 'GET',
  path: '/api/stock/items/:id',
  summary: 'Where an item lies, its past and what is expected',
  right: 'look',
  shows: ['stock', 'item', 'lot', 'purchase', 'sale', 'transfer', 'place'],
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
        inTransit: Amount,
        short: Amount,
        reorderPoint: Amount.nullable(),
        orderUpTo: Amount.nullable(),
        bins: z.array(BinHeld),
      }),
    ),
    past: z.array(z.object({ day: Day, quantity: Amount })),
    expected: z.array(Expected),
    /** Orders of customers, and transfers to other sites, whose name stands for the customer. */
    reservedFor: z.array(
      z.object({ kind: z.enum(goodsDocuments), orderId: Id, number: z.string(), customer: z.string(), reserved: Amount, short: Amount, shipBy: Day }),
    ),
  }),
});
export type ItemStock = z.infer<(typeof itemStock)['response']>;

export const pastItem = endpoint({
  method: 'GET',
  path: '/api/stock/items/:id/past',
  summary: 'Where an item lay at the end of a day, and what it was worth',
  right: 'look',
  shows: ['stock', 'item', 'lot', 'place'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  query: z.object({ asOf: Day, siteId: PathId.optional() }),
  response: PastRow.omit({ onHand: true, inTransit: true, onLoan: true, quarantine: true, bench: true }).extend({
    tracking: z.enum(['none', 'lot', 'serial']),
    sites: z.array(
      PastRow.pick({ onHand: true, bench: true, inTransit: true, onLoan: true, quarantine: true, value: true }).extend({
        siteId: Id,
        site: z.string(),
        bins: z.array(BinHeld),
      }),
    ),
  }),
});
export type PastItem = z.infer<(typeof pastItem)['response']>;

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
  document: z.object({ kind: z.enum(goodsDocuments), id: Id, number: z.string() }).nullable(),
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
    /** The last day looked at. */
    until: Day.optional(),
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
  /** As it stood at the end of that day; as it is now where none is given. */
  query: z.object({ asOf: Day.optional() }),
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
        codes: ItemCodes,
      }),
    ),
  }),
});

export const CorrectionForm = z.object({
  way: z.enum(['there-are-now', 'plus-or-minus']),
  reasonId: Id,
  effectiveOn: Day.optional(),
  note: Text.default(''),
  /** What bears it; the account of the reason when none is given. */
  accountId: Id.optional(),
  departmentId: Id.nullable().default(null),
  /** Of own use: the tax due on it; that of the reason when nothing is said, null for none. */
  taxCodeId: Id.nullable().optional(),
  /** The person has said that a later count of a bin, which contains this already, does not matter. */
  countedSince: z.boolean().default(false),
  /** `seq` is the item's last movement that was known when the line was entered; needed for "there are now". */
  lines: z
    .array(
      z.object({
        itemId: Id,
        binId: Id,
        lotId: Id.nullable().default(null),
        quantity: SignedQuantity,
        seq: z.number().int().min(0).nullable().default(null),
        /** What of it had no bin at the site then lies in this one, and is among what there are now. */
        sweep: z.boolean().default(false),
      }),
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
  summary: 'Add the stock a business begins with',
  right: 'stock.correct',
  changes: moved,
  posts: true,
  body: OpeningForm,
  response: Posted,
});

/** Serials that are known of an item already, and where each is: asked while they are entered. */
