import { z } from 'zod';
import { endpoint } from './endpoint';
import { ByCurrency, inAllOf } from './inAll';
import { moved } from './nouns';
import {
  Amount,
  Cost,
  Currency,
  Day,
  Id,
  OrderLine,
  page,
  Paging,
  PathId,
  Percent,
  Posted,
  Price,
  QuantityOrZero,
  Rate,
  Search,
  ShortText,
  Stage,
  Text,
  Version,
} from './values';

/** What a line may have of its own: per cent off it, the day it ships by and the site it comes from, where those are others than its order's. */
const ownOfLine = {
  discount: Percent.default('0'),
  shipBy: Day.nullable().default(null),
  siteId: Id.nullable().default(null),
  /** The day that was promised for what it is short of: those with a promise are served before others. */
  promisedOn: Day.nullable().default(null),
};
const SalesFormLine = OrderLine.extend({
  ...ownOfLine,
  /** So many base units of it come straight from a supplier. */
  direct: QuantityOrZero.default('0'),
  /** What the customer asked for, when this is sold in its place. */
  askedItemId: Id.nullable().default(null),
});

const QuoteLine = SalesFormLine.extend({
  /** So many base units of it another site is asked to send to the line's own as it is confirmed, and which. */
  bring: QuantityOrZero.default('0'),
  bringFromId: Id.nullable().default(null),
});

export const SalesForm = z.object({
  customerId: Id,
  siteId: Id,
  shipBy: Day,
  /** The last day on which the prices are offered; null: as many days on as the business says. */
  validUntil: Day.nullable().default(null),
  /** The number the customer has for it. */
  reference: ShortText.default(''),
  /** Where the goods go; empty: to the customer's own address. */
  shipTo: Text.default(''),
  /** The business's own when it is not said; and how much of that one of it is, which another currency needs. */
  currency: Currency.optional(),
  rate: Rate.nullable().default(null),
  /** Per cent off all lines, after what is taken off each. */
  discount: Percent.default('0'),
  /** It goes out whole or not at all. */
  whole: z.boolean().default(false),
  note: Text.default(''),
  lines: z.array(QuoteLine).min(1, 'An order needs at least one line.').max(500, 'At most 500 lines.'),
});
export type SalesForm = z.infer<typeof SalesForm>;

/** How far orders are: what is to be done about them next. */
export const salesShows = ['open', 'late', 'short', 'ready', 'bench', 'supplier', 'to-invoice', 'quotes', 'direct', 'all'] as const;

const SalesRow = z.object({
  id: Id,
  number: z.string(),
  customerId: Id,
  customer: z.string(),
  siteId: Id,
  site: z.string(),
  shipBy: Day,
  validUntil: Day.nullable(),
  /** It is a quote whose prices are offered no longer. */
  expired: z.boolean(),
  reference: z.string(),
  currency: z.string(),
  state: z.string(),
  ordered: Amount,
  picked: Amount,
  dispatched: Amount,
  short: Amount,
  lines: z.number(),
  amount: Amount,
  late: z.boolean(),
  /** What can be done about it now: it can be picked, suppliers can send what is left of it, it can be invoiced. */
  ready: z.boolean(),
  canGoStraight: z.boolean(),
  toInvoice: z.boolean(),
  createdAt: z.string(),
});
export type SalesRow = z.infer<typeof SalesRow>;
/** An item that another is sold in the place of. */
export const AskedFor = z.object({ itemId: Id, sku: z.string(), name: z.string() });
/** An item that may be sold in the place of another, and how many of it are free. */
export const Substitute = AskedFor.extend({ free: Amount });
export const Coming = z.object({
  kind: z.enum(['purchase', 'transfer', 'work']),
  orderNumber: z.string(),
  orderId: Id,
  quantity: Amount,
  expectedOn: Day.nullable(),
});
const MovementRef = z.object({
  id: Id,
  kind: z.string(),
  postedAt: z.string(),
  person: z.string(),
  quantity: Amount,
  value: Cost,
  undone: z.boolean(),
  undoes: z.boolean(),
});
const SalesOrder = SalesRow.omit({ lines: true }).extend({
  version: Version,
  note: z.string(),
  shipTo: z.string(),
  /** It goes out whole or not at all. */
  whole: z.boolean(),
  /** Per cent off all lines, and what that comes to. */
  discount: Amount,
  discounted: Amount,
  /** How much of company currency one of the order's is. */
  rate: Amount,
  confirmedAt: z.string().nullable(),
  stages: z.array(Stage),
  open: z.boolean(),
  canEdit: z.boolean(),
  tax: Amount,
  dispatchedAmount: Amount,
  /** What that cost, and the margin on it, in company currency. */
  dispatchedCost: Cost,
  margin: Cost,
  lines: z.array(
    z.object({
      id: Id,
      position: z.number(),
      itemId: Id,
      sku: z.string(),
      name: z.string(),
      unit: z.string(),
      unitId: Id.nullable(),
      step: z.string(),
      quantity: Amount,
      /** In the base unit, like what is picked, dispatched, reserved and short; 0: the line was cancelled. */
      baseQuantity: Amount,
      /** What the customer asked for, when this is sold in its place. */
      asked: AskedFor.nullable(),
      /** Where it comes from. */
      siteId: Id,
      site: z.string(),
      /** Not kept in stock: it is neither reserved nor picked, and goes out as it is said to have. */
      stocked: z.boolean(),
      price: Amount,
      /** The price is for so many of the unit. */
      pricePer: Amount,
      /** Per cent off this line; the amount is less that and what is taken off the whole order. */
      discount: Amount,
      shipBy: Day,
      promisedOn: Day.nullable(),
      /** Nothing is reserved for it until that is taken back. */
      standsBack: z.boolean(),
      amount: Amount,
      picked: Amount,
      dispatched: Amount,
      /** Of what went out, the customer brought it back. */
      returned: Amount,
      /** Of what went out, on invoices that stand. */
      invoiced: Amount,
      /** To come straight from a supplier; of that on order and not sent, and sent. */
      direct: Amount,
      onOrder: Amount,
      sent: Amount,
      /** Of a quote: so many another site is asked to send as it is confirmed, and which. */
      bring: Amount,
      bringFrom: z.object({ id: Id, name: z.string() }).nullable(),
      /** What suppliers were ordered to send straight. */
      supplies: z.array(z.object({ orderId: Id, orderNumber: z.string(), supplier: z.string(), quantity: Amount, sent: Amount, expectedOn: Day.nullable() })),
      reserved: Amount,
      short: Amount,
      free: Amount,
      cost: Cost,
      coming: z.array(Coming),
    }),
  ),
  movements: z.array(MovementRef),
  /** What was changed of it since it was written, the last first. */
  changes: z.array(z.object({ at: z.string(), person: z.string(), field: z.string(), was: z.string().nullable(), is: z.string() })),
});
export type SalesOrder = z.infer<typeof SalesOrder>;

const one = z.object({ id: PathId });
/** The person has said that the customer may owe more than their limit. */
const OverLimit = { overLimit: z.boolean().default(false) };
export const listSales = endpoint({
  method: 'GET',
  path: '/api/outbound/orders',
  summary: 'Quotes and sales orders, by ship-by day',
  right: 'look',
  shows: ['sale', 'party', 'place'],
  seenBy: 'sites',
  query: z.object({
    q: Search,
    show: z.enum(salesShows).default('open'),
    siteId: PathId.optional(),
    customerId: PathId.optional(),
    ...Paging,
  }),
  response: page(SalesRow),
});
export const salesInAll = inAllOf(listSales, { amounts: ByCurrency });
export const getSale = endpoint({
  method: 'GET',
  path: '/api/outbound/orders/:id',
  summary: 'One quote or sales order',
  right: 'look',
  shows: ['sale', 'stock', 'purchase', 'item', 'party', 'place', 'reference'],
  seenBy: 'sites',
  params: one,
  response: SalesOrder,
});
export const createSale = endpoint({
  method: 'POST',
  path: '/api/outbound/orders',
  summary: 'Write a quote',
  right: 'outbound.sell',
  changes: moved,
  body: SalesForm,
  response: SalesOrder,
});
export const editSale = endpoint({
  method: 'PUT',
  path: '/api/outbound/orders/:id',
  summary: 'Change a quote',
  right: 'outbound.sell',
  changes: moved,
  params: one,
  body: SalesForm.extend({ version: Version }),
  response: SalesOrder,
});
export const splitSale = endpoint({
  method: 'POST',
  path: '/api/outbound/orders/:id/split',
  summary: 'Keep a part of a quote on it; the rest becomes a quote of its own, at the same prices',
  right: 'outbound.sell',
  changes: moved,
  params: one,
  body: z.object({
    version: Version,
    /** How much of each line stays, in the unit of the line; lines that are left out stay as they are. */
    lines: z.array(z.object({ lineId: Id, quantity: QuantityOrZero })).max(500),
  }),
  response: z.object({ order: SalesOrder, rest: z.object({ id: Id, number: z.string() }) }),
});
export const confirmSale = endpoint({
  method: 'POST',
  path: '/api/outbound/orders/:id/confirm',
  summary: 'Confirm a quote: reserves what is free',
  right: 'outbound.sell',
  changes: moved,
  posts: true,
  params: one,
  body: z.object({
    version: Version,
    /** The person has said that something is given away. */
    free: z.boolean().default(false),
    /** The person has said that prices hold which are offered no longer. */
    expired: z.boolean().default(false),
    ...OverLimit,
  }),
  response: Posted,
});
export const amendSale = endpoint({
  method: 'POST',
  path: '/api/outbound/orders/:id/amend',
  summary: 'Change a confirmed order: its day, address and words, its lines down to what is picked, and lines added to it',
  right: 'outbound.sell',
  changes: moved,
  posts: true,
  params: one,
  body: z.object({
    version: Version,
    ...OverLimit,
    shipBy: Day,
    reference: ShortText.default(''),
    shipTo: Text.default(''),
    whole: z.boolean().default(false),
    note: Text.default(''),
    lines: z
      .array(
        z.object({
          lineId: Id,
          /** In the unit of the line; 0 cancels the line. */
          quantity: QuantityOrZero,
          price: Price,
          ...ownOfLine,
        }),
      )
      .max(500),
    added: z.array(SalesFormLine).max(500, 'At most 500 lines.').default([]),
  }),
  response: Posted,
});
export const endSale = endpoint({
  method: 'POST',
  path: '/api/outbound/orders/:id/end',
  summary: 'Cancel an order nothing of which is picked, or cancel the rest of it; take that back; or make it a quote again while nothing is picked',
  right: 'outbound.sell',
  changes: moved,
  posts: true,
  params: one,
  body: z.object({ decision: z.enum(['cancel', 'close', 'reopen', 'withdraw']), version: Version }),
  response: Posted,
});
export const availability = endpoint({
  method: 'GET',
  path: '/api/outbound/availability',
  summary: 'How many are free, how many would be short, and what is coming',
  right: 'look',
  shows: ['stock', 'sale', 'purchase', 'place', 'setting'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId, itemId: PathId, quantity: QuantityOrZero }),
  response: z.object({
    /** Not kept in stock: it is never short. */
    stocked: z.boolean(),
    free: Amount,
    short: Amount,
    /** The first day on which all of it could be here. */
    availableOn: Day.nullable(),
    coming: z.array(Coming),
    elsewhere: z.array(z.object({ siteId: Id, site: z.string(), free: Amount })),
    /** What may be sold in its place and is free here, the best first. */
    substitutes: z.array(Substitute),
  }),
});
