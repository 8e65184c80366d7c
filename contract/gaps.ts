import { z } from 'zod';
import { endpoint } from './endpoint';
import { inAllOf } from './inAll';
import { moved } from './nouns';
import { Coming, Substitute } from './outbound';
import { Amount, Day, Id, page, Paging, PathId, Posted, Quantity, Search } from './values';

/** Lines of confirmed orders that wait for goods: why, and what is done about it. */

const one = z.object({ id: PathId });
const WaitingLine = z.object({
  lineId: Id,
  orderId: Id,
  number: z.string(),
  position: z.number(),
  customer: z.string(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  siteId: Id,
  site: z.string(),
  shipBy: Day,
  promisedOn: Day.nullable(),
  late: z.boolean(),
  /** In base units, as all that follows: of the shelf of its site, and of that reserved and short. */
  wanted: Amount,
  reserved: Amount,
  short: Amount,
  /** To come straight from a supplier, and how many of those are on order. */
  direct: Amount,
  ordered: Amount,
  /** The next that is expected of the item at its site. */
  comesOn: Day.nullable(),
});
export type WaitingLine = z.infer<typeof WaitingLine>;
export const waitingLines = endpoint({
  method: 'GET',
  path: '/api/outbound/lines',
  summary: 'Lines of confirmed orders that wait: short ones, and those that a supplier is to send straight to the customer, by ship-by day',
  right: 'look',
  shows: ['sale', 'stock', 'purchase', 'place', 'item', 'party'],
  seenBy: 'sites',
  query: z.object({
    q: Search,
    /** `short`: of stock; `to-order`: to come straight from a supplier and not ordered; `ordered`: that are, and have not been sent. */
    show: z.enum(['short', 'to-order', 'ordered']).default('short'),
    siteId: PathId.optional(),
    ...Paging,
  }),
  response: page(WaitingLine),
});
export const waitingInAll = inAllOf(waitingLines, {});

const ofLine = { params: one, posts: true as const, changes: moved };
export const lineGap = endpoint({
  method: 'GET',
  path: '/api/outbound/lines/:id/gap',
  summary: 'Why a line of a confirmed order is short: which orders hold the stock, what is coming, and by when all of it could be here',
  right: 'look',
  shows: ['sale', 'stock', 'purchase', 'place', 'item', 'party', 'setting'],
  seenBy: 'sites',
  params: one,
  response: z.object({
    orderId: Id,
    number: z.string(),
    position: z.number(),
    itemId: Id,
    sku: z.string(),
    name: z.string(),
    siteId: Id,
    site: z.string(),
    wanted: Amount,
    reserved: Amount,
    short: Amount,
    promisedOn: Day.nullable(),
    standsBack: z.boolean(),
    /** Decided to come straight from a supplier, and not ordered yet. */
    toOrder: Amount,
    /** The first day on which all that is short could be here. */
    availableOn: Day.nullable(),
    coming: z.array(Coming),
    elsewhere: z.array(z.object({ siteId: Id, site: z.string(), free: Amount })),
    substitutes: z.array(Substitute),
    /** Other lines that hold some of it at the same site: of customers' orders, and of transfers to other sites, whose name stands for the customer. */
    holders: z.array(
      z.object({
        lineId: Id,
        kind: z.enum(['sales', 'transfer', 'work']),
        orderId: Id,
        number: z.string(),
        position: z.number(),
        customer: z.string(),
        shipBy: Day,
        promisedOn: Day.nullable(),
        reserved: Amount,
      }),
    ),
  }),
});
export const holdStock = endpoint({
  method: 'POST',
  path: '/api/outbound/lines/:id/hold',
  summary: 'Give what other orders hold to a line that is short',
  right: 'outbound.hold',
  ...ofLine,
  body: z.object({
    from: z
      .array(z.object({ lineId: Id, quantity: Quantity }))
      .min(1, 'Say who gives how many.')
      .max(100),
  }),
  response: Posted,
});
export const swapLine = endpoint({
  method: 'POST',
  path: '/api/outbound/lines/:id/swap',
  summary: 'Sell something else in the place of so many of a line, at what the customer pays for that; what was asked for is kept',
  right: 'outbound.sell',
  ...ofLine,
  /** Base units. */
  body: z.object({ itemId: Id, quantity: Quantity }),
  response: Posted,
});
export const standBack = endpoint({
  method: 'POST',
  path: '/api/outbound/lines/:id/stand-back',
  summary: 'Let others go first: what a line holds is released, and nothing is reserved for it until that is taken back',
  right: 'outbound.hold',
  ...ofLine,
  body: z.object({ back: z.boolean() }),
  response: Posted,
});
export const promiseLine = endpoint({
  method: 'POST',
  path: '/api/outbound/lines/:id/promise',
  summary: 'Promise a day for what a line is short of, or take that back',
  right: 'outbound.sell',
  ...ofLine,
  body: z.object({ promisedOn: Day.nullable() }),
  response: Posted,
});
