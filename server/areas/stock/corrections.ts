import type * as contract from '@larder/contract/corrections';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, gte, lte, sql, type SQL } from 'drizzle-orm';
import { alias, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { item, movement, movementLine, person, place, reason, site, standingMovement } from '../../db/schema/index';

type Query = QueryOf<typeof contract.correctionReport>;

const from = alias(place, 'from_place');
const to = alias(place, 'to_place');

interface Way {
  key: SQL<number>;
  name: SQL<string> | PgColumn;
  detail: SQL<string> | PgColumn;
}
const none = sql<string>`''`;
const ways: Record<Query['by'], Way> = {
  reason: { key: sql`${reason.id}`, name: reason.name, detail: none },
  item: { key: sql`${item.id}`, name: item.sku, detail: item.name },
  person: { key: sql`${person.id}`, name: person.name, detail: none },
  site: { key: sql`${site.id}`, name: site.name, detail: none },
  month: {
    key: sql`(extract(year from ${movementLine.effectiveOn}) * 100 + extract(month from ${movementLine.effectiveOn}))::int`,
    name: sql`to_char(${movementLine.effectiveOn}, 'YYYY-MM')`,
    detail: none,
  },
};

/** Lines of corrections that stand, added up; what only changed its bin by the way is left out. */
function grouped({ tx: { db }, sites }: Act, query: Query) {
  const { key, name, detail } = ways[query.by];
  const seen = sites('look', query.siteId);
  const quantity = (side: typeof from | typeof to) =>
    query.by === 'item' ? sql<string>`trim_scale(coalesce(sum(${movementLine.quantity}) filter (where ${side.owned}), 0))::text` : none;
  const worth = (way: SQL) => sql<string>`coalesce(sum(${movementLine.value}) filter (where ${way}), 0.00)`;
  return db
    .select({
      key: key.as('report_key'),
      name: sql<string>`${name}`.as('report_name'),
      detail: sql<string>`${detail}`.as('report_detail'),
      lines: sql<number>`count(*)::int`.as('report_lines'),
      more: quantity(to).as('report_more'),
      fewer: quantity(from).as('report_fewer'),
      found: worth(sql`${to.owned}`).as('report_found'),
      lost: worth(sql`${from.owned}`).as('report_lost'),
      net: sql<string>`sum(${movementLine.value})`.as('report_net'),
    })
    .from(movementLine)
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .innerJoin(standingMovement, eq(standingMovement.id, movement.id))
    .innerJoin(reason, eq(reason.id, movement.reasonId))
    .innerJoin(person, eq(person.id, movement.personId))
    .innerJoin(item, eq(item.id, movementLine.itemId))
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .innerJoin(site, eq(site.id, sql`coalesce(${from.siteId}, ${to.siteId})`))
    .where(
      and(
        eq(movement.kind, 'correction'),
        sql`${from.owned} <> ${to.owned}`,
        atSites(site.id, seen),
        query.from === undefined ? undefined : gte(movementLine.effectiveOn, query.from),
        query.to === undefined ? undefined : lte(movementLine.effectiveOn, query.to),
        query.reasonId === undefined ? undefined : eq(reason.id, query.reasonId),
        query.personId === undefined ? undefined : eq(person.id, query.personId),
        everyWord(sql`lower(concat_ws(' ', ${item.sku}, ${item.name}, ${reason.name}, ${person.name}, ${movement.note}))`, query.q),
      ),
    )
    .groupBy(sql`1, 2, 3`)
    .as('report_rows');
}

/** Corrections added up, a row for each reason, item, person, site or month. */
export async function correctionReport(act: Act, query: Query): Promise<ResponseOf<typeof contract.correctionReport>> {
  if (!act.seesCosts && ['found', 'lost', 'net'].includes(query.sort)) throw new Refusal(403, 'no-right', 'You do not have the right to see what stock costs.');
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
      lines: rows.lines,
      more: rows.more,
      fewer: rows.fewer,
      found: rows.found,
      lost: rows.lost,
      net: rows.net,
      ...cursorOf(sort, column('report_key')),
    })
    .from(rows)
    .where(page.after)
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(found, query.limit);
}

/** How many rows the report has in all, and what they come to. */
export async function correctionsInAll(act: Act, query: Query): Promise<ResponseOf<typeof contract.correctionsInAll>> {
  const rows = grouped(act, query);
  const sum = (figure: SQL.Aliased) => sql<string>`coalesce(sum(${figure}), 0.00)`;
  const [row] = await act.tx.db
    .select({
      count: sql<number>`count(*)::int`,
      lines: sql<number>`coalesce(sum(${rows.lines}), 0)::int`,
      found: sum(rows.found),
      lost: sum(rows.lost),
      net: sum(rows.net),
    })
    .from(rows);
  return row ?? { count: 0, lines: 0, found: '0.00', lost: '0.00', net: '0.00' };
}
