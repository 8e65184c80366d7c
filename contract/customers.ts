import { z } from 'zod';
import { endpoint } from './endpoint';
import { Amount, Day, Id, PathId } from './values';

/** Customers, as whoever sells to them sees them: what they bought, and how they stand. */

const one = z.object({ id: PathId });
export const customerItems = endpoint({
  method: 'GET',
  path: '/api/outbound/customers/:id/items',
  summary: 'What a customer has bought: how many went out, when it was sold last and at which price',
  right: 'look',
  shows: ['sale', 'party', 'item'],
  seenBy: 'sites',
  params: one,
  response: z.object({
    rows: z.array(
      z.object({
        itemId: Id,
        sku: z.string(),
        name: z.string(),
        unit: z.string(),
        quantity: Amount,
        lastOn: Day,
        /** Of one base unit, in `currency`. */
        lastPrice: Amount,
        currency: z.string(),
        /** How many orders it was on in the last year. */
        times: z.number(),
        /** As it was ordered last: so many of a unit, null for the item's own; a unit is so many base units. */
        lastQuantity: Amount,
        lastUnit: z.string(),
        lastUnitId: Id.nullable(),
        factor: z.object({ numerator: z.number(), denominator: z.number() }),
        /** It can be ordered again. */
        sold: z.boolean(),
      }),
    ),
  }),
});
export const customerStanding = endpoint({
  method: 'GET',
  path: '/api/outbound/customers/:id/standing',
  summary: 'What a customer owes, what they have ordered beyond it, and how much they may owe',
  right: 'look',
  shows: ['sale', 'invoice', 'party'],
  seenBy: 'sites',
  params: one,
  response: z.object({
    /** In company currency; null for whom may not look at the whole company. */
    owed: Amount.nullable(),
    overdue: Amount.nullable(),
    /** What confirmed orders come to that is on no invoice yet, tax included. */
    ordered: Amount.nullable(),
    limit: Amount.nullable(),
    /** Confirmed orders that are not done, and orders of the last year, at the sites the person may see. */
    openOrders: z.number(),
    yearsOrders: z.number(),
  }),
});
