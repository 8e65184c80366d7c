import { z } from 'zod';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Day, Id, IncomingLines, ItemCodes, LotEntry, PathId, Posted, Quantity, QuantityOrZero, ShortText } from './values';

const one = z.object({ id: PathId });
const Typed = z.string().max(20);
const TallyLots = z.array(z.object({ code: z.string().max(60), useBy: Day.nullable(), quantity: Typed })).max(5000);
const TallyLine = z.object({
  quantity: Typed,
  binId: Id.nullable(),
  lots: TallyLots.optional(),
  extra: Typed.optional(),
  damaged: Typed.optional(),
  noMore: z.boolean().optional(),
  toBench: z.boolean().optional(),
});
const ScanPart = z.object({ lineId: Id, binId: Id.nullable(), quantity: Quantity, lots: TallyLots, extra: QuantityOrZero.optional() });
const Key = z.string().min(8).max(60);
const Aside = z.object({ itemId: Id, sku: z.string().max(60), quantity: Quantity });
const Tally = z.object({
  lines: z.record(z.coerce.number(), TallyLine),
  scans: z.array(z.object({ key: Key, said: z.string(), parts: z.array(ScanPart) })),
  aside: z.array(Aside.extend({ key: Key })),
  packingNote: z.string(),
  cameOn: Day.nullable(),
});
const DeskChange = z.discriminatedUnion('what', [
  z.object({ key: Key, what: z.literal('scan'), said: z.string().max(300), parts: z.array(ScanPart).min(1).max(100) }),
  z.object({ key: Key, what: z.literal('take-back'), scan: Key }),
  z.object({
    key: Key,
    what: z.literal('put'),
    lines: z
      .array(z.object({ lineId: Id, put: TallyLine.partial() }))
      .min(1)
      .max(500),
  }),
  Aside.extend({ key: Key, what: z.literal('set-aside') }),
  z.object({ key: Key, what: z.literal('settle-aside'), aside: Key }),
  z.object({ key: Key, what: z.literal('head'), packingNote: ShortText, cameOn: Day.nullable() }),
  z.object({ key: Key, what: z.literal('start-over') }),
]);

const DeskLine = z.object({
  lineId: Id,
  /** What brings it: an order from a supplier, or a transfer from another site. */
  kind: z.enum(['purchase', 'transfer']),
  /** The document, told apart from all others: a purchase order by its id, a transfer by `t` and its. */
  delivery: z.string(),
  orderId: Id,
  orderNumber: z.string(),
  /** Who sends it: a supplier, or another site. */
  supplier: z.string(),
  siteId: Id,
  site: z.string(),
  expectedOn: Day.nullable(),
  position: z.number(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  outstanding: Amount,
  tracking: z.enum(['none', 'lot', 'serial']),
  /** Not kept in stock: it is used as it comes and goes to no bin. */
  stocked: z.boolean(),
  binId: Id.nullable(),
  bin: z.string().nullable(),
  codes: ItemCodes,
  /** Orders that wait for the item there, those served first in front. */
  waiting: z.array(z.object({ orderId: Id, number: z.string(), customer: z.string(), short: Amount })),
  /** Who else is counting this line just now. */
  others: z.array(z.object({ person: z.string(), quantity: Amount })),
});
export type DeskLine = z.infer<typeof DeskLine>;
export const receivingDesk = endpoint({
  method: 'GET',
  path: '/api/inbound/desk',
  summary: 'Every open line that still wants goods, with the codes that mean it and the bin proposed',
  right: 'look',
  shows: ['desk', 'purchase', 'transfer', 'stock', 'item', 'sale', 'place', 'party'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({ rows: z.array(DeskLine), tally: Tally, version: z.number() }),
});
export const changeDesk = endpoint({
  method: 'POST',
  path: '/api/inbound/desk/changes',
  summary: 'Keep what was counted at the desk; each change counts once, by its key',
  right: 'inbound.receive',
  changes: ['desk'],
  body: z.object({ changes: z.array(DeskChange).min(1).max(500) }),
  response: z.object({ tally: Tally, version: z.number() }),
});
export const ReceiptForm = z.object({
  lines: z
    .array(
      z.object({
        lineId: Id,
        quantity: Quantity,
        /** So many more than are still to come the person has agreed to take. */
        extra: QuantityOrZero.default('0'),
        /** Nothing for what is not kept in stock. */
        binId: Id.nullable(),
        lots: z.array(LotEntry).max(5000).default([]),
        /** What is left of the order line will not come any more. */
        noMore: z.boolean().default(false),
        /** Goes on to the bench for the orders that wait for it. */
        toBench: z.boolean().default(false),
      }),
    )
    .min(1, 'Scan or type what came in first.')
    .max(500, 'At most 500 lines at once.'),
  packingNote: ShortText.default(''),
  effectiveOn: Day.optional(),
  /** The person has said that goods past their use-by day are taken. */
  pastUseBy: z.boolean().default(false),
  /** The person has said that a later count of a bin, which contains these goods already, does not matter. */
  countedSince: z.boolean().default(false),
  /** It was counted at the desk, which is then cleared of it. */
  fromDesk: z.boolean().default(false),
});
export type ReceiptForm = z.infer<typeof ReceiptForm>;
export const receive = endpoint({
  method: 'POST',
  path: '/api/inbound/receipts',
  summary: 'Receive goods against open lines',
  right: 'inbound.receive',
  changes: [...moved, 'desk'],
  posts: true,
  body: ReceiptForm,
  response: Posted,
});

export const UnorderedReceiptForm = z.object({
  /** Nobody for goods that turned up. */
  supplierId: Id.nullable().default(null),
  /** A bill is to follow: an order is written for it. Otherwise the goods are paid. */
  billComes: z.boolean().default(false),
  packingNote: ShortText.default(''),
  effectiveOn: Day.optional(),
  pastUseBy: z.boolean().default(false),
  countedSince: z.boolean().default(false),
  lines: IncomingLines,
});
export type UnorderedReceiptForm = z.infer<typeof UnorderedReceiptForm>;
export const receiveUnordered = endpoint({
  method: 'POST',
  path: '/api/inbound/unordered-receipts',
  summary: 'Receive goods without an order',
  right: 'inbound.receive',
  changes: [...moved, 'desk'],
  posts: true,
  body: UnorderedReceiptForm,
  response: Posted,
});

const Returnable = z.object({
  purchaseLineId: Id,
  position: z.number(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  received: Amount,
  /** Where it lies now: each bin and lot. */
  places: z.array(z.object({ binId: Id, bin: z.string(), sellable: z.boolean(), lotId: Id.nullable(), lot: z.string().nullable(), quantity: Amount })),
});
export type Returnable = z.infer<typeof Returnable>;
export const returnable = endpoint({
  method: 'GET',
  path: '/api/inbound/orders/:id/returnable',
  summary: 'What of an order can go back to the supplier, and where it lies',
  right: 'look',
  shows: ['purchase', 'stock', 'lot', 'place', 'item'],
  seenBy: 'sites',
  params: one,
  response: z.object({ number: z.string(), supplier: z.string(), rows: z.array(Returnable) }),
});
const ReturnSource = z.object({
  orderId: Id,
  number: z.string(),
  supplier: z.string(),
  /** The last day it came on this order. */
  day: Day,
  received: Amount,
});
export const returnSources = endpoint({
  method: 'GET',
  path: '/api/inbound/return-sources',
  summary: 'The orders an item or lot came on, newest first: those it can go back on',
  right: 'look',
  shows: ['purchase', 'stock'],
  seenBy: 'sites',
  query: z.object({ itemId: PathId, lotId: PathId.optional() }),
  response: z.object({ rows: z.array(ReturnSource) }),
});
export const SupplierReturnForm = z.object({
  orderId: Id,
  note: ShortText.refine((text) => text !== '', 'Say why it goes back.'),
  /** What is expected for them: asked for when the order still waits for goods. */
  then: z.enum(['replaced', 'credited']).nullable().default(null),
  countedSince: z.boolean().default(false),
  lines: z
    .array(
      z.object({
        purchaseLineId: Id,
        binId: Id,
        lotId: Id.nullable().default(null),
        quantity: Quantity,
        /** The line of the receipt they came with, when that is known; else the oldest of which some are here. */
        receiptLineId: Id.nullable().default(null),
      }),
    )
    .min(1, 'Say what goes back.')
    .max(500, 'At most 500 lines at once.'),
});
export type SupplierReturnForm = z.input<typeof SupplierReturnForm>;
export const returnGoods = endpoint({
  method: 'POST',
  path: '/api/inbound/returns',
  summary: 'Send goods back to the supplier; a credit is then expected for what was billed',
  right: 'inbound.receive',
  changes: [...moved, 'desk'],
  posts: true,
  body: SupplierReturnForm,
  response: Posted,
});
