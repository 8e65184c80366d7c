import { z } from 'zod';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Cost, Day, Id, PathId, Quantity } from './values';

const TopUpRow = z.object({
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  siteId: Id,
  site: z.string(),
  supplierId: Id.nullable(),
  supplier: z.string().nullable(),
  /** A bill of materials in use says of what it is made. */
  made: z.boolean(),
  free: Amount,
  onOrder: Amount,
  /** To come from other sites. */
  coming: Amount,
  short: Amount,
  position: Amount,
  reorderPoint: Amount,
  orderUpTo: Amount,
  packSize: Amount,
  minimum: Amount,
  propose: Amount,
  price: Cost.nullable(),
  amount: Cost.nullable(),
});
export type TopUpRow = z.infer<typeof TopUpRow>;
export const topUpList = endpoint({
  method: 'GET',
  path: '/api/planning/top-up',
  summary: 'Each item and site at or below its reorder point, with what to order',
  right: 'look',
  shows: ['stock', 'item', 'party', 'purchase', 'place'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({ rows: z.array(TopUpRow) }),
});
export const orderTopUp = endpoint({
  method: 'POST',
  path: '/api/planning/top-up',
  summary: 'Turn chosen proposals into purchase orders, one for each supplier and site, and into planned work orders where it is made',
  right: 'planning.top-up',
  changes: moved,
  body: z.object({
    rows: z
      // Without a supplier it is made.
      .array(z.object({ itemId: Id, siteId: Id, supplierId: Id.nullable(), quantity: Quantity }))
      .min(1, 'Choose at least one proposal.')
      .max(500),
    place: z.boolean().default(false),
  }),
  response: z.object({
    orders: z.array(z.object({ id: Id, number: z.string(), supplier: z.string() })),
    work: z.array(z.object({ id: Id, number: z.string(), sku: z.string() })),
  }),
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
