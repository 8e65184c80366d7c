import { quantityFault, quantityFaultSentence } from '@larder/core/decimal';
import { byName, lower, type Row } from '@larder/core/exchange/rows';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows } from '../../db/given';
import { demandBefore, item, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import type { Importer } from './importer';
import { itemsMeant, missing, sitesMeant, written } from './references';

const named = async (act: Act, rows: readonly Row[]) => ({
  items: await itemsMeant(
    act,
    rows.map((row) => row.sku ?? ''),
  ),
  sites: await sitesMeant(act),
});

/** What was wanted before the business worked here, day by day or summed on the first day of each week: what is suggested looks at it as at orders. */
export const demand: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const { items, sites } = await named(act, rows);
    const { db } = act.tx;
    const ids = [...items.values()];
    const facts = new Map(
      (
        await db
          .select({ sku: sql<string>`lower(${item.sku})`, kind: item.kind, step: plain(unit.step) })
          .from(item)
          .innerJoin(unit, eq(unit.id, item.unitId))
          .where(among(item.id, ids))
      ).map((row) => [row.sku, row]),
    );
    const there = byName(
      await db
        .select({
          sku: item.sku,
          siteId: sql<string>`${demandBefore.siteId}::text`,
          day: sql<string>`${demandBefore.day}::text`,
          quantity: written(demandBefore.quantity),
        })
        .from(demandBefore)
        .innerJoin(item, eq(item.id, demandBefore.itemId))
        .where(among(item.id, ids)),
      (row) => `${row.sku}/${row.siteId}/${row.day}`,
    );
    return {
      current: (row) => {
        const found = there.get(`${lower(row.sku)}/${sites.get(lower(row.site)) ?? ''}/${row.day ?? ''}`);
        return found && { ...found, site: row.site ?? '', sku: row.sku ?? '' };
      },
      faults: (row) => {
        const of = facts.get(lower(row.sku));
        const many = row.quantity ?? '';
        const fault = of ? quantityFault(many, of.step, true) : null;
        return [
          ...missing(items, row.sku, 'item'),
          ...missing(sites, row.site, 'site'),
          ...(of && of.kind !== 'stocked' ? [`${row.sku ?? ''} is not kept in stock.`] : []),
          ...(of && fault !== null ? [quantityFaultSentence(fault, of.step)] : []),
          ...(row.day !== undefined && row.day >= act.today ? ['What was wanted lies before today.'] : []),
        ];
      },
    };
  },
  async write(act, checked) {
    const { items, sites } = await named(
      act,
      checked.map(({ row }) => row),
    );
    await insertRows(
      act.tx,
      demandBefore,
      checked.map(({ row }) => ({
        itemId: items.get(lower(row.sku)) ?? 0,
        siteId: sites.get(lower(row.site)) ?? 0,
        day: row.day ?? '',
        quantity: row.quantity ?? '0',
      })),
      sql`on conflict (item_id, site_id, day) do update set quantity = excluded.quantity`,
    );
  },
};
