import { byName, lower } from '@larder/core/exchange/rows';
import { eq, ne, sql } from 'drizzle-orm';
import { among, insertRows } from '../../db/given';
import { item, itemPolicy, place } from '../../db/schema/index';
import type { Importer } from './importer';
import { binsMeant, itemsMeant, missing, missingBin, sitesMeant, written } from './references';

/** Default bin, reorder point and order-up-to level of an item at a site. */
export const policies: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const [items, sites, places] = [
      await itemsMeant(
        act,
        rows.map((row) => row.sku ?? ''),
      ),
      await sitesMeant(act),
      await binsMeant(act),
    ];
    const { db } = act.tx;
    const unkept = new Set((await db.select({ sku: item.sku }).from(item).where(ne(item.kind, 'stocked'))).map(({ sku }) => lower(sku)));
    const rowsThere = await db
      .select({
        sku: item.sku,
        siteId: sql<string>`${itemPolicy.siteId}::text`,
        bin: sql<string>`coalesce(${place.code}, '')`,
        reorderPoint: written(itemPolicy.reorderPoint),
        orderUpTo: written(itemPolicy.orderUpTo),
      })
      .from(itemPolicy)
      .innerJoin(item, eq(item.id, itemPolicy.itemId))
      .leftJoin(place, eq(place.id, itemPolicy.binId))
      .where(among(item.id, [...items.values()]));
    const there = byName(rowsThere, (row) => `${row.sku}/${row.siteId}`);
    return {
      current: (row) => {
        const found = there.get(`${lower(row.sku)}/${sites.get(lower(row.site)) ?? ''}`);
        return found && { ...found, site: row.site ?? '', sku: row.sku ?? '' };
      },
      faults: (row) => [
        ...missing(items, row.sku, 'item'),
        ...(row.reorderPoint && unkept.has(lower(row.sku)) ? [`${row.sku ?? ''} is not kept in stock: it has no reorder point.`] : []),
        ...missing(sites, row.site, 'site'),
        ...missingBin(places, sites.get(lower(row.site)), row.bin, row.site),
        ...((row.reorderPoint ?? '') === ''
          ? (row.orderUpTo ?? '') === ''
            ? []
            : ['Give the reorder point too.']
          : Number(row.orderUpTo || 0) > Number(row.reorderPoint)
            ? []
            : ['Order up to more than the reorder point.']),
      ],
    };
  },
  async write(act, checked, fields) {
    const [items, sites, places] = [
      await itemsMeant(
        act,
        checked.map(({ row }) => row.sku ?? ''),
      ),
      await sitesMeant(act),
      await binsMeant(act),
    ];
    const set = [
      ...(fields.includes('bin') ? [sql`bin_id = excluded.bin_id`] : []),
      ...(fields.includes('reorderPoint') ? [sql`reorder_point = excluded.reorder_point`] : []),
      ...(fields.includes('orderUpTo') ? [sql`order_up_to = excluded.order_up_to`] : []),
      sql`site_id = excluded.site_id`,
    ];
    await insertRows(
      act.tx,
      itemPolicy,
      checked.map(({ row }) => {
        const siteId = sites.get(lower(row.site)) ?? 0;
        return {
          itemId: items.get(lower(row.sku)) ?? 0,
          siteId,
          binId: (row.bin ? places.get(`${siteId}/${lower(row.bin)}`)?.id : null) ?? null,
          reorderPoint: row.reorderPoint || null,
          orderUpTo: row.orderUpTo || null,
        };
      }),
      sql`on conflict (item_id, site_id) do update set ${sql.join(set, sql`, `)}`,
    );
  },
};
