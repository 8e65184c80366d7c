import type pg from 'pg';
import type { Figure } from './run';
import { asker, median, type RunningServer } from './server';

const [partCount, tries, site] = [500, 5, 1];

/** Where work lies, which a scale set of before has not. */
const places = [
  `INSERT INTO place (kind, site_id, code, owned) SELECT 'in-work', id, 'in work', true FROM site WHERE NOT EXISTS (SELECT 1 FROM place p WHERE p.kind = 'in-work' AND p.site_id = site.id)`,
  `INSERT INTO place (kind, code, owned) SELECT 'made', 'Made', false WHERE NOT EXISTS (SELECT 1 FROM place WHERE kind = 'made')`,
];

/** What writes a movement of as many lines takes three milliseconds a line at most. */
const writes = { 'its parts taken': true, recorded: true, undone: true };

interface Posted {
  movementId: number | null;
}
interface Order {
  id: number;
  version: number;
  lines: { id: number; itemId: number; needed: string; atWork: string }[];
  products: { id: number; binId: number }[];
}

/**
 * A work order of 500 parts on the scale set, step by step: planned and released, its parts taken, what recording it changes asked and then posted, and
 * what taking it apart changes. Each the median of several times.
 */
export async function measureWork(server: RunningServer, pool: pg.Pool): Promise<Figure[]> {
  for (const statement of places) await pool.query(statement);
  const ask = asker(server);
  const items = await looseItems(pool);
  const made = await ask<{ id: number }>('POST', '/api/catalog/items', { sku: `BENCH-${Date.now()}`, name: 'Made of very many parts', unitId: 1 });
  const components = items.map((itemId) => ({ itemId, quantity: '1' }));
  const times: Record<string, number[]> = {};
  const timed = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
    const began = performance.now();
    const answer = await work();
    (times[what] ??= []).push(performance.now() - began);
    return answer;
  };
  const undo = ({ movementId }: Posted) => ask('POST', '/api/stock/undo', { movementId, note: 'measured' });
  const look = (id: number) => ask<Order>('GET', `/api/making/orders/${id}`);
  for (let n = 0; n < tries; n += 1) {
    const form = { itemId: made.id, siteId: site, quantity: '1', startsOn: '2027-06-01', dueOn: '2027-06-01', components, costs: [], release: true };
    const { id } = await timed('planned and released', () => ask<{ id: number }>('POST', '/api/making/orders', form));
    const { rows } = await timed('its pick list', () =>
      ask<{ rows: { lineId: number; binId: number; lotId: number | null; take: string }[] }>('GET', `/api/making/orders/${id}/pick-list`),
    );
    const lines = rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
    const taken = await timed('its parts taken', () => ask<Posted>('POST', `/api/making/orders/${id}/picks`, { lines }));
    const order = await timed('looked at', () => look(id));
    const record = {
      version: order.version,
      used: order.lines.map(({ id: lineId, atWork }) => ({ lineId, quantity: atWork })),
      made: [{ lineId: order.products[0]?.id, quantity: '1' }],
      otherCost: true,
    };
    await timed('what recording it changes', () => ask('POST', `/api/making/orders/${id}/records?preview=true`, record));
    const recorded = await timed('recorded', () => ask<Posted>('POST', `/api/making/orders/${id}/records`, record));
    const parts = components.map(({ itemId }) => ({ itemId, planned: '1', quantity: '1' }));
    const apart = { itemId: made.id, binId: order.products[0]?.binId, quantity: '1', parts };
    await timed('what taking it apart changes', () => ask('POST', '/api/making/apart?preview=true', apart));
    await timed('undone', () => undo(recorded));
    await undo(taken);
    await ask('POST', `/api/making/orders/${id}/cancel`, { version: (await look(id)).version });
  }
  return Object.entries(times).map(([what, all]) => ({
    what: `a work order of ${partCount} parts, ${what}, ms`,
    measured: median(all),
    limit: { atMost: what in writes ? 1500 : 1000 },
    detail: `each time ${all.map((ms) => ms.toFixed(0)).join(', ')}`,
  }));
}

/** So many items that are neither kept by lot nor by serial, of which enough is free at the site. */
async function looseItems(pool: pg.Pool): Promise<number[]> {
  const { rows } = await pool.query<{ id: number }>(
    `SELECT i.id FROM item i JOIN item_site s ON s.item_id = i.id AND s.site_id = $1 WHERE i.tracking = 'none' AND i.retired_at IS NULL AND s.free >= 2 ORDER BY i.id LIMIT $2`,
    [site, partCount],
  );
  if (rows.length < partCount) throw new Error(`only ${rows.length} items are free at site ${site}`);
  return rows.map(({ id }) => id);
}
