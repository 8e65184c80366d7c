import { bookPurposes } from '@larder/core/books/purpose';
import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { Amount, Code, Day, Id, NeededText, Paging, page, PathId, Search } from './values';

export const accountTypes = ['asset', 'inventory', 'liability', 'equity', 'expense', 'income'] as const;
const Account = z.object({ id: Id, code: z.string(), name: z.string(), type: z.enum(accountTypes), purpose: z.string().nullable(), balance: Amount });
export type Account = z.infer<typeof Account>;
export const listAccounts = endpoint({
  method: 'GET',
  path: '/api/books/accounts',
  summary: 'The chart of accounts with balances',
  right: 'costs.see',
  shows: ['journal'],
  response: z.object({ rows: z.array(Account) }),
});
export const createAccount = endpoint({
  method: 'POST',
  path: '/api/books/accounts',
  summary: 'Add an account',
  right: 'setup.edit',
  changes: ['journal', 'handover'],
  body: z.object({ code: Code, name: NeededText, type: z.enum(accountTypes) }),
  response: Account,
});
export const editAccount = endpoint({
  method: 'PUT',
  path: '/api/books/accounts/:id',
  summary: 'Rename or renumber an account',
  right: 'setup.edit',
  changes: ['journal', 'handover'],
  params: z.object({ id: PathId }),
  body: z.object({ code: Code, name: NeededText }),
  response: Account,
});
export const mapPurpose = endpoint({
  method: 'POST',
  path: '/api/books/purposes',
  summary: 'Say which account postings use for a purpose from now on',
  right: 'setup.edit',
  changes: ['journal', 'handover', 'reference'],
  body: z.object({ purpose: z.enum(bookPurposes), accountId: Id }),
  response: Account,
});
const Doc = z.object({
  kind: z.enum(['bill', 'invoice', 'landed cost', 'purchase order', 'sales order', 'work order', 'movement']),
  id: Id,
  number: z.string(),
});
const OpenItem = z.object({ document: Doc.nullable(), text: z.string(), amount: Amount });
export const getAccount = endpoint({
  method: 'GET',
  path: '/api/books/accounts/:id',
  summary: 'One account: its open items, when it clears something',
  right: 'costs.see',
  shows: ['journal', 'bill', 'landed', 'purchase'],
  params: z.object({ id: PathId }),
  response: Account.extend({ openItems: z.array(OpenItem).nullable() }),
});
const JournalRow = z.object({
  id: Id,
  day: Day,
  text: z.string(),
  document: Doc.nullable(),
  lines: z.array(
    z.object({ accountId: Id, code: z.string(), name: z.string(), sku: z.string().nullable(), department: z.string().nullable(), amount: Amount }),
  ),
});
export type JournalRow = z.infer<typeof JournalRow>;
const Which = { q: Search, accountId: PathId.optional(), departmentId: PathId.optional(), from: Day.optional(), to: Day.optional() };
export const journal = endpoint({
  method: 'GET',
  path: '/api/books/journal',
  summary: 'Journal entries, newest first',
  right: 'costs.see',
  shows: ['journal'],
  query: z.object({ ...Which, ...Paging }),
  response: page(JournalRow),
});
export const journalFile = endpoint({
  method: 'GET',
  path: '/api/books/journal/file',
  summary: 'The journal as CSV or as a plain-text double-entry journal',
  right: 'costs.see',
  file: 'text/plain',
  heavy: true,
  query: z.object({ format: z.enum(['csv', 'journal']).default('csv'), from: Day.optional(), to: Day.optional() }),
  response: FileAnswer,
});
