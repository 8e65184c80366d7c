import type * as contract from '@larder/contract/outbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, desc, eq, gt, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { item, party, salesLine, salesOrder, unit } from '../../db/schema/index';

/** What went out to a customer, item by item, what was ordered last first: at most 200 items. The price is of one base unit. */
export async function customerItems({ tx: { db }, sites }: Act, id: number): Promise<ResponseOf<typeof contract.customerItems>> {
  if ((await db.$count(party, and(eq(party.id, id), party.isCustomer))) === 0) throw new Refusal(404, 'not-found', 'There is no such customer.');
  const each = sql`trim_scale(round(${salesLine.amount} / ${salesLine.baseQuantity}, 4))::text`;
  const lastOn = sql<string>`max(${salesOrder.confirmedAt}::date)::text`;
  return {
    rows: await db
      .select({
        itemId: item.id,
        sku: item.sku,
        name: item.name,
        unit: unit.name,
        quantity: sql<string>`trim_scale(sum(${salesLine.dispatched}))::text`,
        lastOn,
        lastPrice: sql<string>`(array_agg(${each} order by ${salesOrder.confirmedAt} desc, ${salesLine.id} desc))[1]`,
      })
      .from(salesLine)
      .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
      .innerJoin(item, eq(item.id, salesLine.itemId))
      .innerJoin(unit, eq(unit.id, item.unitId))
      .where(
        and(
          eq(salesOrder.customerId, id),
          atSites(salesOrder.siteId, sites('look')),
          gt(salesLine.dispatched, '0'),
          sql`${salesOrder.confirmedAt} is not null`,
        ),
      )
      .groupBy(item.id, unit.id)
      .orderBy(desc(lastOn), item.sku)
      .limit(200),
  };
}
