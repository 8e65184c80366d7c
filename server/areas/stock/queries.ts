import type * as contract from '@larder/contract/stock';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, sql, type Placeholder, type SQL } from 'drizzle-orm';
import { atSites, notNone, positive } from '../../db/given';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import { seenAt, type Act } from '../../act';
import { jsonRows } from '../../db/json';
import { cursorOf, everyWord, pageAt, paged, readCursor, wordNames, wordPatterns, wordsGiven, wordValues, type Sort } from '../../db/paging';
import { preparedFor } from '../../db/prepared';
import { balance, item, itemPolicy, itemSite, itemSupplier, lot, place, costPool, site, unit } from '../../db/schema/index';
import { lower, plain } from '../../db/text';
import { costPoolOver } from '../../documents/seen';

export { lotConditions, lotsSeen, lotWords } from './lotList';
export { movedAt } from './trail';

type StockQuery = QueryOf<typeof contract.stockTable>;

type Given = number | Placeholder;

/** Where stock is looked at: over all sites or those one may see, at one, or at the site of each row. */
interface At {
  figures: typeof costPool | typeof itemSite;
  site: Given | PgColumn | undefined;
  sites: Sites | Placeholder;
}

export const over = (sites: Sites | Placeholder): At => ({ figures: costPool, site: undefined, sites });

/** What a stock table can be sorted by. */
const sortsAt = ({ figures }: At): Record<StockQuery['sort'], Sort> => ({
  sku: { sql: lower(item.sku), type: 'text' },
  name: { sql: item.name, type: 'text' },
  onHand: { sql: figures.onHand, type: 'numeric' },
  reserved: { sql: figures.reserved, type: 'numeric' },
  free: { sql: figures.free, type: 'numeric' },
  onOrder: { sql: figures.onOrder, type: 'numeric' },
  unitCost: { sql: costPool.unitCost, type: 'numeric' },
  value: { sql: figures.value, type: 'numeric' },
});

/** Stock per item from the stored figures: over all sites from the pool, at one site from its own row, over some from theirs. */
export async function stockTable(act: Act, query: StockQuery): Promise<ResponseOf<typeof contract.stockTable>> {
  const { sort, direction, state, siteId, categoryId, supplierId, limit } = query;
  const sites = act.sites('look', siteId);
  if (!act.seesCosts && ['unitCost', 'value'].includes(sort)) throw new Refusal(403, 'no-right', 'You do not have the right to see what stock costs.');
  const words = wordPatterns(query.q);
  const after = readCursor(query.cursor, sortsAt(over(null))[sort].type);
  const shape: Shape = {
    sort,
    direction,
    state,
    words: words.length,
    isAfter: after !== null,
    ofSite: siteId !== undefined,
    ofSome: siteId === undefined && sites !== null,
    ofCategory: categoryId !== undefined,
    ofSupplier: supplierId !== undefined,
  };
  const values = { ...wordValues(words), limit: limit + 1, cursor: after?.[0], cursorId: after?.[1], sites, siteId, categoryId, supplierId };
  return paged(await readTable(act.tx, shape, values), limit);
}

type Shape = Pick<StockQuery, 'sort' | 'direction' | 'state'> &
  Record<'isAfter' | 'ofSite' | 'ofSome' | 'ofCategory' | 'ofSupplier', boolean> & { words: number };

const readTable = preparedFor(['limit', 'cursor', 'cursorId', 'sites', 'siteId', 'categoryId', 'supplierId', ...wordNames], (db, given, shape: Shape) => {
  const seen = shape.ofSome ? given.sites : null;
  const at: At = shape.ofSite ? { figures: itemSite, site: given.siteId, sites: null } : over(seen);
  const { figures } = at;
  const sort = sortsAt(at)[shape.sort];
  const page = pageAt(sort, costPool.itemId, { limit: given.limit, after: shape.isAfter ? [given.cursor, given.cursorId] : null, direction: shape.direction });
  const policy = db
    .select({
      point: sql<string | null>`trim_scale(sum(${itemPolicy.reorderPoint}))`.as('point'),
      upTo: sql<string | null>`trim_scale(sum(${itemPolicy.orderUpTo}))`.as('up_to'),
    })
    .from(itemPolicy)
    .where(and(eq(itemPolicy.itemId, item.id), shape.ofSite ? eq(itemPolicy.siteId, given.siteId) : atSites(itemPolicy.siteId, seen)))
    .as('policy');
  const all = db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      onHand: plain(figures.onHand),
      reserved: plain(figures.reserved),
      free: plain(figures.free),
      onOrder: plain(figures.onOrder),
      short: plain(figures.short),
      unitCost: plain(costPool.unitCost),
      value: figures.value,
      reorderPoint: policy.point,
      orderUpTo: policy.upTo,
      ...cursorOf(sort, item.id),
    })
    .from(costPoolOver(seen))
    .innerJoin(item, eq(item.id, costPool.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoinLateral(policy, sql`true`)
    .$dynamic();
  const here = shape.ofSite ? all.innerJoin(itemSite, and(eq(itemSite.itemId, costPool.itemId), eq(itemSite.siteId, given.siteId))) : all;
  const conditions = {
    state: shape.state,
    categoryId: shape.ofCategory ? given.categoryId : undefined,
    supplierId: shape.ofSupplier ? given.supplierId : undefined,
  };
  return here
    .where(and(everyWord(item.findable, wordsGiven(given, shape.words)), stockConditions(conditions, at), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
});

interface Conditions {
  state: StockQuery['state'];
  categoryId?: Given | undefined;
  supplierId?: Given | undefined;
}

/** Conditions of a stock table, in which the item and its figures are joined. */
const stockConditions = ({ state, categoryId, supplierId }: Conditions, at: At): SQL | undefined =>
  and(
    eq(item.kind, 'stocked'),
    stateCondition(state, at),
    categoryId === undefined ? undefined : eq(item.categoryId, categoryId),
    supplierId === undefined ? undefined : suppliedBy(supplierId),
  );

/** The same of a table with a row for each item and site. */
export const siteStockConditions = (query: Conditions): SQL | undefined => stockConditions(query, { figures: itemSite, site: itemSite.siteId, sites: null });

/** Whether the item is bought from the supplier. */
export const suppliedBy = (supplierId: Given): SQL =>
  exists(
    new QueryBuilder()
      .select({ one: sql`1` })
      .from(itemSupplier)
      .where(and(eq(itemSupplier.itemId, item.id), eq(itemSupplier.supplierId, supplierId))),
  );

const atSite = alias(itemSite, 'at_site');

/** Whether what is free, comes and is not owed at a site is no more than the reorder point of the item there. */
export const belowPoint = ({ free, onOrder, short }: Record<'free' | 'onOrder' | 'short', PgColumn>): SQL =>
  sql`coalesce(${free} + ${onOrder} - ${short}, 0) <= ${itemPolicy.reorderPoint}`;

/** Whether the item is at or below its reorder point, at one site or any of those looked at. */
const isLow = ({ site, sites }: At): SQL =>
  exists(
    new QueryBuilder()
      .select({ one: sql`1` })
      .from(itemPolicy)
      .leftJoin(atSite, and(eq(atSite.itemId, itemPolicy.itemId), eq(atSite.siteId, itemPolicy.siteId)))
      .where(
        and(eq(itemPolicy.itemId, item.id), site === undefined ? atSites(itemPolicy.siteId, sites) : sql`${itemPolicy.siteId} = ${site}`, belowPoint(atSite)),
      ),
  );

/** The condition for a state of stock; the item and its figures are joined. */
export function stateCondition(state: StockQuery['state'], at: At): SQL | undefined {
  const { figures } = at;
  if (state === 'in-stock') return positive(figures.onHand);
  if (state === 'out') return eq(figures.onHand, '0');
  if (state === 'short') return positive(figures.short);
  return state === 'low' ? isLow(at) : undefined;
}

export async function binContents(act: Act, id: number): Promise<ResponseOf<typeof contract.binContents>> {
  const [row] = await act.tx.db
    .select({
      id: place.id,
      code: place.code,
      sellable: place.sellable,
      siteId: site.id,
      site: site.name,
      rows: jsonRows(
        {
          itemId: item.id,
          sku: item.sku,
          name: item.name,
          unit: unit.code,
          quantity: plain(balance.quantity),
          lotId: sql<number | null>`${lot.id}`,
          lot: sql<string | null>`${lot.code}`,
          useBy: lot.useBy,
          pastUse: sql<boolean>`coalesce(${lot.pastUse}, false)`,
        },
        (select) =>
          select
            .from(balance)
            .innerJoin(item, eq(item.id, balance.itemId))
            .innerJoin(unit, eq(unit.id, item.unitId))
            .leftJoin(lot, eq(lot.id, balance.lotId))
            .where(and(eq(balance.placeId, place.id), notNone(balance.quantity))),
        { orderBy: sql`${item.sku}, ${lot.useBy} nulls last, ${lot.code}` },
      ),
    })
    .from(place)
    .innerJoin(site, eq(site.id, place.siteId))
    .where(and(eq(place.id, id), eq(place.kind, 'bin')));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such bin.');
  return seenAt(act, row);
}
