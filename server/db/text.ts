import { sql, type GetColumnData, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';

export const lower = (text: PgColumn | SQL | string): SQL<string> => sql`lower(${text})`;

/** The same words, in capitals or not. */
export const sameText = (column: PgColumn, text: string | SQL): SQL<boolean> => sql`lower(${column}) = lower(${text})`;

/** Where something is, in words: a bin with its site, what is in transit with where to, what is lent with who has it. */
export const placeInWords = (at: { kind: PgColumn; code: PgColumn }, of: { name: PgColumn }): SQL<string> =>
  sql<string>`case when ${at.kind} = 'transit' then 'in transit to ' || ${of.name} when ${at.kind} = 'holder' then 'with ' || ${at.code} else concat_ws(' ', ${of.name}, ${at.code}) end`;

/** A decimal without the zeros behind it. */
export const plain = <C extends PgColumn>(column: C): SQL<GetColumnData<C>> => sql`trim_scale(${column})::text`;
