import { afterAll, expect, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { postgresBin, withPassword } from '../../scripts/postgres.mjs';
import { repair } from '../ledger/repair';
import { verify } from '../ledger/verify';
import { urlOf } from '../testing/database';
import { connect } from './database';
import { migrate } from './migrate';

/** The demo as earlier versions kept it, each made with `npm run backup` of that version: it comes up to this one, with every figure as it was. */
const folder = join(import.meta.dirname, '../testing/releases');
const made: string[] = [];
afterAll(async () => {
  const admin = connect(urlOf('postgres'), { max: 1, patient: true });
  for (const name of made) await admin.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
  await admin.end();
});

/** A database with what a backup holds, as it was when it was made. */
async function putBack(file: string): Promise<string> {
  const name = `larder_release_${randomBytes(4).toString('hex')}`;
  made.push(name);
  const admin = connect(urlOf('postgres'), { max: 1, patient: true });
  await admin.query(`CREATE DATABASE ${name}`);
  await admin.end();
  const archive = join(tmpdir(), `${name}.archive`);
  try {
    writeFileSync(archive, readFileSync(join(folder, file)).subarray(1024));
    const { env, parts } = withPassword(urlOf(name));
    execFileSync(join(postgresBin(), 'pg_restore'), [...parts, '--no-owner', '--no-privileges', '--exit-on-error', archive], { env });
  } finally {
    if (existsSync(archive)) rmSync(archive);
  }
  return urlOf(name);
}

/** Every figure of every line of an order, and what is promised, known by its order's number and its place on it. */
const figures = (purchase: string, sales: string) => `
  SELECT o.number || '/' || l.position AS line, concat_ws(' ', l.item_id, l.site_id, l.quantity, l.unit, l.base_quantity, l.price, l.amount, l.currency, l.rate, l.expected_on, l.kept, l.active, l.cancelled, l.received, l.returned, l.received_value, l.billed, l.billed_value, l.outstanding, l.incoming) AS figures
  FROM ${purchase} l JOIN purchase_order o ON o.id = l.order_id
  UNION ALL SELECT o.number || '/' || l.position, concat_ws(' ', l.item_id, l.site_id, l.quantity, l.unit, l.base_quantity, l.price, l.amount, l.ship_by, l.promised_on, l.kept, l.active, l.picked, l.dispatched, l.dispatched_cost, l.reserved, l.wanted, l.short)
  FROM ${sales} l JOIN sales_order o ON o.id = l.order_id
  UNION ALL SELECT 'site ' || item_id || '@' || site_id, concat_ws(' ', on_hand, reserved, free, bench, on_order, short) FROM item_site
  UNION ALL SELECT 'pool ' || item_id, concat_ws(' ', quantity, value, on_hand, reserved, on_order, short) FROM pool
  UNION ALL SELECT 'account ' || account_id, sum(amount)::text FROM journal_line GROUP BY account_id ORDER BY 1`;

test.each(readdirSync(folder).filter((file) => file.endsWith('.backup')))(
  '%s',
  async (file) => {
    const pool = connect(await putBack(file), { max: 2, patient: true });
    const { rows: before } = await pool.query<{ line: string }>(figures('purchase_line', 'sales_line'));
    const { rows: promised } = await pool.query('SELECT sum(quantity)::text AS quantity, count(*) FROM reservation');
    await migrate(pool);
    expect((await pool.query(figures('purchase_line', 'sales_line'))).rows).toEqual(before);
    expect((await pool.query('SELECT sum(quantity)::text AS quantity, count(*) FROM reservation')).rows).toEqual(promised);
    expect(before.length).toBeGreaterThan(2000);
    expect(await repair(pool, new Date('2026-12-01T10:00:00Z'))).toEqual([]);
    expect((await verify(pool)).filter(({ broken }) => broken.length > 0)).toEqual([]);
    // Again, there is nothing to do.
    await migrate(pool);
    await pool.end();
  },
  60_000,
);
