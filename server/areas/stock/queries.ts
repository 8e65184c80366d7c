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
  inTransit: { sql: figures.inTransit, type: 'numeric' },
  unitCost: { sql: costPool.unitCost, type: 'numeric' },
  value: { sql: figures.value, type: 'numeric' },
});

/** Stock per item from the stored figures: over all sites from the pool, at one site from its own row, over some from theirs. */
export async function stockTable(act: Act, query: StockQuery): Promise<ResponseOf<typeof contract.stockTable>> {
  const { sort, limit } = query;
  if (!act.seesCosts && ['unitCost', 'value'].includes(sort)) throw new Refusal(403, 'no-right', 'You do not have the right to see what stock costs.');
  const after = readCursor(query.cursor, sortsAt(over(null))[sort].type);
  const { shape, values } = filterOf(act, query);
  const page = { sort, direction: query.direction, isAfter: after !== null };
  return paged(await readTable(act.tx, { ...shape, ...page }, { ...values, limit: limit + 1, cursor: after?.[0], cursorId: after?.[1] }), limit);
}

/** How many items the stock table has in all, and what they are worth together. */
export async function stockInAll(act: Act, query: StockQuery): Promise<ResponseOf<typeof contract.stockInAll>> {
  const { shape, values } = filterOf(act, query);
  const [row] = await readInAll(act.tx, shape, values);
  return row ?? { count: 0, value: '0' };
}

/** What a stock table is held to, as the shape of its statement and the values in it. */
function filterOf(act: Act, { q, state, siteId, categoryId, supplierId }: StockQuery) {
  const sites = act.sites('look', siteId);
  const words = wordPatterns(q);
  const shape: Filter = {
    state,
    words: words.length,
    ofSite: siteId !== undefined,
    ofSome: siteId === undefined && sites !== null,
    ofCategory: categoryId !== undefined,
    ofSupplier: supplierId !== undefined,
  };
  return { shape, values: { ...wordValues(words), sites, siteId, categoryId, supplierId } };
}

type Filter = Pick<StockQuery, 'state'> & Record<'ofSite' | 'ofSome' | 'ofCategory' | 'ofSupplier', boolean> & { words: number };
type Shape = Filter & Pick<StockQuery, 'sort' | 'direction'> & { isAfter: boolean };

const filterNames = ['sites', 'siteId', 'categoryId', 'supplierId', ...wordNames] as const;
type Filtered = Record<(typeof filterNames)[number], Placeholder>;

/** Where the figures of a stock table are, and which items it holds. */
function heldTo(given: Filtered, shape: Filter): { seen: Placeholder | null; at: At; held: SQL | undefined } {
  const seen = shape.ofSome ? given.sites : null;
  const at: At = shape.ofSite ? { figures: itemSite, site: given.siteId, sites: null } : over(seen);
  const conditions = {
    state: shape.state,
    categoryId: shape.ofCategory ? given.categoryId : undefined,
    supplierId: shape.ofSupplier ? given.supplierId : undefined,
  };
  return { seen, at, held: and(everyWord(item.findable, wordsGiven(given, shape.words)), stockConditions(conditions, at)) };
}

const atGiven = (given: Filtered) => and(eq(itemSite.itemId, costPool.itemId), eq(itemSite.siteId, given.siteId));

const readInAll = preparedFor(filterNames, (db, given, shape: Filter) => {
  const { seen, at, held } = heldTo(given, shape);
  const all = db
    .select({ count: sql<number>`count(*)::int`, value: sql<string>`coalesce(sum(${at.figures.value}), 0)` })
    .from(costPoolOver(seen))
    .innerJoin(item, eq(item.id, costPool.itemId))
    .$dynamic();
  return (shape.ofSite ? all.innerJoin(itemSite, atGiven(given)) : all).where(held);
});

const readTable = preparedFor(['limit', 'cursor', 'cursorId', ...filterNames], (db, given, shape: Shape) => {
  const { seen, at, held } = heldTo(given, shape);
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
      inTransit: plain(figures.inTransit),
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
  const here = shape.ofSite ? all.innerJoin(itemSite, atGiven(given)) : all;
  return here
    .where(and(held, page.after))
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
export const belowPoint = ({ free, onOrder, coming, short }: Record<'free' | 'onOrder' | 'coming' | 'short', PgColumn>): SQL =>
  sql`coalesce(${free} + ${onOrder} + ${coming} - ${short}, 0) <= ${itemPolicy.reorderPoint}`;

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
