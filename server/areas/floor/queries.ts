import type * as contract from '@larder/contract/floor';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, asc, eq, exists, inArray, isNotNull, isNull, or, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { atSites, notNone, positive } from '../../db/given';
import { jsonRows } from '../../db/json';
import { balance, costPool, item, itemCode, lot, place, site, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { binToCount, getCount } from '../counts/queries';

/** Every code of what is kept in stock, and where it lies at a site: what a phone knows a scan by while it has no connection. */
export async function heldSite(act: Act, id: number): Promise<ResponseOf<typeof contract.heldSite>> {
  act.allow('look', id);
  const { db } = act.tx;
  const [at] = await db.select({ name: site.name }).from(site).where(eq(site.id, id));
  if (!at) throw new Refusal(404, 'not-found', 'There is no such site.');
  const liesSomewhere = (column: typeof item.id) =>
    exists(
      db
        .select({ one: sql`1` })
        .from(balance)
        .innerJoin(place, eq(place.id, balance.placeId))
        .where(and(eq(balance.itemId, column), eq(place.kind, 'bin'), notNone(balance.quantity))),
    );
  const items = await db
    .select({ id: item.id, sku: item.sku, name: item.name, unit: unit.code, step: plain(unit.step), tracking: item.tracking, seq: costPool.lastSeq })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(costPool, eq(costPool.itemId, item.id))
    .where(and(eq(item.kind, 'stocked'), or(isNull(item.retiredAt), liesSomewhere(item.id))))
    .orderBy(asc(item.id));
  const codes = await db
    .select({ itemId: itemCode.itemId, source: itemCode.source, code: itemCode.code, factor: sql<string>`trim_scale(${itemCode.factor})::text` })
    .from(itemCode)
    .where(isNotNull(itemCode.code));
  const codesBy = new Map<number, typeof codes>();
  for (const code of codes) {
    const of = codesBy.get(code.itemId);
    if (of) of.push(code);
    else codesBy.set(code.itemId, [code]);
  }
  const lots = await db
    .select({ id: lot.id, itemId: lot.itemId, code: lot.code, tag: lot.tag, useBy: lot.useBy, pastUse: lot.pastUse })
    .from(lot)
    .where(
      inArray(
        lot.id,
        db
          .select({ id: sql<number>`${balance.lotId}` })
          .from(balance)
          .innerJoin(place, eq(place.id, balance.placeId))
          .where(and(isNotNull(balance.lotId), positive(balance.quantity), inArray(place.kind, ['bin', 'bench', 'transit', 'holder']))),
      ),
    )
    .orderBy(asc(lot.id));
  const bins = await db
    .select({ id: place.id, code: place.code, sellable: place.sellable })
    .from(place)
    .where(and(eq(place.kind, 'bin'), eq(place.siteId, id), isNull(place.retiredAt)))
    .orderBy(asc(place.code));
  const lying = await db
    .select({ itemId: balance.itemId, lotId: balance.lotId, binId: balance.placeId, quantity: plain(balance.quantity) })
    .from(balance)
    .innerJoin(place, eq(place.id, balance.placeId))
    .where(and(eq(place.kind, 'bin'), eq(place.siteId, id), notNone(balance.quantity)));
  return {
    siteId: id,
    site: at.name,
    at: act.now.toISOString(),
    items: items.map((one) => {
      const own = codesBy.get(one.id) ?? [];
      return {
        ...one,
        codes: own.flatMap(({ source, code, factor }) => (source === 'supplier' ? [] : [{ code, factor }])),
        supplierCodes: own.flatMap(({ source, code }) => (source === 'supplier' ? [code] : [])),
      };
    }),
    lots,
    bins: bins.map(({ code, ...bin }) => ({ ...bin, code: code ?? '' })),
    lying,
  };
}

/** At most so many bins of a count are held. */
const mostBins = 500;

/** The bins of a count that this person may still count, each as `countBin` tells it. */
export async function heldCount(act: Act, id: number): Promise<ResponseOf<typeof contract.heldCount>> {
  const { binRows, closed } = await getCount(act, id);
  const open = closed ? [] : binRows.filter(({ done, retired, heldById }) => !done && !retired && (heldById === null || heldById === act.by.id));
  const bins: ResponseOf<typeof contract.heldCount>['bins'] = [];
  for (const { placeId } of open.slice(0, mostBins)) bins.push(await binToCount(act, id, placeId));
  return { bins };
}

/** Where an item lies, bin by bin, at the sites one may look at. */
export async function whereItLies(act: Act, id: number, siteId?: number): Promise<ResponseOf<typeof contract.whereItLies>> {
  const sites = act.sites('look', siteId);
  const { db } = act.tx;
  const [row] = await db
    .select({
      id: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      tracking: item.tracking,
      rows: jsonRows(
        {
          siteId: sql<number>`${site.id}`,
          site: sql<string>`${site.name}`,
          binId: sql<number>`${place.id}`,
          bin: sql<string>`${place.code}`,
          sellable: place.sellable,
          lotId: sql<number | null>`${lot.id}`,
          lot: sql<string | null>`${lot.code}`,
          useBy: lot.useBy,
          quantity: plain(balance.quantity),
        },
        (select) =>
          select
            .from(balance)
            .innerJoin(place, and(eq(place.id, balance.placeId), eq(place.kind, 'bin')))
            .innerJoin(site, eq(site.id, place.siteId))
            .leftJoin(lot, eq(lot.id, balance.lotId))
            .where(and(eq(balance.itemId, item.id), notNone(balance.quantity), atSites(site.id, sites))),
        { orderBy: sql`${site.name}, ${place.code}, ${lot.code}` },
      ),
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(eq(item.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such item.');
  return row;
}
