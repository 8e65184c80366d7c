import { dayOf } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { settled } from '@larder/core/ledger/serving';
import type { ReservationChange } from '@larder/core/ledger/types';
import type pg from 'pg';
import type { Act } from '../act';
import { transaction } from '../db/database';
import { demandLine, demandObject, type DemandRow } from './demand';
import { changeReservations } from './door';
import { lock } from './lock';

interface SiteRow {
  siteId: number;
  onHand: string;
  /** What the lots whose flag changes take off it, or bring back. */
  change: string;
  demand: DemandRow[];
}

/** Lots whose flag does not say what their use-by day says. */
const wrong = `(l.use_by < $1 AND NOT l.past_use OR l.past_use AND coalesce(l.use_by >= $1, true))`;

const sitesSql = `SELECT f.site_id AS "siteId", f.on_hand AS "onHand", x.change,
    (SELECT coalesce(json_agg(${demandObject}), '[]') FROM document_line l WHERE l.item_id = $2 AND l.site_id = f.site_id AND l.wanted > 0) AS demand
  FROM item_site f JOIN (SELECT p.site_id, sum(b.quantity * CASE WHEN l.past_use THEN 1 ELSE -1 END) AS change FROM lot l JOIN balance b ON b.item_id = l.item_id AND b.lot_id = l.id JOIN place p ON p.id = b.place_id
    WHERE l.item_id = $2 AND ${wrong} AND p.kind = 'bin' AND p.sellable AND b.quantity > 0 GROUP BY 1) x ON x.site_id = f.site_id WHERE f.item_id = $2`;

/**
 * Flags the lots of an item that have passed their use-by day, and takes the flag off those whose day was put right: what is flagged
 * is no longer on hand. What was promised of it is released, last served first; what comes back serves who is short.
 * Answers how many lots changed. The item's pool is locked first.
 */
export async function flagPastUse(act: Pick<Act, 'tx' | 'today'>, itemId: number): Promise<number> {
  await lock.pools(act, [itemId]);
  const sites = await act.tx.rows<SiteRow>(sitesSql, [act.today, itemId]);
  const changes = sites.flatMap((site) => changesAt(site, itemId));
  await changeReservations(
    act,
    changes.filter(({ quantity }) => quantity.lt(0)),
  );
  const flagged = await act.tx.rows(`UPDATE lot l SET past_use = NOT l.past_use WHERE l.item_id = $2 AND ${wrong} RETURNING l.id`, [act.today, itemId]);
  await changeReservations(
    act,
    changes.filter(({ quantity }) => quantity.gt(0)),
  );
  return flagged.length;
}

function changesAt({ siteId, onHand, change, demand }: SiteRow, itemId: number): ReservationChange[] {
  const before = demand.map(demandLine);
  const after = settled(decimal(onHand).plus(change), before);
  return before.map(({ lineId, reserved }) => ({
    lineId,
    itemId,
    siteId,
    quantity: (after.find((line) => line.lineId === lineId)?.reserved ?? reserved).minus(reserved),
  }));
}

/** The day's change: flags what has passed its use-by day, item by item, each in a transaction of its own. Answers how many lots changed; again on the same day it finds nothing to do. */
export async function changeDay(pool: pg.Pool, now: Date): Promise<number> {
  const { rows: companies } = await pool.query<{ zone: string }>('SELECT time_zone AS zone FROM company');
  if (!companies[0]) return 0;
  const today = dayOf(now, companies[0].zone);
  const { rows } = await pool.query<{ itemId: number }>(`SELECT DISTINCT l.item_id AS "itemId" FROM lot l WHERE ${wrong} ORDER BY 1`, [today]);
  let flagged = 0;
  for (const { itemId } of rows) flagged += await transaction(pool, 'write', (tx) => flagPastUse({ tx, today }, itemId));
  return flagged;
}
