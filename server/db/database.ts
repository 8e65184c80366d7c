import { createHash } from 'node:crypto';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Column, is } from 'drizzle-orm';
import pg from 'pg';

// Dates and decimals stay text; a day is not a moment, and a quantity is not a float. Whole 8-byte numbers fit a number here.
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);
pg.types.setTypeParser(pg.types.builtins.NUMERIC, (text) => text);
pg.types.setTypeParser(pg.types.builtins.TIMESTAMPTZ, (text) => new Date(text).toISOString());
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Db = NodePgDatabase;

/** Where questions go: Drizzle, and statements that were put together before. */
export interface Asking {
  db: Db;
  /** The rows of a statement that was put together before, a list of values each; the connection parses and plans it once under its name. */
  ask(name: string, text: string, values: unknown[]): Promise<unknown[][]>;
}

/** A transaction. */
export interface Tx extends Asking {
  /** A preview reads one snapshot, takes no locks and writes nothing. */
  readOnly: boolean;
  /** The rows of a query, some at a time, so that however many there are they need no more room than these. */
  batches<R>(query: Query<R>, size: number): AsyncGenerator<R[]>;
  /** What is written last: it is sent, and goes to the database together with the end of the transaction. */
  lastly(statement: Promise<unknown>): void;
  /** What is done once the transaction is kept; when it is not, it is not done. */
  after(work: () => void): void;
}

/** A query put together with Drizzle that was not asked yet. */
export interface Query<R> {
  _: { result: R[]; selectedFields?: Record<string, unknown> | undefined };
  toSQL: () => { sql: string; params: unknown[] };
}

/** How long a person is kept waiting, in milliseconds: for a connection, by one statement, by a transaction in which nothing is asked. */
const patience = { connectionTimeoutMillis: 5000, statement_timeout: 20_000, idle_in_transaction_session_timeout: 20_000 };
/** The same for what somebody waits for knowingly: a long list, or labels that are drawn for minutes between two statements. */
const longPatience = { ...patience, statement_timeout: 120_000, idle_in_transaction_session_timeout: 600_000 };

interface Connecting {
  /** Keeps its connection also while nothing is asked of it, so that others see that the database is in use. */
  keep?: boolean;
  /** For heavy work, which takes its time. */
  heavy?: boolean;
  max?: number;
  name?: string;
  /** Waits as long as it takes: for what nobody waits for, such as migrations and the demo. */
  patient?: boolean;
}

/** Statements are sent without waiting for the answers to those before: several that do not need each other's answers take one round trip. */
const pipelined = { pipeline: true };

/** A pool of connections. Only `transaction` and `hold` take one out of it. */
export function connect(url: string, { max = 10, name = 'tidy-larder', patient = false, keep = false, heavy = false }: Connecting = {}): pg.Pool {
  const pool = new pg.Pool({
    connectionString: url,
    max,
    application_name: name,
    options: '-c jit=off',
    ...pipelined,
    ...(keep ? { idleTimeoutMillis: 0 } : {}),
    ...(patient ? {} : heavy ? longPatience : patience),
  });
  // A connection that is cut while nobody asks it anything says so by an event, here or on the pool; unheard, it would end the process.
  // Nothing is lost by hearing it only: the next that is asked of it fails, and the pool makes another.
  pool.on('connect', (client) => client.on('error', () => undefined));
  pool.on('error', () => undefined);
  if (heavy) forHeavyWork.add(pool);
  return pool;
}

/** Does `work` on one connection; a connection that broke is not put back. For what spans statements and is no `transaction`. */
export async function hold<T>(pool: pg.Pool, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken: Error | undefined;
  const cut = (error: Error) => (broken = error);
  client.on('error', cut);
  try {
    return await work(client);
  } finally {
    client.off('error', cut);
    client.release(broken);
  }
}

/**
 * What writes asks the same statements all day, by key, so a plan is made once and kept; left to choose, PostgreSQL plans the largest of them each time,
 * for longer than it then works. What only reads finds by words and filters, where it matters what is asked for; and so does heavy work, which asks for much at once.
 */
const begin = {
  write: 'BEGIN ISOLATION LEVEL READ COMMITTED; SET LOCAL plan_cache_mode = force_generic_plan',
  heavyWrite: 'BEGIN ISOLATION LEVEL READ COMMITTED',
  snapshot: 'BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY',
};
const forHeavyWork = new WeakSet<pg.Pool>();
/** Serialization failure and deadlock: nothing was written, so the work is done again. */
const again = new Set(['40001', '40P01']);

/** Does `work` in one transaction; tries again, up to five times, when the database asks for it. */
export async function transaction<T>(pool: pg.Pool, mode: 'write' | 'snapshot', work: (tx: Tx) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await once(pool, mode, work);
    } catch (error) {
      if (attempt >= 5 || !again.has(databaseCode(error).code)) throw error;
      await new Promise((resolve) => setTimeout(resolve, attempt * 10 * Math.random()));
    }
  }
}

async function once<T>(pool: pg.Pool, mode: 'write' | 'snapshot', work: (tx: Tx) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken: Error | undefined;
  const cut = (error: Error) => (broken = error);
  client.on('error', cut);
  const giveBack = () => {
    client.off('error', cut);
    client.release(broken);
  };
  const rollBack = async () => {
    await client.query('ROLLBACK').catch((error: Error) => (broken = error));
    giveBack();
  };
  const end: End = { last: [], after: [] };
  let result: T;
  try {
    // What is asked first goes with it; when it fails, so does that.
    const begun = client.query(begin[mode === 'write' && forHeavyWork.has(pool) ? 'heavyWrite' : mode]);
    begun.catch(() => undefined);
    result = await work(txOn(client, mode === 'snapshot', end));
    await begun;
  } catch (error) {
    await rollBack();
    throw error;
  }
  // What was only read is not waited for to end: there is nothing that could still fail.
  if (mode === 'snapshot') {
    void rollBack();
    return result;
  }
  try {
    await Promise.all([...end.last, client.query('COMMIT')]);
  } catch (error) {
    broken = error as Error;
    throw error;
  } finally {
    giveBack();
  }
  for (const work of end.after) work();
  return result;
}

/** What goes with the end of a transaction, and what follows it. */
interface End {
  last: Promise<unknown>[];
  after: (() => void)[];
}

const txOn = (client: pg.PoolClient, readOnly: boolean, { last, after }: End): Tx => ({
  ...askingOn(client),
  readOnly,
  batches: (query, size) => batchesOn(client, query, size),
  lastly: (statement) => {
    const sent = statement.then((done) => done);
    sent.catch(() => undefined);
    last.push(sent);
  },
  after: (work) => void after.push(work),
});

let cursors = 0;

async function* batchesOn<R>(client: pg.PoolClient, query: Query<R>, size: number): AsyncGenerator<R[]> {
  const { sql: text, params } = query.toSQL();
  const cursor = `rows_${(cursors += 1)}`;
  const fields = Object.entries(query._.selectedFields ?? {});
  const read = (row: unknown[]) =>
    Object.fromEntries(fields.map(([name, field], at) => [name, is(field, Column) && row[at] !== null ? field.mapFromDriverValue(row[at]) : row[at]]));
  const next = async () => (await client.query<unknown[]>({ text: `FETCH ${size} FROM ${cursor}`, rowMode: 'array' })).rows;
  await client.query(`DECLARE ${cursor} NO SCROLL CURSOR FOR ${text}`, params);
  for (let rows = await next(); rows.length > 0; rows = await next()) yield rows.map(read) as R[];
  await client.query(`CLOSE ${cursor}`);
}

/** Asks on a connection; or on a pool, for what needs no transaction. */
export const askingOn = (source: pg.PoolClient | pg.Pool): Asking => ({
  db: drizzleOn(source),
  ask: async (name, text, values) => (await source.query<unknown[]>({ name, text, values, rowMode: 'array' })).rows,
});

const drizzles = new WeakMap<pg.PoolClient | pg.Pool, Db>();

/** Drizzle on a connection, made once for it, so that what is prepared on it stays; or on a pool, for one statement that needs no transaction. */
export function drizzleOn(client: pg.PoolClient | pg.Pool): Db {
  let db = drizzles.get(client);
  if (!db) {
    db = drizzle(named(client));
    drizzles.set(client, db);
  }
  return db;
}

/** The connection, but each statement has a name made of its text, so that the connection parses and plans it once. */
const named = (client: pg.PoolClient | pg.Pool): pg.PoolClient =>
  Object.create(client, {
    query: { value: (config: pg.QueryConfig, values: unknown[]) => client.query({ ...config, name: config.name ?? nameOf(config.text) }, values) },
  });

const names = new Map<string, string>();
/** How many statements are kept parsed on a connection; texts that come up after so many are parsed each time. */
const mostNames = 2000;
/** What makes tables, functions and views may be several statements in one text, and comes once. */
const readsOrWrites = /^(with|select|insert|update|delete)\b/i;

function nameOf(text: string): string | undefined {
  const known = names.get(text);
  if (known !== undefined || names.size >= mostNames || !readsOrWrites.test(text)) return known;
  const name = createHash('sha1').update(text).digest('base64url');
  names.set(text, name);
  return name;
}

/** What PostgreSQL said went wrong, also when Drizzle has wrapped it; empty when it was something else. */
export function databaseCode(error: unknown): { code: string; constraint: string } {
  const { code, constraint, cause } = error as { code?: string; constraint?: string; cause?: unknown };
  if (code === undefined && cause instanceof Error) return databaseCode(cause);
  return { code: code ?? '', constraint: constraint ?? '' };
}

/** No connection came free, or a statement took longer than anybody waits: nothing of it was done. */
export function isTooBusy(error: unknown): boolean {
  const { message, cause } = error as { message?: string; cause?: unknown };
  if (['57014', '25P03'].includes(databaseCode(error).code) || /^timeout exceeded when trying to connect/.test(message ?? '')) return true;
  return cause instanceof Error && isTooBusy(cause);
}

/** Shut down, cut off or not reachable: whether a COMMIT under way was done is not known. */
export function isConnectionLost(error: unknown): boolean {
  const { code } = databaseCode(error);
  if (/^(08|57P0)/.test(code) || ['ECONNREFUSED', 'ECONNRESET', 'EPIPE'].includes(code)) return true;
  const { message, cause } = error as { message?: string; cause?: unknown };
  return /^Connection (terminated|ended)|is not queryable$/.test(message ?? '') || (cause instanceof Error && isConnectionLost(cause));
}
