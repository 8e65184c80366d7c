import { createHash } from 'node:crypto';
import { Column, fillPlaceholders, is, sql, SQL, type Placeholder } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type { Asking, Db, Query } from './database';

type Decode = (value: unknown) => unknown;

/** A statement put together once: its text, what goes into it, and how a row is read. */
interface Statement {
  name: string;
  text: string;
  params: unknown[];
  fields: { name: string; decode: Decode | null }[];
}

/**
 * A query that is put together once, for what is asked all day: `build` gets a placeholder for each of `names`.
 * Answers what asks it, with a value for each name.
 */
export function prepared<const N extends string, R>(
  names: readonly N[],
  build: (db: Db, value: Record<N, Placeholder>) => Query<R>,
): (tx: Asking, values: Record<N, unknown>) => Promise<R[]> {
  const ask = preparedFor(names, (db, value: Record<N, Placeholder>, _shape: null) => build(db, value));
  return (tx, values) => ask(tx, null, values);
}

/**
 * The same for a query that reads differently by what is asked: it is put together once for each shape, which says so in few words.
 * What differs from one asking to the next is no part of the shape; it goes into the placeholders, of which a shape need not use all.
 */
export function preparedFor<S, const N extends string, R>(
  names: readonly N[],
  build: (db: Db, value: Record<N, Placeholder>, shape: S) => Query<R>,
): (tx: Asking, shape: S, values: Record<N, unknown>) => Promise<R[]> {
  const made = new LRUCache<string, Statement>({ max: 500 });
  const value = placeholders(names);
  return async (tx, shape, values) => {
    const key = JSON.stringify(shape);
    let statement = made.get(key);
    if (!statement) {
      statement = statementOf(build(tx.db, value, shape));
      made.set(key, statement);
    }
    const { name, text, params, fields } = statement;
    const rows = await tx.ask(name, text, fillPlaceholders(params, values));
    return rows.map((row) => readRow<R>(fields, row));
  };
}

function statementOf<R>(query: Query<R>): Statement {
  const { sql: text, params } = query.toSQL();
  const fields = Object.entries(query._.selectedFields ?? {}).map(([name, field]) => ({ name, decode: decoderOf(field) }));
  return { name: createHash('sha1').update(text).digest('base64url'), text, params, fields };
}

/** How what the database answers for a field is read; null where it is as it comes. */
function decoderOf(field: unknown): Decode | null {
  if (is(field, Column)) return (value) => field.mapFromDriverValue(value);
  const piece: unknown = is(field, SQL.Aliased) ? field.sql : field;
  const decoder: unknown = is(piece, SQL) ? Reflect.get(piece, 'decoder') : undefined;
  if (typeof decoder !== 'object' || decoder === null) return null;
  const decode: unknown = Reflect.get(decoder, 'mapFromDriverValue');
  return typeof decode === 'function' ? (value) => decode.call(decoder, value) : null;
}

function readRow<R>(fields: Statement['fields'], row: unknown[]): R {
  const read: Record<string, unknown> = {};
  for (let at = 0; at < fields.length; at += 1) {
    const { name, decode } = fields[at] as Statement['fields'][number];
    const value = row[at];
    read[name] = decode === null || value === null ? value : decode(value);
  }
  return read as R;
}

interface Writing {
  prepare: (name: string) => { execute: (values: Record<string, unknown>) => Promise<unknown> };
}

let writings = 0;

/** A statement that writes and tells nothing, put together once on each connection. */
export function preparedWrite<const N extends string>(
  names: readonly N[],
  build: (db: Db, value: Record<N, Placeholder>) => Writing,
): (tx: Pick<Asking, 'db'>, values: Record<N, unknown>) => Promise<unknown> {
  const name = `writing_${(writings += 1)}`;
  const made = new WeakMap<Db, ReturnType<Writing['prepare']>>();
  const value = placeholders(names);
  return ({ db }, values) => {
    let statement = made.get(db);
    if (!statement) {
      statement = build(db, value).prepare(name);
      made.set(db, statement);
    }
    return statement.execute(values);
  };
}

const placeholders = <N extends string>(names: readonly N[]): Record<N, Placeholder> =>
  Object.fromEntries(names.map((name) => [name, sql.placeholder(name)])) as unknown as Record<N, Placeholder>;
