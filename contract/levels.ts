import { isNumber } from '@larder/core/number';
import { methodNames } from '@larder/core/planning/forecast/methods';
import { patterns } from '@larder/core/planning/forecast/pattern';
import { leadFroms } from '@larder/core/planning/leadTime';
import { levelFaults } from '@larder/core/planning/levels';
import { itemClasses } from '@larder/core/stock/counting';
import { z } from 'zod';
import { endpoint } from './endpoint';
import { inAllOf } from './inAll';
import { Amount, Cost, Day, Id, NeededText, page, Paging, PathId, Quantity, QuantityOrZero, Search } from './values';

/** How more of an item comes to a site, in one word: `best`, `buy`, `buy 12` (from that supplier), `bring 3` (from that site), `make`. */
export const WayGiven = z.union([
  z.enum(['best', 'buy', 'make']),
  z.templateLiteral([z.literal('buy '), z.number().int().positive()]),
  z.templateLiteral([z.literal('bring '), z.number().int().positive()]),
]);

/** How an item is topped up at a site. */
export const levelFields = {
  reorderPoint: QuantityOrZero.nullable().default(null),
  orderUpTo: QuantityOrZero.nullable().default(null),
  coverDays: z
    .number('Give whole days.')
    .int('Give whole days.')
    .min(1, 'Give days from 1 to 365.')
    .max(365, 'Give days from 1 to 365.')
    .nullable()
    .default(null),
  packSize: Quantity.nullable().default(null),
  way: WayGiven.default('best'),
};

/** What does not go together in levels, at its field. */
export const refuseLevels = (levels: Parameters<typeof levelFaults>[0], context: z.RefinementCtx): void => {
  const { reorderPoint, orderUpTo, packSize } = levels;
  // What is no number is refused as such.
  if ([reorderPoint, orderUpTo, packSize].some((text) => text !== null && !isNumber(text, 'quantityOrNone'))) return;
  for (const { field, sentence } of levelFaults(levels)) context.addIssue({ code: 'custom', message: sentence, path: [field] });
};

const Pair = z.object({ itemId: Id, siteId: Id });
const decisions = ['accepted', 'changed', 'refused'] as const;

/** What the past says for an item at a site, as it was last looked at. */
const Suggested = z.object({
  madeOn: Day,
  pattern: z.enum(patterns),
  perDay: Amount,
  /** Wanted within the last year. */
  wantedYear: Amount,
  point: Amount,
  upTo: Amount,
  /** What the last year would have been with these levels, and with those there were as it was looked at. */
  daysOut: z.number(),
  averageStock: z.number(),
  daysOutNow: z.number().nullable(),
  averageStockNow: z.number().nullable(),
  decision: z.enum(decisions).nullable(),
  reason: z.string(),
});
const LevelRow = z.object({
  itemId: Id,
  siteId: Id,
  sku: z.string(),
  name: z.string(),
  site: z.string(),
  unit: z.string(),
  class: z.enum(itemClasses),
  reorderPoint: Amount.nullable(),
  orderUpTo: Amount.nullable(),
  /** Levels as they count, where more is wanted in the days that are to be covered. */
  point: Amount.nullable(),
  upTo: Amount.nullable(),
  coverDays: z.number().nullable(),
  packSize: Amount.nullable(),
  way: WayGiven,
  /** Of whom the way speaks: the supplier, or the site. */
  wayName: z.string(),
  free: Amount,
  unitCost: Cost,
  suggested: Suggested.nullable(),
});
export type LevelRow = z.infer<typeof LevelRow>;

/** `differs`: something else is suggested than there is, and not refused. `unset`: it moves and has no levels. */
export const levelStates = ['all', 'differs', 'unset', 'refused'] as const;
export const LevelFilter = z.object({
  q: Search,
  siteId: PathId.optional(),
  categoryId: PathId.optional(),
  supplierId: PathId.optional(),
  class: z.enum(itemClasses).optional(),
  pattern: z.enum(patterns).optional(),
  state: z.enum(levelStates).default('all'),
});
export type LevelFilter = z.input<typeof LevelFilter>;
export const levelSorts = ['sku', 'wanted', 'daysOut', 'stock'] as const;
const levelShows = ['level', 'item', 'stock', 'place', 'party', 'reference'] as const;
export const listLevels = endpoint({
  method: 'GET',
  path: '/api/planning/levels',
  summary: 'Levels of items at sites, with what their past says for them',
  right: 'look',
  shows: [...levelShows],
  seenBy: 'sites',
  query: LevelFilter.extend({ sort: z.enum(levelSorts).default('sku'), direction: z.enum(['up', 'down']).default('up'), ...Paging }),
  response: page(LevelRow),
});
export const levelsInAll = inAllOf(listLevels, {});

const Replay = z.object({ daysOut: z.number(), late: z.number(), averageStock: z.number(), orders: z.number(), stock: z.array(z.number()) });
export const getLevel = endpoint({
  method: 'GET',
  path: '/api/planning/levels/:itemId/:siteId',
  summary: 'What the past of an item at a site says for its levels there, and how that was reckoned',
  right: 'look',
  shows: [...levelShows],
  seenBy: 'sites',
  params: z.object({ itemId: PathId, siteId: PathId }),
  response: z.object({
    row: LevelRow,
    /** Null: nothing was ever wanted. Figures are estimates but for the levels. */
    past: z
      .object({
        from: Day,
        pattern: z.enum(patterns),
        /** Days filled because nothing was there, and because they are marked not to count. */
        withoutStock: z.number(),
        apart: z.number(),
        /** Whole weeks, the oldest first: the day each begins, and what was wanted in it. */
        weeks: z.array(z.object({ from: Day, wanted: z.number() })),
        ahead: z.array(z.object({ from: Day, expected: z.number(), low: z.number(), high: z.number() })),
        /** Ways of forecasting as they did on the last weeks, the best first. */
        tried: z.array(
          z.object({
            method: z.enum(methodNames),
            weeks: z.number(),
            meanError: z.number(),
            rootSquared: z.number(),
            bias: z.number(),
            /** What it said of each of the last weeks. */
            said: z.array(z.number()),
          }),
        ),
        perDay: z.number(),
        spread: z.number(),
        lead: z.object({ days: z.number(), spread: z.number(), from: z.enum(leadFroms), seen: z.number(), source: z.string() }),
        service: z.number(),
        quantile: z.number(),
        safety: z.number(),
        economic: z.number().nullable(),
        pack: z.number(),
        point: Amount,
        upTo: Amount,
        /** The last year, from this day on, run through the suggested levels, and through those there are. */
        replayFrom: Day,
        suggested: Replay,
        now: Replay.nullable(),
      })
      .nullable(),
    events: z.array(z.object({ id: Id, name: z.string(), startsOn: Day, endsOn: Day, counts: z.boolean() })),
  }),
});

/** Levels for many at once: what is not given stays as it is. */
const LevelsSet = z
  .object({
    reorderPoint: QuantityOrZero.nullable().optional(),
    orderUpTo: QuantityOrZero.nullable().optional(),
    coverDays: levelFields.coverDays.removeDefault().optional(),
    packSize: Quantity.nullable().optional(),
    way: WayGiven.optional(),
  })
  .refine((set) => Object.values(set).some((value) => value !== undefined), 'Say what to set.');
const Chosen = z.array(Pair).min(1, 'Choose at least one.').max(5000, 'At most 5,000 at once.');
export const setLevels = endpoint({
  method: 'POST',
  path: '/api/planning/levels',
  summary: 'Set levels of items at sites, all alike',
  right: 'items.edit',
  changes: ['level', 'item', 'stock'],
  body: z.object({ rows: Chosen, set: LevelsSet }),
  response: z.object({ count: z.number() }),
});
export const decideLevels = endpoint({
  method: 'POST',
  path: '/api/planning/levels/decide',
  summary: 'Take levels that are suggested, as they are or changed, or refuse them with a reason',
  right: 'items.edit',
  changes: ['level', 'item', 'stock'],
  body: z.discriminatedUnion('decision', [
    z.object({
      decision: z.literal('accept'),
      /** Null: all that differ in a list of this filter. */
      rows: z
        .array(Pair.extend({ point: QuantityOrZero.optional(), upTo: QuantityOrZero.optional() }))
        .min(1, 'Choose at least one.')
        .max(5000)
        .nullable(),
      filter: LevelFilter.optional(),
    }),
    z.object({ decision: z.literal('refuse'), rows: Chosen, reason: NeededText }),
  ]),
  response: z.object({ count: z.number() }),
});

const Look = z.object({
  id: Id,
  state: z.enum(['waiting', 'looking', 'done', 'stopped', 'failed']),
  askedAt: z.string(),
  askedBy: z.string().nullable(),
  endedAt: z.string().nullable(),
  done: z.number(),
  total: z.number().nullable(),
  fault: z.string(),
});
export type Look = z.infer<typeof Look>;
export const lastLook = endpoint({
  method: 'GET',
  path: '/api/planning/looks/last',
  summary: 'The last look at the past of all items: how far it is, or how it ended',
  right: 'look',
  shows: ['level'],
  seenBy: 'everyone',
  response: z.object({ look: Look.nullable() }),
});
export const startLook = endpoint({
  method: 'POST',
  path: '/api/planning/looks',
  summary: 'Look at the past of all items anew, in the background; what is suggested changes, and nothing else',
  right: 'items.edit',
  changes: ['level'],
  response: z.object({ look: Look }),
});
export const stopLook = endpoint({
  method: 'POST',
  path: '/api/planning/looks/:id/stop',
  summary: 'Stop a look at the past; what it has reached stays',
  right: 'items.edit',
  changes: ['level'],
  params: z.object({ id: PathId }),
  response: z.object({}),
});

const EventFacts = z
  .object({
    name: NeededText,
    startsOn: Day,
    endsOn: Day,
    siteId: Id.nullable().default(null),
    categoryId: Id.nullable().default(null),
    itemId: Id.nullable().default(null),
    counts: z.boolean().default(false),
  })
  .refine(({ startsOn, endsOn }) => startsOn <= endsOn, { message: 'It ends before it begins.', path: ['endsOn'] })
  .refine(({ categoryId, itemId }) => categoryId === null || itemId === null, { message: 'Of a category or of an item, not of both.', path: ['itemId'] });
export type EventForm = z.input<typeof EventFacts>;
const Event = z.object({
  id: Id,
  name: z.string(),
  startsOn: Day,
  endsOn: Day,
  siteId: Id.nullable(),
  site: z.string().nullable(),
  categoryId: Id.nullable(),
  category: z.string().nullable(),
  itemId: Id.nullable(),
  sku: z.string().nullable(),
  counts: z.boolean(),
});
export type Event = z.infer<typeof Event>;
export const listEvents = endpoint({
  method: 'GET',
  path: '/api/planning/events',
  summary: 'Fairs, promotions and the like, whose days do not tell what is wanted otherwise',
  right: 'look',
  shows: ['level', 'place', 'reference', 'item'],
  seenBy: 'everyone',
  response: z.object({ rows: z.array(Event) }),
});
export const createEvent = endpoint({
  method: 'POST',
  path: '/api/planning/events',
  summary: 'Mark days on which something went on',
  right: 'items.edit',
  changes: ['level'],
  body: EventFacts,
  response: z.object({ id: Id }),
});
export const changeEvent = endpoint({
  method: 'PUT',
  path: '/api/planning/events/:id',
  summary: 'Change an event, or have its days count again',
  right: 'items.edit',
  changes: ['level'],
  params: z.object({ id: PathId }),
  body: EventFacts,
  response: z.object({}),
});
export const dropEvent = endpoint({
  method: 'POST',
  path: '/api/planning/events/:id/drop',
  summary: 'Forget an event: its days count',
  right: 'items.edit',
  changes: ['level'],
  params: z.object({ id: PathId }),
  response: z.object({}),
});
