import { decimal, least, zero, type Decimal } from '@larder/core/decimal';
import { siteRows } from '@larder/core/ledger/effects';
import { serve } from '@larder/core/ledger/serving';
import type { DemandLine, Effects, ReservationChange, SiteState } from '@larder/core/ledger/types';
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

/** A line of a confirmed document as it will be: what it wants from then on, and by when. One that is added has no id yet. */
export interface AmendedLine {
  itemId: number;
  /** Of base units, beyond what was drawn. */
  wanted: Decimal;
  neededOn: string;
}
interface Amended {
  siteId: number;
  changed: readonly (AmendedLine & { id: number })[];
  added: readonly (AmendedLine & Pick<DemandLine, 'kind' | 'number' | 'position'>)[];
}

/**
 * Changes what lines of a document want that draw on a site, and adds lines to it: what is wanted no more is released and goes to those who are short, what is wanted beyond is reserved as far as it is
 * free. The document and the items' pools are locked; `write` writes the lines after what is released and before what is reserved, and answers the ids of those added, in their order.
 */
export async function amendDemand(act: Act, { siteId, changed, added }: Amended, write: () => Promise<readonly number[]>): Promise<Effects> {
  const items = [...new Set([...changed, ...added].map(({ itemId }) => itemId))];
  const standings = await readStandings(act.tx, { items, site: siteId, lines: changed.map(({ id }) => id) });
  const releases: ReservationChange[] = [];
  const reserves: ReservationChange[] = [];
  const effects: Effects = { rows: [], notes: [] };
  for (const row of standings) {
    const all = row.lines.map(demandLine);
    const fresh = added.flatMap((line, index) => (line.itemId === row.item ? [{ ...line, lineId: -1 - index, promisedOn: null, reserved: zero }] : []));
    const wanting = all.map((line) => {
      const to = changed.find(({ id }) => id === line.lineId);
      return to ? { ...line, wanted: to.wanted, neededOn: to.neededOn, reserved: least(line.reserved, to.wanted) } : line;
    });
    const before: SiteState = { itemId: row.item, siteId, siteName: row.site, onHand: decimal(row.onHand), bench: decimal(row.bench), demand: all };
    const after: SiteState = { ...before, demand: serve(before.onHand, [...wanting, ...fresh]) };
    effects.rows.push(...siteRows({ id: row.item, sku: row.sku, name: row.name }, before, after));
    for (const { lineId, number, position, reserved } of after.demand) {
      const was = all.find((line) => line.lineId === lineId)?.reserved ?? zero;
      const change = reserved.minus(was);
      const isOurs = lineId < 0 || changed.some(({ id }) => id === lineId);
      (change.lt(0) ? releases : reserves).push({ lineId, itemId: row.item, siteId, quantity: change });
      if (change.gt(0) && !isOurs) effects.notes.push(`${number} line ${position} gets ${change.toFixed()} it was short of.`);
    }
  }
  if (act.tx.readOnly) return effects;
  await changeReservations(act, releases);
  const ids = await write();
  await changeReservations(
    act,
    reserves.map((one) => (one.lineId < 0 ? { ...one, lineId: ids[-1 - one.lineId] as number } : one)),
  );
  return effects;
}
