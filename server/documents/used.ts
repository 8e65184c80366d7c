import type { Sites } from '@larder/contract/rights';
import { and, isNotNull, or, sql, eq, gt, type Placeholder, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { atSites } from '../db/given';
import { movementLine, place } from '../db/schema/index';

/** How far back the use of an item is looked at, in days. */
export const usedDays = 90;

const from = alias(place, 'used_from');
const to = alias(place, 'used_to');

/** How much left the benches of these sites for customers since a day, less what of it was undone: of the item where one is said, else item by item. */
export function usedSince(since: string | Placeholder, sites: Sites | Placeholder, at: { item?: PgColumn; site?: number | Placeholder } = {}) {
  const here = (siteId: PgColumn): SQL | undefined => (at.site === undefined ? atSites(siteId, sites) : sql`${siteId} = ${at.site}`);
  const out = and(eq(from.kind, 'bench'), eq(to.kind, 'customer'), here(from.siteId));
  const back = and(eq(from.kind, 'customer'), eq(to.kind, 'bench'), here(to.siteId));
  return new QueryBuilder()
    .select({
      itemId: movementLine.itemId,
      quantity: sql<string>`sum(case when ${to.kind} = 'customer' then ${movementLine.quantity} else -${movementLine.quantity} end)`.as('used_quantity'),
    })
    .from(movementLine)
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .where(and(isNotNull(movementLine.demandLineId), at.item && eq(movementLine.itemId, at.item), gt(movementLine.effectiveOn, since), or(out, back)))
    .groupBy(movementLine.itemId);
}
