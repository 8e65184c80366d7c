import { pgTable, text } from 'drizzle-orm/pg-core';

/** The functions and triggers that were put in, each with the hash of its file. */
export const rule = pgTable('rule', { name: text().primaryKey(), hash: text().notNull() });
