import { wayOf, type WayText } from '@larder/core/planning/levels';
import { and, eq, notInArray, sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { itemPolicy } from '../db/schema/index';

interface Written {
  siteId: number;
  binId: number | null;
  reorderPoint: string | null;
  orderUpTo: string | null;
  coverDays: number | null;
  packSize: string | null;
  way: WayText;
}

/** The way that more comes by, in one word, as the contract has it. */
export const wayWritten = sql<WayText>`concat_ws(' ', ${itemPolicy.way}, coalesce(${itemPolicy.waySupplierId}, ${itemPolicy.waySiteId}))`;

/** The same as a file writes it, with the names of its supplier and its site. */
export const wayInFile = (supplier: PgColumn, site: PgColumn) =>
  sql<string>`case ${itemPolicy.way} when 'bring' then 'bring from ' || ${site} when 'buy' then 'buy' || coalesce(' from ' || ${supplier}, '') else ${itemPolicy.way} end`;

/** The columns that keep a way. */
export function wayColumns(text: WayText) {
  const way = wayOf(text);
  return { way: way.by, waySupplierId: way.by === 'buy' ? way.supplierId : null, waySiteId: way.by === 'bring' ? way.siteId : null };
}

const saysSomething = ({ binId, reorderPoint, coverDays, packSize, way }: Written): boolean =>
  binId !== null || reorderPoint !== null || coverDays !== null || packSize !== null || way !== 'best';

/** Keeps how an item is kept and topped up at sites, and forgets it of all others. What is known of its demand stays. */
export async function keepLevels({ tx }: Act, itemId: number, rows: readonly Written[]): Promise<void> {
  const kept = rows.filter(saysSomething);
  const others =
    kept.length === 0
      ? undefined
      : notInArray(
          itemPolicy.siteId,
          kept.map(({ siteId }) => siteId),
        );
  await tx.db.delete(itemPolicy).where(and(eq(itemPolicy.itemId, itemId), others));
  const given = kept.map(({ way, ...row }) => ({ ...row, ...wayColumns(way), itemId }));
  if (given.length === 0) return;
  const taken = (column: string) => sql`excluded.${sql.identifier(column)}`;
  await tx.db
    .insert(itemPolicy)
    .values(given)
    .onConflictDoUpdate({
      target: [itemPolicy.itemId, itemPolicy.siteId],
      set: {
        binId: taken('bin_id'),
        reorderPoint: taken('reorder_point'),
        orderUpTo: taken('order_up_to'),
        coverDays: taken('cover_days'),
        packSize: taken('pack_size'),
        way: taken('way'),
        waySupplierId: taken('way_supplier_id'),
        waySiteId: taken('way_site_id'),
      },
    });
}
