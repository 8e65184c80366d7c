import type * as contract from '@larder/contract/returns';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, gte, lte, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import {
  customerReturn,
  customerReturnLine as line,
  item,
  movementLine,
  party,
  reason,
  salesOrder,
  salesTerms,
  standingMovement,
  wentOut,
} from '../../db/schema/index';

type Query = QueryOf<typeof contract.returnReport>;

interface Way {
  key: SQL<number>;
  name: SQL<string> | PgColumn;
  detail: SQL<string> | PgColumn;
  /** Whether a row is of one item. */
  ofItem: boolean;
}

const none = sql<string>`''`;
const ways: Record<Query['by'], Way> = {
  reason: { key: sql`${reason.id}`, name: reason.name, detail: none, ofItem: false },
  item: { key: sql`${item.id}`, name: item.sku, detail: item.name, ofItem: true },
  customer: { key: sql`${party.id}`, name: party.name, detail: none, ofItem: false },
  month: {
    key: sql`(extract(year from ${customerReturn.cameOn}) * 100 + extract(month from ${customerReturn.cameOn}))::int`,
    name: sql`to_char(${customerReturn.cameOn}, 'YYYY-MM')`,
    detail: none,
    ofItem: false,
  },
};

const soldTo = alias(salesOrder, 'sold_to');
/** How many of the row's item went out on the days that are looked at, to the same customers. */
const wentOutOf = ({ from, to, customerId }: Query, sites: ReturnType<Act['sites']>) =>
  sql<string>`coalesce((${new QueryBuilder()
    .select({ sum: sql`trim_scale(sum(${wentOut.quantity}))::text` })
    .from(wentOut)
    .innerJoin(salesTerms, eq(salesTerms.id, wentOut.salesLineId))
    .innerJoin(soldTo, eq(soldTo.id, salesTerms.orderId))
    .where(
      and(
        eq(wentOut.itemId, item.id),
        from === undefined ? undefined : gte(wentOut.day, from),
        to === undefined ? undefined : lte(wentOut.day, to),
        customerId === undefined ? undefined : eq(soldTo.customerId, customerId),
        atSites(soldTo.siteId, sites),
      ),
    )}), '0')`;

/** What came back by movements that stand, added up. Each line of a return has a line of its movement, in the same place. */
function grouped({ tx: { db }, sites }: Act, query: Query) {
  const { key, name, detail, ofItem } = ways[query.by];
  const worth = sql`abs(${movementLine.value} + ${movementLine.variance})`;
  const seen = sites('look', query.siteId);
  return db
    .select({
      key: key.as('report_key'),
      name: sql<string>`${name}`.as('report_name'),
      detail: sql<string>`${detail}`.as('report_detail'),
      returns: sql<number>`count(distinct ${customerReturn.id})::int`.as('report_returns'),
      quantity: (ofItem ? sql<string>`trim_scale(sum(${line.quantity}))::text` : none).as('report_quantity'),
      wentOut: (ofItem ? wentOutOf(query, seen) : none).as('report_went_out'),
      worth: sql<string>`sum(${worth})`.as('report_worth'),
      scrapped: sql<string>`coalesce(sum(${worth}) filter (where ${line.condition} = 'scrap'), 0.00)`.as('report_scrapped'),
    })
    .from(customerReturn)
    .innerJoin(standingMovement, eq(standingMovement.id, customerReturn.movementId))
    .innerJoin(line, eq(line.returnId, customerReturn.id))
    .innerJoin(movementLine, and(eq(movementLine.movementId, customerReturn.movementId), eq(movementLine.position, line.position)))
    .innerJoin(item, eq(item.id, line.itemId))
    .innerJoin(party, eq(party.id, customerReturn.customerId))
    .innerJoin(reason, eq(reason.id, line.reasonId))
    .where(
      and(
        atSites(customerReturn.siteId, seen),
        query.from === undefined ? undefined : gte(customerReturn.cameOn, query.from),
        query.to === undefined ? undefined : lte(customerReturn.cameOn, query.to),
        query.customerId === undefined ? undefined : eq(customerReturn.customerId, query.customerId),
        query.itemId === undefined ? undefined : eq(line.itemId, query.itemId),
        query.reasonId === undefined ? undefined : eq(line.reasonId, query.reasonId),
        everyWord(sql`lower(concat_ws(' ', ${customerReturn.number}, ${party.name}, ${item.sku}, ${item.name}, ${reason.name}))`, query.q),
      ),
    )
    .groupBy(sql`1, 2, 3`, ...(ofItem ? [item.id] : []))
    .as('report_rows');
}

export async function returnReport(act: Act, query: Query): Promise<ResponseOf<typeof contract.returnReport>> {
  const rows = grouped(act, query);
  // By the name of its table: what is selected has columns of the same name.
  const column = (name: string) => sql`report_rows.${sql.identifier(name)}`;
  const sort: Sort = { sql: column(`report_${query.sort}`), type: query.sort === 'name' ? 'text' : 'numeric' };
  const page = pageOf(sort, column('report_key'), query);
  const found = await act.tx.db
    .select({
      key: rows.key,
      name: rows.name,
      detail: rows.detail,
      returns: rows.returns,
      quantity: rows.quantity,
      wentOut: rows.wentOut,
      worth: rows.worth,
      scrapped: rows.scrapped,
      ...cursorOf(sort, column('report_key')),
    })
    .from(rows)
    .where(page.after)
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(found, query.limit);
}

/** How many rows the report has in all, and what they come to; a return that is in several rows counts in each. */
export async function returnReportInAll(act: Act, query: Query): Promise<ResponseOf<typeof contract.returnReportInAll>> {
  const rows = grouped(act, query);
  const [row] = await act.tx.db
    .select({
      count: sql<number>`count(*)::int`,
      returns: sql<number>`coalesce(sum(${rows.returns}), 0)::int`,
      worth: sql<string>`coalesce(sum(${rows.worth}), 0.00)`,
      scrapped: sql<string>`coalesce(sum(${rows.scrapped}), 0.00)`,
    })
    .from(rows);
  return row ?? { count: 0, returns: 0, worth: '0.00', scrapped: '0.00' };
}
