import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { counterRules, documentRules } from '@larder/core/ledger/counters';
import type pg from 'pg';
import { freshDatabase } from '../testing/database';
import { connect, hold } from './database';
import { migrate } from './migrate';
import { putInRules } from './rules';

let pool: pg.Pool;
let drop: () => Promise<void>;
beforeAll(async () => {
  const made = await freshDatabase();
  [pool, drop] = [connect(made.url, { max: 2 }), made.drop];
});
afterAll(async () => {
  await pool.end();
  await drop();
});
const sourceOf = async (name: string) =>
  (await pool.query<{ source: string }>('SELECT prosrc AS source FROM pg_proc WHERE proname = $1', [name])).rows[0]?.source ?? null;

test('the database counts by the same table as core', async () => {
  const { rows } = await pool.query('SELECT document, counter, measure, from_kind AS "from", to_kind AS "to", sign FROM counter_rule');
  const sorted = (list: readonly object[]) => list.map((one) => JSON.stringify(Object.entries(one).sort())).sort();
  expect(sorted(rows as object[])).toEqual(sorted(counterRules));
  const { rows: kinds } = await pool.query('SELECT kind, side, waits_at AS "waitsAt", goes_by AS "goesBy" FROM document_kind');
  expect(sorted(kinds as object[])).toEqual(sorted(Object.entries(documentRules).map(([kind, of]) => ({ goesBy: null, kind, ...of }))));
  await pool.query('UPDATE counter_rule SET sign = -sign');
  await migrate(pool);
  expect(
    sorted((await pool.query('SELECT document, counter, measure, from_kind AS "from", to_kind AS "to", sign FROM counter_rule')).rows as object[]),
  ).toEqual(sorted(counterRules));
});

test('a rule is put in anew when its file was changed, and only then', async () => {
  const right = await sourceOf('give_pool');
  const broken = `CREATE OR REPLACE FUNCTION give_pool() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NULL; END $$`;
  await pool.query(broken);
  await migrate(pool);
  expect(await sourceOf('give_pool')).not.toBe(right);
  await pool.query("UPDATE rule SET hash = 'of an older file' WHERE name = 'give_pool'");
  await migrate(pool);
  expect(await sourceOf('give_pool')).toBe(right);
});

test('a rule whose file is gone is taken away with its triggers', async () => {
  await pool.query(`CREATE FUNCTION gone_rule() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE 'still here'; END $$`);
  await pool.query('CREATE TRIGGER gone BEFORE INSERT ON site FOR EACH ROW EXECUTE FUNCTION gone_rule()');
  await pool.query("INSERT INTO rule (name, hash) VALUES ('gone_rule', 'x')");
  await hold(pool, putInRules);
  expect(await sourceOf('gone_rule')).toBeNull();
  expect((await pool.query("SELECT FROM rule WHERE name = 'gone_rule'")).rowCount).toBe(0);
});

test('no migration makes functions or triggers: a database whose rules were lost gets all of them', async () => {
  const all = async () =>
    (await pool.query<{ tgname: string }>('SELECT tgname FROM pg_trigger WHERE NOT tgisinternal ORDER BY 1')).rows.map(({ tgname }) => tgname);
  const before = await all();
  for (const { name } of (await pool.query<{ name: string }>('SELECT name FROM rule')).rows) await pool.query(`DROP ROUTINE IF EXISTS ${name} CASCADE`);
  expect(await all()).toEqual([]);
  await pool.query('DELETE FROM rule');
  await migrate(pool);
  expect(await all()).toEqual(before);
  expect(before.length).toBeGreaterThan(30);
});
