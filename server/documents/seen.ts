import type { Sites } from '@larder/contract/rights';
import { and, eq, exists, or, sql, type Placeholder, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { atSites } from '../db/given';
import { costPool, itemSite, salesLine, salesOrder } from '../db/schema/index';

const whole = alias(costPool, 'whole_pool');

/**
 * The stock of each item over the sites that somebody may look at: over all of them its pool, else the sums of its figures there.
 * To be joined in place of the pool, whose name it has, so that whatever asks the pool asks it.
 */
export function costPoolOver(sites: Sites | Placeholder): typeof costPool {
  if (sites === null) return costPool;
  const query = new QueryBuilder();
  const sum = (column: PgColumn) => sql`coalesce(sum(${column}), 0)`.as(`${column.name}_there`);
  const there = query
    .select({
      itemId: sql`${itemSite.itemId}`.as('there_id'),
      onHand: sum(itemSite.onHand),
      reserved: sum(itemSite.reserved),
      free: sum(itemSite.free),
      onOrder: sum(itemSite.onOrder),
      inTransit: sum(itemSite.inTransit),
      short: sum(itemSite.short),
      onLoan: sum(itemSite.onLoan),
      quarantine: sum(itemSite.quarantine),
      countedOn: sql`max(${itemSite.countedOn})`.as('counted_on_there'),
      value: sum(itemSite.value),
    })
    .from(itemSite)
    .where(atSites(itemSite.siteId, sites))
    .groupBy(itemSite.itemId)
    .as('there');
  const none = (figure: unknown, name: string) => sql`coalesce(${figure}, 0.00)`.as(name);
  return query
    .select({
      itemId: sql`${whole.itemId}`.as('item_id'),
      unitCost: sql`${whole.unitCost}`.as('unit_cost'),
      lastSeq: sql`${whole.lastSeq}`.as('last_seq'),
      onHand: none(there.onHand, 'on_hand'),
      reserved: none(there.reserved, 'reserved'),
      free: none(there.free, 'free'),
      onOrder: none(there.onOrder, 'on_order'),
      inTransit: none(there.inTransit, 'in_transit'),
      short: none(there.short, 'short'),
      onLoan: none(there.onLoan, 'on_loan'),
      quarantine: none(there.quarantine, 'quarantine'),
      countedOn: sql`${there.countedOn}`.as('counted_on'),
      value: none(there.value, 'value'),
    })
    .from(whole)
    .leftJoin(there, eq(there.itemId, whole.itemId))
    .as('pool') as unknown as typeof costPool;
}

/** Sales orders of these sites, or of which a line comes from one of them. */
export const saleAt = (sites: Sites): SQL | undefined =>
  sites === null
    ? undefined
    : or(
        atSites(salesOrder.siteId, sites),
        exists(
          new QueryBuilder()
            .select({ one: sql`1` })
            .from(salesLine)
            .where(and(eq(salesLine.orderId, salesOrder.id), atSites(salesLine.siteId, sites))),
        ),
      );
