import type * as contract from '@larder/contract/levels';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import type { Sites } from '@larder/contract/rights';
import type { ItemClass } from '@larder/core/stock/counting';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, isNotNull, isNull, not, or, sql, type GetColumnData, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import type { RowOf } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { costPool, item, itemClass, itemPolicy, itemSite, itemSupplier, levelSuggestion, party, site, unit } from '../../db/schema/index';
import { lower, plain } from '../../db/text';
import { wayWritten } from '../../documents/levels';

type LevelQuery = QueryOf<typeof contract.listLevels>;
type Filter = Omit<LevelQuery, 'sort' | 'direction' | 'limit' | 'cursor'>;

const waySupplier = alias(party, 'way_supplier');
const waySite = alias(site, 'way_site');
const classOf = sql<ItemClass>`coalesce(${itemClass.class}, 'C')`;

const sorts: Record<LevelQuery['sort'], Sort> = {
  sku: { sql: lower(item.sku), type: 'text' },
  wanted: { sql: sql`coalesce(${levelSuggestion.wantedYear} * ${costPool.unitCost}, 0)`, type: 'numeric' },
  daysOut: { sql: sql`coalesce(${levelSuggestion.daysOutNow}, -1)::numeric`, type: 'numeric' },
  stock: { sql: sql`coalesce(${levelSuggestion.averageStockNow}::numeric * ${costPool.unitCost}, 0)`, type: 'numeric' },
};

const hasLevels = isNotNull(itemPolicy.reorderPoint);
const isSuggested = isNotNull(levelSuggestion.itemId);
/** By so much, as a share of what is suggested, levels may differ and be as good: as core's `standsRefused`. */
const isAsGood = (now: SQL | typeof itemPolicy.point, said: typeof levelSuggestion.point): SQL => sql`abs(${now} - ${said}) <= 0.2 * greatest(1, ${said})`;
const differs = and(
  isSuggested,
  sql`${levelSuggestion.decision} is distinct from 'refused'`,
  or(isNull(itemPolicy.reorderPoint), not(isAsGood(itemPolicy.point, levelSuggestion.point)), not(isAsGood(itemPolicy.upTo, levelSuggestion.upTo))),
);
const states: Record<Filter['state'], SQL | undefined> = {
  all: or(hasLevels, isSuggested, isNotNull(itemPolicy.coverDays), sql`${itemPolicy.way} <> 'best'`),
  differs,
  unset: and(isSuggested, isNull(itemPolicy.reorderPoint)),
  refused: eq(levelSuggestion.decision, 'refused'),
};

const conditions = (filter: Filter, sites: Sites): SQL | undefined =>
  and(
    eq(item.kind, 'stocked'),
    isNull(item.retiredAt),
    isNull(site.retiredAt),
    atSites(site.id, sites),
    everyWord(item.findable, filter.q),
    filter.categoryId === undefined ? undefined : eq(item.categoryId, filter.categoryId),
    filter.supplierId === undefined
      ? undefined
      : exists(
          new QueryBuilder()
            .select({ one: sql`1` })
            .from(itemSupplier)
            .where(and(eq(itemSupplier.itemId, item.id), eq(itemSupplier.supplierId, filter.supplierId))),
        ),
    filter.class === undefined ? undefined : sql`${classOf} = ${filter.class}`,
    filter.pattern === undefined ? undefined : eq(levelSuggestion.pattern, filter.pattern),
    states[filter.state],
  );

const at = and(eq(itemPolicy.itemId, item.id), eq(itemPolicy.siteId, site.id));
const said = and(eq(levelSuggestion.itemId, item.id), eq(levelSuggestion.siteId, site.id));
/** Tells an item at a site from others by one number, for pages. */
const pairId = sql<number>`${item.id}::bigint * 100000 + ${site.id}`;

/** Of what is suggested, where something is: the type of its column, of a row that may not be there. */
const told = <C extends PgColumn>(column: C) => sql<GetColumnData<C>>`${column}`;
const fields = {
  itemId: item.id,
  siteId: site.id,
  sku: item.sku,
  name: item.name,
  site: site.name,
  unit: unit.code,
  class: classOf,
  reorderPoint: sql<string | null>`${plain(itemPolicy.reorderPoint)}`,
  orderUpTo: sql<string | null>`${plain(itemPolicy.orderUpTo)}`,
  levelPoint: sql<string | null>`${plain(itemPolicy.point)}`,
  levelUpTo: sql<string | null>`${plain(itemPolicy.upTo)}`,
  coverDays: sql<number | null>`${itemPolicy.coverDays}`,
  packSize: sql<string | null>`${plain(itemPolicy.packSize)}`,
  way: sql<contract.LevelRow['way']>`case when ${itemPolicy.way} is null then 'best' else ${wayWritten} end`,
  wayName: sql<string>`coalesce(${waySupplier.name}, ${waySite.name}, '')`,
  free: sql<string>`trim_scale(coalesce(${itemSite.free}, 0))::text`,
  unitCost: plain(costPool.unitCost),
  madeOn: sql<string | null>`${levelSuggestion.madeOn}`,
  pattern: told(levelSuggestion.pattern),
  perDay: plain(levelSuggestion.perDay),
  wantedYear: plain(levelSuggestion.wantedYear),
  point: plain(levelSuggestion.point),
  upTo: plain(levelSuggestion.upTo),
  daysOut: told(levelSuggestion.daysOut),
  averageStock: told(levelSuggestion.averageStock),
  daysOutNow: told(levelSuggestion.daysOutNow),
  averageStockNow: told(levelSuggestion.averageStockNow),
  decision: told(levelSuggestion.decision),
  reason: told(levelSuggestion.reason),
};

const rowOf = (row: RowOf<typeof fields>): contract.LevelRow => {
  const {
    madeOn,
    pattern,
    perDay,
    wantedYear,
    point,
    upTo,
    daysOut,
    averageStock,
    daysOutNow,
    averageStockNow,
    decision,
    reason,
    levelPoint,
    levelUpTo,
    ...rest
  } = row;
  const suggested = { pattern, perDay, wantedYear, point, upTo, daysOut, averageStock, daysOutNow, averageStockNow, decision, reason };
  return { ...rest, point: levelPoint, upTo: levelUpTo, suggested: madeOn === null ? null : { ...suggested, madeOn } };
};

/** Items at sites with their levels and what is suggested, to be narrowed down. */
const levels = ({ db }: Act['tx'], more: { cursor: SQL<string>; cursorId: SQL<number> }) =>
  db
    .select({ ...fields, ...more })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(costPool, eq(costPool.itemId, item.id))
    .innerJoin(site, sql`true`)
    .leftJoin(itemPolicy, at)
    .leftJoin(levelSuggestion, said)
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, site.id)))
    .leftJoin(itemClass, eq(itemClass.itemId, item.id))
    .leftJoin(waySupplier, eq(waySupplier.id, itemPolicy.waySupplierId))
    .leftJoin(waySite, eq(waySite.id, itemPolicy.waySiteId))
    .$dynamic();

export async function levelList(act: Act, query: LevelQuery): Promise<ResponseOf<typeof contract.listLevels>> {
  const sort = sorts[query.sort];
  const page = pageOf(sort, pairId, query);
  const rows = await levels(act.tx, cursorOf(sort, pairId))
    .where(and(conditions(query, act.sites('look', query.siteId)), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown.map(rowOf), next };
}

/** Which items at which sites a list of this filter holds, and how many. */
const pairs = ({ db }: Act['tx'], filter: Filter, sites: Sites) =>
  db
    .select({ itemId: sql<number>`${item.id}`.as('pair_item'), siteId: sql<number>`${site.id}`.as('pair_site') })
    .from(item)
    .innerJoin(site, sql`true`)
    .leftJoin(itemPolicy, at)
    .leftJoin(levelSuggestion, said)
    .leftJoin(itemClass, eq(itemClass.itemId, item.id))
    .where(conditions(filter, sites));

export async function levelsInAll(act: Act, query: LevelQuery): Promise<ResponseOf<typeof contract.levelsInAll>> {
  return { count: await act.tx.db.$count(pairs(act.tx, query, act.sites('look', query.siteId)).as('found')) };
}

/** All that differ in a list of this filter. */
export const differing = (act: Act, filter: Filter): Promise<{ itemId: number; siteId: number }[]> =>
  pairs(act.tx, { ...filter, state: 'differs' }, act.sites('look', filter.siteId)).execute();

/** One of them; refused where there is no such item or site in use. */
export async function levelRow(act: Act, itemId: number, siteId: number): Promise<contract.LevelRow> {
  const [row] = await levels(act.tx, { cursor: sql`''`, cursorId: sql`0` }).where(and(eq(item.id, itemId), eq(site.id, siteId), eq(item.kind, 'stocked')));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such item that is kept in stock, or no such site.');
  return rowOf(row);
}
