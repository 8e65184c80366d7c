import { sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';

export const lower = (text: PgColumn | SQL | string): SQL<string> => sql`lower(${text})`;

/** The same words, in capitals or not. */
export const sameText = (column: PgColumn, text: string | SQL): SQL<boolean> => sql`lower(${column}) = lower(${text})`;
