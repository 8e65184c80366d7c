import { z } from 'zod';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Cost, Id, LotEntry, NeededText, PathId, Posted, Price, QuantityOrZero, Quantity, ShortText, Version } from './values';
import { Charge, mostLines, Named } from './workOrders';

/** What is recorded of work orders: what was used and made, and what was used and never taken from a shelf. */

const one = z.object({ id: PathId });
const acting = { params: one, posts: true as const, changes: moved };
/** Labour, a machine or work outside as it is recorded: what is not said of its rate or account is as the order has it under that name. */
const Recorded = Charge.extend({ rate: Price.nullable().default(null), accountId: Id.nullable().default(null) });

export const restWays = ['goes on', 'new order', 'given up'] as const;
/** What was used and made, as it was written down. */
export const RecordForm = z.object({
  version: Version,
  /** Who did it; null: who records it. */
  workerId: Id.nullable().default(null),
  note: ShortText.default(''),
  used: z
    .array(z.object({ lineId: Id, lotId: Id.nullable().default(null), quantity: QuantityOrZero }))
    .max(5000)
    .default([]),
  made: z
    .array(
      z.object({
        lineId: Id,
        quantity: QuantityOrZero,
        scrapped: QuantityOrZero.default('0'),
        /** Null: where it is proposed. */
        binId: Id.nullable().default(null),
        lots: z.array(LotEntry).max(5000).default([]),
      }),
    )
    .max(mostLines)
    .default([]),
  charges: z.array(Recorded).max(50, 'At most 50 other costs.').default([]),
  /** What becomes of what is not made yet. */
  rest: z.enum(restWays).default('goes on'),
  /** Why it is completed though something used was not taken from a shelf, by who may. */
  untakenReason: ShortText.default(''),
  /** What the person has said to be right. */
  moreThanOrdered: z.boolean().default(false),
  otherCost: z.boolean().default(false),
  pastUse: z.boolean().default(false),
});
export type RecordForm = z.input<typeof RecordForm>;
const Outcome = z.object({
  inProgress: Cost,
  after: Cost,
  variance: Cost,
  /** What it is charged for work. */
  charged: Cost,
  outputs: z.array(z.object({ itemId: Id, sku: z.string(), quantity: Amount, value: Cost, unitCost: Cost, rolledUp: Cost.nullable() })),
  /** What is at the work and goes back to its bins as it ends. */
  back: z.array(z.object({ sku: z.string(), quantity: Amount, bin: z.string() })),
  /** Nothing more is made on it then. */
  ends: z.boolean(),
});
export type Outcome = z.infer<typeof Outcome>;
export const recordWork = endpoint({
  method: 'POST',
  path: '/api/making/orders/:id/records',
  summary: 'Record what was used and made, and by whom; with the last of it, or when the rest is given up, the work order is completed',
  right: 'making.record',
  ...acting,
  body: RecordForm,
  response: Posted.extend({ outcome: Outcome, restId: Id.nullable(), restNumber: z.string().nullable() }),
});

const UntakenRow = z.object({
  id: Id,
  workOrderId: Id,
  number: z.string(),
  lineId: Id,
  siteId: Id,
  site: z.string(),
  ...Named,
  open: Amount,
  since: z.string(),
  person: z.string(),
  reason: z.string(),
});
export const listUntaken = endpoint({
  method: 'GET',
  path: '/api/making/untaken',
  summary: 'What was used on completed work and never taken from a shelf in the records',
  right: 'look',
  seenBy: 'sites',
  shows: ['work', 'stock', 'place', 'item'],
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({ rows: z.array(UntakenRow) }),
});
export const recordUntaken = endpoint({
  method: 'POST',
  path: '/api/making/untaken/:id/record',
  summary: 'Record from which bins it was taken: what it had cost is making variance',
  right: 'making.record',
  ...acting,
  body: z.object({
    lines: z
      .array(z.object({ binId: Id, lotId: Id.nullable().default(null), quantity: Quantity }))
      .min(1, 'Say from which bin.')
      .max(100),
  }),
  response: Posted,
});
export const giveUpUntaken = endpoint({
  method: 'POST',
  path: '/api/making/untaken/:id/give-up',
  summary: 'Say that it will not be recorded, and why',
  right: 'making.unrecorded',
  params: one,
  changes: ['work'],
  body: z.object({ reason: NeededText }),
  response: z.object({}),
});
