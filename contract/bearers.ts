import { z } from 'zod';
import { endpoint } from './endpoint';
import { inAllOf } from './inAll';
import { Amount, Day, Id, page, Paging, PathId, Search } from './values';

const Days = { from: Day.optional(), to: Day.optional() };

export const departmentReport = endpoint({
  method: 'GET',
  path: '/api/books/departments',
  summary: 'What each department bears on each account, in days from one to another',
  right: 'costs.see',
  shows: ['journal', 'reference'],
  query: z.object(Days),
  response: z.object({
    /** By department, then account. */
    rows: z.array(
      z.object({
        departmentId: Id,
        department: z.string(),
        accountId: Id,
        code: z.string(),
        account: z.string(),
        entries: z.number().int(),
        amount: Amount,
      }),
    ),
    total: Amount,
  }),
});

const OwnUse = z.object({
  movementId: Id,
  day: Day,
  person: z.string(),
  department: z.string().nullable(),
  accountId: Id,
  note: z.string(),
  /** What was used, as `SKU × 3`, the first few of it. */
  used: z.string(),
  /** The tax by its code, and its rate then in per cent. */
  taxCode: z.string(),
  rate: Amount,
  /** What the goods had cost and the tax due on it; below zero where an undo takes it back. */
  base: Amount,
  tax: Amount,
  /** It undoes another, or was undone. */
  undo: z.boolean(),
  undone: z.boolean(),
});
export type OwnUse = z.infer<typeof OwnUse>;
export const ownUse = endpoint({
  method: 'GET',
  path: '/api/books/own-use',
  summary: 'What the business used itself and owes tax on, newest first; what was undone stands with what undid it',
  right: 'costs.see',
  shows: ['journal', 'stock', 'reference'],
  query: z.object({ q: Search, departmentId: PathId.optional(), ...Days, ...Paging }),
  response: page(OwnUse),
});
export const ownUseInAll = inAllOf(ownUse, {
  base: Amount,
  tax: Amount,
  /** What the account of that tax took in those days, whatever it was for: the same as `tax` where neither words nor a department are asked for. */
  account: z.object({ id: Id, code: z.string(), name: z.string(), booked: Amount }),
});
