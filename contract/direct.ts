import { z } from 'zod';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Cost, Day, Id, IdList, PathId, Posted, Price, Quantity, QuantityOrZero } from './values';

/** Drop shipment: the supplier sends straight to the customer what a sales line wants. */

const Offer = z.object({
  supplierId: Id,
  supplier: z.string(),
  /** The supplier's own code for the item. */
  code: z.string(),
  packSize: Amount,
  minimum: Amount,
  /** Of one base unit; null: not known. */
  price: Cost.nullable(),
  /** Other prices from so many base units on, the smallest first. */
  breaks: z.array(z.object({ from: Amount, price: Cost })),
  leadDays: z.number(),
});
export type Offer = z.infer<typeof Offer>;

const DirectLine = z.object({
  lineId: Id,
  orderId: Id,
  number: z.string(),
  position: z.number(),
  customer: z.string(),
  /** Where it goes. */
  address: z.string(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  siteId: Id,
  site: z.string(),
  shipBy: Day,
  /** Base units: what a supplier may still be ordered to send, what was decided of that, and what is short. */
  open: Amount,
  toOrder: Amount,
  short: Amount,
  /** The preferred supplier first. */
  offers: z.array(Offer),
});
export type DirectLine = z.infer<typeof DirectLine>;

export const directLines = endpoint({
  method: 'GET',
  path: '/api/outbound/direct',
  summary: 'Lines of confirmed orders that a supplier may send straight to their customers, and what each supplier asks for them',
  right: 'inbound.order',
  shows: ['sale', 'purchase', 'item', 'party', 'place'],
  seenBy: 'sites',
  /** Lines by their ids, or all of orders. */
  query: z.object({ lines: IdList.default(''), orders: IdList.default('') }),
  response: z.object({ rows: z.array(DirectLine) }),
});

export const orderDirect = endpoint({
  method: 'POST',
  path: '/api/outbound/direct',
  summary: 'Order of suppliers what they send straight to customers: one purchase order for each supplier and address, placed at once',
  right: 'inbound.order',
  changes: moved,
  posts: true,
  body: z.object({
    lines: z
      .array(
        z.object({
          lineId: Id,
          /** In base units, as the price is of one. */
          quantity: Quantity,
          supplierId: Id,
          price: Price,
          expectedOn: Day.nullable().default(null),
        }),
      )
      .min(1, 'Say what a supplier is to send first.')
      .max(500, 'At most 500 lines.'),
  }),
  response: Posted.extend({ orders: z.array(z.object({ id: Id, number: z.string(), supplier: z.string() })) }),
});

export const decideDirect = endpoint({
  method: 'POST',
  path: '/api/outbound/lines/:id/direct',
  summary: 'Decide how many of a line a supplier sends straight to the customer, beside those that are on order already; nothing takes it back',
  right: 'outbound.sell',
  changes: moved,
  posts: true,
  params: z.object({ id: PathId }),
  /** Base units. */
  body: z.object({ quantity: QuantityOrZero }),
  response: Posted,
});
