import type * as contract from '@larder/contract/picking';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { componentLine, item, productLine, salesLine, salesOrder, site, workOrder } from '../../db/schema/index';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { picksOf } from '../../documents/picks';
import { seenSale } from './queries';

type PickList = ResponseOf<typeof contract.pickList>;

/** Where an order is, and where its lines come from. */
const readSites = prepared(['id'], (db, { id }) =>
  db
    .select({
      siteId: salesOrder.siteId,
      lines: jsonRows({ siteId: site.id }, (select) =>
        select.from(site).where(
          exists(
            db
              .select({ one: sql`1` })
              .from(salesLine)
              .where(and(eq(salesLine.orderId, salesOrder.id), eq(salesLine.siteId, site.id))),
          ),
        ),
      ),
    })
    .from(salesOrder)
    .where(sql`${salesOrder.id} = ${id}`),
);

/** What to take from which bin for an order, in walking order, at the sites that the person may look at: reserved goods and, beyond, what is free. */
export async function pickList(act: Act, id: number): Promise<PickList> {
  const [order] = await readSites(act.tx, { id });
  if (!order) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  seenSale(act, order);
  const mine = act.sites('look');
  const sites = order.lines.map(({ siteId }) => siteId).filter((siteId) => mine === null || mine.includes(siteId));
  return { ...(await picksOf(act, [{ kind: 'sales', id }], sites)), made: await madeFor(act, id, sites) };
}

/** Work that is going on at these sites for an order. */
async function madeFor({ tx: { db } }: Act, orderId: number, sites: readonly number[]): Promise<PickList['made']> {
  const parts = db
    .select({
      toTake: sql<boolean>`coalesce(bool_or(${componentLine.wanted} > 0), false)`.as('parts_to_take'),
      atWork: sql<boolean>`coalesce(bool_or(${componentLine.atWork} > 0), false)`.as('parts_at_work'),
    })
    .from(componentLine)
    .where(eq(componentLine.workOrderId, workOrder.id))
    .as('parts');
  return db
    .select({
      id: workOrder.id,
      number: workOrder.number,
      sku: item.sku,
      quantity: sql<string>`trim_scale(greatest(${productLine.quantity} - ${productLine.made} - ${productLine.scrapped}, 0))::text`,
      toTake: parts.toTake,
      atWork: parts.atWork,
    })
    .from(workOrder)
    .innerJoin(salesLine, eq(salesLine.id, workOrder.salesLineId))
    .innerJoin(item, eq(item.id, workOrder.itemId))
    .innerJoin(productLine, and(eq(productLine.workOrderId, workOrder.id), eq(productLine.position, 1)))
    .innerJoinLateral(parts, sql`true`)
    .where(
      and(
        eq(salesLine.orderId, orderId),
        among(workOrder.siteId, sites),
        isNotNull(workOrder.releasedAt),
        isNull(workOrder.endedAt),
        isNull(workOrder.cancelledAt),
      ),
    )
    .orderBy(workOrder.id);
}
