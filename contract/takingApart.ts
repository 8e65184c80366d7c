import { z } from 'zod';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Cost, Day, Id, LotEntry, page, Paging, PathId, Posted, Price, Quantity, QuantityOrZero, Search, ShortText } from './values';

/** Taking apart: goods that become the parts they were made of again, with what they had cost spread over those. */

const Named = { itemId: Id, sku: z.string(), name: z.string(), unit: z.string(), step: z.string(), tracking: z.enum(['none', 'lot', 'serial']) };
const needed = (sentence: string) =>
  Id.nullable()
    .default(null)
    .refine((id) => id !== null, sentence);

export const apartProposal = endpoint({
  method: 'GET',
  path: '/api/making/apart/proposal',
  summary: 'What so many of an item give when they are taken apart, as the bill in use says, without its waste; what one of each costs now, and where it goes',
  right: 'look',
  shows: ['bom', 'item', 'stock', 'place'],
  seenBy: 'sites',
  query: z.object({ itemId: PathId, siteId: PathId, quantity: Quantity }),
  response: z.object({
    /** Null: no bill of it is in use. */
    bill: z.string().nullable(),
    parts: z.array(z.object({ ...Named, planned: Amount, worth: Cost.nullable(), binId: Id, bin: z.string() })),
  }),
});
export type ApartProposal = z.infer<(typeof apartProposal)['response']>;

export const ApartForm = z.object({
  itemId: needed('Choose what is taken apart.'),
  /** Where it lies. */
  binId: needed('Choose the bin it is taken from.'),
  lotId: Id.nullable().default(null),
  quantity: Quantity,
  note: ShortText.default(''),
  parts: z
    .array(
      z.object({
        itemId: Id,
        /** Base units that it should give, and of those are good. */
        planned: QuantityOrZero,
        quantity: QuantityOrZero,
        /** Of the cost, against those of the other parts; null: by what it costs now. */
        share: Price.nullable().default(null),
        /** Null: where it is proposed. */
        binId: Id.nullable().default(null),
        lots: z.array(LotEntry).max(5000).default([]),
      }),
    )
    .min(1, 'Say which parts come of it.')
    .max(1000, 'At most 1,000 parts.'),
});
export type ApartForm = z.input<typeof ApartForm>;

const Outcome = z.object({
  /** What it had cost, and what of that is lost with the parts that are missing. */
  value: Cost,
  lost: Cost,
  parts: z.array(z.object({ itemId: Id, sku: z.string(), quantity: Amount, value: Cost, unitCost: Cost })),
});
export type ApartOutcome = z.infer<typeof Outcome>;
export const takeApart = endpoint({
  method: 'POST',
  path: '/api/making/apart',
  summary: 'Take goods apart: what they had cost goes to their parts, and what is missing or no good of those to making variance',
  right: 'making.record',
  changes: moved,
  posts: true,
  body: ApartForm,
  response: Posted.extend({ id: Id.nullable(), number: z.string().nullable(), outcome: Outcome }),
});

const ApartRow = z.object({
  id: Id,
  number: z.string(),
  on: Day,
  person: z.string(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  siteId: Id,
  site: z.string(),
  quantity: Amount,
  parts: z.number(),
  value: Cost,
  lost: Cost,
  undone: z.boolean(),
});
export type ApartRow = z.infer<typeof ApartRow>;
export const listApart = endpoint({
  method: 'GET',
  path: '/api/making/apart',
  summary: 'What was taken apart, the last first',
  right: 'look',
  shows: ['work', 'stock', 'place', 'item'],
  seenBy: 'sites',
  query: z.object({ q: Search, siteId: PathId.optional(), itemId: PathId.optional(), ...Paging }),
  response: page(ApartRow),
});
export const getApart = endpoint({
  method: 'GET',
  path: '/api/making/apart/:id',
  summary: 'Something that was taken apart: from where, and what came of it',
  right: 'look',
  shows: ['work', 'stock', 'lot', 'place', 'item'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  response: ApartRow.extend({
    note: z.string(),
    from: z.object({ bin: z.string(), lotId: Id.nullable(), lot: z.string().nullable() }),
    movementId: Id,
    came: z.array(
      z.object({
        ...Named,
        planned: Amount,
        good: Amount,
        value: Cost,
        /** Where it went, lot by lot. */
        places: z.array(z.object({ bin: z.string(), lot: z.string().nullable(), quantity: Amount })),
      }),
    ),
  }),
});
export type Apart = z.infer<(typeof getApart)['response']>;
