import { sql, type GetColumnData, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';

export const lower = (text: PgColumn | SQL | string): SQL<string> => sql`lower(${text})`;

/** The same words, in capitals or not. */
export const sameText = (column: PgColumn, text: string | SQL): SQL<boolean> => sql`lower(${column}) = lower(${text})`;

/** A decimal without the zeros behind it. */
export const plain = <C extends PgColumn>(column: C): SQL<GetColumnData<C>> => sql`trim_scale(${column})::text`;
