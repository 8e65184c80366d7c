import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { backUp, restore } from '../scripts/archive.mjs';
import { connect } from './db/database';
import { verify } from './ledger/verify';
import { openBusiness, type Business } from './testing/business';
import { urlOf } from './testing/database';
import { deskOf } from './testing/desk';

/** Everything of a business in one file, and back. */
let business: Business;
let folder: string;
const server = {
  url: (database = 'postgres') => urlOf(database),
  ownerUrl: (database = 'postgres') => urlOf(database),
  appUrl: (database = 'postgres') => urlOf(database),
};
const made: string[] = [];
const nameOf = () => new URL(business.url).pathname.slice(1);
const fresh = (): string => {
  const name = `larder_back_${randomBytes(4).toString('hex')}`;
  made.push(name);
  return name;
};
const counts = async (url: string) => {
  const pool = connect(url, { max: 1 });
  const { rows } = await pool.query(
    `SELECT (SELECT count(*)::int FROM movement_line) AS lines, (SELECT sum(value)::text FROM pool) AS worth, (SELECT count(*)::int FROM journal_line) AS journal,
       (SELECT encode(sha256(small), 'hex') FROM picture LIMIT 1) AS picture, (SELECT name FROM company) AS name`,
  );
  const laws = (await verify(pool)).filter(({ broken }) => broken.length > 0);
  await pool.end();
  return { ...rows[0], laws };
};

beforeAll(async () => {
  business = await openBusiness();
  folder = await mkdtemp(join(tmpdir(), 'larder-backup-'));
  const desk = deskOf(business);
  const itemId = await business.item('BK-1');
  const { lineId } = await desk.order([{ itemId, quantity: '30', price: '3.333333' }]);
  await desk.receive([{ lineId, quantity: '7' }]);
  await business.pool.query('INSERT INTO picture (small, large, added_at) VALUES ($1, $1, now())', [randomBytes(50_000)]);
});
afterAll(async () => {
  const admin = connect(urlOf('postgres'), { max: 1, patient: true });
  for (const name of made) await admin.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
  await admin.end();
  await rm(folder, { recursive: true, force: true });
  await business.close();
});

test('a backup made while people work comes back whole, and holds every law', async () => {
  const desk = deskOf(business);
  const itemId = await business.item('BK-2');
  let working = true;
  let posted = 0;
  const work = (async () => {
    while (working) {
      await desk.correct(itemId, '1');
      posted += 1;
    }
  })();
  const { path, rows, bytes } = await backUp(server, nameOf(), join(folder, 'one.backup')).finally(() => (working = false));
  await work;
  expect([posted > 3, rows > 100, bytes > 10_000]).toEqual([true, true, true]);
  expect((await readdir(folder)).sort()).toEqual(['one.backup']);
  await expect(backUp(server, nameOf(), path)).rejects.toThrow('is there already');

  // nothing is lost once nobody works any more
  await backUp(server, nameOf(), join(folder, 'two.backup'));
  const target = fresh();
  await restore(server, target, join(folder, 'two.backup'), false);
  const back = await counts(urlOf(target));
  expect(back).toEqual(await counts(business.url));
  expect(back.laws).toEqual([]);

  // a business that is there is not written over, unless that is said
  await expect(restore(server, target, path, false)).rejects.toThrow('There is a business here already. Nothing was changed');
  expect(await counts(urlOf(target))).toEqual(back);
  await restore(server, target, path, true);
  expect((await counts(urlOf(target))).lines).toBeLessThan(back.lines as number);
});

test('what is cut off, changed, newer or no backup is refused, and nothing is touched', async () => {
  const whole = await readFile(join(folder, 'two.backup'));
  const target = fresh();
  const refused = async (bytes: Buffer | string) => {
    const path = join(folder, 'odd.backup');
    await writeFile(path, bytes);
    return expect(restore(server, target, path, true)).rejects;
  };
  await (await refused('a letter to my aunt')).toThrow('is no backup of Tidy Larder');
  await (await refused('{"kind":"something else"}')).toThrow('is no backup');
  await (await refused(whole.subarray(0, whole.length - 500))).toThrow('is cut off: 500 bytes are missing.');
  const changed = Buffer.from(whole);
  changed[whole.length - 3000] = (changed[whole.length - 3000] ?? 0) ^ 1;
  await (await refused(changed)).toThrow('was changed after it was made');
  const about = JSON.parse(whole.subarray(0, 1024).toString()) as { newest: number };
  const newer = JSON.stringify({ ...about, newest: about.newest + 1 }).padEnd(1023);
  await (await refused(Buffer.concat([Buffer.from(`${newer}\n`), whole.subarray(1024)]))).toThrow('made by a newer Tidy Larder');
  await expect(restore(server, target, join(folder, 'nowhere'), true)).rejects.toThrow('There is no file');
  const admin = connect(urlOf('postgres'), { max: 1 });
  expect((await admin.query('SELECT FROM pg_database WHERE datname LIKE $1', [`${target}%`])).rowCount).toBe(0);
  await admin.end();
  expect(existsSync(join(folder, 'odd.backup.unfinished'))).toBe(false);
});

test('a business that a server is using is not replaced', async () => {
  await expect(restore(server, nameOf(), join(folder, 'two.backup'), true)).rejects.toThrow('A server is using this business');
});
