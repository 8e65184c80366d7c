import { decimal } from '@larder/core/decimal';
import { siteRows } from '@larder/core/ledger/effects';
import { serve } from '@larder/core/ledger/serving';
import type { Effects, ReservationChange, SiteState } from '@larder/core/ledger/types';
import type { Act } from '../act';
import { demandLine, demandObject, type DemandRow } from './demand';
import { changeReservations } from './door';

interface StandingRow {
  item: number;
  sku: string;
  name: string;
  site: string;
  onHand: string;
  bench: string;
  lines: (DemandRow & { mine: boolean })[] | null;
}

const standingSql = `SELECT i.id AS item, i.sku, i.name, s.name AS site, coalesce(f.on_hand, 0)::text AS "onHand", coalesce(f.bench, 0)::text AS bench,
  (SELECT json_agg(to_jsonb(${demandObject}) || jsonb_build_object('wanted', (l.base_quantity - l.cancelled - l.drawn)::text, 'mine', l.id = ANY($3)))
    FROM document_line l WHERE l.id IN (SELECT id FROM document_line WHERE item_id = i.id AND wanted > 0 UNION SELECT id FROM document_line WHERE id = ANY($3) AND item_id = i.id) AND l.site_id = $2) AS lines
  FROM item i JOIN site s ON s.id = $2 LEFT JOIN item_site f ON f.item_id = i.id AND f.site_id = s.id WHERE i.id = ANY($1) ORDER BY i.id`;

/** Lines of one document, at the site it draws on. */
interface Drawing {
  siteId: number;
  lines: readonly { id: number; itemId: number }[];
}

/**
 * Changes the demand at a site when a document is decided on: with `active`, its lines join it and are reserved what is free;
 * without, what they held goes to the lines that are short. The document and the items' pools are locked; `decide` writes the decision
 * after what is released and before what is reserved.
 */
export async function changeDemand(act: Act, { siteId, lines }: Drawing, active: boolean, decide: () => Promise<void>): Promise<Effects> {
  const standings = await act.tx.rows<StandingRow>(standingSql, [[...new Set(lines.map(({ itemId }) => itemId))], siteId, lines.map(({ id }) => id)]);
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
      if (change.gt(0) && !line.mine) effects.notes.push(`${line.number} line ${line.position} gets ${change.toFixed()} it was short of.`);
    }
  }
  if (act.tx.readOnly) return effects;
  await changeReservations(act, releases);
  await decide();
  await changeReservations(act, reserves);
  return effects;
}
