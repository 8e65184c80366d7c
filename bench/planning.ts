import { decimal } from '@larder/core/decimal';
import { wayOf } from '@larder/core/planning/levels';
import { proposalsOf, type ToppedUp } from '@larder/core/planning/proposals';
import type pg from 'pg';
import type { Figure } from './run';
import { asker, median, type RunningServer } from './server';

const rounds = 5;
/** So many items are looked at to tell how long all take, and there are so many of them. */
const lookedAt = 1000;
const items = 20_000;

interface Proposals {
  rows: { itemId: number; siteId: number; propose: string }[];
}
interface LookNow {
  look: { id: number; state: string; done: number; total: number | null } | null;
}

/** Reorder proposals for all items and sites against the statements that fetch what they go by and the bare reckoning; and a look at the past of all items. */
export async function measurePlanning(server: RunningServer, pool: pg.Pool): Promise<Figure[]> {
  const ask = asker(server);
  // One is begun by the server itself, which would be measured with it.
  await stopLook(ask);
  const whole: number[] = [];
  const bare: number[] = [];
  let [count, reckoned] = [0, 0];
  for (let round = 0; round < rounds; round += 1) {
    let began = performance.now();
    const { rows } = await ask<Proposals>('GET', '/api/planning/top-up');
    whole.push(performance.now() - began);
    began = performance.now();
    const known = await fetchedAll(pool);
    const fetched = performance.now() - began;
    began = performance.now();
    const found = [...known].flatMap(([itemId, { sites, facts }]) =>
      proposalsOf(sites, facts).map(({ siteId, quantity }) => ({ itemId, siteId, propose: quantity.toFixed() })),
    );
    reckoned = performance.now() - began;
    bare.push(fetched + reckoned);
    count = rows.length;
    const said = new Map(found.map((row) => [`${row.itemId}/${row.siteId}/${row.propose}`, row]));
    if (found.length !== rows.length || rows.some((row) => !said.has(`${row.itemId}/${row.siteId}/${row.propose}`)))
      throw new Error('the proposals are others than by the bare reckoning');
  }
  return [
    {
      what: 'reorder proposals for all items and sites, to their statements and the bare reckoning',
      measured: median(whole) / median(bare),
      limit: { atMost: 1.5 },
      detail: `${count} proposals in ${median(whole).toFixed(0)} ms to ${median(bare).toFixed(0)} ms, of which ${reckoned.toFixed(0)} reckoning`,
    },
    await lookFor(ask),
  ];
}

/** How long a look at the past of all items takes, told by the first thousand; then it is stopped. */
async function lookFor(ask: ReturnType<typeof asker>): Promise<Figure> {
  const began = performance.now();
  await ask('POST', '/api/planning/looks', {});
  let now: LookNow['look'] = null;
  while ((now?.done ?? 0) < lookedAt && performance.now() - began < 120_000) {
    await new Promise((later) => setTimeout(later, 50));
    now = (await ask<LookNow>('GET', '/api/planning/looks/last')).look;
  }
  const took = (performance.now() - began) / 1000;
  const done = now?.done ?? 0;
  const stopped = performance.now();
  await stopLook(ask);
  return {
    what: 'a look at the past of all items at six sites, told by its first ones, minutes',
    measured: (took / done) * (items / 60),
    limit: { atMost: 10 },
    detail: `${done} items in ${took.toFixed(1)} s; stopped within ${((performance.now() - stopped) / 1000).toFixed(1)} s`,
  };
}

/** Stops a look that is under way, and waits until it has ended. */
async function stopLook(ask: ReturnType<typeof asker>): Promise<void> {
  const last = async () => (await ask<LookNow>('GET', '/api/planning/looks/last')).look;
  const isGoing = (look: LookNow['look']) => look?.state === 'looking' || look?.state === 'waiting';
  let look = await last();
  if (look && isGoing(look)) await ask('POST', `/api/planning/looks/${look.id}/stop`, {});
  while (isGoing(look)) {
    await new Promise((later) => setTimeout(later, 50));
    look = await last();
  }
}

/** What proposals go by, fetched by a statement of its own. */
async function fetchedAll(pool: pg.Pool) {
  const { rows } = await pool.query<{
    itemId: number;
    step: string;
    made: boolean;
    suppliers: { supplierId: number; retired: boolean; packSize: string; minimum: string; price: string | null }[];
    sites: {
      siteId: number;
      free: string;
      incoming: string;
      short: string;
      drafted: string;
      point: string | null;
      upTo: string | null;
      pack: string | null;
      way: 'best';
    }[];
  }>(
    `WITH drafts AS (
       SELECT d.item_id, d.site_id, sum(d.base_quantity) AS many FROM purchase_order o JOIN purchase_line d ON d.order_id = o.id
       WHERE o.placed_at IS NULL AND o.cancelled_at IS NULL AND o.closed_at IS NULL AND o.ships_to_id IS NULL GROUP BY 1, 2
     ), low AS (
       SELECT DISTINCT p.item_id FROM item_policy p JOIN item i ON i.id = p.item_id AND i.retired_at IS NULL
       LEFT JOIN item_site s ON s.item_id = p.item_id AND s.site_id = p.site_id LEFT JOIN drafts d ON d.item_id = p.item_id AND d.site_id = p.site_id
       WHERE coalesce(s.free + s.on_order + s.coming - s.short, 0) + coalesce(d.many, 0) <= p.point
     )
     SELECT i.id AS "itemId", u.step::text, EXISTS (SELECT FROM bom b WHERE b.item_id = i.id AND b.retired_at IS NULL AND b.starts_on <= current_date) AS made,
       (SELECT coalesce(json_agg(json_build_object('supplierId', x.supplier_id, 'retired', y.retired_at IS NOT NULL, 'packSize', x.pack_size::text, 'minimum', x.minimum::text, 'price', x.price::text) ORDER BY x.position), '[]')
        FROM item_supplier x JOIN party y ON y.id = x.supplier_id WHERE x.item_id = i.id) AS suppliers,
       (SELECT json_agg(json_build_object('siteId', t.id, 'free', coalesce(s.free, 0)::text, 'incoming', coalesce(s.on_order + s.coming, 0)::text, 'short', coalesce(s.short, 0)::text,
          'drafted', coalesce(d.many, 0)::text, 'point', p.point::text, 'upTo', p.up_to::text, 'pack', p.pack_size::text, 'way', coalesce(p.way, 'best')) ORDER BY t.id)
        FROM site t LEFT JOIN item_site s ON s.item_id = i.id AND s.site_id = t.id LEFT JOIN item_policy p ON p.item_id = i.id AND p.site_id = t.id
        LEFT JOIN drafts d ON d.item_id = i.id AND d.site_id = t.id WHERE t.retired_at IS NULL) AS sites
     FROM low JOIN item i ON i.id = low.item_id JOIN unit u ON u.id = i.unit_id`,
  );
  return new Map(
    rows.map(({ itemId, step, made, suppliers, sites }) => [
      itemId,
      {
        facts: {
          step: decimal(step),
          made,
          suppliers: suppliers.map(({ supplierId, retired, ...terms }) => ({ supplierId, retired, terms: { ...terms, breaks: [] } })),
        },
        sites: sites.map(({ siteId, pack, way, point, upTo, ...at }): ToppedUp => ({
          siteId,
          free: decimal(at.free),
          incoming: decimal(at.incoming),
          short: decimal(at.short),
          drafted: decimal(at.drafted),
          reorderPoint: point === null ? null : decimal(point),
          orderUpTo: upTo === null ? null : decimal(upTo),
          pack: pack === null ? null : decimal(pack),
          way: wayOf(way),
        })),
      },
    ]),
  );
}
