import { getTableColumns, Placeholder, sql, type GetColumnData, type InferInsertModel, type SQL, type SQLWrapper } from 'drizzle-orm';
import { QueryBuilder, type PgColumn, type PgTable, type PgUpdateSetSource } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import type { Tx } from './database';

type Columns = Record<string, PgColumn | OrNull<PgColumn>>;
type Value<C> = C extends OrNull<infer D extends PgColumn> ? GetColumnData<D> | null : C extends PgColumn ? GetColumnData<C> : never;
type GivenRow<C extends Columns> = { [K in keyof C as null extends Value<C[K]> ? never : K]: Value<C[K]> } & {
  [K in keyof C as null extends Value<C[K]> ? K : never]?: Value<C[K]>;
};
type GivenFields<C extends Columns> = { [K in keyof C]: SQL<Value<C[K]>> };

interface OrNull<C extends PgColumn> {
  orNull: C;
}
/** A column's type, for what may be given or not. */
export const orNull = <C extends PgColumn>(column: C): OrNull<C> => ({ orNull: column });

/** Any of many: they go as one value, so that the statement reads the same however many they are. */
export const among = (column: PgColumn | SQL, values: readonly unknown[] | Placeholder): SQL<boolean> =>
  sql`${column} = any(${values instanceof Placeholder ? values : sql.param(values)})`;

/**
 * More than nothing, and not nothing. The nought stands in the statement and is no value that is given to it:
 * only so may a plan that is made once use the indexes of rows of which something is left.
 */
export const positive = (column: PgColumn | SQLWrapper): SQL => sql`${column} > 0`;
export const notNone = (column: PgColumn | SQLWrapper): SQL => sql`${column} <> 0`;

/** At one of these sites; anywhere, where they are all. */
export const atSites = (column: PgColumn | SQL, sites: Sites | Placeholder): SQL<boolean> | undefined => (sites === null ? undefined : among(column, sites));

/** At one of these sites, or outside of all. */
export const atSitesOrOutside = (column: PgColumn, sites: Sites): SQL<boolean> | undefined =>
  sites === null ? undefined : sql`(${column} is null or ${among(column, sites)})`;

/** The order in which the values were given. */
export const inOrderOf = (column: PgColumn, values: readonly number[]): SQL => sql`array_position(${sql.param(values)}::int[], ${column})`;

/**
 * Rows that are handed to a statement, as a table of the name `name` whose columns are of the types of those given: `rows` to read from, `row` for what is in it.
 * They go as one value of JSON, so that the statement reads the same however many they are; `jsonOf` makes it for a placeholder.
 */
export function given<C extends Columns>(name: string, columns: C, values: readonly GivenRow<C>[] | Placeholder): { rows: SQL; row: GivenFields<C> } {
  const alias = sql.identifier(name);
  const entries = Object.entries(columns).map(([key, column]) => [key, 'orNull' in column ? column.orNull : column] as const);
  const types = entries.map(([key, column]) => sql`${sql.identifier(key)} ${sql.raw(column.getSQLType())}`);
  return {
    rows: sql`jsonb_to_recordset(${values instanceof Placeholder ? values : jsonOf(values)}::jsonb) as ${alias}(${sql.join(types, sql`, `)})`,
    row: Object.fromEntries(entries.map(([key, column]) => [key, sql`${alias}.${sql.identifier(key)}`.mapWith(column)])) as GivenFields<C>,
  };
}

/** Rows as the one value in which `given` takes them. */
export const jsonOf = (rows: readonly object[]): string => JSON.stringify(rows);

interface SelectInto<T extends PgTable> {
  getSQL: () => SQL;
  _: { selectedFields: { [K in keyof InferInsertModel<T>]?: unknown } };
}

/** `insert ... select`: the fields of the query go to the table's columns of the same names, the others are what they are by default; `after` says what else (on conflict, returning). */
export function insertFrom<T extends PgTable>(table: T, query: SelectInto<T>, after?: SQL): SQL {
  const columns = getTableColumns(table);
  const names = Object.keys(query._.selectedFields).map((key) => {
    const column = columns[key];
    if (!column) throw new Error(`the table has no column ${key}`);
    return sql.identifier(column.name);
  });
  return sql`insert into ${table} (${sql.join(names, sql`, `)}) ${query} ${after}`;
}

/** Writes rows of one shape, however many, by a statement that reads the same for all; none where there is none. */
export async function insertRows<T extends PgTable>({ db }: Pick<Tx, 'db'>, table: T, rows: readonly InferInsertModel<T>[], after?: SQL): Promise<void> {
  const [first] = rows;
  if (!first) return;
  const all: Record<string, PgColumn> = getTableColumns(table);
  const columns = Object.fromEntries(Object.keys(first).flatMap((key) => (all[key] ? [[key, all[key]]] : [])));
  const { rows: source, row } = given('source', columns, rows);
  await db.execute(insertFrom(table, new QueryBuilder().select(row).from(source), after));
}

/** A source of one row, for a query that gathers others. */
export const oneRow = sql`(values (1)) one_row`;

/** Changes rows by their ids, all in the same columns, by a statement that reads the same however many they are; `also` is set on each of them. */
export async function updateRows<T extends PgTable & { id: PgColumn }>(
  { db }: Pick<Tx, 'db'>,
  table: T,
  rows: readonly ({ id: number } & Partial<InferInsertModel<T>>)[],
  also: PgUpdateSetSource<T> = {},
): Promise<void> {
  const [first] = rows;
  if (!first) return;
  const all: Record<string, PgColumn> = getTableColumns(table);
  const columns = Object.fromEntries(Object.keys(first).flatMap((key) => (all[key] ? [[key, all[key]]] : [])));
  const { rows: source, row } = given('source', columns, rows);
  const { id, ...set } = row;
  if (Object.keys(set).length + Object.keys(also).length === 0) return;
  await db
    .update(table)
    .set({ ...set, ...also } as PgUpdateSetSource<T>)
    .from(source)
    .where(sql`${table.id} = ${id}`);
}
