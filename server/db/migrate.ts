import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate as applyMigrations } from 'drizzle-orm/node-postgres/migrator';
import { runMigrations } from 'graphile-worker';
import type pg from 'pg';
import { sql } from 'drizzle-orm';
import { alone } from './alone';
import { putInRules, takeAwayViews } from './rules';
import { drizzleOn } from './database';
import { serverFolder } from './folder';
import { oneRow } from './given';

const folder = join(serverFolder, 'db/migrations');
const lockNumber = 4310;

/** Brings the database up to the code: its tables by the migrations, then its rules. Throws, with a sentence, when the database is newer than the code. One server at a time. */
export async function migrate(pool: pg.Pool): Promise<void> {
  await alone(pool, lockNumber, async (client) => {
    if (await isBehind(client)) await takeAwayViews(client);
    await applyMigrations(drizzle(client), { migrationsFolder: folder });
    await putInRules(client);
    // The queue of jobs has tables of its own, in a schema of its own.
    await runMigrations({ connectionString: pool.options.connectionString as string });
  });
}

/** Whether there are migrations to be done. Refuses a database that is newer than the code. */
async function isBehind(client: pg.PoolClient): Promise<boolean> {
  const db = drizzleOn(client);
  const [applied] = await db.select({ table: sql<string | null>`to_regclass('drizzle.__drizzle_migrations')` }).from(oneRow);
  if (!applied?.table) return true;
  const [last] = await db.select({ at: sql<number>`coalesce(max(created_at), 0)::bigint` }).from(sql`drizzle.__drizzle_migrations`);
  const journal = JSON.parse(await readFile(join(folder, 'meta/_journal.json'), 'utf8')) as { entries: { when: number }[] };
  const newest = Math.max(...journal.entries.map(({ when }) => when));
  if ((last?.at ?? 0) > newest)
    throw new Error('This database belongs to a newer Tidy Larder than this one. Start the newer version, or use another database.');
  return (last?.at ?? 0) < newest;
}
