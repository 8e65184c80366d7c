import type { ColumnLayout } from '@larder/contract/lists';
import type { CheckedRow, Row } from '@larder/core/exchange/rows';
import type { ExchangeKey } from '@larder/core/exchange/exchange';
import { sql } from 'drizzle-orm';
import { boolean, index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { bytea, key, moment } from './columns';
import { person } from './people';

const ofPerson = () =>
  integer('person_id')
    .notNull()
    .references(() => person.id);

/** A list's filters, kept by a person under a name. */
export const keptView = pgTable(
  'kept_view',
  {
    id: key(),
    personId: ofPerson(),
    /** Which list, such as `items`. */
    list: text().notNull(),
    name: text().notNull(),
    /** The address's search part. */
    search: text().notNull(),
    pinned: boolean().notNull().default(false),
    /** Everybody has it. */
    shared: boolean().notNull().default(false),
    /** Its columns; null where the list has those that the person has otherwise. */
    layout: jsonb().$type<ColumnLayout>(),
  },
  (t) => [uniqueIndex('kept_view_name').on(t.personId, t.list, sql`lower(${t.name})`)],
);

/** How a person has laid out the columns of a list. */
export const keptLayout = pgTable('kept_layout', { personId: ofPerson(), list: text().notNull(), layout: jsonb().$type<ColumnLayout>().notNull() }, (t) => [
  primaryKey({ columns: [t.personId, t.list] }),
]);

/** Fields and their order that a person last exported a list with. */
export const keptExport = pgTable(
  'kept_export',
  { personId: ofPerson(), list: text().notNull(), fields: text().array().notNull(), format: text().$type<'csv' | 'xlsx'>().notNull() },
  (t) => [primaryKey({ columns: [t.personId, t.list] })],
);

/** Which column of a file meant which field, by the file's headings. */
export const keptColumns = pgTable(
  'kept_columns',
  { personId: ofPerson(), kind: text().notNull(), headings: text().notNull(), fields: jsonb().$type<(string | null)[]>().notNull() },
  (t) => [primaryKey({ columns: [t.personId, t.kind, t.headings] })],
);

/** A file on its way in: its rows as read, what the dry run said, and how far the writing is. */
export const importJob = pgTable('import_job', {
  id: key(),
  personId: ofPerson(),
  kind: text().$type<ExchangeKey>().notNull(),
  fileName: text('file_name').notNull(),
  at: moment().notNull(),
  rows: jsonb().$type<{ fields: string[]; rows: Row[] }>().notNull(),
  report: jsonb().$type<CheckedRow[]>().notNull(),
  /** How many rows of the report are new, changed, the same, refused. */
  counts: jsonb().$type<Record<CheckedRow['status'], number>>().notNull().default({ new: 0, changed: 0, same: 0, refused: 0 }),
  state: text().$type<'checked' | 'running' | 'done' | 'failed' | 'cancelled'>().notNull(),
  done: integer().notNull().default(0),
  cancelWanted: boolean('cancel_wanted').notNull().default(false),
  problem: text().notNull().default(''),
  /** When the writing was last heard of. */
  heardAt: moment('heard_at'),
});

/** What the printer was given, kept. */
export const printJob = pgTable(
  'print_job',
  { id: key(), personId: ofPerson(), at: moment().notNull(), title: text().notNull(), pages: integer().notNull(), pdf: bytea().notNull() },
  (t) => [index('print_job_at').on(t.at)],
);
