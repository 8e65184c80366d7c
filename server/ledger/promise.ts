import { decimal } from '@larder/core/decimal';
import { siteRows } from '@larder/core/ledger/effects';
import { serve } from '@larder/core/ledger/serving';
import type { DemandLine, Effects, ReservationChange, SiteState } from '@larder/core/ledger/types';
import type { Act } from '../act';
import { changeReservations } from './door';

interface StandingRow {
  item: number;
  sku: string;
  name: string;
  site: string;
  onHand: string;
  bench: string;
  lines: { id: number; number: string; position: number; shipBy: string; promised: string | null; wanted: string; reserved: string; mine: boolean }[] | null;
}

const standingSql = `SELECT i.id AS item, i.sku, i.name, s.name AS site, coalesce(f.on_hand, 0)::text AS "onHand", coalesce(f.bench, 0)::text AS bench,
  (SELECT json_agg(json_build_object('id', l.id, 'number', o.number, 'position', l.position, 'shipBy', l.ship_by, 'promised', l.promised_on, 'wanted', (l.base_quantity - l.picked)::text, 'reserved', l.reserved::text, 'mine', l.order_id = $3))
    FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE l.id IN (SELECT id FROM sales_line WHERE item_id = i.id AND wanted > 0 UNION SELECT id FROM sales_line WHERE order_id = $3 AND item_id = i.id) AND l.site_id = $2) AS lines
  FROM item i JOIN site s ON s.id = $2 LEFT JOIN item_site f ON f.item_id = i.id AND f.site_id = s.id WHERE i.id = ANY($1) ORDER BY i.id`;

/**
 * Changes what is promised when an order's decision changes: with `active`, its lines join the demand and are reserved what is free;
 * without, what they held goes to the lines that are short. The order and the items' pools are locked; `decide` writes the decision
 * after what is released and before what is reserved.
 */
export async function promise(
  act: Act,
  orderId: number,
  siteId: number,
  itemIds: readonly number[],
  active: boolean,
  decide: () => Promise<void>,
): Promise<Effects> {
  const standings = await act.tx.rows<StandingRow>(standingSql, [[...new Set(itemIds)], siteId, orderId]);
  const releases: ReservationChange[] = [];
  const reserves: ReservationChange[] = [];
  const effects: Effects = { rows: [], notes: [] };
  for (const row of standings) {
    const all = (row.lines ?? []).map((line) => ({ ...demandLine(line), mine: line.mine }));
    const before: SiteState = {
      itemId: row.item,
      siteId,
      siteName: row.site,
      onHand: decimal(row.onHand),
      bench: decimal(row.bench),
      demand: active ? all.filter((line) => !line.mine) : all,
    };
    const wanting = active ? all : all.filter((line) => !line.mine);
    const after: SiteState = { ...before, demand: serve(before.onHand, wanting) };
    effects.rows.push(...siteRows({ id: row.item, sku: row.sku, name: row.name }, before, after));
    for (const line of all) {
      const change = (after.demand.find(({ lineId }) => lineId === line.lineId)?.reserved ?? decimal(0)).minus(line.reserved);
      (change.lt(0) ? releases : reserves).push({ lineId: line.lineId, itemId: row.item, siteId, quantity: change });
      if (change.gt(0) && !line.mine) effects.notes.push(`${line.orderNumber} line ${line.position} gets ${change.toFixed()} it was short of.`);
    }
  }
  if (act.tx.readOnly) return effects;
  await changeReservations(act, releases);
  await decide();
  await changeReservations(act, reserves);
  return effects;
}

const demandLine = (row: NonNullable<StandingRow['lines']>[number]): DemandLine => ({
  lineId: row.id,
  orderNumber: row.number,
  position: row.position,
  shipBy: row.shipBy,
  promisedOn: row.promised,
  wanted: decimal(row.wanted),
  reserved: decimal(row.reserved),
});
