import { z } from 'zod';
import { endpoint, type Endpoint } from './endpoint';
import { Amount, Cost } from './values';

/** Sums in the currencies that rows are in. */
export const ByCurrency = z.array(z.object({ currency: z.string(), amount: Amount }));
export const CostsByCurrency = z.array(z.object({ currency: z.string(), amount: Cost }));

/** What a list comes to, asked by the same words and settings as the list itself: how many rows there are in all, those that are not read yet too, and their `sums`. */
export const inAllOf = <Q extends z.ZodType, S extends z.ZodRawShape>(
  list: Pick<Endpoint<z.ZodType, Q>, 'path' | 'summary' | 'right' | 'shows' | 'seenBy' | 'query'>,
  sums: S,
) =>
  endpoint({
    method: 'GET',
    path: `${list.path}-in-all`,
    summary: `${list.summary}: how many there are in all, and what they come to`,
    right: list.right,
    shows: list.shows,
    seenBy: list.seenBy,
    query: list.query,
    response: z.object({ count: z.number().int(), ...sums }),
  });
