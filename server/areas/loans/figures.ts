import type * as contract from '@larder/contract/loans';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, atSites, inOrderOf, positive } from '../../db/given';
import { jsonRows } from '../../db/json';
import { balance, item, itemSite, lot, place, site, unit } from '../../db/schema/index';
import { plain } from '../../db/text';

/** Where items lie at sites that the person may look at, as far as they may be lent; what is free is that of the whole site. */
export async function canBeLent(act: Act, asked: QueryOf<typeof contract.canBeLent>): Promise<ResponseOf<typeof contract.canBeLent>> {
  const ids = asked.items === '' ? [] : asked.items.split(',').map(Number);
  const here = atSites(place.siteId, act.sites('look', asked.siteId));
  const rows = await act.tx.db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      tracking: item.tracking,
      places: jsonRows(
        {
          siteId: site.id,
          site: site.name,
          binId: place.id,
          bin: place.code,
          lotId: balance.lotId,
          lot: lot.code,
          quantity: plain(balance.quantity),
          free: sql<string>`trim_scale(case when ${place.sellable} and not coalesce(${lot.pastUse}, false) then ${itemSite.free} else ${balance.quantity} end)::text`,
        },
        (select) =>
          select
            .from(balance)
            .innerJoin(place, and(eq(place.id, balance.placeId), eq(place.kind, 'bin')))
            .innerJoin(site, eq(site.id, place.siteId))
            .innerJoin(itemSite, and(eq(itemSite.itemId, balance.itemId), eq(itemSite.siteId, site.id)))
            .leftJoin(lot, eq(lot.id, balance.lotId))
            .where(and(eq(balance.itemId, item.id), positive(balance.quantity), here)),
        { orderBy: sql`${place.sellable} desc, ${lot.useBy}, ${place.walk}, ${place.code}, ${lot.code}` },
      ),
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(and(among(item.id, ids), eq(item.kind, 'stocked')))
    .orderBy(inOrderOf(item.id, ids));
  return { rows };
}
