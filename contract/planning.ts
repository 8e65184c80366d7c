import { z } from 'zod';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Cost, Day, Id, PathId, Quantity, ShortText } from './values';

/** How more is to come: from a supplier, from another site, or made there. */
export const topUpWays = ['buy', 'bring', 'make'] as const;
const TopUpRow = z.object({
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  siteId: Id,
  site: z.string(),
  by: z.enum(topUpWays),
  supplierId: Id.nullable(),
  supplier: z.string().nullable(),
  fromSiteId: Id.nullable(),
  fromSite: z.string().nullable(),
  /** Why it is not as the way of the item has it. */
  note: z.enum(['supplier-retired', 'giver-short', 'no-bill']).nullable(),
  free: Amount,
  onOrder: Amount,
  /** To come from other sites. */
  coming: Amount,
  /** On drafts of orders and in planned work. */
  drafted: Amount,
  short: Amount,
  position: Amount,
  reorderPoint: Amount,
  orderUpTo: Amount,
  /** Days that are to be covered, where they raise the point. */
  coverDays: z.number().nullable(),
  packSize: Amount,
  minimum: Amount,
  propose: Amount,
  price: Cost.nullable(),
  amount: Cost.nullable(),
  /** The next price break: how many that are, what all of them cost more than these, and what is saved on them. */
  nextBreak: z.object({ quantity: Amount, price: Cost, costs: Cost, saves: Cost }).nullable(),
  /** Of one base unit, where it is known. */
  weightKg: Amount.nullable(),
  volumeM3: Amount.nullable(),
  putOff: z.object({ until: Day, reason: z.string(), person: z.string() }).nullable(),
});
export type TopUpRow = z.infer<typeof TopUpRow>;
const topUpShows = ['stock', 'item', 'party', 'purchase', 'transfer', 'work', 'place', 'bom'] as const;
export const topUpList = endpoint({
  method: 'GET',
  path: '/api/planning/top-up',
  summary: 'Each item and site at or below its reorder point, with what to bring, make or order',
  right: 'look',
  shows: [...topUpShows],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional(), itemId: PathId.optional() }),
  response: z.object({
    rows: z.array(TopUpRow),
    /** What suppliers ask an order to come to at least. */
    minimums: z.array(z.object({ supplierId: Id, amount: Amount })),
  }),
});
export const topUpFill = endpoint({
  method: 'GET',
  path: '/api/planning/top-up/fill',
  summary: 'What else of a supplier would be wanted soonest at a site: up to its level, the first to run low first',
  right: 'look',
  shows: [...topUpShows],
  seenBy: 'sites',
  query: z.object({ supplierId: PathId, siteId: PathId }),
  response: z.object({
    rows: z.array(
      TopUpRow.extend({
        /** Days until it would be at its point, at the rate it is wanted; null where that is not known. */
        days: z.number().nullable(),
      }),
    ),
  }),
});
export const orderTopUp = endpoint({
  method: 'POST',
  path: '/api/planning/top-up',
  summary:
    'Turn chosen proposals into purchase orders, one for each supplier and site, into transfers, one for each pair of sites, and into planned work orders',
  right: 'planning.top-up',
  changes: moved,
  body: z.object({
    rows: z
      // From a supplier, from a site; from neither it is made.
      .array(
        z.object({
          itemId: Id,
          siteId: Id,
          supplierId: Id.nullable().default(null),
          fromSiteId: Id.nullable().default(null),
          quantity: Quantity,
          /** The position that the proposal was made from: ordered meanwhile by somebody else, it is refused. */
          position: Amount.optional(),
        }),
      )
      .min(1, 'Choose at least one proposal.')
      .max(500),
    place: z.boolean().default(false),
  }),
  response: z.object({
    orders: z.array(z.object({ id: Id, number: z.string(), supplier: z.string() })),
    transfers: z.array(z.object({ id: Id, number: z.string(), from: z.string(), to: z.string() })),
    work: z.array(z.object({ id: Id, number: z.string(), sku: z.string() })),
  }),
});
export const putOffTopUp = endpoint({
  method: 'POST',
  path: '/api/planning/top-up/put-off',
  summary: 'Put a proposal off until a day, or take it up again',
  right: 'planning.top-up',
  changes: ['stock'],
  body: z.object({
    itemId: Id,
    siteId: Id,
    /** Null: it is taken up again. */
    until: Day.nullable(),
    reason: ShortText.default(''),
  }),
  response: z.object({}),
});

const OpenCounts = z.object({
  comingIn: z.number(),
  low: z.number(),
  goingOut: z.number(),
  quotes: z.number(),
  /** Work orders that are to be begun by today, or are under way. */
  making: z.number(),
});
export const openCounts = endpoint({
  method: 'GET',
  path: '/api/planning/counts',
  summary: 'How much waits in each area',
  right: 'look',
  shows: ['purchase', 'sale', 'stock', 'item', 'work'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional() }),
  response: OpenCounts,
});

export const today = endpoint({
  method: 'GET',
  path: '/api/planning/today',
  summary: 'What comes in, runs low and must go out',
  right: 'look',
  shows: ['purchase', 'sale', 'stock', 'item', 'party', 'place', 'work'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({
    day: Day,
    cover: z.array(z.object({ itemId: Id, sku: z.string(), name: z.string(), days: z.number(), leadDays: z.number(), state: z.enum(['out', 'low', 'fine']) })),
    comingIn: z.array(
      z.object({
        id: Id,
        number: z.string(),
        supplier: z.string(),
        expectedOn: Day.nullable(),
        received: Amount,
        ordered: Amount,
        lines: z.number(),
        late: z.boolean(),
      }),
    ),
    low: z.array(
      z.object({
        itemId: Id,
        sku: z.string(),
        name: z.string(),
        siteId: Id,
        site: z.string(),
        free: Amount,
        short: Amount,
        onOrder: Amount,
        reorderPoint: Amount,
        orderUpTo: Amount,
        propose: Amount,
      }),
    ),
    goingOut: z.array(
      z.object({
        id: Id,
        number: z.string(),
        customer: z.string(),
        shipBy: Day,
        state: z.string(),
        ordered: Amount,
        picked: Amount,
        dispatched: Amount,
        short: Amount,
        late: z.boolean(),
      }),
    ),
    /** Lines that stock which came in today was reserved for, the latest first. */
    served: z.array(
      z.object({ lineId: Id, orderId: Id, number: z.string(), customer: z.string(), sku: z.string(), reserved: Amount, short: Amount, at: z.string() }),
    ),
    /** Bins in which less of an item was found than they should hold, the latest first. */
    toCount: z.array(
      z.object({
        itemId: Id,
        sku: z.string(),
        binId: Id,
        bin: z.string(),
        siteId: Id,
        site: z.string(),
        at: z.string(),
        person: z.string(),
        reason: z.string(),
      }),
    ),
    /** Bookings that a carrier has refused or not answered, the oldest first. */
    unbooked: z.array(z.object({ shipmentId: Id, number: z.string(), orderId: Id, order: z.string(), carrier: z.string(), fault: z.string() })),
    counts: OpenCounts,
  }),
});

export const firstStepKeys = ['places', 'items', 'opening', 'order-in', 'order-out'] as const;
const FirstSteps = z.object({
  away: z.boolean(),
  /** Whose doing ticks a step: the business's while it begins, then this person's own. */
  of: z.enum(['business', 'person']),
  steps: z.array(z.object({ key: z.enum(firstStepKeys), done: z.boolean() })),
});
export const firstSteps = endpoint({
  method: 'GET',
  path: '/api/planning/first-steps',
  summary: 'First steps, ticked by what was really done',
  right: 'look',
  shows: ['steps', 'item', 'party', 'place', 'purchase', 'sale', 'stock'],
  seenBy: 'everyone',
  response: FirstSteps,
});
export const putFirstStepsAway = endpoint({
  method: 'POST',
  path: '/api/planning/first-steps',
  summary: 'Put first steps away, or bring them back',
  right: 'look',
  changes: ['steps'],
  seenBy: 'everyone',
  body: z.object({ away: z.boolean() }),
  response: FirstSteps,
});
