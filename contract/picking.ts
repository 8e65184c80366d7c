import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { moved } from './nouns';
import { Amount, Day, Id, ItemCodes, PathId, Posted, Quantity, ShortText } from './values';

/** Picking: what to take from which bin for an order, what is to be picked at all, and orders and transfers that one person picks in one go. */

const one = z.object({ id: PathId });

/** What to take from a bin for a line. */
export const PickRow = z.object({
  lineId: Id,
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  wanted: Amount,
  siteId: Id,
  site: z.string(),
  binId: Id,
  bin: z.string(),
  inBin: Amount,
  /** Less was found there than it should hold, and nobody has counted it since. */
  doubtful: z.boolean(),
  take: Amount,
  lotId: Id.nullable(),
  lot: z.string().nullable(),
  useBy: z.string().nullable(),
  codes: ItemCodes,
});
export const MissingLine = z.object({ lineId: Id, sku: z.string(), quantity: Amount });
/** What was picked, and where less was found than there should be. */
export const pickFields = {
  lines: z
    .array(z.object({ lineId: Id, binId: Id, lotId: Id.nullable().default(null), quantity: Quantity }))
    .min(1, 'Say what was picked first.')
    .max(500),
  /** Rows of the list that gave less than they asked: their bins are to be counted. */
  short: z
    .array(z.object({ lineId: Id, binId: Id }))
    .max(500)
    .default([]),
  shortReason: ShortText.default(''),
  /** The person has said that it is picked though somebody else has it in a round. */
  othersRound: z.boolean().default(false),
};
export const PickList = z.object({
  rows: z.array(PickRow),
  /** Wanted, but in no bin that may be picked from. */
  missing: z.array(MissingLine),
});
/** Work that puts together what an order waits for. */
const MadeForOrder = z.object({
  id: Id,
  number: z.string(),
  sku: z.string(),
  /** What it is still to make. */
  quantity: Amount,
  /** Parts are still to be taken to it; some are at the work. */
  toTake: z.boolean(),
  atWork: z.boolean(),
});
export type MadeForOrder = z.infer<typeof MadeForOrder>;
export const pickList = endpoint({
  method: 'GET',
  path: '/api/outbound/orders/:id/pick-list',
  summary: 'What to take from which bin, in walking order',
  right: 'look',
  shows: ['sale', 'work', 'stock', 'lot', 'place', 'item'],
  seenBy: 'sites',
  params: one,
  response: PickList.extend({ made: z.array(MadeForOrder) }),
});
export const pickPaper = endpoint({
  method: 'GET',
  path: '/api/outbound/orders/:id/pick-list/paper',
  summary: 'What to take from which bin for an order, as a PDF',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'application/pdf',
});
export const roundPaper = endpoint({
  method: 'GET',
  path: '/api/outbound/rounds/:id/paper',
  summary: 'What to take from which bin for the orders of a round, as a PDF',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'application/pdf',
});
export const pick = endpoint({
  method: 'POST',
  path: '/api/outbound/picks',
  summary: 'Take goods from bins to the bench for an order',
  right: 'outbound.ship',
  changes: moved,
  posts: true,
  body: z.object({ orderId: Id, ...pickFields }),
  response: Posted,
});

const Round = z.object({ id: Id, siteId: Id, site: z.string(), pickerId: Id, picker: z.string(), startedAt: z.string(), orders: z.number() });
export type Round = z.infer<typeof Round>;
const PickedKind = z.enum(['sales', 'transfer', 'work']);
const QueueRow = z.object({
  /** What it is picked for: a customer's order; a transfer to another site, whose name stands for the customer; or a work order, for which stands what is made. */
  kind: PickedKind,
  orderId: Id,
  number: z.string(),
  customer: z.string(),
  siteId: Id,
  site: z.string(),
  shipBy: Day,
  late: z.boolean(),
  /** Lines of which something can be taken there now, and how many base units in all. */
  lines: z.number(),
  pieces: Amount,
  /** It is to go out whole, and something of it is short. */
  waitsWhole: z.boolean(),
  /** The order that waits for what a work order makes. */
  forSale: z.object({ orderId: Id, number: z.string(), customer: z.string() }).nullable(),
  round: z.object({ id: Id, picker: z.string() }).nullable(),
});
export type QueueRow = z.infer<typeof QueueRow>;

export const pickQueue = endpoint({
  method: 'GET',
  path: '/api/outbound/picking',
  summary: 'What is to be picked, by the day it ships, at most 200 orders, transfers and work orders each; and who picks what',
  right: 'look',
  shows: ['sale', 'transfer', 'work', 'stock', 'place', 'party', 'round'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional(), kind: z.enum(['all', 'sales', 'transfer', 'work']).default('all') }),
  response: z.object({ rows: z.array(QueueRow), rounds: z.array(Round) }),
});

const inRound = (ids: { orderIds: number[]; transferIds: number[]; workOrderIds: number[] }): number =>
  ids.orderIds.length + ids.transferIds.length + ids.workOrderIds.length;
export const startRound = endpoint({
  method: 'POST',
  path: '/api/outbound/rounds',
  summary: 'Begin to pick orders, transfers and work orders at a site in one go: nobody else gets them until the round is ended',
  right: 'outbound.ship',
  changes: ['round'],
  body: z
    .object({ siteId: Id, orderIds: z.array(Id).default([]), transferIds: z.array(Id).default([]), workOrderIds: z.array(Id).default([]) })
    .refine((ids) => inRound(ids) > 0, { path: ['orderIds'], error: 'Choose at least one order.' })
    .refine((ids) => inRound(ids) <= 60, { path: ['orderIds'], error: 'At most 60 orders in one round.' }),
  response: z.object({ id: Id }),
});
export const getRound = endpoint({
  method: 'GET',
  path: '/api/outbound/rounds/:id',
  summary: 'A round: its orders, transfers and work orders with their slots, and what to take from which bin in walking order',
  right: 'look',
  shows: ['sale', 'transfer', 'work', 'stock', 'lot', 'place', 'item', 'party', 'round'],
  seenBy: 'sites',
  params: one,
  response: Round.extend({
    endedAt: z.string().nullable(),
    /** For a transfer, the site it goes to stands for the customer; for a work order, what is made. */
    slots: z.array(z.object({ slot: z.number(), kind: PickedKind, orderId: Id, number: z.string(), customer: z.string() })),
    rows: z.array(PickRow.extend({ kind: PickedKind, orderId: Id, number: z.string(), slot: z.number() })),
    missing: z.array(MissingLine.extend({ number: z.string() })),
  }),
});
export const pickRound = endpoint({
  method: 'POST',
  path: '/api/outbound/rounds/:id/picks',
  summary: 'Take goods from bins to the bench for the orders of a round',
  right: 'outbound.ship',
  changes: [...moved, 'round'],
  posts: true,
  params: one,
  body: z.object({ ...pickFields, ends: z.boolean().default(false) }),
  response: Posted,
});
export const endRound = endpoint({
  method: 'POST',
  path: '/api/outbound/rounds/:id/end',
  summary: 'End a round: what is not picked may be picked by others',
  right: 'outbound.ship',
  changes: ['round'],
  params: one,
  body: z.object({}),
  response: z.object({ id: Id }),
});
