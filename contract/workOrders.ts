import { workStates } from '@larder/core/making/work';
import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { inAllOf } from './inAll';
import { workUnits } from './making';
import { moved } from './nouns';
import { pickFields, PickList } from './picking';
import {
  Amount,
  Cost,
  Day,
  Id,
  IdList,
  NeededText,
  page,
  Paging,
  PathId,
  Posted,
  Price,
  Quantity,
  QuantityOrZero,
  Search,
  ShortText,
  Stage,
  Text,
  Version,
} from './values';

/** Work orders: what is to be made at a site, by when and of what; what was taken for it, used and made. */

const one = z.object({ id: PathId });
const acting = { params: one, posts: true as const, changes: moved };
const needed = (sentence: string) =>
  Id.nullable()
    .default(null)
    .refine((id) => id !== null, sentence);
export const mostLines = 1000;

/** Labour, a machine or work outside: hours or pieces for the whole of an order, or of a record. */
export const Charge = z.object({
  name: NeededText,
  per: z.enum(workUnits),
  quantity: QuantityOrZero,
  /** For one hour or piece, in company currency. */
  rate: Price,
  accountId: needed('Choose the account it is taken from.'),
});
const Charges = z
  .array(Charge)
  .max(50, 'At most 50 other costs.')
  .superRefine((costs, context) => {
    const names = costs.map(({ name }) => name.toLowerCase());
    for (const [index, name] of names.entries())
      if (names.indexOf(name) < index)
        context.addIssue({ code: 'custom', path: [index, 'name'], message: `Line ${names.indexOf(name) + 1} is called this as well.` });
  });
const Component = z.object({ itemId: Id, /** Base units, for the whole of the order. */ quantity: Quantity, note: ShortText.default('') });
const head = { startsOn: Day, dueOn: Day, note: Text.default('') };
export const WorkForm = z.object({
  itemId: needed('Choose what is made.'),
  siteId: needed('Choose the site it is made at.'),
  quantity: Quantity,
  ...head,
  /** Null: as the bill in use has them. */
  steps: Text.nullable().default(null),
  /** The sales line that waits for it. */
  salesLineId: Id.nullable().default(null),
  /** What goes in; null: as the bill in use says. */
  components: z.array(Component).max(mostLines, 'At most 1,000 parts.').nullable().default(null),
  costs: Charges.nullable().default(null),
  /** Reserve the parts at once. */
  release: z.boolean().default(false),
});
export type WorkForm = z.input<typeof WorkForm>;
export const WorkChange = z.object({
  version: Version,
  quantity: Quantity,
  ...head,
  steps: Text.default(''),
  /** All its components: those with an id become what is said of them, those without are added, and those not named are taken off, as far as nothing of them was taken. */
  components: z.array(Component.extend({ id: Id.nullable().default(null) })).max(mostLines, 'At most 1,000 parts.'),
  costs: Charges,
});
export type WorkChange = z.input<typeof WorkChange>;

const WorkRow = z.object({
  id: Id,
  number: z.string(),
  state: z.enum(workStates),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  siteId: Id,
  site: z.string(),
  startsOn: Day,
  dueOn: Day,
  late: z.boolean(),
  quantity: Amount,
  made: Amount,
  scrapped: Amount,
  components: z.number(),
  /** Base units of all components together; of what was taken and used, what the order says. */
  needed: Amount,
  taken: Amount,
  used: Amount,
  atWork: Amount,
  short: Amount,
  /** Used, and never taken from a shelf. */
  untaken: Amount,
  /** The other way round: it was taken apart. */
  apart: z.boolean(),
  released: z.boolean(),
  ended: z.boolean(),
  sale: z.object({ orderId: Id, number: z.string() }).nullable(),
});
export type WorkRow = z.infer<typeof WorkRow>;
export const workShows = ['open', 'today', 'planned', 'released', 'to-record', 'late', 'short', 'done', 'all'] as const;
export const listWorkOrders = endpoint({
  method: 'GET',
  path: '/api/making/orders',
  summary: 'Work orders by the day they are due',
  right: 'look',
  shows: ['work', 'stock', 'place', 'item', 'sale'],
  seenBy: 'sites',
  query: z.object({
    q: Search,
    show: z.enum(workShows).default('open'),
    siteId: PathId.optional(),
    itemId: PathId.optional(),
    from: Day.optional(),
    through: Day.optional(),
    ...Paging,
  }),
  response: page(WorkRow),
});
export const workOrdersInAll = inAllOf(listWorkOrders, {});

export const Named = { itemId: Id, sku: z.string(), name: z.string(), unit: z.string(), step: z.string() };
const tracking = z.enum(['none', 'lot', 'serial']);
const ComponentNow = z.object({
  id: Id,
  position: z.number(),
  ...Named,
  tracking,
  stocked: z.boolean(),
  note: z.string(),
  needed: Amount,
  taken: Amount,
  used: Amount,
  atWork: Amount,
  reserved: Amount,
  wanted: Amount,
  short: Amount,
  /** The day by which what is short will have come; null when none is known, or nothing is short. */
  comesOn: Day.nullable(),
  /** What is at the work, lot by lot. */
  lots: z.array(z.object({ lotId: Id.nullable(), lot: z.string().nullable(), useBy: Day.nullable(), quantity: Amount })),
  untaken: Amount,
});
export type ComponentNow = z.infer<typeof ComponentNow>;
const ProductNow = z.object({
  id: Id,
  position: z.number(),
  ...Named,
  tracking,
  quantity: Amount,
  made: Amount,
  scrapped: Amount,
  share: Amount.nullable(),
  /** Where it goes: the bin that was chosen, else quarantine when it is looked over first, else the item's own there, else where it lies, else the place for what has none. */
  binId: Id,
  bin: z.string(),
  /** It is looked over before it is sold, so it goes to quarantine. */
  inspected: z.boolean(),
  /** The lot that is made of it with the next record; null for what is not kept by lots. */
  nextLot: z.object({ code: z.string(), useBy: Day.nullable() }).nullable(),
});
export type ProductNow = z.infer<typeof ProductNow>;
const CostNow = z.object({ position: z.number(), name: z.string(), per: z.enum(workUnits), quantity: Amount, charged: Amount, rate: Cost, accountId: Id });
const WorkOrder = WorkRow.extend({
  version: Version,
  bomId: Id.nullable(),
  bill: z.string().nullable(),
  steps: z.string(),
  note: z.string(),
  cancelled: z.boolean(),
  restOf: z.object({ id: Id, number: z.string() }).nullable(),
  rests: z.array(z.object({ id: Id, number: z.string() })),
  stages: z.array(Stage),
  lines: z.array(ComponentNow),
  products: z.array(ProductNow),
  costs: z.array(CostNow),
  /** What is in progress of it, and what one of it costs by the bills in use now. */
  inProgress: Cost,
  rolledUp: Cost.nullable(),
  movements: z.array(
    z.object({ id: Id, kind: z.string(), postedAt: z.string(), person: z.string(), quantity: Amount, undone: z.boolean(), undoes: z.boolean() }),
  ),
  records: z.array(
    z.object({
      movementId: Id,
      postedAt: z.string(),
      worker: z.string(),
      made: Amount,
      scrapped: Amount,
      value: Cost,
      hours: Amount,
      undone: z.boolean(),
      untakenReason: z.string(),
    }),
  ),
  changes: z.array(z.object({ at: z.string(), person: z.string(), field: z.string(), was: z.string().nullable(), is: z.string() })),
});
export type WorkOrder = z.infer<typeof WorkOrder>;
export const getWorkOrder = endpoint({
  method: 'GET',
  path: '/api/making/orders/:id',
  summary: 'A work order: what goes in, what was taken and used of it, what was made, and what is in progress',
  right: 'look',
  shows: ['work', 'stock', 'lot', 'place', 'item', 'sale', 'bom'],
  seenBy: 'sites',
  params: one,
  response: WorkOrder,
});
export const workProposal = endpoint({
  method: 'GET',
  path: '/api/making/proposal',
  summary: 'What making so many of an item takes, as the bill in use says: what a work order is begun with',
  right: 'look',
  shows: ['bom', 'item', 'stock', 'place'],
  seenBy: 'sites',
  query: z.object({ itemId: PathId, siteId: PathId, quantity: Quantity }),
  response: z.object({
    /** Null: no bill of it is in use. */
    bomId: Id.nullable(),
    bill: z.string().nullable(),
    steps: z.string(),
    components: z.array(z.object({ ...Named, quantity: Amount, free: Amount, note: z.string() })),
    costs: z.array(z.object({ name: z.string(), per: z.enum(workUnits), quantity: Amount, rate: Cost, accountId: Id })),
    byProducts: z.array(z.object({ ...Named, quantity: Amount })),
  }),
});

const Written = Posted.extend({ id: Id.nullable(), number: z.string().nullable() });
export const createWorkOrder = endpoint({
  method: 'POST',
  path: '/api/making/orders',
  summary: 'Plan to make so many of an item at a site, as its bill says or of other parts; released at once when that is said',
  right: 'making.plan',
  changes: moved,
  posts: true,
  body: WorkForm,
  response: Written,
});
export const changeWorkOrder = endpoint({
  method: 'PUT',
  path: '/api/making/orders/:id',
  summary: 'Change how many are made, of what, and when, as far as it has not happened',
  right: 'making.plan',
  ...acting,
  body: WorkChange,
  response: Posted,
});
export const moveWorkOrder = endpoint({
  method: 'POST',
  path: '/api/making/orders/:id/day',
  summary: 'Make it on another day: its parts are wanted for that day, and it is due as many days later as before',
  right: 'making.plan',
  ...acting,
  body: z.object({ version: Version, startsOn: Day }),
  response: Posted,
});
const decision = { right: 'making.plan' as const, ...acting, body: z.object({ version: Version }), response: Posted };
export const releaseWorkOrder = endpoint({
  ...decision,
  method: 'POST',
  path: '/api/making/orders/:id/release',
  summary: 'Release a work order: what is free of its parts is reserved, the rest is short',
});
export const holdWorkOrder = endpoint({
  ...decision,
  method: 'POST',
  path: '/api/making/orders/:id/hold',
  summary: 'Take the release of a work order back, while nothing was taken for it',
});
export const cancelWorkOrder = endpoint({
  ...decision,
  method: 'POST',
  path: '/api/making/orders/:id/cancel',
  summary: 'Cancel a work order of which nothing was used or made; what was taken for it goes back to its bins',
});
export const reopenWorkOrder = endpoint({
  ...decision,
  method: 'POST',
  path: '/api/making/orders/:id/reopen',
  summary: 'Open a cancelled work order again',
});

export const workPickList = endpoint({
  method: 'GET',
  path: '/api/making/orders/:id/pick-list',
  summary: 'What to take from which bin for a work order, in walking order',
  right: 'look',
  shows: ['work', 'stock', 'lot', 'place', 'item'],
  seenBy: 'sites',
  params: one,
  response: PickList,
});
export const jobSheet = endpoint({
  method: 'GET',
  path: '/api/making/orders/:id/job-sheet',
  summary: 'What to take, what to do, and blanks for what was really used and made, as a PDF',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'application/pdf',
});
const papers = {
  method: 'GET' as const,
  right: 'look' as const,
  seenBy: 'sites' as const,
  query: z.object({ ids: IdList.refine((ids) => ids !== '', 'Choose work orders.') }),
  response: FileAnswer,
  file: 'application/pdf',
};
export const jobSheets = endpoint({ ...papers, path: '/api/making/job-sheets', summary: 'Job sheets of work orders, as one PDF' });
export const workPickPapers = endpoint({
  ...papers,
  path: '/api/making/pick-lists',
  summary: 'What to take from which bin for each of these work orders, as a PDF to go with a pencil',
});
export const pickWorkOrder = endpoint({
  method: 'POST',
  path: '/api/making/orders/:id/picks',
  summary: 'Take parts from bins to the work; more than its order says as well',
  right: 'outbound.ship',
  ...acting,
  body: z.object(pickFields),
  response: Posted,
});
/** Where more of components could be taken from, for what was used and not taken. */
export const workTaking = endpoint({
  method: 'POST',
  path: '/api/making/orders/:id/taking',
  summary: 'Which bins so many of these components would be taken from',
  right: 'look',
  reads: true,
  seenBy: 'sites',
  shows: ['work', 'stock', 'lot', 'place', 'item'],
  params: one,
  body: z.object({ lines: z.array(z.object({ lineId: Id, quantity: Quantity })).max(mostLines) }),
  response: PickList,
});
export const addComponent = endpoint({
  method: 'POST',
  path: '/api/making/orders/:id/components',
  summary: 'Add a part that the order did not say, to be taken and recorded',
  right: 'making.record',
  ...acting,
  body: z.object({ itemId: needed('Choose the part.'), quantity: Quantity }),
  response: Posted.extend({ lineId: Id.nullable() }),
});
export const bringBack = endpoint({
  method: 'POST',
  path: '/api/making/orders/:id/back',
  summary: 'Bring parts from the work back to bins',
  right: 'making.record',
  ...acting,
  body: z.object({
    lines: z
      .array(z.object({ lineId: Id, binId: Id, lotId: Id.nullable().default(null), quantity: Quantity }))
      .min(1, 'Say what goes back.')
      .max(mostLines),
  }),
  response: Posted,
});
