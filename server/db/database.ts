import { createHash } from 'node:crypto';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as schema from './schema/index';

// Dates and decimals stay text; a day is not a moment, and a quantity is not a float. Whole 8-byte numbers fit a number here.
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);
pg.types.setTypeParser(pg.types.builtins.NUMERIC, (text) => text);
pg.types.setTypeParser(pg.types.builtins.TIMESTAMPTZ, (text) => new Date(text).toISOString());
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

/** A transaction: Drizzle for the plain writing of rows, and named statements where every round trip counts. */
export interface Tx {
  db: NodePgDatabase<typeof schema>;
  /** A preview reads one snapshot, takes no locks and writes nothing. */
  readOnly: boolean;
  /** Runs a statement, prepared once on each connection. */
  rows<T>(text: string, values?: readonly unknown[]): Promise<T[]>;
}

export const connect = (url: string, max = 10, name = 'tidy-larder'): pg.Pool =>
  new pg.Pool({ connectionString: url, max, application_name: name, options: '-c jit=off' });

const begin = { write: 'BEGIN ISOLATION LEVEL READ COMMITTED', snapshot: 'BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY' };
/** Serialization failure and deadlock: nothing was written, so the work is done again. */
const again = new Set(['40001', '40P01']);

/** Does `work` in one transaction; tries again, up to five times, when the database asks for it. */
export async function transaction<T>(pool: pg.Pool, mode: keyof typeof begin, work: (tx: Tx) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await once(pool, mode, work);
    } catch (error) {
      if (attempt >= 5 || !again.has(databaseCode(error).code)) throw error;
      await new Promise((resolve) => setTimeout(resolve, attempt * 10 * Math.random()));
    }
  }
}

async function once<T>(pool: pg.Pool, mode: keyof typeof begin, work: (tx: Tx) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken: Error | undefined;
  // A connection that is cut while nothing is asked of it tells so by an event; unheard, it would end the process.
  const cut = (error: Error) => (broken = error);
  client.on('error', cut);
  const end = async (how: 'COMMIT' | 'ROLLBACK') => {
    try {
      await client.query(how);
    } catch (failed) {
      broken = failed as Error;
      if (how === 'COMMIT') throw failed;
    } finally {
      client.off('error', cut);
      client.release(broken);
    }
  };
  let result: T;
  try {
    await client.query(begin[mode]);
    result = await work(txOn(client, mode === 'snapshot'));
  } catch (error) {
    await end('ROLLBACK');
    throw error;
  }
  // What was only read is not waited for to end: there is nothing that could still fail.
  if (mode === 'snapshot') void end('ROLLBACK');
  else await end('COMMIT');
  return result;
}

function txOn(client: pg.PoolClient, readOnly: boolean): Tx {
  return {
    db: drizzle(client, { schema }),
    readOnly,
    rows: async <T>(text: string, values: readonly unknown[] = []) => (await client.query({ name: nameOf(text), text, values: [...values] })).rows as T[],
  };
}

const names = new Map<string, string>();

/** A short name for a statement, so that each connection parses and plans it once. */
function nameOf(text: string): string {
  const known = names.get(text) ?? createHash('sha1').update(text).digest('base64url');
  names.set(text, known);
  return known;
}

/** What PostgreSQL said went wrong, also when Drizzle has wrapped it; empty when it was something else. */
export function databaseCode(error: unknown): { code: string; constraint: string } {
  const { code, constraint, cause } = error as { code?: string; constraint?: string; cause?: unknown };
  if (code === undefined && cause instanceof Error) return databaseCode(cause);
  return { code: code ?? '', constraint: constraint ?? '' };
}

/** Shut down, cut off or not reachable: whether a COMMIT under way was done is not known. */
export function isConnectionLost(error: unknown): boolean {
  const { code } = databaseCode(error);
  if (/^(08|57P0)/.test(code) || ['ECONNREFUSED', 'ECONNRESET', 'EPIPE'].includes(code)) return true;
  const { message, cause } = error as { message?: string; cause?: unknown };
  return /^Connection (terminated|ended)|is not queryable$/.test(message ?? '') || (cause instanceof Error && isConnectionLost(cause));
}
