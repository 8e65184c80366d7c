import { is, sql, type Column, type GetColumnData, type SQL } from 'drizzle-orm';
import { PgCustomColumn, PgNumeric, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';

/** What a row is put together of: columns, or typed pieces of SQL (a decimal among those as text). */
export type Fields = Record<string, PgColumn | SQL | SQL.Aliased>;

type Value<F> = F extends Column ? GetColumnData<F, 'query'> : F extends SQL<infer T> | SQL.Aliased<infer T> ? T : never;
export type RowOf<F extends Fields> = { [K in keyof F]: Value<F[K]> };

interface Listing {
  orderBy?: SQL | PgColumn;
  /** Only these of the rows that are brought together. */
  where?: SQL;
  distinct?: boolean;
}

/** An object of JSON for a row. Decimals go as text, so that no digit is lost; moments come back as they do from their columns. */
export const jsonRow = <F extends Fields>(fields: F): SQL<RowOf<F>> => sql`${built(fields)}`.mapWith(reading(fields));

/** The rows of a group as one list; an empty list where there is none. */
export function jsonList<F extends Fields>(fields: F, { orderBy, where, distinct = false }: Listing = {}): SQL<RowOf<F>[]> {
  const order = orderBy ? sql` order by ${orderBy}` : undefined;
  const only = where ? sql` filter (where ${where})` : undefined;
  return sql`coalesce(json_agg(${distinct ? sql`distinct ` : undefined}${built(fields)}${order})${only}, '[]'::json)`.mapWith(lists(fields));
}

/** The rows of a query of its own as one list: `from` adds where they are from and which. */
export function jsonRows<F extends Fields>(
  fields: F,
  from: (select: ReturnType<typeof selectList<F>>) => { getSQL: () => SQL },
  listing: Listing = {},
): SQL<RowOf<F>[]> {
  return sql`(${from(selectList(fields, listing))})`.mapWith(lists(fields));
}

const selectList = <F extends Fields>(fields: F, listing: Listing) => new QueryBuilder().select({ list: jsonList(fields, listing) });

/** Plain values of a group as one list; an empty list where there is none. */
export const jsonValues = <T extends Column | SQL>(value: T, { orderBy, where, distinct = false }: Listing = {}): SQL<Value<T>[]> =>
  sql`coalesce(json_agg(${distinct ? sql`distinct ` : undefined}${value}${orderBy ? sql` order by ${orderBy}` : undefined})${where ? sql` filter (where ${where})` : undefined}, '[]'::json)`;

/** The one value of a query of one field: null where it has no row. */
export const scalar = <T>(query: { getSQL: () => SQL; _: { result: Record<string, T>[] } }): SQL<T | null> => sql`(${query})`;

function built(fields: Fields): SQL {
  const parts = Object.entries(fields).map(([name, field]) => sql`${sql.raw(`'${name}'`)}, ${is(field, PgNumeric) ? sql`${field}::text` : field}`);
  return sql`json_build_object(${sql.join(parts, sql`, `)})`;
}

function lists<F extends Fields>(fields: F): (rows: RowOf<F>[]) => RowOf<F>[] {
  const read = reading(fields);
  return (rows) => rows.map(read);
}

/** Reads rows that come as JSON: most fields are there as they are to be, the others are read as their columns are. */
function reading<F extends Fields>(fields: F): (row: RowOf<F>) => RowOf<F> {
  const odd = Object.entries(fields).flatMap(([name, field]) => (is(field, PgCustomColumn) ? [{ name, field }] : []));
  if (odd.length === 0) return (row) => row;
  return (row) => {
    const read = odd.map(({ name, field }) => [name, row[name] === null ? null : field.mapFromDriverValue(row[name] as string)]);
    return { ...row, ...Object.fromEntries(read) };
  };
}
