import type pg from 'pg';
import { connect, hold, transaction } from '@larder/server/db/database';
import { found } from '@larder/server/db/found';
import { migrate } from '@larder/server/db/migrate';
import { closeMonths } from '@larder/server/ledger/months';
import { verify } from '@larder/server/ledger/verify';

export const scalePassword = 'only for measuring';
const day = `date '2025-05-01' + ((x.n % 560))::int`;

/**
 * The scale set, loaded in bulk with a fixed seed behind the triggers, its figures then summed from its lines: 20,000 items (a third with lots, a tenth with serials),
 * 6 sites, 3,000 bins, 60,000 orders, 400,000 movements with a million lines. Every item costs the same throughout, so that values are exact.
 */
const steps: [string, string][] = [
  ['sites', `INSERT INTO site (code, name) SELECT 'S' || n, 'Site ' || n FROM generate_series(1, 6) n`],
  ['benches', `INSERT INTO place (kind, site_id, code, owned) SELECT 'bench', id, 'bench', true FROM site`],
  ['places without bin', `INSERT INTO place (kind, site_id, code, owned, sellable, unplaced) SELECT 'bin', id, 'UNPLACED', true, true, true FROM site`],
  [
    'bins',
    `INSERT INTO place (kind, site_id, code, owned, sellable, walk) SELECT 'bin', s.id, 'B-' || lpad(n::text, 3, '0'), true, true, n FROM site s, generate_series(1, 500) n ORDER BY s.id, n`,
  ],
  ['parties', `INSERT INTO party (name, is_supplier, is_customer) SELECT 'Party ' || n, n <= 200, n > 200 FROM generate_series(1, 2200) n`],
  [
    'party places',
    `INSERT INTO place (kind, party_id, code, owned) SELECT CASE WHEN is_supplier THEN 'supplier' ELSE 'customer' END, id, name, false FROM party`,
  ],
  ['categories', `INSERT INTO category (name) SELECT 'Category ' || n FROM generate_series(1, 40) n`],
  [
    'items',
    `INSERT INTO item (sku, name, category_id, unit_id, purchase_price, sales_price, tracking, findable)
     SELECT 'IT-' || lpad(n::text, 5, '0'), w.name, 1 + n % 40, 1, 1 + (n * 37) % 5000 / 100.0, 2 + (n * 37) % 9000 / 100.0, CASE WHEN n % 10 = 0 THEN 'serial' WHEN n % 3 = 0 THEN 'lot' ELSE 'none' END,
       lower('IT-' || lpad(n::text, 5, '0') || ' ' || w.name || ' 2' || lpad(n::text, 12, '0'))
     FROM generate_series(1, 20000) n, LATERAL (SELECT (ARRAY['Oak', 'Steel', 'Linen', 'Glass', 'Copper', 'Wax', 'Cedar', 'Brass'])[1 + n % 8] ||
       ' ' || (ARRAY['frame', 'jar', 'panel', 'hook', 'strap', 'lid', 'tray', 'ring', 'plate', 'box'])[1 + (n / 8) % 10] || ' size ' || n % 97 AS name) w`,
  ],
  [
    'words',
    `INSERT INTO word SELECT DISTINCT w FROM item, regexp_split_to_table(findable, '[\\s,;()/]+') w WHERE length(w) BETWEEN 3 AND 40 AND w !~ '^[[:digit:][:punct:]]+$'`,
  ],
  ['pools', `INSERT INTO pool (item_id) SELECT id FROM item`],
  ['barcodes', `INSERT INTO barcode (code, item_id) SELECT '2' || lpad(id::text, 12, '0'), id FROM item`],
  [
    'suppliers of items',
    `INSERT INTO item_supplier (item_id, supplier_id, code, pack_size, price) SELECT id, 1 + id % 200, 'SC' || id, 6, purchase_price FROM item`,
  ],
  [
    'policies',
    `INSERT INTO item_policy (item_id, site_id, reorder_point, order_up_to) SELECT i.id, s.id, 100 + i.id % 900, 2000 FROM item i, site s WHERE s.id <= 3`,
  ],
  ['lots', `INSERT INTO lot (item_id, kind, code, use_by) SELECT id, 'lot', 'L-' || id, date '2028-01-01' FROM item WHERE tracking = 'lot'`],
  [
    'serials',
    `INSERT INTO lot (item_id, kind, code, place_id) SELECT i.id, 'serial', 'SN-' || i.id || '-' || n, b.id FROM item i, generate_series(1, 5) n,
     LATERAL (${binOf('i.id', 'n')}) b WHERE tracking = 'serial'`,
  ],
  [
    'purchase orders',
    `INSERT INTO purchase_order (number, supplier_id, site_id, currency, expected_on, created_at, created_by, placed_at, placed_by)
     SELECT 'PO-' || (100000 + n), 1 + n % 200, 1 + n % 5, 'GBP', date '2026-12-01' + n % 60, timestamptz '2025-05-01' + n * interval '30 minutes', 1, now(), 1
     FROM generate_series(1, 20000) n`,
  ],
  [
    'purchase lines',
    `INSERT INTO document_line (kind, number, position, item_id, site_id, brings_to_id, draws, base_quantity, active, arrived, arrived_value)
     SELECT 'purchase', o.number, p, i.id, o.site_id, o.site_id, false, 12, true, CASE WHEN o.id <= 18000 THEN 12 ELSE 0 END, CASE WHEN o.id <= 18000 THEN 12 * i.purchase_price ELSE 0 END
     FROM purchase_order o, generate_series(1, 5) p, LATERAL (SELECT id, purchase_price FROM item WHERE id = ${plain('o.id * 5 + p')}) i ORDER BY o.id, p`,
  ],
  [
    'terms of purchases',
    `INSERT INTO purchase_terms (id, order_id, quantity, unit, price, currency, amount) SELECT d.id, o.id, 12, 'each', i.purchase_price, 'GBP', 12 * i.purchase_price
     FROM document_line d JOIN purchase_order o ON o.number = d.number JOIN item i ON i.id = d.item_id WHERE d.kind = 'purchase'`,
  ],
  [
    'sales orders',
    `INSERT INTO sales_order (number, customer_id, site_id, currency, ship_by, created_at, created_by, confirmed_at, confirmed_by)
     SELECT 'SO-' || (100000 + n), 201 + n % 2000, 1, 'GBP', date '2025-05-03' + n % 560, timestamptz '2025-05-01' + n * interval '15 minutes', 1, now(), 1 FROM generate_series(1, 40000) n`,
  ],
  [
    'sales lines',
    `INSERT INTO document_line (kind, number, position, item_id, site_id, draws, base_quantity, needed_on, active, drawn, finished, finished_value)
     SELECT 'sales', o.number, p, i.id, 1, true, 2, o.ship_by, true, 2, 2, 2 * i.purchase_price FROM sales_order o, generate_series(1, 2) p, LATERAL (SELECT id, purchase_price
      FROM item WHERE id = ${plain('o.id * 2 + p')}) i ORDER BY o.id, p`,
  ],
  [
    'terms of sales',
    `INSERT INTO sales_terms (id, order_id, quantity, unit, price, amount) SELECT d.id, o.id, 2, 'each', i.sales_price, 2 * i.sales_price
     FROM document_line d JOIN sales_order o ON o.number = d.number JOIN item i ON i.id = d.item_id WHERE d.kind = 'sales'`,
  ],
  [
    'movements',
    `INSERT INTO movement (kind, effective_on, posted_at, person_id, reason_id)
     SELECT k.kind, ${day}, timestamptz '2025-05-01' + x.n * interval '90 seconds', 1, CASE WHEN k.kind = 'correction' THEN 1 END FROM (${kinds()}) k,
     LATERAL generate_series(k.first, k.last) x(n) ORDER BY x.n`,
  ],
  [
    'lines of openings and corrections',
    `INSERT INTO movement_line (movement_id, position, item_id, lot_id, quantity, from_place_id, to_place_id, value, seq, effective_on)
     SELECT movement_id, position, item_id, lot_id, quantity, CASE WHEN quantity > 1 OR serial THEN f.id ELSE b.id END, CASE WHEN quantity > 1 OR serial THEN b.id ELSE l.id END,
       CASE WHEN quantity > 1 OR serial THEN quantity ELSE -quantity END * price, row_number() OVER (PARTITION BY item_id ORDER BY movement_id, position), on_day
     FROM (
       SELECT m.id AS movement_id, 1 AS position, i.id AS item_id, t.id AS lot_id, CASE WHEN i.tracking = 'serial' THEN 1 ELSE 1000 END AS quantity, i.tracking = 'serial' AS serial,
         i.purchase_price AS price, 1 + (m.id - 1) / 20000 AS site, m.effective_on AS on_day
       FROM movement m JOIN item i ON i.id = 1 + (m.id - 1) % 20000
        LEFT JOIN lot t ON t.item_id = i.id AND (t.kind = 'lot' OR t.code = 'SN-' || i.id || '-' || (1 + (m.id - 1) / 20000)) WHERE m.kind = 'opening'
       UNION ALL SELECT m.id, p, i.id, t.id, 1, false, i.purchase_price, 1 + m.id % 5, m.effective_on
       FROM movement m, generate_series(1, 4) p, item i LEFT JOIN lot t ON t.item_id = i.id AND t.kind = 'lot'
        WHERE m.kind = 'correction' AND i.id = ${plain('m.id * 3 + p * 4001')} AND (p < 4 OR m.id % 5 = 0)
     ) y, LATERAL (${binOf('y.item_id', 'y.site')}) b, (SELECT id FROM place WHERE kind = 'opening') f, (SELECT id FROM place WHERE kind = 'found-or-lost') l`,
  ],
  ['lines of receipts', served('receipt', 'purchase', 'supply_line_id', 'd.site_id', 'supplier')],
  ['lines of picks', served('pick', 'sales', 'demand_line_id', '1', 'bench')],
  ['lines of dispatches', served('dispatch', 'sales', 'demand_line_id', '1', 'customer')],
  [
    'seq',
    `UPDATE movement_line l SET seq = x.seq FROM (SELECT id, row_number() OVER (PARTITION BY item_id ORDER BY movement_id, position) + 1000000 AS seq FROM movement_line) x
     WHERE l.id = x.id`,
  ],
  [
    'balances',
    `INSERT INTO balance (item_id, place_id, lot_id, quantity, owned) SELECT item_id, place_id, lot_id, sum(q), owned
     FROM (SELECT item_id, to_place_id AS place_id, lot_id, quantity AS q FROM movement_line UNION ALL SELECT item_id, from_place_id, lot_id, -quantity FROM movement_line) x
     JOIN place p ON p.id = x.place_id GROUP BY 1, 2, 3, 5`,
  ],
  [
    'figures per site',
    `INSERT INTO item_site (item_id, site_id, on_hand, bench, on_order) SELECT item_id, site_id, sum(a), sum(b), sum(o)
     FROM (SELECT b.item_id, p.site_id, CASE WHEN p.kind = 'bin' THEN quantity ELSE 0 END AS a, CASE WHEN p.kind = 'bench' THEN quantity ELSE 0 END AS b, 0 AS o FROM balance b
     JOIN place p ON p.id = b.place_id WHERE p.kind IN ('bin', 'bench') UNION ALL SELECT item_id, site_id, 0, 0, outstanding FROM purchase_line WHERE outstanding > 0) x GROUP BY 1, 2`,
  ],
  [
    'figures per item',
    `UPDATE pool SET quantity = x.q, value = v.v, last_seq = v.s, on_hand = f.h, on_order = f.o FROM (SELECT item_id, sum(quantity) AS q FROM balance
     WHERE owned GROUP BY 1) x, (SELECT item_id, sum(value) AS v, max(seq) AS s FROM movement_line GROUP BY 1) v, (SELECT item_id, sum(on_hand) AS h, sum(on_order) AS o
     FROM item_site GROUP BY 1) f WHERE x.item_id = pool.item_id AND v.item_id = pool.item_id AND f.item_id = pool.item_id`,
  ],
  ['worth per site', 'SELECT value_sites(ARRAY(SELECT item_id FROM pool))'],
  [
    'entries',
    `INSERT INTO journal_entry (movement_id, effective_on, posted_at, text) SELECT id, effective_on, posted_at, kind FROM movement WHERE kind <> 'pick'`,
  ],
  [
    'inventory',
    `INSERT INTO journal_line (entry_id, account_id, item_id, amount) SELECT e.id, a.id, l.item_id, sum(l.value) FROM journal_entry e
     JOIN movement_line l ON l.movement_id = e.movement_id, (SELECT id FROM account WHERE purpose = 'inventory') a GROUP BY 1, 2, 3`,
  ],
  [
    'counterparts',
    `INSERT INTO journal_line (entry_id, account_id, amount) SELECT e.id, a.id, -sum(l.value) FROM journal_entry e JOIN movement_line l ON l.movement_id = e.movement_id
     JOIN account a ON a.purpose = CASE e.text WHEN 'receipt' THEN 'grni' WHEN 'dispatch' THEN 'cost-of-sales' WHEN 'opening' THEN 'opening' ELSE 'stock-differences' END GROUP BY 1, 2`,
  ],
];

/** The bin of an item at a site, as a subquery: bins were made in one go, 500 a site. */
function binOf(item: string, site: string): string {
  return `SELECT (SELECT min(id) FROM place WHERE code = 'B-001') + (${site} - 1) * 500 + ${item} % 500 AS id`;
}

/** An item that is not kept by serials. */
function plain(n: string): string {
  return `(1 + (${n}) % 2000 * 10 + (${n}) % 9)`;
}

function kinds(): string {
  return [
    ['opening', 1, 100000],
    ['correction', 100001, 302000],
    ['receipt', 302001, 320000],
    ['pick', 320001, 360000],
    ['dispatch', 360001, 400000],
  ]
    .map(([kind, first, last]) => `SELECT '${kind}' AS kind, ${first} AS first, ${last} AS last`)
    .join(' UNION ALL ');
}

/** Lines of movements that serve document lines: the movement's number among its kind is the order's. */
function served(kind: string, area: 'purchase' | 'sales', column: string, site: string, other: 'supplier' | 'bench' | 'customer'): string {
  const party = `(SELECT id FROM place WHERE kind = '${other}' AND party_id = ${area === 'purchase' ? 'o.supplier_id' : 'o.customer_id'})`;
  const bench = "(SELECT id FROM place WHERE kind = 'bench' AND site_id = 1)";
  const [from, to, sign] = { receipt: [party, 'b.id', 1], pick: ['b.id', bench, 0], dispatch: [bench, party, -1] }[kind] as [string, string, number];
  const first = { receipt: 302000, pick: 320000, dispatch: 360000 }[kind] as number;
  return `INSERT INTO movement_line (movement_id, position, item_id, lot_id, quantity, from_place_id, to_place_id, value, seq, effective_on, ${column})
    SELECT m.id, d.position, d.item_id, t.id, d.base_quantity, ${from}, ${to}, ${sign} * d.base_quantity * i.purchase_price, -m.id * 10 - d.position, m.effective_on, d.id
    FROM movement m JOIN ${area}_order o ON o.id = m.id - ${first} JOIN ${area}_line d ON d.order_id = o.id JOIN item i ON i.id = d.item_id
     LEFT JOIN lot t ON t.item_id = i.id AND t.kind = 'lot', LATERAL (${binOf('d.item_id', site)}) b WHERE m.kind = '${kind}'`;
}

/** Founds a business of somebody who measures. */
export const foundFor = (pool: pg.Pool, name: string): Promise<number> =>
  transaction(pool, 'write', (tx) => found(tx, { name }, { name: 'Measurer', email: 'measure@scale.example', password: scalePassword }));

/** Keeps the ends of its months, as a business that worked all the while has them. */
async function keepMonths(pool: pg.Pool): Promise<pg.Pool> {
  if ((await closeMonths(pool, new Date())).length > 0) await pool.query('VACUUM ANALYZE month_balance, month_pool');
  return pool;
}

/** Makes the scale set in an empty database, once; says how long each step took. Throws when a law does not hold on it. */
export async function makeScaleSet(url: string, say: (text: string) => void): Promise<pg.Pool> {
  const pool = connect(url, { max: 4, patient: true });
  await migrate(pool);
  const { rows } = await pool.query('SELECT 1 FROM company');
  if (rows.length > 0) return keepMonths(pool);
  await foundFor(pool, 'Scale set');
  await hold(pool, async (client) => {
    await client.query("SET session_replication_role = 'replica'; SET work_mem = '256MB'");
    for (const [name, sql] of steps) {
      const began = performance.now();
      const { rowCount } = await client.query(sql);
      say(`scale set: ${name}, ${rowCount ?? 0} rows in ${((performance.now() - began) / 1000).toFixed(1)} s`);
    }
    await client.query("SET session_replication_role = 'origin'");
  });
  await pool.query('VACUUM ANALYZE');
  await keepMonths(pool);
  const broken = (await verify(pool)).filter((law) => law.broken.length > 0);
  if (broken.length > 0) throw new Error(`the scale set breaks: ${broken.map((law) => `${law.name} (${law.broken[0]?.what ?? ''})`).join('; ')}`);
  return pool;
}
