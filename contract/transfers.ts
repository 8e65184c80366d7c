import { transferStates } from '@larder/core/stock/transfers';
import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { inAllOf } from './inAll';
import { moved } from './nouns';
import { pickFields, PickList } from './picking';
import { Amount, Day, Id, IdList, page, Paging, PathId, Posted, Quantity, Search, ShortText, Stage, Text, Version } from './values';

/** Transfers: goods that one site sends to another, over the time they are in transit between. */

const one = z.object({ id: PathId });
const acting = { params: one, posts: true as const, changes: moved };
const needed = (sentence: string) =>
  Id.nullable()
    .default(null)
    .refine((id) => id !== null, sentence);

const Line = z.object({
  itemId: Id,
  /** Base units. */
  quantity: Quantity,
  /** The bin it is taken from; null: as one walks. */
  fromBinId: Id.nullable().default(null),
  /** The bin it goes to there; null: where it is proposed as it comes. */
  toBinId: Id.nullable().default(null),
  /** The sales line that is short of it. */
  salesLineId: Id.nullable().default(null),
});
const head = {
  sendBy: Day,
  expectedOn: Day.nullable().default(null),
  /** Null: our own van. */
  carrierId: Id.nullable().default(null),
  tracking: ShortText.default(''),
  note: Text.default(''),
};
const mostLines = 500;
export const TransferForm = z.object({
  fromSiteId: needed('Choose the site that sends.'),
  toSiteId: needed('Choose the site it goes to.'),
  ...head,
  lines: z.array(Line).min(1, 'Say what is to go.').max(mostLines, 'At most 500 lines at once.'),
});
export type TransferForm = z.input<typeof TransferForm>;
export const TransferChange = z.object({
  version: Version,
  ...head,
  /** All its lines: those with an id become what is said of them, those without are added, and of those not named the rest is cancelled. */
  lines: z.array(Line.extend({ id: Id.nullable().default(null) })).max(mostLines, 'At most 500 lines at once.'),
});

const TransferRow = z.object({
  id: Id,
  number: z.string(),
  state: z.enum(transferStates),
  fromSiteId: Id,
  from: z.string(),
  toSiteId: Id,
  to: z.string(),
  sendBy: Day,
  expectedOn: Day.nullable(),
  /** The day the first of it left. */
  since: Day.nullable(),
  /** It should have been sent, or be there. */
  late: z.boolean(),
  lines: z.number(),
  items: z.string(),
  /** Base units in all. */
  quantity: Amount,
  picked: Amount,
  gone: Amount,
  inTransit: Amount,
  arrived: Amount,
  lost: Amount,
  short: Amount,
});
export type TransferRow = z.infer<typeof TransferRow>;
export const transferShows = ['open', 'to-send', 'in-transit', 'done', 'all'] as const;
export const listTransfers = endpoint({
  method: 'GET',
  path: '/api/transfers',
  summary: 'Transfers between sites, by the day they are sent',
  right: 'look',
  shows: ['transfer', 'stock', 'place', 'item'],
  seenBy: 'sites',
  query: z.object({
    q: Search,
    show: z.enum(transferShows).default('open'),
    siteId: PathId.optional(),
    fromSiteId: PathId.optional(),
    toSiteId: PathId.optional(),
    itemId: PathId.optional(),
    ...Paging,
  }),
  response: page(TransferRow),
});
export const transfersInAll = inAllOf(listTransfers, {});

/** What of a line lies on the bench or is in transit, lot by lot. */
const Lots = z.array(z.object({ lineId: Id, lotId: Id.nullable(), lot: z.string().nullable(), quantity: Amount }));
const TransferLine = z.object({
  id: Id,
  position: z.number(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  tracking: z.enum(['none', 'lot', 'serial']),
  fromBinId: Id.nullable(),
  fromBin: z.string().nullable(),
  toBinId: Id.nullable(),
  toBin: z.string().nullable(),
  /** The order that waits for it. */
  sale: z.object({ orderId: Id, number: z.string() }).nullable(),
  quantity: Amount,
  cancelled: Amount,
  reserved: Amount,
  wanted: Amount,
  short: Amount,
  picked: Amount,
  gone: Amount,
  inTransit: Amount,
  arrived: Amount,
  lost: Amount,
});
const Transfer = TransferRow.extend({
  version: Version,
  carrierId: Id.nullable(),
  carrier: z.string().nullable(),
  tracking: z.string(),
  note: z.string(),
  stages: z.array(Stage),
  lines: z.array(TransferLine),
  onBench: Lots,
  underWay: Lots,
  movements: z.array(
    z.object({
      id: Id,
      kind: z.string(),
      postedAt: z.string(),
      person: z.string(),
      quantity: Amount,
      undone: z.boolean(),
      undoes: z.boolean(),
    }),
  ),
  changes: z.array(z.object({ at: z.string(), person: z.string(), field: z.string(), was: z.string().nullable(), is: z.string() })),
});
export type Transfer = z.infer<typeof Transfer>;
export const getTransfer = endpoint({
  method: 'GET',
  path: '/api/transfers/:id',
  summary: 'A transfer: what is to go, what lies on the bench for it, what is in transit, and what became of it',
  right: 'look',
  shows: ['transfer', 'stock', 'lot', 'place', 'item', 'sale', 'carrier'],
  seenBy: 'sites',
  params: one,
  response: Transfer,
});
export const transferPaper = endpoint({
  method: 'GET',
  path: '/api/transfers/:id/paper',
  summary: 'What goes with the goods from one site to the other, as a PDF',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'application/pdf',
});
export const transferFigures = endpoint({
  method: 'GET',
  path: '/api/transfer-figures',
  summary: 'How items stand at the site that sends and the one they go to, or what lines of orders are short of there',
  right: 'look',
  shows: ['stock', 'item', 'place', 'sale'],
  seenBy: 'sites',
  query: z.object({ fromSiteId: PathId.optional(), toSiteId: PathId.optional(), items: IdList.default(''), salesLines: IdList.default('') }),
  response: z.object({
    rows: z.array(
      z.object({
        itemId: Id,
        sku: z.string(),
        name: z.string(),
        unit: z.string(),
        step: z.string(),
        salesLineId: Id.nullable(),
        /** The order that is short, and the site it is short at. */
        order: z.string().nullable(),
        toSiteId: Id.nullable(),
        shipBy: Day.nullable(),
        /** Free where it comes from; null while that is not chosen. */
        free: Amount.nullable(),
        /** Short where it goes, or of that sales line. */
        short: Amount,
        /** What the site it goes to lacks of its order-up-to level, when it has one. */
        upTo: Amount,
      }),
    ),
    /** Sites, and how many of these items they could give, the one that gives most first. */
    sites: z.array(z.object({ siteId: Id, site: z.string(), items: z.number() })),
  }),
});

export const transferProposals = endpoint({
  method: 'GET',
  path: '/api/transfer-proposals',
  summary: 'What sites lack and others have too many of, by their levels: what could be sent instead of bought',
  right: 'look',
  shows: ['stock', 'item', 'place', 'transfer'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({
    /** One for each pair of sites, the one with most lines first. */
    rows: z.array(
      z.object({
        fromSiteId: Id,
        from: z.string(),
        toSiteId: Id,
        to: z.string(),
        lines: z.array(
          z.object({
            itemId: Id,
            sku: z.string(),
            name: z.string(),
            unit: z.string(),
            quantity: Amount,
            /** Free where it comes from, and what that site keeps. */
            free: Amount,
            keeps: Amount,
            /** Free, on its way and short where it goes, and its levels. */
            freeThere: Amount,
            incomingThere: Amount,
            shortThere: Amount,
            reorderPoint: Amount.nullable(),
            orderUpTo: Amount.nullable(),
          }),
        ),
      }),
    ),
  }),
});
export type TransferProposal = z.infer<typeof transferProposals.response>['rows'][number];

export const createTransfer = endpoint({
  method: 'POST',
  path: '/api/transfers',
  summary: 'Have a site send goods to another: what is free there is reserved for it',
  right: 'stock.transfer',
  changes: moved,
  posts: true,
  body: TransferForm,
  response: Posted.extend({ id: Id.nullable(), number: z.string().nullable() }),
});
export const changeTransfer = endpoint({
  method: 'PUT',
  path: '/api/transfers/:id',
  summary: 'Change what is to go, as far as it is not picked, and when and how it goes',
  right: 'stock.transfer',
  ...acting,
  body: TransferChange,
  response: Posted,
});
export const cancelTransfer = endpoint({
  method: 'POST',
  path: '/api/transfers/:id/cancel',
  summary: 'Cancel what is not picked of a transfer',
  right: 'stock.transfer',
  ...acting,
  body: z.object({ version: Version }),
  response: Posted,
});
export const transferPickList = endpoint({
  method: 'GET',
  path: '/api/transfers/:id/pick-list',
  summary: 'What to take from which bin for a transfer, in walking order',
  right: 'look',
  shows: ['transfer', 'stock', 'lot', 'place', 'item'],
  seenBy: 'sites',
  params: one,
  response: PickList,
});
export const pickTransfer = endpoint({
  method: 'POST',
  path: '/api/transfers/:id/picks',
  summary: 'Take goods from bins to the bench for a transfer',
  right: 'outbound.ship',
  ...acting,
  body: z.object(pickFields),
  response: Posted,
});
export const sendTransfer = endpoint({
  method: 'POST',
  path: '/api/transfers/:id/send',
  summary: 'Send goods of a transfer on their way, from the bench or straight from their bins',
  right: 'stock.transfer',
  ...acting,
  body: z.object({
    lines: z
      .array(
        z.object({
          lineId: Id,
          /** Null: it lies on the bench. */
          binId: Id.nullable().default(null),
          lotId: Id.nullable().default(null),
          quantity: Quantity,
        }),
      )
      .min(1, 'Say what goes.')
      .max(mostLines, 'At most 500 lines at once.'),
    carrierId: Id.nullable().default(null),
    tracking: ShortText.default(''),
    expectedOn: Day.nullable().default(null),
  }),
  response: Posted,
});
export const loseTransfer = endpoint({
  method: 'POST',
  path: '/api/transfers/:id/lost',
  summary: 'Say that goods in transit will not arrive',
  right: 'stock.transfer',
  ...acting,
  body: z.object({
    reasonId: needed('Choose what became of them.'),
    note: ShortText.default(''),
    lines: z
      .array(z.object({ lineId: Id, lotId: Id.nullable().default(null), quantity: Quantity }))
      .min(1, 'Say what is lost.')
      .max(mostLines, 'At most 500 lines at once.'),
  }),
  response: Posted,
});
