import type * as contract from '@larder/contract/transfers';
import type { ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import { bringings, type StandingAt } from '@larder/core/stock/proposals';
import { and, eq, exists, isNull, lte, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites, positive } from '../../db/given';
import { item, itemPolicy, itemSite, site, unit } from '../../db/schema/index';
import { lower, plain } from '../../db/text';

const lacking = alias(itemSite, 'lacking_site');
const itsPolicy = alias(itemPolicy, 'its_policy');
const orNone = (column: typeof itemSite.free | typeof itemSite.short) => sql<string>`trim_scale(coalesce(${column}, 0))::text`;

/** Items of which a site lacks some, with how they stand at each of the sites that the person may look at. */
async function readStandings(act: Act) {
  const { db } = act.tx;
  const mine = act.sites('look');
  const isShort = db
    .select({ one: sql`1` })
    .from(lacking)
    .where(and(eq(lacking.itemId, item.id), positive(lacking.short), atSites(lacking.siteId, mine)));
  // A site at which nothing ever was has a level all the same.
  const isLow = db
    .select({ one: sql`1` })
    .from(itsPolicy)
    .leftJoin(lacking, and(eq(lacking.itemId, itsPolicy.itemId), eq(lacking.siteId, itsPolicy.siteId)))
    .where(
      and(
        eq(itsPolicy.itemId, item.id),
        atSites(itsPolicy.siteId, mine),
        lte(sql`coalesce(${lacking.free} + ${lacking.onOrder} + ${lacking.coming} - ${lacking.short}, 0)`, itsPolicy.point),
      ),
    );
  return db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      siteId: site.id,
      site: site.name,
      free: orNone(itemSite.free),
      incoming: sql<string>`trim_scale(coalesce(${itemSite.onOrder} + ${itemSite.coming}, 0))::text`,
      short: orNone(itemSite.short),
      reorderPoint: sql<string | null>`trim_scale(${itemPolicy.point})::text`,
      orderUpTo: sql<string | null>`trim_scale(${itemPolicy.upTo})::text`,
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(site, and(isNull(site.retiredAt), atSites(site.id, mine)))
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, site.id)))
    .leftJoin(itemPolicy, and(eq(itemPolicy.itemId, item.id), eq(itemPolicy.siteId, site.id)))
    .where(and(eq(item.kind, 'stocked'), isNull(item.retiredAt), or(exists(isShort), exists(isLow))))
    .orderBy(lower(item.sku), site.id);
}

type Row = Awaited<ReturnType<typeof readStandings>>[number];
const standingOf = ({ siteId, free, incoming, short, reorderPoint, orderUpTo }: Row): StandingAt => ({
  siteId,
  free: decimal(free),
  incoming: decimal(incoming),
  short: decimal(short),
  reorderPoint: reorderPoint === null ? null : decimal(reorderPoint),
  orderUpTo: orderUpTo === null ? null : decimal(orderUpTo),
});

/** What sites could bring from each other, as one transfer for each pair of them; only those from or to the site that is asked about. */
export async function transferProposals(act: Act, siteId?: number): Promise<ResponseOf<typeof contract.transferProposals>> {
  if (siteId !== undefined) act.allow('look', siteId);
  const items = new Map<number, Row[]>();
  for (const row of await readStandings(act)) items.set(row.itemId, [...(items.get(row.itemId) ?? []), row]);
  const pairs = new Map<string, contract.TransferProposal>();
  for (const rows of items.values())
    for (const { fromSiteId, toSiteId, quantity } of bringings(rows.map(standingOf), decimal(rows[0]?.step ?? '1'))) {
      if (siteId !== undefined && fromSiteId !== siteId && toSiteId !== siteId) continue;
      const at = (id: number) => rows.find((row) => row.siteId === id) as Row;
      const [from, to] = [at(fromSiteId), at(toSiteId)];
      const pair = pairs.get(`${fromSiteId} ${toSiteId}`) ?? { fromSiteId, from: from.site, toSiteId, to: to.site, lines: [] };
      const { itemId, sku, name, unit: unitCode } = to;
      pair.lines.push({
        itemId,
        sku,
        name,
        unit: unitCode,
        quantity: quantity.toFixed(),
        free: from.free,
        keeps: from.orderUpTo ?? '0',
        freeThere: to.free,
        incomingThere: to.incoming,
        shortThere: to.short,
        reorderPoint: to.reorderPoint,
        orderUpTo: to.orderUpTo,
      });
      pairs.set(`${fromSiteId} ${toSiteId}`, pair);
    }
  return { rows: [...pairs.values()].sort((one, other) => other.lines.length - one.lines.length) };
}
