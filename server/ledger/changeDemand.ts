import { decimal, type Decimal } from '@larder/core/decimal';
import { planDemand, type Wanting } from '@larder/core/ledger/demandChange';
import { siteRows } from '@larder/core/ledger/effects';
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

const asked = { item: sql<number>`asked.item`, site: sql<number>`asked.site` };

/** How items stand at sites, pair by pair, with everything there that wants them and, `mine`, the lines that are decided on, wanting what is written on them. */
const readStandings = prepared(['items', 'sites', 'lines'], (db, value) => {
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
      active: documentLine.active,
      mine: among(documentLine.id, value.lines),
    },
    (select) => select.from(documentLine).where(and(inArray(documentLine.id, concerned), eq(documentLine.siteId, site.id))),
  );
  return db
    .select({
      item: item.id,
      sku: item.sku,
      name: item.name,
      siteId: site.id,
      site: site.name,
      onHand: sql<string>`coalesce(${itemSite.onHand}, 0)`,
      bench: sql<string>`coalesce(${itemSite.bench}, 0)`,
      lines,
    })
    .from(sql`unnest(${value.items}::int[], ${value.sites}::int[]) as asked(item, site)`)
    .innerJoin(item, eq(item.id, asked.item))
    .innerJoin(site, eq(site.id, asked.site))
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, site.id)))
    .orderBy(item.id, site.id);
});

/** A line of a document that is decided on, and the site it draws on now: it wants what is written on it, nothing any more, or what it will say. */
export interface DecidedLine {
  id: number;
  itemId: number;
  siteId: number;
  becomes:
    | 'wanted'
    | 'ended'
    | {
        siteId: number;
        /** Of base units, beyond what was drawn. */
        wanted: Decimal;
        neededOn: string;
      };
}
/** A line that a document is given. */
export type AddedLine = Omit<Wanting, 'lineId' | 'promisedOn'>;

/**
 * Changes what documents want of sites when they are decided on or changed: what is wanted no more is released and goes to those who are short, what is wanted beyond is reserved as far as it is free.
 * The documents and the items' pools are locked; `write` writes what was decided after what is released and before what is reserved, and answers the ids of the lines added, in their order.
 */
export async function changeDemand(
  act: Act,
  { decided, added = [] }: { decided: readonly DecidedLine[]; added?: readonly AddedLine[] },
  write: () => Promise<readonly number[] | undefined>,
): Promise<Effects> {
  const at = [
    ...decided.flatMap(({ itemId, siteId, becomes }) => [
      { itemId, siteId },
      { itemId, siteId: becomes instanceof Object ? becomes.siteId : siteId },
    ]),
    ...added,
  ];
  const pairs = [...new Map(at.map(({ itemId, siteId }) => [`${itemId} ${siteId}`, { itemId, siteId }])).values()];
  const standings = await readStandings(act.tx, {
    items: pairs.map(({ itemId }) => itemId),
    sites: pairs.map(({ siteId }) => siteId),
    lines: decided.map(({ id }) => id),
  });
  const sites = standings.map((row): SiteState => ({
    itemId: row.item,
    siteId: row.siteId,
    siteName: row.site,
    onHand: decimal(row.onHand),
    bench: decimal(row.bench),
    demand: row.lines.filter(({ active }) => active).map(demandLine),
  }));
  const mine = new Map(standings.flatMap(({ lines }) => lines.filter((line) => line.mine).map((line) => [line.lineId, line] as const)));
  const wanting = decided.flatMap(({ id, itemId, siteId, becomes }): Wanting[] => {
    const line = mine.get(id);
    if (!line || becomes === 'ended') return [];
    return [{ ...demandLine(line), itemId, siteId, ...(becomes === 'wanted' ? {} : becomes) }];
  });
  const fresh = added.map((line, index): Wanting => ({ ...line, lineId: -1 - index, promisedOn: null }));
  const plan = planDemand(sites, new Set(decided.map(({ id }) => id)), [...wanting, ...fresh]);
  const effects: Effects = {
    rows: plan.sites.flatMap(({ before, after }, index) => {
      const { item: id, sku, name } = standings[index] as (typeof standings)[number];
      return siteRows({ id, sku, name }, before, after);
    }),
    notes: plan.notes,
  };
  if (act.tx.readOnly) return effects;
  await changeReservations(act, plan.releases);
  const ids = (await write()) ?? [];
  const written = ({ lineId, ...change }: ReservationChange) => ({ ...change, lineId: lineId < 0 ? (ids[-1 - lineId] as number) : lineId });
  await changeReservations(act, plan.reserves.map(written));
  return effects;
}
