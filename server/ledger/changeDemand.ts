import { decimal, type Decimal } from '@larder/core/decimal';
import { planDemand, type DemandPlan, type Wanting } from '@larder/core/ledger/demandChange';
import { siteRows } from '@larder/core/ledger/effects';
import { holdFaults, planHold, type Given } from '@larder/core/ledger/holding';
import type { Effects, ReservationChange, SiteState } from '@larder/core/ledger/types';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { union } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { among, positive } from '../db/given';
import { jsonRows } from '../db/json';
import { prepared } from '../db/prepared';
import { documentLine, item, itemSite, site } from '../db/schema/index';
import { refuseErrors } from '../documents/lines';
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
      wanted: sql<string>`(${documentLine.baseQuantity} - ${documentLine.cancelled} - ${documentLine.direct} - (${documentLine.drawn} - ${documentLine.sent}))::text`,
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
        promisedOn: string | null;
        standsBack?: boolean;
      };
}
/** A line that a document is given. */
export type AddedLine = Omit<Wanting, 'lineId' | 'standsBack'>;

/**
 * Changes what documents want of sites when they are decided on or changed: what is wanted no more is released and goes to those who are short, what is wanted beyond is reserved as far as it is free.
 * The documents and the items' pools are locked; `write` writes what was decided after what is released and before what is reserved, and answers the ids of the lines added, in their order.
 */
export async function changeDemand(
  act: Act,
  { decided, added = [] }: { decided: readonly DecidedLine[]; added?: readonly AddedLine[] },
  write: () => Promise<readonly number[] | undefined>,
): Promise<Effects> {
  const at = decided.flatMap(({ itemId, siteId, becomes }) => [
    { itemId, siteId },
    { itemId, siteId: becomes instanceof Object ? becomes.siteId : siteId },
  ]);
  const standings = await standingsOf(
    act,
    [...at, ...added],
    decided.map(({ id }) => id),
  );
  const mine = new Map(standings.flatMap(({ lines }) => lines.filter((line) => line.mine).map((line) => [line.lineId, line] as const)));
  const wanting = decided.flatMap(({ id, itemId, siteId, becomes }): Wanting[] => {
    const line = mine.get(id);
    if (!line || becomes === 'ended') return [];
    return [{ ...demandLine(line), itemId, siteId, ...(becomes === 'wanted' ? {} : becomes) }];
  });
  const fresh = added.map((line, index): Wanting => ({ ...line, lineId: -1 - index, standsBack: false }));
  const plan = planDemand(standings.map(siteOf), new Set(decided.map(({ id }) => id)), [...wanting, ...fresh]);
  return decide(act, standings, plan, write);
}

/** Gives what others hold of an item at a site to a line that is short there. The documents and the item's pool are locked; refuses what cannot be given, by the fields of the request. */
export async function holdStock(
  act: Act,
  to: { id: number; itemId: number; siteId: number },
  from: readonly Given[],
  write: () => Promise<void>,
): Promise<Effects> {
  const standings = await standingsOf(act, [to], []);
  const [site] = standings.map(siteOf);
  if (!site) throw new Error('an item at a site was asked for');
  refuseErrors(holdFaults(site, to.id, from));
  return decide(act, standings, planHold(site, to.id, from), async () => {
    await write();
    return undefined;
  });
}

type Standing = Awaited<ReturnType<typeof readStandings>>[number];

/** How items stand at sites, each pair once, with the lines that are decided on. */
async function standingsOf(act: Act, at: readonly { itemId: number; siteId: number }[], lines: number[]): Promise<Standing[]> {
  const pairs = [...new Map(at.map(({ itemId, siteId }) => [`${itemId} ${siteId}`, { itemId, siteId }])).values()];
  return readStandings(act.tx, { items: pairs.map(({ itemId }) => itemId), sites: pairs.map(({ siteId }) => siteId), lines });
}

const siteOf = (row: Standing): SiteState => ({
  itemId: row.item,
  siteId: row.siteId,
  siteName: row.site,
  onHand: decimal(row.onHand),
  bench: decimal(row.bench),
  demand: row.lines.filter(({ active }) => active).map(demandLine),
});

/** Writes a plan of what is reserved and, between what it releases and reserves, what `write` does; tells what it changes. A preview writes nothing. */
async function decide(act: Act, standings: readonly Standing[], plan: DemandPlan, write: () => Promise<readonly number[] | undefined>): Promise<Effects> {
  const effects: Effects = {
    rows: plan.sites.flatMap(({ before, after }, index) => {
      const { item: id, sku, name } = standings[index] as Standing;
      return siteRows({ id, sku, name }, before, after);
    }),
    notes: plan.notes,
    costNotes: [],
  };
  if (act.tx.readOnly) return effects;
  await changeReservations(act, plan.releases);
  const ids = (await write()) ?? [];
  const written = ({ lineId, ...change }: ReservationChange) => ({ ...change, lineId: lineId < 0 ? (ids[-1 - lineId] as number) : lineId });
  await changeReservations(act, plan.reserves.map(written));
  return effects;
}
