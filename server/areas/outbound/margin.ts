import type * as contract from '@larder/contract/margin';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import { marginPercent } from '@larder/core/outbound/margin';
import { and, eq, gte, lte, sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { item, party, salePosting, salesLine, salesOrder } from '../../db/schema/index';

type Query = QueryOf<typeof contract.listMargin>;

interface Way {
  key: SQL<number>;
  name: SQL<string> | PgColumn;
  detail: SQL<string> | PgColumn;
  /** Whether a row is of one order, and of one item. */
  ofOrder: boolean;
  ofItem: boolean;
}

const none = sql<string>`''`;
const ways: Record<Query['by'], Way> = {
  order: { key: sql`${salesOrder.id}`, name: salesOrder.number, detail: party.name, ofOrder: true, ofItem: false },
  line: {
    key: sql`${salesLine.id}`,
    name: sql`${salesOrder.number} || ' line ' || ${salesLine.position}`,
    detail: sql`${item.sku} || ' ' || ${item.name}`,
    ofOrder: true,
    ofItem: true,
  },
  item: { key: sql`${item.id}`, name: item.sku, detail: item.name, ofOrder: false, ofItem: true },
  customer: { key: sql`${party.id}`, name: party.name, detail: none, ofOrder: false, ofItem: false },
  month: {
    key: sql`(extract(year from ${salePosting.day}) * 100 + extract(month from ${salePosting.day}))::int`,
    name: sql`to_char(${salePosting.day}, 'YYYY-MM')`,
    detail: none,
    ofOrder: false,
    ofItem: false,
  },
};

/** What went out, added up; what was undone whole is left out. */
function grouped({ tx: { db }, sites }: Act, query: Query) {
  const { key, name, detail, ofOrder, ofItem } = ways[query.by];
  const sold = sql`sum(${salePosting.sold})`;
  const cost = sql`sum(${salePosting.cost})`;
  return db
    .select({
      key: key.as('margin_key'),
      name: sql<string>`${name}`.as('margin_name'),
      detail: sql<string>`${detail}`.as('margin_detail'),
      orderId: (ofOrder ? sql<number | null>`min(${salesOrder.id})` : sql<number | null>`null::int`).as('margin_order'),
      orders: sql<number>`count(distinct ${salesOrder.id})::int`.as('margin_orders'),
      quantity: (ofItem ? sql<string>`trim_scale(sum(${salePosting.quantity}))::text` : none).as('margin_quantity'),
      sold: sql<string>`${sold}`.as('margin_sold'),
      cost: sql<string>`${cost}`.as('margin_cost'),
      margin: sql<string>`${sold} - ${cost}`.as('margin_margin'),
    })
    .from(salePosting)
    .innerJoin(salesLine, eq(salesLine.id, salePosting.lineId))
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .where(
      and(
        atSites(salesLine.siteId, sites('costs.see', query.siteId)),
        query.from === undefined ? undefined : gte(salePosting.day, query.from),
        query.to === undefined ? undefined : lte(salePosting.day, query.to),
        query.customerId === undefined ? undefined : eq(salesOrder.customerId, query.customerId),
        query.itemId === undefined ? undefined : eq(salesLine.itemId, query.itemId),
        everyWord(sql`lower(${salesOrder.number} || ' ' || ${party.name} || ' ' || ${item.sku} || ' ' || ${item.name})`, query.q),
      ),
    )
    .groupBy(sql`1, 2, 3`)
    .having(sql`sum(${salePosting.quantity}) <> 0 or ${sold} <> 0 or ${cost} <> 0`)
    .as('margin_rows');
}

export async function listMargin(act: Act, query: Query): Promise<ResponseOf<typeof contract.listMargin>> {
  const rows = grouped(act, query);
  // By the name of its table: what is selected has columns of the same name.
  const column = (name: string) => sql`margin_rows.${sql.identifier(name)}`;
  const sort: Sort = { sql: column(`margin_${query.sort}`), type: query.sort === 'name' ? 'text' : 'numeric' };
  const page = pageOf(sort, column('margin_key'), query);
  const found = await act.tx.db
    .select({
      key: rows.key,
      name: rows.name,
      detail: rows.detail,
      orderId: rows.orderId,
      orders: rows.orders,
      quantity: rows.quantity,
      sold: rows.sold,
      cost: rows.cost,
      margin: rows.margin,
      ...cursorOf(sort, column('margin_key')),
    })
    .from(rows)
    .where(page.after)
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(found, query.limit);
  return { rows: shown.map((row) => ({ ...row, percent: marginPercent(decimal(row.sold), decimal(row.cost)) })), next };
}

/** How many rows the list has in all, and what they come to. */
export async function marginInAll(act: Act, query: Query): Promise<ResponseOf<typeof contract.marginInAll>> {
  const rows = grouped(act, query);
  const [row] = await act.tx.db
    .select({
      count: sql<number>`count(*)::int`,
      sold: sql<string>`coalesce(sum(${rows.sold}), 0.00)`,
      cost: sql<string>`coalesce(sum(${rows.cost}), 0.00)`,
      margin: sql<string>`coalesce(sum(${rows.margin}), 0.00)`,
    })
    .from(rows);
  const { count = 0, sold = '0.00', cost = '0.00', margin = '0.00' } = row ?? {};
  return { count, sold, cost, margin, percent: marginPercent(decimal(sold), decimal(cost)) };
}
