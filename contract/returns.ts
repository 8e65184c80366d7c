import { conditions } from '@larder/core/outbound/comingBack';
import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { inAllOf } from './inAll';
import { moved } from './nouns';
import { Amount, Cost, Day, Effects, Id, page, Paging, PathId, Price, Quantity, Search, ShortText, Text, Version } from './values';

const one = z.object({ id: PathId });
const returned = [...moved, 'return'] as const;

/** Goods on one order line, of one lot or serial, that a customer has. */
const Held = z.object({
  salesLineId: Id,
  orderId: Id,
  order: z.string(),
  position: z.number(),
  customerId: Id,
  customer: z.string(),
  /** The site its order is of. */
  siteId: Id,
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  lotId: Id.nullable(),
  lot: z.string().nullable(),
  /** The last day some of it went out. */
  day: Day,
  /** Base units: went out, and came back already. */
  sent: Amount,
  back: Amount,
  held: Amount,
  /** Of those, came straight from a supplier. */
  straight: Amount,
  /** What one base unit was sold for, discounts taken off, in the order's currency. */
  price: Amount,
  currency: z.string(),
  /** False: the item is not taken back. */
  returnable: z.boolean(),
});
export type Held = z.infer<typeof Held>;
export const listHeld = endpoint({
  method: 'GET',
  path: '/api/returns/held',
  summary: 'What customers have and have not brought back: of one customer, on one order, of one item or lot, or whatever a code means',
  right: 'outbound.return',
  shows: ['sale', 'return', 'stock', 'lot', 'item', 'party'],
  seenBy: 'sites',
  query: z.object({
    customerId: PathId.optional(),
    orderId: PathId.optional(),
    itemId: PathId.optional(),
    lotId: PathId.optional(),
    /** Words of the order, item or lot where a customer is given; else a code: of an item, lot, serial or order. */
    q: Search,
  }),
  response: z.object({
    rows: z.array(Held),
    /** There is more than these rows. */
    more: z.boolean(),
  }),
});

const ReturnLine = z.object({
  /** The order line it went out on; null: it was sold before these records. */
  salesLineId: Id.nullable(),
  itemId: Id,
  lotId: Id.nullable().default(null),
  /** Of what was sold before these records: its lot or serial, and what one is worth. */
  lotCode: z.string().trim().max(60, 'At most 60 characters.').default(''),
  unitValue: Price.nullable().default(null),
  quantity: Quantity,
  condition: z.enum(conditions, 'Say how it comes back.'),
  /** Where it goes; null for what is thrown away, or goes straight on to the supplier it came from. */
  binId: Id.nullable().default(null),
  reasonId: Id.nullable()
    .default(null)
    .refine((id) => id !== null, 'Choose why it comes back.'),
  note: ShortText.default(''),
});
export const ReturnForm = z.object({
  customerId: Id,
  siteId: Id,
  cameOn: Day,
  /** What the customer calls it. */
  reference: ShortText.default(''),
  note: Text.default(''),
  lines: z.array(ReturnLine).min(1, 'Say what comes back.').max(200, 'At most 200 lines at once.'),
  /** The goods are here: they are received at once. Otherwise the return waits for them. */
  receive: z.boolean().default(true),
  countedSince: z.boolean().default(false),
});
export type ReturnForm = z.input<typeof ReturnForm>;
const ReturnPosted = z.object({ id: Id.nullable(), number: z.string().nullable(), movementId: Id.nullable(), effects: Effects });

export const createReturn = endpoint({
  method: 'POST',
  path: '/api/returns',
  summary: 'Take goods back from a customer, or write down that they will come',
  right: 'outbound.return',
  changes: returned,
  posts: true,
  body: ReturnForm,
  response: ReturnPosted,
});
export const editReturn = endpoint({
  method: 'PUT',
  path: '/api/returns/:id',
  summary: 'Change a return that is not received yet, and receive it when the goods are here',
  right: 'outbound.return',
  changes: returned,
  posts: true,
  params: one,
  body: ReturnForm.extend({ version: Version }),
  response: ReturnPosted,
});
export const discardReturn = endpoint({
  method: 'POST',
  path: '/api/returns/:id/discard',
  summary: 'Discard a return that is not received, or (false) take that back',
  right: 'outbound.return',
  changes: ['return'],
  params: one,
  body: z.object({ version: Version, discarded: z.boolean() }),
  response: z.object({}),
});

/** How a return stands. */
export const returnStates = ['expected', 'received', 'discarded'] as const;
const ReturnRow = z.object({
  id: Id,
  number: z.string(),
  customerId: Id,
  customer: z.string(),
  siteId: Id,
  site: z.string(),
  cameOn: Day,
  state: z.enum(returnStates),
  reference: z.string(),
  /** The orders it went out on, and what comes back in a few words. */
  orders: z.string(),
  items: z.string(),
  lines: z.number().int(),
  /** Something of it is invoiced and not credited. */
  toCredit: z.boolean(),
  worth: Cost,
});
export type ReturnRow = z.infer<typeof ReturnRow>;
const Of = {
  customerId: PathId.optional(),
  itemId: PathId.optional(),
  reasonId: PathId.optional(),
  from: Day.optional(),
  to: Day.optional(),
  siteId: PathId.optional(),
};
export const returnShows = ['expected', 'to credit', 'received', 'all'] as const;
export const listReturns = endpoint({
  method: 'GET',
  path: '/api/returns',
  summary: 'What customers brought back, or will: by number, customer, order or item',
  right: 'look',
  shows: ['return', 'sale', 'item', 'party', 'invoice'],
  seenBy: 'sites',
  query: z.object({ q: Search, show: z.enum(returnShows).default('all'), orderId: PathId.optional(), ...Of, ...Paging }),
  response: page(ReturnRow),
});
export const returnsInAll = inAllOf(listReturns, { worth: Cost });

/** By what returns are added up. */
export const returnWays = ['reason', 'item', 'customer', 'month'] as const;
export const returnSorts = ['name', 'returns', 'worth'] as const;
const ReportRow = z.object({
  /** Of the reason, item or customer; of a month, the year and the month: 202603. */
  key: z.number().int(),
  name: z.string(),
  detail: z.string(),
  returns: z.number().int(),
  /** Base units; empty where several items are added up. */
  quantity: z.union([Amount, z.literal('')]),
  /** Base units of the same that went out on the same days; empty where that means nothing. */
  wentOut: z.union([Amount, z.literal('')]),
  /** At what they left for. */
  worth: Cost,
  /** Of that, thrown away. */
  scrapped: Cost,
});
export type ReturnReportRow = z.infer<typeof ReportRow>;
export const returnReport = endpoint({
  method: 'GET',
  path: '/api/returns/report',
  summary: 'What came back, added up by reason, item, customer or month',
  right: 'look',
  shows: ['return', 'sale', 'item', 'party'],
  seenBy: 'sites',
  query: z.object({
    by: z.enum(returnWays).default('reason'),
    q: Search,
    ...Of,
    sort: z.enum(returnSorts).default('returns'),
    direction: z.enum(['up', 'down']).default('down'),
    ...Paging,
  }),
  response: page(ReportRow),
});
export const returnReportInAll = inAllOf(returnReport, { returns: z.number().int(), worth: Cost, scrapped: Cost });

const Line = z.object({
  id: Id,
  salesLineId: Id.nullable(),
  orderId: Id.nullable(),
  order: z.string(),
  position: z.number().nullable(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  tracking: z.enum(['none', 'lot', 'serial']),
  lotId: Id.nullable(),
  lot: z.string(),
  unitValue: Cost.nullable(),
  quantity: Amount,
  condition: z.enum(conditions),
  binId: Id.nullable(),
  bin: z.string(),
  reasonId: Id,
  reason: z.string(),
  note: z.string(),
  /** At what it left for; empty while it is not received. */
  worth: Cost,
});
const CustomerReturn = z.object({
  id: Id,
  number: z.string(),
  version: Version,
  customerId: Id,
  customer: z.string(),
  siteId: Id,
  site: z.string(),
  cameOn: Day,
  reference: z.string(),
  note: z.string(),
  state: z.enum(returnStates),
  movementId: Id.nullable(),
  person: z.string(),
  createdAt: z.string(),
  lines: z.array(Line),
  /** What is invoiced of it and not credited: so many of lines of invoices. */
  toCredit: z.array(z.object({ invoiceId: Id, number: z.string(), lines: z.array(z.object({ lineId: Id, sku: z.string(), quantity: Amount })) })),
});
export type CustomerReturn = z.infer<typeof CustomerReturn>;
export const getReturn = endpoint({
  method: 'GET',
  path: '/api/returns/:id',
  summary: 'A return of a customer, with what is to be credited of it',
  right: 'look',
  shows: ['return', 'sale', 'invoice', 'item', 'lot', 'party', 'place'],
  seenBy: 'sites',
  params: one,
  response: CustomerReturn,
});
export const returnPaper = endpoint({
  method: 'GET',
  path: '/api/returns/:id/paper',
  summary: 'The receipt of a return as a PDF',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'application/pdf',
});
