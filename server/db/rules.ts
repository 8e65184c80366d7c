import { counterRules, documentRules } from '@larder/core/ledger/counters';
import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { eq, inArray, sql } from 'drizzle-orm';
import type pg from 'pg';
import { drizzleOn } from './database';
import { serverFolder } from './folder';
import { counterRule, documentKind } from './schema/documents';
import { rule } from './schema/rules';

const files = (folder: string) => join(serverFolder, 'db', folder);

interface Made {
  name: string;
  text: string;
  hash: string;
  isView: boolean;
}

/** What is to be there, in the order it is put in: functions with their triggers, the views, and the laws, which are views over those. */
async function readMade(): Promise<Made[]> {
  const made: Made[] = [];
  for (const folder of ['rules', 'views', 'laws'])
    for (const file of (await readdir(files(folder))).filter((each) => each.endsWith('.sql')).sort()) {
      const text = await readFile(join(files(folder), file), 'utf8');
      made.push({ name: file.replace(/\.sql$/, ''), text, hash: createHash('sha256').update(text).digest('hex'), isView: folder !== 'rules' });
    }
  return made;
}

/**
 * Puts in what the files of `rules/`, `views/` and `laws/` make, one each, named after it: those that are new or were changed since they were last put in,
 * told by their hash; of the views, which rest on each other, all when one was. What no file makes any more is taken away, a function with its triggers.
 * With them goes core's table of which move changes which counter. All or none.
 */
export async function putInRules(client: pg.PoolClient): Promise<void> {
  const made = await readMade();
  await drizzleOn(client).transaction(async (tx) => {
    const known = new Map((await tx.select().from(rule)).map(({ name, hash }) => [name, hash]));
    const changed = (each: Made) => known.get(each.name) !== each.hash;
    const viewsAnew = made.some((each) => each.isView && changed(each));
    if (viewsAnew) for (const { name } of made.filter((each) => each.isView)) await tx.execute(sql`drop view if exists ${sql.identifier(name)} cascade`);
    for (const each of made) {
      if (each.isView ? viewsAnew : changed(each)) {
        await tx.execute(sql.raw(each.text));
        await tx
          .insert(rule)
          .values({ name: each.name, hash: each.hash })
          .onConflictDoUpdate({ target: rule.name, set: { hash: each.hash } });
      }
      known.delete(each.name);
    }
    for (const name of known.keys()) {
      await tx.execute(sql`DROP VIEW IF EXISTS ${sql.identifier(name)} CASCADE`);
      await tx.execute(sql`DROP FUNCTION IF EXISTS ${sql.identifier(name)} CASCADE`);
    }
    if (known.size > 0) await tx.delete(rule).where(inArray(rule.name, [...known.keys()]));
    await tx.delete(counterRule);
    await tx.insert(counterRule).values([...counterRules]);
    await tx.delete(documentKind);
    await tx.insert(documentKind).values(Object.entries(documentRules).map(([kind, { side, waitsAt, goesBy = null }]) => ({ kind, side, waitsAt, goesBy })));
  });
}

/** Takes the views away, before tables they look at are changed; they are put in anew with the rules. What an extension brought with it stays. */
export async function takeAwayViews(client: pg.PoolClient): Promise<void> {
  const db = drizzleOn(client);
  const views = await db.execute<{ name: string }>(sql`
    SELECT c.relname AS name FROM pg_class c
    WHERE c.relkind = 'v' AND c.relnamespace = 'public'::regnamespace AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.classid = 'pg_class'::regclass AND d.objid = c.oid AND d.deptype = 'e')`);
  for (const { name } of views.rows) {
    await db.execute(sql`DROP VIEW IF EXISTS ${sql.identifier(name)} CASCADE`);
    await db.delete(rule).where(eq(rule.name, name));
  }
}
