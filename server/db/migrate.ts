import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate as applyMigrations } from 'drizzle-orm/node-postgres/migrator';
import type pg from 'pg';
import { hold } from './database';
import { putInRules, takeAwayViews } from './rules';

const folder = join(import.meta.dirname, 'migrations');
const lockNumber = 4310;

/** Brings the database up to the code: its tables by the migrations, then its rules. Throws, with a sentence, when the database is newer than the code. One server at a time. */
export async function migrate(pool: pg.Pool): Promise<void> {
  await hold(pool, async (client) => {
    await client.query('SELECT pg_advisory_lock($1)', [lockNumber]);
    try {
      if (await isBehind(client)) await takeAwayViews(client);
      await applyMigrations(drizzle(client), { migrationsFolder: folder });
      await putInRules(client);
    } finally {
      await client.query('SELECT pg_advisory_unlock($1)', [lockNumber]);
    }
  });
}

/** Whether there are migrations to be done. Refuses a database that is newer than the code. */
async function isBehind(client: pg.PoolClient): Promise<boolean> {
  const { rows: tables } = await client.query("SELECT to_regclass('drizzle.__drizzle_migrations') AS found");
  if (tables[0]?.found === null) return true;
  const { rows } = await client.query('SELECT coalesce(max(created_at), 0)::bigint AS last FROM drizzle.__drizzle_migrations');
  const journal = JSON.parse(await readFile(join(folder, 'meta/_journal.json'), 'utf8')) as { entries: { when: number }[] };
  const newest = Math.max(...journal.entries.map(({ when }) => when));
  if (Number(rows[0]?.last) > newest)
    throw new Error('This database belongs to a newer Tidy Larder than this one. Start the newer version, or use another database.');
  return Number(rows[0]?.last) < newest;
}
