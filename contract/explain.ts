import { z } from 'zod';
import { endpoint } from './endpoint';
import { Amount, Cost, Day, Id, PathId } from './values';

/** Figures of an item that are explained: how many, and what they are worth. */
export const explainedQuantities = ['onHand', 'reserved', 'free', 'short', 'onOrder', 'inTransit'] as const;
export const explainedCosts = ['unitCost', 'value'] as const;

/** The documents and places that parts of a figure lead on to. */
export const partKinds = ['purchase order', 'sales order', 'transfer', 'work order', 'bill', 'landed cost'] as const;
const Part = {
  /** What it is, in words; of a document, what it did. */
  what: z.string(),
  document: z.object({ kind: z.enum(partKinds), id: Id, number: z.string() }).nullable(),
  day: Day.nullable(),
  /** How it comes into the figure: added, or what all before it is multiplied or divided by. */
  by: z.enum(['plus', 'times', 'over']),
};
const QuantityPart = z.object({ ...Part, amount: Amount });
const CostPart = z.object({ ...Part, amount: Cost, /** A number of things, and no money. */ isQuantity: z.boolean() });

export const explained = endpoint({
  method: 'GET',
  path: '/api/stock/items/:id/explained',
  summary: 'What the figures of an item are made of, in a few lines of arithmetic each',
  right: 'look',
  shows: ['stock', 'item', 'lot', 'purchase', 'sale', 'transfer', 'place', 'bill', 'landed'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({
    itemId: Id,
    sku: z.string(),
    name: z.string(),
    unit: z.string(),
    quantities: z.array(z.object({ figure: z.enum(explainedQuantities), total: Amount, parts: z.array(QuantityPart) })),
    /** Left out for whom may not see what things cost. */
    costs: z.array(z.object({ figure: z.enum(explainedCosts), total: Cost, parts: z.array(CostPart) })),
  }),
});
export type Explained = z.infer<(typeof explained)['response']>;
