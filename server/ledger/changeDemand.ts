import { decimal } from '@larder/core/decimal';
import { siteRows } from '@larder/core/ledger/effects';
import { serve } from '@larder/core/ledger/serving';
import type { Effects, ReservationChange, SiteState } from '@larder/core/ledger/types';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { union } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { among, positive } from '../db/given';
import { jsonRows } from '../db/json';
import { prepared } from '../db/prepared';
import { documentLine, item, itemSite, site } from '../db/schema/index';
import { demandFields, demandLine } from './demand';
import { changeReservations } from './door';

/** How the items stand at the site, with everything there that wants them and, `mine`, the lines that are decided on. */
const readStandings = prepared(['items', 'site', 'lines'], (db, value) => {
  const concerned = union(
    db
      .select({ id: documentLine.id })
      .from(documentLine)
      .where(and(eq(documentLine.itemId, item.id), positive(documentLine.wanted))),
    db
      .select({ id: documentLine.id })
      .from(documentLine)
      .where(and(among(documentLine.id, value.lines), eq(documentLine.itemId, item.id))),
  );
  const lines = jsonRows(
    {
      ...demandFields,
      wanted: sql<string>`(${documentLine.baseQuantity} - ${documentLine.cancelled} - ${documentLine.drawn})::text`,
      mine: among(documentLine.id, value.lines),
    },
    (select) => select.from(documentLine).where(and(inArray(documentLine.id, concerned), eq(documentLine.siteId, site.id))),
  );
  return db
    .select({
      item: item.id,
      sku: item.sku,
      name: item.name,
      site: site.name,
      onHand: sql<string>`coalesce(${itemSite.onHand}, 0)`,
      bench: sql<string>`coalesce(${itemSite.bench}, 0)`,
      lines,
    })
    .from(item)
    .innerJoin(site, sql`${site.id} = ${value.site}`)
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, site.id)))
    .where(among(item.id, value.items))
    .orderBy(item.id);
});

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
  const standings = await readStandings(act.tx, { items: [...new Set(lines.map(({ itemId }) => itemId))], site: siteId, lines: lines.map(({ id }) => id) });
  const releases: ReservationChange[] = [];
  const reserves: ReservationChange[] = [];
  const effects: Effects = { rows: [], notes: [] };
  for (const row of standings) {
    const all = row.lines.map((line) => ({ ...demandLine(line), mine: line.mine }));
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
