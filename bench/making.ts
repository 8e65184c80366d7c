import { decimal, greatest, zero } from '@larder/core/decimal';
import type { Bill } from '@larder/core/making/bill';
import { makeable } from '@larder/core/making/canMake';
import type pg from 'pg';
import type { Figure } from './run';
import { asker, median, type RunningServer } from './server';

const rounds = 7;
const site = 1;

/**
 * 2,000 bills of materials of up to six levels, made once and kept: item n is made on level n mod 6 of eight parts, of which all above the lowest level take two that are made one level down, and
 * the others are bought.
 */
const bills = [
  `INSERT INTO bom (item_id, number, starts_on, makes, created_at, created_by) SELECT n, 1, date '2025-05-01', 1, now(), 1 FROM generate_series(1, 2000) n WHERE NOT EXISTS (SELECT 1 FROM bom)`,
  `INSERT INTO bom_part (bom_id, position, item_id, quantity, base_quantity, waste)
   SELECT b.id, p,
     CASE WHEN p <= 2 AND b.item_id % 6 > 0 THEN 1 + ((b.item_id * 7 + p * 331) / 6 * 6 + (b.item_id % 6) + 4) % 1998
     ELSE 2001 + (b.item_id * 13 + p * 977) % 17000 END,
     1 + p % 3, 1 + p % 3, p % 2 * 5
   FROM bom b, generate_series(1, 8) p WHERE NOT EXISTS (SELECT 1 FROM bom_part) ON CONFLICT DO NOTHING`,
  // What would not be a level further down is no part.
  `DELETE FROM bom_part p USING bom b WHERE b.id = p.bom_id AND p.item_id <= 2000 AND p.item_id % 6 <> b.item_id % 6 - 1`,
  `ANALYZE bom, bom_part`,
];

/** How many can be made: of one item over all levels, and of all that is made, against the statements that fetch what it goes by and the bare reckoning. */
export async function measureMaking(server: RunningServer, pool: pg.Pool): Promise<Figure[]> {
  for (const statement of bills) await pool.query(statement);
  const ask = asker(server);
  const deepest = Array.from({ length: 40 }, (_, n) => 5 + 6 * (n * 8));
  const times: number[] = [];
  let levels = 0;
  // Once for what a server does when it is asked the first time.
  await ask('GET', `/api/making/items/${deepest[0] ?? 0}/can-make?siteId=${site}`);
  for (const itemId of deepest) {
    const began = performance.now();
    const { rows } = await ask<{ rows: { level: number }[] }>('GET', `/api/making/items/${itemId}/can-make?siteId=${site}`);
    times.push(performance.now() - began);
    levels = Math.max(levels, ...rows.map(({ level }) => level));
  }
  const whole: number[] = [];
  const bare: number[] = [];
  let reckoned = 0;
  for (let round = 0; round < rounds; round += 1) {
    let began = performance.now();
    const { rows } = await ask<{ rows: { itemId: number; canMake: string | null }[] }>('GET', `/api/making/can-make?siteId=${site}`);
    whole.push(performance.now() - began);
    began = performance.now();
    const known = await fetchedAll(pool);
    const fetched = performance.now() - began;
    const made = new Map(known.bills.map((bill) => [bill.itemId, bill]));
    const shelf = { free: (id: number) => known.free.get(id) ?? zero, step: (id: number) => known.step.get(id) ?? decimal(1), stocked: () => true };
    began = performance.now();
    const reckoning = makeable(made, shelf);
    const found = new Map(known.bills.map(({ itemId }) => [itemId, reckoning.canMake(itemId).many?.toFixed() ?? null]));
    reckoned = performance.now() - began;
    bare.push(fetched + reckoned);
    if (rows.length !== found.size || rows.some(({ itemId, canMake: many }) => found.get(itemId) !== many))
      throw new Error('the list says otherwise than the bare reckoning');
  }
  return [
    {
      what: 'how many of one item can be made, the slowest of 40, ms',
      measured: Math.max(...times),
      limit: { atMost: 300 },
      detail: `half within ${median(times).toFixed(0)} ms; ${levels} levels deep`,
    },
    {
      what: 'the list of all that can be made, to its statements and the bare reckoning',
      measured: median(whole) / median(bare),
      limit: { atMost: 1.5 },
      detail: `${median(whole).toFixed(0)} ms to ${median(bare).toFixed(0)} ms, of which ${reckoned.toFixed(0)} reckoning`,
    },
  ];
}

/** What the list goes by, fetched by statements of its own. */
async function fetchedAll(pool: pg.Pool) {
  const { rows: parts } = await pool.query<{ made: number; makes: string; parts: { id: number; quantity: string; waste: string }[] }>(
    `SELECT b.item_id AS made, b.makes, (SELECT json_agg(json_build_object('id', p.item_id, 'quantity', p.base_quantity::text, 'waste', p.waste::text) ORDER BY p.position) FROM bom_part p WHERE p.bom_id = b.id) AS parts
     FROM (SELECT DISTINCT ON (item_id) * FROM bom WHERE retired_at IS NULL AND starts_on <= current_date ORDER BY item_id, starts_on DESC, number DESC) b`,
  );
  const ids = [...new Set(parts.flatMap((row) => [row.made, ...row.parts.map(({ id }) => id)]))];
  const { rows: items } = await pool.query<{ id: number; sku: string; name: string; step: string; free: string | null }>(
    `SELECT i.id, i.sku, i.name, u.step, s.free FROM item i JOIN unit u ON u.id = i.unit_id LEFT JOIN item_site s ON s.item_id = i.id AND s.site_id = $2 WHERE i.id = ANY ($1)`,
    [ids, site],
  );
  const bill = ({ made, makes, parts: lines }: (typeof parts)[number]): Bill => ({
    itemId: made,
    makes: decimal(makes),
    parts: lines.map(({ id, quantity, waste }) => ({ itemId: id, quantity: decimal(quantity), waste: decimal(waste) })),
    costs: [],
    byProducts: [],
    share: null,
  });
  return {
    bills: parts.map(bill),
    free: new Map(items.map((row) => [row.id, greatest(decimal(row.free ?? 0), zero)])),
    step: new Map(items.map((row) => [row.id, decimal(row.step)])),
  };
}
