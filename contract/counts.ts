import { countStates, itemClasses, recountReasons } from '@larder/core/stock/counting';
import { z } from 'zod';
import { endpoint } from './endpoint';
import { inAllOf } from './inAll';
import { moved, type Noun } from './nouns';
import { Amount, Code, Cost, Day, Id, ItemCodes, MoneyOrZero, page, Paging, PathId, Percent, Posted, QuantityOrZero, Search, Stage, Text } from './values';

/** Counts of bins, while goods move: planned, counted by several people, looked at and posted. */

const one = z.object({ id: PathId });
const oneBin = z.object({ id: PathId, placeId: PathId });
const most = 5000;
const Ids = z.array(Id).max(most, 'At most 5,000 at once.').default([]);
export const CountPlan = z.object({
  zone: z.string().max(60).default(''),
  binIds: Ids,
  categoryId: Id.nullable().default(null),
  itemIds: Ids,
  classes: z.array(z.enum(itemClasses)).default([]),
  notSince: Day.nullable().default(null),
  differedSince: Day.nullable().default(null),
  doubted: z.boolean().default(false),
  due: z.boolean().default(false),
});
const planned = {
  siteId: Id.nullable()
    .default(null)
    .refine((id) => id !== null, 'Choose the site that is counted.'),
  plan: CountPlan,
};
export const foreseeCount = endpoint({
  method: 'POST',
  path: '/api/counts/plan',
  summary: 'How many bins and things a plan of a count chooses',
  right: 'look',
  reads: true,
  shows: ['count', 'stock', 'place', 'item', 'setting'],
  seenBy: 'sites',
  body: z.object(planned),
  response: z.object({ bins: z.number().int(), lines: z.number().int(), items: z.number().int(), value: Cost }),
});
export const CountForm = z.object({
  ...planned,
  blind: z.boolean().default(false),
  /** A difference above this share, in per cent, or above this value is counted again. */
  recountShare: Percent.nullable().default(null),
  recountValue: MoneyOrZero.nullable().default(null),
  note: Text.default(''),
});
const counting: readonly Noun[] = ['count'];
export const createCount = endpoint({
  method: 'POST',
  path: '/api/counts',
  summary: 'Plan a count: the bins that hold what is chosen, or all bins of a zone or site',
  right: 'stock.correct',
  changes: counting,
  body: CountForm,
  response: z.object({ id: Id, number: z.string() }),
});

const CountRow = z.object({
  id: Id,
  number: z.string(),
  siteId: Id,
  site: z.string(),
  state: z.enum(countStates),
  day: Day,
  person: z.string(),
  note: z.string(),
  bins: z.number().int(),
  done: z.number().int(),
  lines: z.number().int(),
  differing: z.number().int(),
  settled: z.number().int(),
  /** Who is counting now. */
  people: z.string(),
});
export type CountRow = z.infer<typeof CountRow>;
export const countShows = ['open', 'planned', 'counting', 'review', 'done', 'all'] as const;
export const listCounts = endpoint({
  method: 'GET',
  path: '/api/counts',
  summary: 'Counts, newest first, by how far they are',
  right: 'look',
  shows: ['count', 'place'],
  seenBy: 'sites',
  query: z.object({ q: Search, show: z.enum(countShows).default('open'), siteId: PathId.optional(), ...Paging }),
  response: page(CountRow),
});
export const countsInAll = inAllOf(listCounts, {});

const Bin = z.object({
  placeId: Id,
  bin: z.string(),
  zone: z.string(),
  retired: z.boolean(),
  /** Whoever counts it now. */
  heldById: Id.nullable(),
  heldBy: z.string().nullable(),
  doneBy: z.string().nullable(),
  done: z.boolean(),
  counted: z.number().int(),
  /** Lines to be counted again. */
  recount: z.number().int(),
});
export const getCount = endpoint({
  method: 'GET',
  path: '/api/counts/:id',
  summary: 'A count: its bins, who counts which, and how far it is',
  right: 'look',
  shows: ['count', 'place'],
  seenBy: 'sites',
  params: one,
  response: CountRow.extend({
    blind: z.boolean(),
    recountShare: Amount.nullable(),
    recountValue: Amount.nullable(),
    plan: CountPlan,
    stages: z.array(Stage),
    binRows: z.array(Bin),
    closed: z.boolean(),
  }),
});

const ToCount = z.object({
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  tracking: z.enum(['none', 'lot', 'serial']),
  lotId: Id.nullable(),
  lot: z.string().nullable(),
  useBy: Day.nullable(),
  /** What should be there now; null where whoever counts is not to know. */
  expected: Amount.nullable(),
  /** What was counted, null while nobody has. */
  counted: Amount.nullable(),
  recount: z.enum(recountReasons).nullable(),
  settled: z.boolean(),
  /** It lay there when the sheet was looked at. */
  listed: z.boolean(),
  seq: z.number().int(),
  codes: ItemCodes,
});
export type ToCount = z.infer<typeof ToCount>;
export const countBin = endpoint({
  method: 'GET',
  path: '/api/counts/:id/bins/:placeId',
  summary: 'What is to be counted in a bin, and what was',
  right: 'look',
  shows: ['count', 'stock', 'place', 'item', 'lot'],
  seenBy: 'sites',
  params: oneBin,
  response: Bin.extend({
    siteId: Id,
    number: z.string(),
    blind: z.boolean(),
    closed: z.boolean(),
    restricted: z.boolean(),
    rows: z.array(ToCount),
    next: z.object({ placeId: Id, bin: z.string() }).nullable(),
  }),
});
const done = z.object({});
const floor = { right: 'stock.count', params: oneBin, changes: counting, once: true } as const;
export const takeBin = endpoint({
  ...floor,
  method: 'POST',
  path: '/api/counts/:id/bins/:placeId/take',
  summary: 'Begin to count a bin; nobody else counts it meanwhile',
  body: z.object({ over: z.boolean().default(false) }),
  response: done,
});
export const leaveBin = endpoint({
  ...floor,
  method: 'POST',
  path: '/api/counts/:id/bins/:placeId/leave',
  summary: 'Leave a bin that is not counted whole, for somebody else',
  response: done,
});
const Entry = z.object({
  itemId: Id,
  lotId: Id.nullable().default(null),
  /** All there is of it, in base units. */
  quantity: QuantityOrZero,
  way: z.enum(['typed', 'scanned']),
  /** The item's last movement that the device knew of when it was counted; by what is sent at once it need not be said. */
  seq: z.number().int().min(0).nullable().default(null),
});
export type CountEntry = z.input<typeof Entry>;
export const enterCount = endpoint({
  ...floor,
  method: 'POST',
  path: '/api/counts/:id/bins/:placeId/entries',
  summary: 'Say how many there are of something in a bin',
  body: z.object({ entries: z.array(Entry).min(1, 'Count something.').max(500, 'At most 500 at once.') }),
  response: done,
});
export const nameLot = endpoint({
  ...floor,
  changes: ['count', 'lot'],
  method: 'POST',
  path: '/api/counts/:id/bins/:placeId/lots',
  summary: 'Name a lot or serial that was found and that no record knows, so that it can be counted',
  body: z.object({ itemId: Id, code: Code, useBy: Day.nullable().default(null) }),
  response: z.object({ lotId: Id, lot: z.string(), useBy: Day.nullable() }),
});
export const finishBin = endpoint({
  ...floor,
  method: 'POST',
  path: '/api/counts/:id/bins/:placeId/done',
  summary: 'Say that a bin is counted; what differs much, or moved meanwhile, is asked for again',
  /** What was not counted is not there; else it stays as it is. */
  body: z.object({ restIsNone: z.boolean().default(false) }),
  response: z.object({ recount: z.number().int() }),
});

const ReviewRow = z.object({
  id: Id,
  placeId: Id,
  bin: z.string(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  lot: z.string().nullable(),
  expected: Amount,
  counted: Amount,
  difference: Amount,
  /** What the difference is worth. */
  value: Cost,
  person: z.string(),
  rounds: z.number().int(),
  recount: z.enum(recountReasons).nullable(),
  binDone: z.boolean(),
  settled: z.boolean(),
  /** What was posted for it, and by which posting. */
  posted: Amount,
  movementId: Id.nullable(),
  reasonId: Id.nullable(),
  entries: z.array(z.object({ counted: Amount, expected: Amount, person: z.string(), at: z.string() })),
});
export type ReviewRow = z.infer<typeof ReviewRow>;
export const reviewCount = endpoint({
  method: 'GET',
  path: '/api/counts/:id/review',
  summary: 'What was counted, the highest value of a difference first',
  right: 'stock.correct',
  shows: ['count', 'stock', 'item', 'place'],
  seenBy: 'sites',
  params: one,
  query: z.object({ show: z.enum(['differing', 'all']).default('differing'), limit: z.coerce.number().int().min(1).max(most).default(200) }),
  /** `count`: how many there are in all. */
  response: z.object({
    rows: z.array(ReviewRow),
    count: z.number().int(),
    agreed: z.number().int(),
    found: Cost,
    lost: Cost,
  }),
});
export const askRecount = endpoint({
  method: 'POST',
  path: '/api/counts/:id/recount',
  summary: 'Have lines counted again',
  right: 'stock.correct',
  params: one,
  changes: counting,
  body: z.object({ lineIds: z.array(Id).min(1, 'Choose lines.').max(most) }),
  response: done,
});
export const postCount = endpoint({
  method: 'POST',
  path: '/api/counts/:id/post',
  summary: 'Post what was counted: the difference of each line, for its reason; what agrees is settled',
  right: 'stock.correct',
  params: one,
  posts: true,
  changes: [...moved, 'count', 'place'],
  body: z.object({
    /** The reason of lines that have none of their own. */
    reasonId: Id,
    note: Text.default(''),
    /** All that can be, where none is named. */
    lines: z
      .array(z.object({ id: Id, reasonId: Id.nullable().default(null) }))
      .max(most)
      .default([]),
  }),
  response: Posted.extend({ posted: z.number().int(), agreed: z.number().int() }),
});
export const closeCount = endpoint({
  method: 'POST',
  path: '/api/counts/:id/close',
  summary: 'End a count: what was not posted stays as it is',
  right: 'stock.correct',
  params: one,
  changes: counting,
  response: done,
});

const Accuracy = z.object({
  month: z.string(),
  lines: z.number().int(),
  agreed: z.number().int(),
  /** What differed was worth, found and lost added up without their sign. */
  off: Cost,
});
export const countAccuracy = endpoint({
  method: 'GET',
  path: '/api/counts-accuracy',
  summary: 'Month by month, how much of what was counted agreed with the records',
  right: 'look',
  shows: ['count'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({ months: z.array(Accuracy) }),
});
export const countCalendar = endpoint({
  method: 'GET',
  path: '/api/counts-due',
  summary: 'What is due to be counted, by class and site, and how often each class is',
  right: 'look',
  shows: ['count', 'stock', 'item', 'setting'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({
    every: z.object({ A: z.number().nullable(), B: z.number().nullable(), C: z.number().nullable() }),
    /** Items of each class that lie at a site, and those of them that are due. */
    rows: z.array(z.object({ siteId: Id, site: z.string(), class: z.enum(itemClasses), items: z.number().int(), due: z.number().int() })),
  }),
});
const Every = z.number('Give whole days.').int('Give whole days.').min(1, 'At least a day.').max(3650, 'At most ten years.').nullable();
export const editCalendar = endpoint({
  method: 'PUT',
  path: '/api/counts-due',
  summary: 'Say after how many days items of each class are counted',
  right: 'setup.edit',
  changes: ['count', 'setting'],
  body: z.object({ A: Every, B: Every, C: Every }),
  response: done,
});
