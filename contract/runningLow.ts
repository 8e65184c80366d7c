import { z } from 'zod';
import { inAllOf } from './inAll';
import { endpoint } from './endpoint';
import { ItemsHeld } from './stock';
import { Amount, Id, page, Paging, PathId, Search } from './values';

/** What runs low, is out or short, at which site. */
export const lowStates = ['all', 'low', 'short', 'out'] as const;
export const LowFilter = ItemsHeld.extend({
  q: Search,
  siteId: PathId.optional(),
  state: z.enum(lowStates).default('all'),
  /** What is not sold from, such as quarantine, counts too. */
  counts: z.enum(['sellable', 'everything']).default('sellable'),
});
export type LowFilter = z.input<typeof LowFilter>;
const LowRow = z.object({
  itemId: Id,
  siteId: Id,
  sku: z.string(),
  name: z.string(),
  category: z.string(),
  supplier: z.string(),
  site: z.string(),
  state: z.enum(['low', 'short', 'out']),
  onHand: Amount,
  free: Amount,
  onOrder: Amount,
  coming: Amount,
  short: Amount,
  position: Amount,
  reorderPoint: Amount.nullable(),
  orderUpTo: Amount.nullable(),
  /** By how much it is below its point; nothing where it is at it, or has none. */
  below: Amount,
  /** What it takes to its level. */
  toLevel: Amount,
  /** Since when it runs low; null where nobody has looked yet. */
  since: z.string().nullable(),
  /** Days until nothing is free, at the rate it is wanted; null where that is not known. */
  days: z.number().nullable(),
});
export type LowRow = z.infer<typeof LowRow>;
export const lowSorts = ['sku', 'below', 'toLevel', 'days', 'since'] as const;
export const listLow = endpoint({
  method: 'GET',
  path: '/api/planning/low',
  summary: 'What is at or below its reorder point, out or short: by how much, since when, and how long it lasts',
  right: 'look',
  shows: ['stock', 'item', 'level', 'party', 'place', 'reference', 'attribute'],
  seenBy: 'sites',
  query: LowFilter.extend({ sort: z.enum(lowSorts).default('sku'), direction: z.enum(['up', 'down']).default('up'), ...Paging }),
  response: page(LowRow),
});
export const lowInAll = inAllOf(listLow, {});
