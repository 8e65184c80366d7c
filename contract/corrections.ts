import { z } from 'zod';
import { endpoint } from './endpoint';
import { inAllOf } from './inAll';
import { Amount, Cost, Day, Id, page, Paging, PathId, Search } from './values';

/** By what corrections are added up, and by what those rows are sorted. */
export const correctionWays = ['reason', 'item', 'person', 'site', 'month'] as const;
export const correctionSorts = ['name', 'lines', 'found', 'lost', 'net'] as const;

const Row = z.object({
  /** Of the reason, item, person or site; of a month the year and it in one number. */
  key: Id,
  /** A month as `2026-03`. */
  name: z.string(),
  detail: z.string(),
  lines: z.number().int(),
  /** How many more and how many fewer there were of one item; empty in rows of many. */
  more: z.union([Amount, z.literal('')]),
  fewer: z.union([Amount, z.literal('')]),
  /** What was found was worth, what was lost, and both together. */
  found: Cost,
  lost: Cost,
  net: Cost,
});
export type CorrectionRow = z.infer<typeof Row>;
export const correctionReport = endpoint({
  method: 'GET',
  path: '/api/stock/corrections-report',
  summary: 'Corrections that stand, added up by reason, item, person, site or month, with what they were worth',
  right: 'look',
  shows: ['stock', 'item', 'reference'],
  seenBy: 'sites',
  query: z.object({
    by: z.enum(correctionWays).default('reason'),
    q: Search,
    from: Day.optional(),
    to: Day.optional(),
    siteId: PathId.optional(),
    reasonId: PathId.optional(),
    personId: PathId.optional(),
    sort: z.enum(correctionSorts).default('name'),
    direction: z.enum(['up', 'down']).default('up'),
    ...Paging,
  }),
  response: page(Row),
});
export const correctionsInAll = inAllOf(correctionReport, { lines: z.number().int(), found: Cost, lost: Cost, net: Cost });
