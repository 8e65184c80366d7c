import type pg from 'pg';
import { sql } from 'drizzle-orm';
import { drizzleOn, hold } from './database';

/** Does `work` while nobody else does what has this number, on whichever server: the others wait. Gives it the connection that holds the lock. */
export const alone = <T>(pool: pg.Pool, number: number, work: (client: pg.PoolClient) => Promise<T>): Promise<T> =>
  hold(pool, async (client) => {
    const db = drizzleOn(client);
    await db.execute(sql`select pg_advisory_lock(${number})`);
    try {
      return await work(client);
    } finally {
      await db.execute(sql`select pg_advisory_unlock(${number})`);
    }
  });

/** Whether the database answers. Fails when it does not. */
export const answers = (pool: pg.Pool): Promise<unknown> => drizzleOn(pool).execute(sql`select 1`);
