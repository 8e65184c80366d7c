import type * as contract from '@larder/contract/gaps';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites, positive } from '../../db/given';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { item, party, salesLine, salesOrder, site, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { nextComing } from '../../documents/coming';
import { onOrderStraight } from '../../documents/supplies';

type ListQuery = QueryOf<typeof contract.waitingLines>;

/** The customer of a sales order. */
export const customer = alias(party, 'customer');
const onOrder = onOrderStraight(salesLine.id);
const shipBy = sql<string>`coalesce(${salesLine.shipBy}, ${salesOrder.shipBy})`;

const shows: Record<ListQuery['show'], SQL | undefined> = {
  // Said of the quantity wanted too, of which there is an index.
  short: and(positive(salesLine.wanted), positive(salesLine.short)),
  'to-order': and(positive(salesLine.direct), sql`${salesLine.direct} > ${salesLine.sent} + ${onOrder}`),
  ordered: and(positive(salesLine.direct), sql`${onOrder} > 0`),
};

const listed = (act: Act, query: ListQuery): SQL | undefined =>
  and(
    salesLine.active,
    shows[query.show],
    everyWord(sql`lower(${salesOrder.number} || ' ' || ${customer.name} || ' ' || ${item.sku} || ' ' || ${item.name})`, query.q),
    atSites(salesLine.siteId, act.sites('look', query.siteId)),
  );

/** How many lines wait in all. */
export async function waitingInAll(act: Act, query: ListQuery): Promise<ResponseOf<typeof contract.waitingInAll>> {
  const [row] = await act.tx.db
    .select({ count: sql<number>`count(*)::int` })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(customer, eq(customer.id, salesOrder.customerId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .where(listed(act, query));
  return row ?? { count: 0 };
}

/** Lines of confirmed orders that wait for goods, by the day they ship by. */
export async function waitingLines(act: Act, query: ListQuery): Promise<ResponseOf<typeof contract.waitingLines>> {
  const sort: Sort = { sql: shipBy, type: 'date' };
  const page = pageOf(sort, salesLine.id, { ...query, direction: 'up' });
  const rows = await act.tx.db
    .select({
      lineId: salesLine.id,
      orderId: salesOrder.id,
      number: salesOrder.number,
      position: salesLine.position,
      customer: customer.name,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      siteId: site.id,
      site: site.name,
      shipBy,
      promisedOn: salesLine.promisedOn,
      late: sql<boolean>`${shipBy} < ${act.today}`,
      wanted: plain(salesLine.wanted),
      reserved: plain(salesLine.reserved),
      short: plain(salesLine.short),
      direct: sql<string>`trim_scale(${salesLine.direct} - ${salesLine.sent})::text`,
      ordered: sql<string>`trim_scale(${onOrder})::text`,
      comesOn: nextComing(salesLine.itemId, salesLine.siteId),
      ...cursorOf(sort, salesLine.id),
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(customer, eq(customer.id, salesOrder.customerId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(site, eq(site.id, salesLine.siteId))
    .where(and(listed(act, query), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, query.limit);
}
