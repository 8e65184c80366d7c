import type * as contract from '@larder/contract/transfers';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, zero } from '@larder/core/decimal';
import { lacksOfLevel } from '@larder/core/stock/transfers';
import { and, eq, isNull, ne, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, atSites, positive } from '../../db/given';
import { company, item, itemPolicy, itemSite, salesLine, salesOrder, site, unit } from '../../db/schema/index';
import { plain } from '../../db/text';

type Asked = QueryOf<typeof contract.transferFigures>;
const idsOf = (list: string): number[] => (list === '' ? [] : list.split(',').map(Number));
const there = alias(itemSite, 'there');

/** How items stand where they come from and where they go, or what lines of orders are short of there; and which other sites could give some. */
export async function transferFigures(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.transferFigures>> {
  const lines = await shortLines(act, idsOf(asked.salesLines));
  const toSiteId = asked.toSiteId ?? lines[0]?.toSiteId ?? null;
  if (toSiteId !== null && lines.length === 0) act.sites('look');
  const itemIds = [...new Set([...idsOf(asked.items), ...lines.map(({ itemId }) => itemId)])];
  const items = new Map((await standing(act, itemIds, asked.fromSiteId ?? null, toSiteId)).map((row) => [row.itemId, row]));
  const shown = (itemId: number, line: (typeof lines)[number] | null) => {
    const one = items.get(itemId);
    if (!one) return [];
    const { orderUpTo, freeThere, comingThere, shortThere, ...rest } = one;
    const upTo = lacksOfLevel({
      orderUpTo: orderUpTo === null ? null : decimal(orderUpTo),
      free: decimal(freeThere),
      coming: decimal(comingThere),
      short: decimal(shortThere),
    });
    return [
      {
        ...rest,
        salesLineId: line?.lineId ?? null,
        order: line?.order ?? null,
        toSiteId: line?.toSiteId ?? asked.toSiteId ?? null,
        shipBy: line?.shipBy ?? null,
        short: line?.short ?? shortThere,
        upTo: quantityText(upTo),
      },
    ];
  };
  return {
    rows: [...lines.flatMap((line) => shown(line.itemId, line)), ...idsOf(asked.items).flatMap((itemId) => shown(itemId, null))],
    sites: await couldGive(act, itemIds, toSiteId),
  };
}

/** Lines of confirmed orders that are short, at sites the person may look at. */
const shortLines = async ({ tx: { db }, sites }: Act, ids: readonly number[]) =>
  db
    .select({
      lineId: salesLine.id,
      itemId: salesLine.itemId,
      order: salesOrder.number,
      toSiteId: salesLine.siteId,
      shipBy: sql<string>`coalesce(${salesLine.shipBy}, ${salesOrder.shipBy})`,
      short: plain(salesLine.short),
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .where(and(among(salesLine.id, ids), positive(salesLine.short), atSites(salesLine.siteId, sites('look'))))
    .orderBy(sql`array_position(${sql.param([...ids])}::int[], ${salesLine.id})`);

/** How items stand at both ends; what is free at a site is seen by all unless the business says no. */
async function standing(act: Act, itemIds: readonly number[], fromSiteId: number | null, toSiteId: number | null) {
  const { db } = act.tx;
  const mine = act.sites('look');
  const [ours] = await db.select({ all: company.freeSeenElsewhere }).from(company);
  const looksAt = (siteId: number | null): boolean => siteId !== null && (mine === null || mine.includes(siteId));
  const seesFree = fromSiteId !== null && (ours?.all === true || looksAt(fromSiteId));
  const rows = await db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      free: sql<string>`trim_scale(coalesce(${itemSite.free}, 0))::text`,
      freeThere: sql<string>`coalesce(${there.free}, 0)::text`,
      comingThere: sql<string>`(coalesce(${there.onOrder}, 0) + coalesce(${there.coming}, 0))::text`,
      shortThere: sql<string>`trim_scale(coalesce(${there.short}, 0))::text`,
      orderUpTo: sql<string | null>`${itemPolicy.upTo}::text`,
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, fromSiteId ?? 0)))
    .leftJoin(there, and(eq(there.itemId, item.id), eq(there.siteId, toSiteId ?? 0)))
    .leftJoin(itemPolicy, and(eq(itemPolicy.itemId, item.id), eq(itemPolicy.siteId, toSiteId ?? 0)))
    .where(and(among(item.id, itemIds), eq(item.kind, 'stocked')));
  return rows.map((row) => ({
    ...row,
    free: seesFree ? row.free : null,
    ...(looksAt(toSiteId) ? {} : { freeThere: zero.toFixed(), comingThere: zero.toFixed(), shortThere: zero.toFixed(), orderUpTo: null }),
  }));
}

/** Other sites that have some of these items free, the one that has most of them first. */
async function couldGive(act: Act, itemIds: readonly number[], toSiteId: number | null) {
  const { db } = act.tx;
  const mine = act.sites('look');
  const seen = mine === null ? undefined : or(sql`(${db.select({ all: company.freeSeenElsewhere }).from(company)})`, atSites(itemSite.siteId, mine));
  return db
    .select({ siteId: site.id, site: site.name, items: sql<number>`count(*)::int` })
    .from(itemSite)
    .innerJoin(site, and(eq(site.id, itemSite.siteId), isNull(site.retiredAt)))
    .where(and(among(itemSite.itemId, itemIds), positive(itemSite.free), toSiteId === null ? undefined : ne(itemSite.siteId, toSiteId), seen))
    .groupBy(site.id)
    .orderBy(sql`count(*) desc`, site.id);
}
