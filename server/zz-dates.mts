import { connect } from '/work/main/server/db/database';
import { migrate } from '/work/main/server/db/migrate';
import { prepare } from '/work/main/server/demo/prepare';
import { verify } from '/work/main/server/ledger/verify';
import { changeDay } from '/work/main/server/ledger/pastUse';
import { ensureDatabase, startPostgres } from '/work/main/scripts/postgres.mjs';
process.env.NODE_ENV = 'production';
const server = await startPostgres('postgres-test');
for (const day of process.argv.slice(2)) {
  const url = ensureDatabase(server, 'larder_dates', true);
  const pool = connect(url);
  await migrate(pool);
  const now = new Date(`${day}T09:00:00Z`);
  await prepare(pool, { empty: false, now }, () => undefined);
  const flagged = await changeDay(pool, now);
  const low = await pool.query(
    `SELECT count(*) AS n FROM item_policy y JOIN item_site f ON f.item_id=y.item_id AND f.site_id=y.site_id WHERE f.free+f.on_order-f.short <= y.reorder_point`,
  );
  const out = await pool.query(`SELECT count(*) FILTER (WHERE short > 0) AS short, count(*) AS n FROM sales_line WHERE active AND dispatched < base_quantity`);
  const bad = (await verify(pool)).filter((l) => l.broken.length > 0).map((l) => l.name);
  console.log(day, 'low', low.rows[0].n, 'lines out', out.rows[0], 'flagged', flagged, 'broken', bad);
  await pool.end();
}
