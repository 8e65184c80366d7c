import type * as contract from '@larder/contract/outbound';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, least, quantityText } from '@larder/core/decimal';
import { availableOn } from '@larder/core/stock/availability';
import { and, desc, eq, exists, isNull, ne, or, sql } from 'drizzle-orm';
import { type Act } from '../../act';
import { atSites, oneRow, positive } from '../../db/given';
import { jsonRows } from '../../db/json';
import { company, documentLine, item, itemSite, itemSubstitute, site } from '../../db/schema/index';
import { plain } from '../../db/text';
import { comingOf } from '../../documents/coming';

/** What may be sold in the place of an item and is free at a site. */
const substitutesOf = (itemId: number, siteId: number) =>
  jsonRows(
    { itemId: item.id, sku: item.sku, name: item.name, free: plain(itemSite.free) },
    (select) =>
      select
        .from(itemSubstitute)
        .innerJoin(item, eq(item.id, itemSubstitute.substituteId))
        .innerJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, siteId), positive(itemSite.free)))
        .where(and(eq(itemSubstitute.itemId, itemId), isNull(item.retiredAt))),
    { orderBy: itemSubstitute.position },
  );

type Availability = ResponseOf<typeof contract.availability>;

/** What a line of so many would find: free, short, the first day all of it could be here, what is coming and what other sites have free. */
export async function availability({ tx, today, allow, sites }: Act, query: QueryOf<typeof contract.availability>): Promise<Availability> {
  const { itemId, siteId } = query;
  const { db } = tx;
  allow('look', siteId);
  const mine = sites('look');
  // What is free anywhere is seen by all, so that shortages can be filled from there, unless the business says no.
  const seen = mine === null ? undefined : or(sql`(${db.select({ all: company.freeSeenElsewhere }).from(company)})`, atSites(itemSite.siteId, mine));
  const here = db
    .select({ free: itemSite.free })
    .from(itemSite)
    .where(and(eq(itemSite.itemId, itemId), eq(itemSite.siteId, siteId)));
  const [row] = await db
    .select({
      stocked: sql<boolean>`${exists(
        db
          .select({ one: sql`1` })
          .from(item)
          .where(and(eq(item.id, itemId), eq(item.kind, 'stocked'))),
      )}`,
      free: sql<string>`trim_scale(coalesce((${here}), 0))`,
      coming: comingOf(itemId, siteId),
      elsewhere: jsonRows(
        { siteId: site.id, site: site.name, free: plain(itemSite.free) },
        (select) =>
          select
            .from(itemSite)
            .innerJoin(site, eq(site.id, itemSite.siteId))
            .where(and(eq(itemSite.itemId, itemId), ne(itemSite.siteId, siteId), positive(itemSite.free), seen)),
        { orderBy: desc(itemSite.free) },
      ),
      substitutes: substitutesOf(itemId, siteId),
      demand: jsonRows({ day: sql<string>`${documentLine.neededOn}`, quantity: documentLine.short, document: documentLine.number }, (select) =>
        select
          .from(documentLine)
          .where(and(eq(documentLine.itemId, itemId), eq(documentLine.siteId, siteId), positive(documentLine.short), positive(documentLine.wanted))),
      ),
    })
    .from(oneRow);
  if (row?.stocked === false) return { stocked: false, free: '0', short: '0', availableOn: today, coming: [], elsewhere: [], substitutes: [] };
  const { free = '0', coming = [], elsewhere = [], demand = [], substitutes = [] } = row ?? {};
  const wanted = decimal(query.quantity);
  const incoming = coming.flatMap((one) =>
    one.expectedOn === null ? [] : [{ day: one.expectedOn, quantity: decimal(one.quantity), document: one.orderNumber }],
  );
  const day = availableOn({ today, free: decimal(free), incoming, demand: demand.map((one) => ({ ...one, quantity: decimal(one.quantity) })) }, wanted);
  return { stocked: true, free, short: quantityText(wanted.minus(least(wanted, decimal(free)))), availableOn: day, coming, elsewhere, substitutes };
}
