import { z } from 'zod';
import { endpoint } from './endpoint';
import { Amount, Code, Day, Id, Paging, page, PathId, Search } from './values';

const OutsideAccount = z.object({ code: z.string(), name: z.string() });
const Mapping = z.object({ accountId: Id, code: z.string(), name: z.string(), outsideCode: z.string().nullable(), waiting: z.number() });
const Standing = z.object({
  mapping: z.array(Mapping),
  /** Their accounts as they were brought in last. */
  outside: z.array(OutsideAccount),
  /** Entries that have not gone, those of them whose accounts are all mapped, and those that have gone. */
  waiting: z.number(),
  ready: z.number(),
  gone: z.number(),
});
export type Standing = z.infer<typeof Standing>;

export const handover = endpoint({
  method: 'GET',
  path: '/api/books/handover',
  summary: 'What waits to be handed over to the accounting service, and which accounts are mapped',
  right: 'costs.see',
  shows: ['handover', 'journal'],
  response: Standing,
});
export const bringInAccounts = endpoint({
  method: 'POST',
  path: '/api/books/handover/accounts',
  summary: 'Import the accounts of the accounting service, to map ours to',
  right: 'setup.edit',
  changes: ['handover'],
  response: Standing,
});
export const mapAccounts = endpoint({
  method: 'PUT',
  path: '/api/books/handover/mapping',
  summary: 'Say to which of their accounts each of ours is handed over',
  right: 'setup.edit',
  changes: ['handover'],
  body: z.object({ rows: z.array(z.object({ accountId: Id, outsideCode: Code.nullable() })).max(500) }),
  response: Standing,
});
export const handOver = endpoint({
  method: 'POST',
  path: '/api/books/handover/documents',
  summary: 'Hand over the oldest entries that have not gone, up to a day, at most a thousand at once',
  right: 'books.bill',
  changes: ['handover'],
  body: z.object({ through: Day.nullable().default(null), entryId: Id.nullable().default(null) }),
  response: z.object({ sent: z.number(), standing: Standing }),
});
const HandedRow = z.object({
  id: Id,
  entryId: Id,
  reference: z.string(),
  outsideNumber: z.string(),
  day: Day,
  text: z.string(),
  amount: Amount,
  sentAt: z.string(),
  person: z.string(),
  takenBackAt: z.string().nullable(),
  takenBackBy: z.string().nullable(),
});
export type HandedRow = z.infer<typeof HandedRow>;
export const listHanded = endpoint({
  method: 'GET',
  path: '/api/books/handover/documents',
  summary: 'What has gone to the accounting service, the last first',
  right: 'costs.see',
  shows: ['handover'],
  query: z.object({ q: Search, ...Paging }),
  response: page(HandedRow),
});
export const takeBack = endpoint({
  method: 'POST',
  path: '/api/books/handover/documents/:id/back',
  summary: 'Reverse a document at the accounting service; its entry may go out again',
  right: 'books.bill',
  changes: ['handover', 'journal'],
  params: z.object({ id: PathId }),
  response: Standing,
});
export const compare = endpoint({
  method: 'GET',
  path: '/api/books/handover/comparison',
  summary: 'Both sides compared: balances by account, and documents that only one side has',
  right: 'costs.see',
  shows: ['handover', 'journal'],
  response: z.object({
    documents: z.number(),
    accounts: z.array(z.object({ code: z.string(), name: z.string(), ours: Amount, theirs: Amount, same: z.boolean() })),
    missing: z.array(z.string()),
    unknown: z.array(z.string()),
    different: z.array(z.string()),
  }),
});
