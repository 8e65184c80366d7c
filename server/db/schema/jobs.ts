import { jsonb, pgTable, text } from 'drizzle-orm/pg-core';
import { key } from './columns';

/** What a change causes, written in its transaction: the reader of the outbox makes a job of it and takes the row away. */
export const outbox = pgTable('outbox', {
  id: key(),
  task: text().notNull(),
  payload: jsonb().notNull(),
  /** What it is about: while a job about the same waits, there is no second one. */
  about: text().notNull(),
});
