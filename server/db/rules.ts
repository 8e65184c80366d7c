import { counterRules, documentRules } from '@larder/core/ledger/counters';
import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { eq, inArray, sql } from 'drizzle-orm';
import type pg from 'pg';
import { counterRule, documentKind } from './schema/documents';
import { rule } from './schema/rules';

const folder = join(import.meta.dirname, 'rules');

/**
 * Puts in the views, functions and triggers of `rules/`, a file each, named after what it makes: those that are new or were changed since they were last put in,
 * told by their hash. What no file makes any more is taken away, a function with its triggers. With them goes core's table of which move changes which counter. All or none.
 */
export async function putInRules(client: pg.PoolClient): Promise<void> {
  const files = (await readdir(folder)).filter((file) => file.endsWith('.sql')).sort();
  await drizzle(client).transaction(async (tx) => {
    const known = new Map((await tx.select().from(rule)).map(({ name, hash }) => [name, hash]));
    for (const file of files) {
      const text = await readFile(join(folder, file), 'utf8');
      const name = file.replace(/\.sql$/, '');
      const hash = createHash('sha256').update(text).digest('hex');
      if (known.get(name) !== hash) {
        await tx.execute(sql`DROP VIEW IF EXISTS ${sql.identifier(name)}`);
        await tx.execute(sql.raw(text));
        await tx.insert(rule).values({ name, hash }).onConflictDoUpdate({ target: rule.name, set: { hash } });
      }
      known.delete(name);
    }
    for (const name of known.keys()) {
      await tx.execute(sql`DROP VIEW IF EXISTS ${sql.identifier(name)}`);
      await tx.execute(sql`DROP FUNCTION IF EXISTS ${sql.identifier(name)} CASCADE`);
    }
    if (known.size > 0) await tx.delete(rule).where(inArray(rule.name, [...known.keys()]));
    await tx.delete(counterRule);
    await tx.insert(counterRule).values([...counterRules]);
    await tx.delete(documentKind);
    await tx.insert(documentKind).values(Object.entries(documentRules).map(([kind, { side, waitsAt }]) => ({ kind, side, waitsAt })));
  });
}

/** Takes the views away, before tables they look at are changed; they are put in anew with the rules. */
export async function takeAwayViews(client: pg.PoolClient): Promise<void> {
  const db = drizzle(client);
  const views = await db.execute<{ name: string }>(sql`SELECT viewname AS name FROM pg_views WHERE schemaname = 'public'`);
  for (const { name } of views.rows) {
    await db.execute(sql`DROP VIEW ${sql.identifier(name)} CASCADE`);
    await db.delete(rule).where(eq(rule.name, name));
  }
}
