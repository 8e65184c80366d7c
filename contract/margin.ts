import { z } from 'zod';
import { endpoint } from './endpoint';
import { inAllOf } from './inAll';
import { Amount, Cost, Day, Id, page, Paging, PathId, Search } from './values';

/** By what sold goods are added up. */
export const marginWays = ['order', 'line', 'item', 'customer', 'month'] as const;
export const marginSorts = ['name', 'sold', 'cost', 'margin'] as const;

const MarginRow = z.object({
  /** Of the order, line, item or customer; of a month, the year and the month: 202603. */
  key: z.number().int(),
  name: z.string(),
  detail: z.string(),
  /** The order to open; null where it is several. */
  orderId: Id.nullable(),
  orders: z.number().int(),
  /** Base units; empty where several items are added up. */
  quantity: z.union([Amount, z.literal('')]),
  sold: Amount,
  cost: Cost,
  margin: Cost,
  /** Of what it was sold for, one decimal; empty where that is nothing. */
  percent: Cost,
});
export type MarginRow = z.infer<typeof MarginRow>;

export const listMargin = endpoint({
  method: 'GET',
  path: '/api/outbound/margin',
  summary: 'What was dispatched, for how much it was sold and what it cost: by order, line, item, customer or month',
  right: 'costs.see',
  shows: ['sale', 'stock', 'item', 'party', 'place'],
  seenBy: 'sites',
  query: z.object({
    by: z.enum(marginWays).default('order'),
    q: Search,
    /** Days on which it went out, both included. */
    from: Day.optional(),
    to: Day.optional(),
    siteId: PathId.optional(),
    customerId: PathId.optional(),
    itemId: PathId.optional(),
    sort: z.enum(marginSorts).default('sold'),
    direction: z.enum(['up', 'down']).default('down'),
    ...Paging,
  }),
  response: page(MarginRow),
});
export const marginInAll = inAllOf(listMargin, { sold: Amount, cost: Cost, margin: Cost, percent: Cost });
