import { exchangeKeys } from '@larder/core/exchange/exchange';
import { z } from 'zod';
import { salesShows } from './outbound';
import { ItemFilter } from './catalog';
import { LotFilter } from './lots';
import { LowFilter } from './runningLow';
import { PastFilter, StockFilter } from './stock';
import { endpoint, FileAnswer } from './endpoint';
import { nouns } from './nouns';
import { Id, Paging, PathId, Search } from './values';

export const exportLists = [
  'items',
  'families',
  'suppliers',
  'terms',
  'customers',
  'prices',
  'boms',
  'bins',
  'policies',
  'demand',
  'stock',
  'low',
  'past',
  'lots',
  'trail',
  'purchases',
  'sales',
  'bills',
] as const;
export const rowStates = ['new', 'changed', 'same', 'refused'] as const;
export const mostRows = 50_000;

/** A file read by the browser: which field each column is, and its rows with numbers as `1234.5` and days as `YYYY-MM-DD`. */
export const ImportForm = z.object({
  kind: z.enum(exchangeKeys),
  fileName: z.string().max(200),
  /** The file's headings, to know it again. */
  headings: z.array(z.string().max(200)).max(200),
  /** Field of each column; null for columns left out. */
  fields: z.array(z.string().max(60).nullable()).max(200),
  rows: z
    .array(z.array(z.string().max(4000, 'A cell holds more than 4,000 characters.')))
    .min(1, 'The file has no rows.')
    .max(mostRows, 'At most 50,000 rows at once.'),
});
export type ImportForm = z.infer<typeof ImportForm>;

const Counts = z.object({ new: z.number(), changed: z.number(), same: z.number(), refused: z.number() });
const ImportRow = z.object({
  /** Line of the file; the headings are line 1. */
  line: z.number(),
  status: z.enum(rowStates),
  key: z.string(),
  reasons: z.array(z.string()),
  changes: z.array(z.object({ field: z.string(), was: z.string(), is: z.string() })),
});
export type ImportRow = z.infer<typeof ImportRow>;
const Import = z.object({
  id: Id,
  kind: z.enum(exchangeKeys),
  fileName: z.string(),
  state: z.enum(['checked', 'running', 'done', 'cancelled', 'failed']),
  total: z.number(),
  done: z.number(),
  problem: z.string(),
  counts: Counts,
});
export type Import = z.infer<typeof Import>;

const One = { params: z.object({ id: PathId }) };
export const checkImport = endpoint({
  method: 'POST',
  path: '/api/exchange/imports',
  summary: 'Dry run of a file: what every row would do',
  heavy: true,
  right: 'items.edit',
  changes: ['import'],
  body: ImportForm,
  response: Import,
});
export const getImport = endpoint({
  method: 'GET',
  path: '/api/exchange/imports/:id',
  summary: 'How far an import is, and its rows',
  right: 'items.edit',
  shows: ['import'],
  ...One,
  query: z.object({ status: z.enum(rowStates).optional(), ...Paging }),
  response: z.object({ import: Import, rows: z.array(ImportRow), next: z.string().nullable() }),
});
export const runImport = endpoint({
  method: 'POST',
  path: '/api/exchange/imports/:id/run',
  summary: 'Write all rows that were not refused, or none',
  right: 'items.edit',
  changes: nouns,
  ...One,
  response: Import,
});
export const cancelImport = endpoint({
  method: 'POST',
  path: '/api/exchange/imports/:id/cancel',
  summary: 'Stop an import that is being written; nothing of it stays',
  right: 'items.edit',
  changes: ['import'],
  ...One,
  response: Import,
});
export const refusedRows = endpoint({
  method: 'GET',
  path: '/api/exchange/imports/:id/refused',
  summary: 'The refused rows with their reasons, as CSV',
  heavy: true,
  right: 'items.edit',
  file: 'text/csv',
  ...One,
  response: FileAnswer,
});
export const keptColumns = endpoint({
  method: 'POST',
  path: '/api/exchange/columns',
  summary: 'Which fields the columns of a file like this were the last time',
  reads: true,
  right: 'items.edit',
  shows: ['import'],
  body: z.object({ kind: z.enum(exchangeKeys), headings: z.array(z.string().max(200)).max(200) }),
  response: z.object({ fields: z.array(z.string().nullable()).nullable() }),
});
export const exportFields = endpoint({
  method: 'GET',
  path: '/api/exchange/exports/:list/fields',
  summary: 'Fields a list can be exported with, and those this person chose last',
  right: 'look',
  shows: ['export', 'attribute'],
  seenBy: 'everyone',
  params: z.object({ list: z.enum(exportLists) }),
  response: z.object({
    fields: z.array(z.object({ key: z.string(), name: z.string() })),
    chosen: z.array(z.string()).nullable(),
    format: z.enum(['csv', 'xlsx']),
  }),
});
export const exportFile = endpoint({
  method: 'POST',
  path: '/api/exchange/exports/:list',
  summary: 'A list as a file, with chosen fields in their order',
  heavy: true,
  right: 'look',
  changes: ['export'],
  seenBy: 'sites',
  file: 'application/octet-stream',
  params: z.object({ list: z.enum(exportLists) }),
  body: z.object({
    fields: z.string().max(2000),
    format: z.enum(['csv', 'xlsx']).default('csv'),
    q: Search,
    siteId: Id.optional(),
    itemId: Id.optional(),
    priceListId: Id.optional(),
    items: ItemFilter.optional(),
    stock: StockFilter.optional(),
    /** Of stock as it stood: on which day, and of which items. */
    past: PastFilter.optional(),
    low: LowFilter.optional(),
    lots: LotFilter.optional(),
    /** Which orders or bills, as their list is held to. */
    show: z.enum(['drafts', 'waiting', ...salesShows]).optional(),
  }),
  response: FileAnswer,
});
