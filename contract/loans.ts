import { conditions, holderSorts, loanStates } from '@larder/core/stock/loans';
import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { inAllOf } from './inAll';
import { moved } from './nouns';
import { Amount, Day, Id, IdList, NeededText, page, Paging, PathId, Posted, Quantity, Search, ShortText, Text, Version } from './values';

/** Loans: things that holders have for a while, and bring back. */

const one = z.object({ id: PathId });
const lending = { right: 'stock.lend', posts: true as const, changes: moved } as const;
const mostLines = 500;

const LoanRow = z.object({
  id: Id,
  number: z.string(),
  state: z.enum(loanStates),
  holderId: Id,
  holder: z.string(),
  siteId: Id,
  site: z.string(),
  lentOn: Day,
  dueOn: Day.nullable(),
  overdue: z.boolean(),
  lines: z.number(),
  items: z.string(),
  lent: Amount,
  back: Amount,
  lost: Amount,
  out: Amount,
  /** Somebody is to be reminded of it. */
  reminds: z.boolean(),
});
export type LoanRow = z.infer<typeof LoanRow>;
export const loanShows = ['open', 'overdue', 'ended', 'all'] as const;
export const listLoans = endpoint({
  method: 'GET',
  path: '/api/loans',
  summary: 'Loans, by the day they are due',
  right: 'look',
  shows: ['loan', 'stock', 'party', 'place', 'item', 'reminder'],
  seenBy: 'sites',
  query: z.object({
    q: Search,
    show: z.enum(loanShows).default('open'),
    siteId: PathId.optional(),
    holderId: PathId.optional(),
    itemId: PathId.optional(),
    ...Paging,
  }),
  response: page(LoanRow),
});
export const loansInAll = inAllOf(listLoans, {});

const LoanLine = z.object({
  id: Id,
  loanId: Id,
  number: z.string(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  lotId: Id.nullable(),
  lot: z.string().nullable(),
  fromBinId: Id,
  fromBin: z.string(),
  siteId: Id,
  site: z.string(),
  lentOn: Day,
  dueOn: Day.nullable(),
  overdue: z.boolean(),
  lent: Amount,
  back: Amount,
  lost: Amount,
  out: Amount,
});
export type LoanLine = z.infer<typeof LoanLine>;
const Loan = LoanRow.extend({
  version: Version,
  note: z.string(),
  person: z.string(),
  lineRows: z.array(LoanLine),
  /** In what condition things came back. */
  conditions: z.array(z.object({ lineId: Id, at: z.string(), condition: z.enum(conditions), note: z.string(), quantity: Amount })),
  movements: z.array(
    z.object({ id: Id, kind: z.string(), postedAt: z.string(), person: z.string(), quantity: Amount, undone: z.boolean(), undoes: z.boolean() }),
  ),
  changes: z.array(z.object({ at: z.string(), person: z.string(), field: z.string(), was: z.string().nullable(), is: z.string() })),
});
export type Loan = z.infer<typeof Loan>;
export const getLoan = endpoint({
  method: 'GET',
  path: '/api/loans/:id',
  summary: 'A loan: what was lent, what is out, and how it came back',
  right: 'look',
  shows: ['loan', 'stock', 'party', 'item', 'lot', 'reminder'],
  seenBy: 'sites',
  params: one,
  response: Loan,
});
export const loanPaper = endpoint({
  method: 'GET',
  path: '/api/loans/:id/paper',
  summary: 'A loan as a PDF to be signed',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'application/pdf',
});

export const canBeLent = endpoint({
  method: 'GET',
  path: '/api/loans-from',
  summary: 'Where items lie that may be lent: bins, lots and serials, and how many are free',
  right: 'look',
  shows: ['stock', 'item', 'lot', 'place'],
  seenBy: 'sites',
  query: z.object({ items: IdList, siteId: PathId.optional() }),
  response: z.object({
    rows: z.array(
      z.object({
        itemId: Id,
        sku: z.string(),
        name: z.string(),
        unit: z.string(),
        step: z.string(),
        tracking: z.enum(['none', 'lot', 'serial']),
        places: z.array(
          z.object({
            siteId: Id,
            site: z.string(),
            binId: Id,
            bin: z.string(),
            lotId: Id.nullable(),
            lot: z.string().nullable(),
            quantity: Amount,
            free: Amount,
          }),
        ),
      }),
    ),
  }),
});
export type CanBeLent = z.infer<typeof canBeLent.response>['rows'][number];
const LendForm = z.object({
  holderId: Id.nullable()
    .default(null)
    .refine((id) => id !== null, 'Choose who gets it.'),
  dueOn: Day.nullable().default(null),
  note: Text.default(''),
  lines: z
    .array(z.object({ itemId: Id, lotId: Id.nullable().default(null), binId: Id, quantity: Quantity }))
    .min(1, 'Say what is lent.')
    .max(mostLines, 'At most 500 lines at once.'),
});
export type LendForm = z.input<typeof LendForm>;
export const lend = endpoint({
  ...lending,
  method: 'POST',
  path: '/api/loans',
  summary: 'Lend things: they leave their bins for the holder, and stay ours',
  body: LendForm,
  response: Posted.extend({ id: Id.nullable(), number: z.string().nullable() }),
});
export const changeLoan = endpoint({
  right: 'stock.lend',
  method: 'PUT',
  path: '/api/loans/:id',
  summary: 'Change the day a loan is due, or its note',
  params: one,
  changes: ['loan'],
  body: z.object({ version: Version, dueOn: Day.nullable(), note: Text }),
  response: z.object({ version: Version }),
});
const Part = { lineId: Id, quantity: Quantity };
const parts = <T extends z.ZodType>(line: T) => z.array(line).min(1, 'Say what came back.').max(mostLines, 'At most 500 lines at once.');
export const BackForm = z.object({
  lines: parts(
    z.object({
      ...Part,
      binId: Id.nullable()
        .default(null)
        .refine((id) => id !== null, 'Choose the bin it goes to.'),
      condition: z.enum(conditions).default('as it was'),
      note: ShortText.default(''),
    }),
  ),
});
export type BackForm = z.input<typeof BackForm>;
export const bringBack = endpoint({
  ...lending,
  method: 'POST',
  path: '/api/loans-back',
  summary: 'Take back what a holder brings, of one loan or several, in part or whole',
  body: BackForm,
  response: Posted,
});
export const LostForm = z.object({
  reasonId: Id.nullable()
    .default(null)
    .refine((id) => id !== null, 'Choose what became of it.'),
  note: ShortText.default(''),
  lines: parts(z.object(Part)),
});
export const loseLoan = endpoint({
  ...lending,
  method: 'POST',
  path: '/api/loans-lost',
  summary: 'Take off what a holder will not bring back; it goes to the account of the reason',
  body: LostForm,
  response: Posted,
});

const Holder = z.object({
  id: Id,
  name: z.string(),
  /** Null: a customer, and nothing else. */
  sort: z.enum(holderSorts).nullable(),
  isCustomer: z.boolean(),
  email: z.string(),
  phone: z.string(),
  version: Version,
});
export const listHolders = endpoint({
  method: 'GET',
  path: '/api/holders',
  summary: 'Who holds things of ours, and how many',
  right: 'look',
  shows: ['loan', 'party', 'stock'],
  seenBy: 'sites',
  query: z.object({ q: Search, show: z.enum(['holding', 'all']).default('holding'), ...Paging }),
  response: page(Holder.extend({ lines: z.number(), items: z.string(), overdue: z.number(), nextDue: Day.nullable() })),
});
export const holdersInAll = inAllOf(listHolders, {});
export const getHolder = endpoint({
  method: 'GET',
  path: '/api/holders/:id',
  summary: 'A holder, and all that they have',
  right: 'look',
  shows: ['loan', 'party', 'stock', 'item', 'lot'],
  seenBy: 'sites',
  params: one,
  response: Holder.extend({ lines: z.array(LoanLine) }),
});
export type HolderPage = z.infer<typeof getHolder.response>;
export const holderPaper = endpoint({
  method: 'GET',
  path: '/api/holders/:id/paper',
  summary: 'All that a holder has, as a PDF',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'application/pdf',
});
const HolderForm = z.object({
  name: NeededText,
  sort: z.enum(holderSorts, 'Say whether it is a person, a team or a place of work.'),
  email: ShortText.default(''),
  phone: ShortText.default(''),
});
export const createHolder = endpoint({
  right: 'stock.lend',
  method: 'POST',
  path: '/api/holders',
  summary: 'Add somebody who can hold what is lent: a person, a team or a place of work',
  changes: ['party', 'loan'],
  body: HolderForm,
  response: Holder,
});
export const editHolder = endpoint({
  right: 'stock.lend',
  method: 'PUT',
  path: '/api/holders/:id',
  summary: 'Change a holder',
  params: one,
  changes: ['party', 'loan'],
  body: HolderForm.extend({ version: Version }),
  response: Holder,
});
export const becomeHolder = endpoint({
  right: 'stock.lend',
  method: 'POST',
  path: '/api/holders/:id',
  summary: 'Let a customer hold what is lent',
  params: one,
  changes: ['party', 'loan'],
  response: Holder,
});
