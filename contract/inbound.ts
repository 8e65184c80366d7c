import { z } from 'zod';
import { endpoint } from './endpoint';
import { CostsByCurrency, inAllOf } from './inAll';
import { moved } from './nouns';
import {
  Amount,
  Cost,
  Currency,
  CurrencyMoney,
  Day,
  Id,
  IdList,
  LotEntry,
  NeededText,
  OrderLine,
  page,
  Paging,
  PathId,
  Posted,
  Price,
  Quantity,
  Rate,
  Search,
  ShortText,
  Stage,
  Text,
  Version,
} from './values';

/** A line of an order; it may be expected on a day of its own. */
const PurchaseLine = OrderLine.extend({ expectedOn: Day.nullable().optional() });

export const PurchaseForm = z.object({
  supplierId: Id,
  /** The site that it comes to, or whose order it is. */
  siteId: Id,
  /** The customer it goes to straight from the supplier. */
  shipsToId: Id.nullable().default(null),
  /** Where it goes there; empty: to the customer's own address. */
  shipTo: Text.optional(),
  expectedOn: Day.nullable().default(null),
  /** The day it was placed in the world, when that was before today. */
  orderedOn: Day.nullable().default(null),
  /** The business's own when it is not said; `rate` is how much of that one of it is. */
  currency: Currency.optional(),
  rate: Rate.default('1'),
  note: Text.default(''),
  /** What it costs beside the goods. */
  charges: z
    .array(z.object({ label: NeededText, amount: CurrencyMoney, taxCodeId: Id.nullable().default(null) }))
    .max(20, 'At most 20 charges.')
    .default([]),
  lines: z.array(PurchaseLine).min(1, 'An order needs at least one line.').max(500, 'At most 500 lines.'),
});
export type PurchaseForm = z.infer<typeof PurchaseForm>;
export type PurchaseDraft = z.input<typeof PurchaseForm>;

const PurchaseRow = z.object({
  id: Id,
  number: z.string(),
  supplierId: Id,
  supplier: z.string(),
  siteId: Id,
  site: z.string(),
  shipsToId: Id.nullable(),
  shipsTo: z.string().nullable(),
  expectedOn: Day.nullable(),
  state: z.string(),
  ordered: Amount,
  received: Amount,
  lines: z.number(),
  /** In the order's currency. */
  amount: Cost,
  currency: z.string(),
  late: z.boolean(),
  createdAt: z.string(),
});
export type PurchaseRow = z.infer<typeof PurchaseRow>;
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
export type MovementRef = z.infer<typeof MovementRef>;
const PurchaseOrder = PurchaseRow.omit({ lines: true }).extend({
  version: Version,
  note: z.string(),
  rate: Amount,
  /** As it was entered; null: the day it was placed here. */
  orderedOn: Day.nullable(),
  /** Where it goes straight to, when it does. */
  shipsToAddress: z.string(),
  charges: z.array(z.object({ id: Id, label: z.string(), amount: Cost, taxCodeId: Id.nullable(), tax: z.string().nullable() })),
  /** Tax by today's rates, and everything together, less what was called off. */
  tax: Cost,
  total: Cost,
  placedAt: z.string().nullable(),
  stages: z.array(Stage),
  canEdit: z.boolean(),
  open: z.boolean(),
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
      tracking: z.enum(['none', 'lot', 'serial']),
      supplierCode: z.string(),
      quantity: Amount,
      /** In the base unit, like what is received. */
      baseQuantity: Amount,
      price: Cost,
      /** The price is for so many of the unit. */
      pricePer: Amount,
      /** In the line's own currency, which is the order's unless that changed after part of it had come. */
      amount: Cost,
      currency: z.string(),
      rate: Amount,
      received: Amount,
      cancelled: Amount,
      outstanding: Amount,
      /** Of its own, when it differs from the order's. */
      expectedOn: Day.nullable(),
      /** The sales order whose customer it goes straight to. */
      forSale: z.array(z.object({ orderId: Id, orderNumber: z.string(), position: z.number(), quantity: Amount })),
      tax: z.string().nullable(),
    }),
  ),
  movements: z.array(MovementRef),
  /** What was changed since it was written, the last first. */
  changes: z.array(z.object({ at: z.string(), person: z.string(), field: z.string(), was: z.string().nullable(), is: z.string() })),
});
export type PurchaseOrder = z.infer<typeof PurchaseOrder>;

const one = z.object({ id: PathId });
export const listPurchases = endpoint({
  method: 'GET',
  path: '/api/inbound/orders',
  summary: 'Purchase orders, the open ones first',
  right: 'look',
  shows: ['purchase', 'party', 'place'],
  seenBy: 'sites',
  query: z.object({
    q: Search,
    show: z.enum(['open', 'drafts', 'all']).default('open'),
    to: z.enum(['anywhere', 'site', 'customer']).default('anywhere'),
    siteId: PathId.optional(),
    supplierId: PathId.optional(),
    ...Paging,
  }),
  response: page(PurchaseRow),
});
export const purchasesInAll = inAllOf(listPurchases, { amounts: CostsByCurrency });
export const getPurchase = endpoint({
  method: 'GET',
  path: '/api/inbound/orders/:id',
  summary: 'One purchase order',
  right: 'look',
  shows: ['purchase', 'item', 'party', 'place', 'reference', 'bill'],
  seenBy: 'sites',
  params: one,
  response: PurchaseOrder,
});
export const createPurchase = endpoint({
  method: 'POST',
  path: '/api/inbound/orders',
  summary: 'Write a purchase order as a draft',
  right: 'inbound.order',
  changes: moved,
  body: PurchaseForm,
  response: PurchaseOrder,
});
export const editPurchase = endpoint({
  method: 'PUT',
  path: '/api/inbound/orders/:id',
  summary: 'Change a draft',
  right: 'inbound.order',
  changes: moved,
  params: one,
  body: PurchaseForm.extend({ version: Version }),
  response: PurchaseOrder,
});
export const decidePurchase = endpoint({
  method: 'POST',
  path: '/api/inbound/orders/:id/decision',
  summary: 'Place or cancel a purchase order, or cancel the rest of it; or take that back',
  right: 'inbound.order',
  changes: moved,
  params: one,
  body: z.object({ decision: z.enum(['place', 'cancel', 'close', 'reopen']), version: Version }),
  response: PurchaseOrder,
});
export const PurchaseAmendment = z.object({
  expectedOn: Day.nullable(),
  /** Left out: as it is. */
  orderedOn: Day.optional(),
  /** Another currency or rate is for what is still to come. */
  currency: Currency.optional(),
  rate: Rate.optional(),
  /** A day of a line's own; how many of what is still to come are called off; another price for what is still to come. */
  lines: z
    .array(
      z.object({ lineId: Id, expectedOn: Day.nullable().default(null), callOff: Quantity.nullable().default(null), price: Price.nullable().default(null) }),
    )
    .max(500),
  added: z.array(PurchaseLine).max(500, 'At most 500 lines.').default([]),
});
export const amendPurchase = endpoint({
  method: 'POST',
  path: '/api/inbound/orders/:id/amendment',
  summary: 'Change an order after it was placed: days, parts called off, lines added; what changed is kept',
  right: 'inbound.order',
  changes: moved,
  params: one,
  body: PurchaseAmendment.extend({ version: Version }),
  response: PurchaseOrder,
});

export const DirectForm = z.object({
  effectiveOn: Day.optional(),
  note: ShortText.default(''),
  lines: z
    .array(z.object({ lineId: Id, quantity: Quantity, lots: z.array(LotEntry).max(5000).default([]) }))
    .min(1, 'Say what was delivered.')
    .max(500),
});
export const recordDirect = endpoint({
  method: 'POST',
  path: '/api/inbound/orders/:id/delivered',
  summary: 'Record what a supplier delivered straight to the customer of an order',
  right: 'inbound.receive',
  changes: moved,
  params: one,
  posts: true,
  body: DirectForm,
  response: Posted,
});
export const supplierTerms = endpoint({
  method: 'GET',
  path: '/api/inbound/suppliers/:id/terms',
  summary: 'What a supplier asks for these items, and the tax on it',
  right: 'look',
  shows: ['party', 'item'],
  seenBy: 'everyone',
  params: one,
  query: z.object({ itemIds: IdList }),
  response: z.object({
    taxCodeId: Id.nullable(),
    leadDays: z.number(),
    rows: z.array(
      z.object({
        itemId: Id,
        code: z.string(),
        packSize: Amount,
        minimum: Amount,
        price: Cost.nullable(),
        leadDays: z.number().nullable(),
        breaks: z.array(z.object({ from: Amount, price: Cost })),
        taxCodeId: Id.nullable(),
      }),
    ),
  }),
});

export const getSupplier = endpoint({
  method: 'GET',
  path: '/api/inbound/suppliers/:id',
  summary: 'A supplier: terms, what we buy and its prices, open orders, how punctual and complete, what is owed',
  right: 'look',
  shows: ['party', 'purchase', 'bill', 'item', 'stock'],
  seenBy: 'sites',
  params: one,
  response: z.object({
    id: Id,
    name: z.string(),
    email: z.string(),
    leadDays: z.number(),
    /** Order lines whose day has passed in the last year, and how many came whole by then, and whole at all. */
    punctual: z.object({ lines: z.number(), onTime: z.number(), inFull: z.number() }),
    /** Days from placing to the first receipt, as the middle of the last year's orders; null when there were none. */
    usualDays: Amount.nullable(),
    /** What open bills come to, and what of it is late, in company currency; null for whom may not look at the whole company. */
    owed: Amount.nullable(),
    overdue: Amount.nullable(),
    items: z.array(
      z.object({
        itemId: Id,
        sku: z.string(),
        name: z.string(),
        unit: z.string(),
        code: z.string(),
        packSize: Amount,
        minimum: Amount,
        price: Cost.nullable(),
        breaks: z.array(z.object({ from: Amount, price: Cost })),
        /** What one base unit was ordered at, each time that it changed. */
        prices: z.array(z.object({ day: Day, price: Cost })),
      }),
    ),
    orders: z.array(z.object({ id: Id, number: z.string(), expectedOn: Day.nullable(), site: z.string(), outstanding: Amount, late: z.boolean() })),
  }),
});
