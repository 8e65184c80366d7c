import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { inArray, sql } from 'drizzle-orm';
import type pg from 'pg';
import { rule } from './schema/rules';

const folder = join(import.meta.dirname, 'rules');

/**
 * Puts in the functions and triggers of `rules/`, a file each, named after its function: those that are new or were changed since they were last put in,
 * told by their hash. A function whose file is gone is taken away with its triggers. All or none.
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
        await tx.execute(sql.raw(text));
        await tx.insert(rule).values({ name, hash }).onConflictDoUpdate({ target: rule.name, set: { hash } });
      }
      known.delete(name);
    }
    for (const name of known.keys()) await tx.execute(sql`DROP FUNCTION IF EXISTS ${sql.identifier(name)} CASCADE`);
    if (known.size > 0) await tx.delete(rule).where(inArray(rule.name, [...known.keys()]));
  });
}
