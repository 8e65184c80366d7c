import { byName, lower, type Row } from '@larder/core/exchange/rows';
import { levelFaults, readWay, wayFault, wayText } from '@larder/core/planning/levels';
import { eq, ne, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, insertRows } from '../../db/given';
import { item, itemPolicy, itemSupplier, party, place, site } from '../../db/schema/index';
import { wayColumns, wayInFile } from '../../documents/levels';
import type { Importer } from './importer';
import { binsMeant, itemsMeant, missing, missingBin, sitesMeant, written } from './references';

const waySite = alias(site, 'way_site');

/** What rows name: items, sites, their bins, and suppliers. */
async function named(act: Act, rows: readonly Row[]) {
  const items = await itemsMeant(
    act,
    rows.map((row) => row.sku ?? ''),
  );
  const suppliers = await act.tx.db.select({ id: party.id, name: party.name }).from(party).where(eq(party.isSupplier, true));
  const supplierIds = new Map(suppliers.map(({ id, name }) => [lower(name), id]));
  const sites = await sitesMeant(act);
  const way = (row: Row) => readWay(row.way ?? '', { supplier: (name) => supplierIds.get(lower(name)), site: (name) => sites.get(lower(name)) });
  return { items, sites, places: await binsMeant(act), way };
}

/** How an item is kept and topped up at a site: its bin, levels, days of cover, pack and way. */
export const policies: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const { items, sites, places, way } = await named(act, rows);
    const { db } = act.tx;
    const unkept = new Set((await db.select({ sku: item.sku }).from(item).where(ne(item.kind, 'stocked'))).map(({ sku }) => lower(sku)));
    const bought = await db
      .select({ itemId: itemSupplier.itemId, supplierId: itemSupplier.supplierId })
      .from(itemSupplier)
      .where(among(itemSupplier.itemId, [...items.values()]));
    const rowsThere = await db
      .select({
        sku: item.sku,
        siteId: sql<string>`${itemPolicy.siteId}::text`,
        bin: sql<string>`coalesce(${place.code}, '')`,
        reorderPoint: written(itemPolicy.reorderPoint),
        orderUpTo: written(itemPolicy.orderUpTo),
        coverDays: sql<string>`coalesce(${itemPolicy.coverDays}::text, '')`,
        packSize: written(itemPolicy.packSize),
        way: wayInFile(party.name, waySite.name),
      })
      .from(itemPolicy)
      .innerJoin(item, eq(item.id, itemPolicy.itemId))
      .leftJoin(place, eq(place.id, itemPolicy.binId))
      .leftJoin(party, eq(party.id, itemPolicy.waySupplierId))
      .leftJoin(waySite, eq(waySite.id, itemPolicy.waySiteId))
      .where(among(item.id, [...items.values()]));
    const there = byName(rowsThere, (row) => `${row.sku}/${row.siteId}`);
    const current = (row: Row) => there.get(`${lower(row.sku)}/${sites.get(lower(row.site)) ?? ''}`);
    const wayFaults = (row: Row): string[] => {
      const [itemId, siteId] = [items.get(lower(row.sku)), sites.get(lower(row.site))];
      if (row.way === undefined || itemId === undefined || siteId === undefined) return [];
      const read = way(row);
      const suppliers = bought.filter((one) => one.itemId === itemId).map(({ supplierId }) => supplierId);
      const fault = typeof read === 'string' ? read : wayFault(read, siteId, { suppliers, sites: [...sites.values()] });
      return fault === null ? [] : [fault];
    };
    return {
      current: (row) => {
        const found = current(row);
        return found && { ...found, site: row.site ?? '', sku: row.sku ?? '' };
      },
      faults: (row) => {
        // What the file does not say stays as it is.
        const said = (name: 'reorderPoint' | 'orderUpTo' | 'packSize') => (row[name] ?? current(row)?.[name] ?? '') || null;
        const levels = { reorderPoint: said('reorderPoint'), orderUpTo: said('orderUpTo'), packSize: said('packSize'), coverDays: null };
        return [
          ...missing(items, row.sku, 'item'),
          ...(row.reorderPoint && unkept.has(lower(row.sku)) ? [`${row.sku ?? ''} is not kept in stock: it has no reorder point.`] : []),
          ...missing(sites, row.site, 'site'),
          ...missingBin(places, sites.get(lower(row.site)), row.bin, row.site),
          ...levelFaults(levels).map(({ sentence }) => sentence),
          ...(row.coverDays && !(/^\d{1,3}$/.test(row.coverDays) && Number(row.coverDays) >= 1 && Number(row.coverDays) <= 365)
            ? ['Days of cover are whole days from 1 to 365.']
            : []),
          ...wayFaults(row),
        ];
      },
    };
  },
  async write(act, checked, fields) {
    const { items, sites, places, way } = await named(
      act,
      checked.map(({ row }) => row),
    );
    const columns: Record<string, string[]> = {
      bin: ['bin_id'],
      reorderPoint: ['reorder_point'],
      orderUpTo: ['order_up_to'],
      coverDays: ['cover_days'],
      packSize: ['pack_size'],
      way: ['way', 'way_supplier_id', 'way_site_id'],
    };
    const set = ['site_id', ...fields.flatMap((field) => columns[field] ?? [])].map((name) => sql`${sql.identifier(name)} = excluded.${sql.identifier(name)}`);
    await insertRows(
      act.tx,
      itemPolicy,
      checked.map(({ row }) => {
        const siteId = sites.get(lower(row.site)) ?? 0;
        const read = way(row);
        return {
          itemId: items.get(lower(row.sku)) ?? 0,
          siteId,
          binId: (row.bin ? places.get(`${siteId}/${lower(row.bin)}`)?.id : null) ?? null,
          reorderPoint: row.reorderPoint || null,
          orderUpTo: row.orderUpTo || null,
          coverDays: row.coverDays ? Number(row.coverDays) : null,
          packSize: row.packSize || null,
          ...wayColumns(typeof read === 'string' ? 'best' : wayText(read)),
        };
      }),
      sql`on conflict (item_id, site_id) do update set ${sql.join(set, sql`, `)}`,
    );
  },
};
