import type * as contract from '@larder/contract/stock';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { addDays } from '@larder/core/day';
import { daysOfCover } from '@larder/core/planning/reorderPoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, sql, type Placeholder, type SQL } from 'drizzle-orm';
import { atSites, notNone, positive } from '../../db/given';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import { seenAt, type Act } from '../../act';
import { jsonRows, scalar } from '../../db/json';
import { pastBin } from './past';
import { cursorOf, everyWord, pageAt, paged, readCursor, wordNames, wordPatterns, wordsGiven, wordValues, type Sort } from '../../db/paging';
import { preparedFor } from '../../db/prepared';
import { balance, item, itemPolicy, itemSite, lot, place, costPool, site, unit } from '../../db/schema/index';
import { lower, plain } from '../../db/text';
import { codesHere, codesOf } from '../../documents/codes';
import { itemsHeld, type Held } from '../../documents/itemsHeld';
import { costPoolOver } from '../../documents/seen';
import { usedDays, usedSince } from '../../documents/used';

export { lotConditions, lotsSeen, lotWords } from './lotList';
export { dayAsked, pastBySite } from './past';
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
  short: { sql: figures.short, type: 'numeric' },
  onLoan: { sql: figures.onLoan, type: 'numeric' },
  quarantine: { sql: figures.quarantine, type: 'numeric' },
  unitCost: { sql: costPool.unitCost, type: 'numeric' },
  value: { sql: figures.value, type: 'numeric' },
  // What was never counted comes before what was counted long ago.
  countedOn: { sql: sql`coalesce(${figures.countedOn}, '-infinity')`, type: 'date' },
});

/** Stock per item from the stored figures: over all sites from the pool, at one site from its own row, over some from theirs. */
export async function stockTable(act: Act, query: StockQuery): Promise<ResponseOf<typeof contract.stockTable>> {
  const { sort, limit } = query;
  if (!act.seesCosts && ['unitCost', 'value'].includes(sort)) throw new Refusal(403, 'no-right', 'You do not have the right to see what stock costs.');
  const after = readCursor(query.cursor, sortsAt(over(null))[sort].type);
  const { shape, values } = filterOf(act, query);
  const page = { sort, direction: query.direction, isAfter: after !== null };
  const given = { ...values, usedSince: addDays(act.today, -usedDays), limit: limit + 1, cursor: after?.[0], cursorId: after?.[1] };
  const rows = (await readTable(act.tx, { ...shape, ...page }, given)).map(({ used, ...row }) => ({
    ...row,
    daysOfCover: daysOfCover(Number(row.free), Number(used) / usedDays),
  }));
  return paged(rows, limit);
}

/** How many items the stock table has in all, and what they are worth together. */
export async function stockInAll(act: Act, query: StockQuery): Promise<ResponseOf<typeof contract.stockInAll>> {
  const { shape, values } = filterOf(act, query);
  const [row] = await readInAll(act.tx, shape, values);
  return row ?? { count: 0, value: '0' };
}

/** What a stock table is held to, as the shape of its statement and the values in it. */
function filterOf(act: Act, query: StockQuery) {
  const { q, state, siteId, categoryId, supplierId, zone, attributeId, attributeValue, fromSku, toSku } = query;
  const sites = act.sites('look', siteId);
  const words = wordPatterns(q);
  const shape: Filter = {
    state,
    words: words.length,
    ofSite: siteId !== undefined,
    ofSome: siteId === undefined && sites !== null,
    ofCategory: categoryId !== undefined,
    ofSupplier: supplierId !== undefined,
    ofZone: !!zone,
    ofAttribute: attributeId !== undefined,
    ofValue: !!attributeValue,
    isFrom: !!fromSku,
    isUpTo: !!toSku,
  };
  return { shape, values: { ...wordValues(words), sites, siteId, categoryId, supplierId, zone, attributeId, attributeValue, fromSku, toSku } };
}

type Asked = 'ofSite' | 'ofSome' | 'ofCategory' | 'ofSupplier' | 'ofZone' | 'ofAttribute' | 'ofValue' | 'isFrom' | 'isUpTo';
type Filter = Pick<StockQuery, 'state'> & Record<Asked, boolean> & { words: number };
type Shape = Filter & Pick<StockQuery, 'sort' | 'direction'> & { isAfter: boolean };

const filterNames = ['sites', 'siteId', 'categoryId', 'supplierId', 'zone', 'attributeId', 'attributeValue', 'fromSku', 'toSku', ...wordNames] as const;
type Filtered = Record<(typeof filterNames)[number], Placeholder>;

/** Where the figures of a stock table are, and which items it holds. */
function heldTo(given: Filtered, shape: Filter): { seen: Placeholder | null; at: At; held: SQL | undefined } {
  const seen = shape.ofSome ? given.sites : null;
  const at: At = shape.ofSite ? { figures: itemSite, site: given.siteId, sites: null } : over(seen);
  const conditions = {
    state: shape.state,
    categoryId: shape.ofCategory ? given.categoryId : undefined,
    supplierId: shape.ofSupplier ? given.supplierId : undefined,
    zone: shape.ofZone ? given.zone : undefined,
    attributeId: shape.ofAttribute ? given.attributeId : undefined,
    attributeValue: shape.ofValue ? given.attributeValue : undefined,
    fromSku: shape.isFrom ? given.fromSku : undefined,
    toSku: shape.isUpTo ? given.toSku : undefined,
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

const readTable = preparedFor(['limit', 'cursor', 'cursorId', 'usedSince', ...filterNames], (db, given, shape: Shape) => {
  const { seen, at, held } = heldTo(given, shape);
  const { figures } = at;
  const sort = sortsAt(at)[shape.sort];
  const page = pageAt(sort, costPool.itemId, { limit: given.limit, after: shape.isAfter ? [given.cursor, given.cursorId] : null, direction: shape.direction });
  // Which rows these are is decided by the stored figures alone; all else is asked and written for those.
  const raw = <T>(column: PgColumn, name: string) => sql<T>`${column}`.as(`row_${name}`);
  const all = db
    .select({
      itemId: raw<number>(costPool.itemId, 'item'),
      sorted: sql<string>`${sort.sql}`.as('row_sorted'),
      onHand: raw<string>(figures.onHand, 'on_hand'),
      reserved: raw<string>(figures.reserved, 'reserved'),
      free: raw<string>(figures.free, 'free'),
      onOrder: raw<string>(figures.onOrder, 'on_order'),
      inTransit: raw<string>(figures.inTransit, 'in_transit'),
      short: raw<string>(figures.short, 'short'),
      onLoan: raw<string>(figures.onLoan, 'on_loan'),
      quarantine: raw<string>(figures.quarantine, 'quarantine'),
      countedOn: raw<string | null>(figures.countedOn, 'counted_on'),
      unitCost: raw<string>(costPool.unitCost, 'unit_cost'),
      value: raw<string>(figures.value, 'value'),
    })
    .from(costPoolOver(seen))
    .innerJoin(item, eq(item.id, costPool.itemId))
    .$dynamic();
  const top = (shape.ofSite ? all.innerJoin(itemSite, atGiven(given)) : all)
    .where(and(held, page.after))
    .orderBy(...page.order)
    .limit(page.limit)
    .as('top');
  const level = (column: PgColumn) =>
    scalar(
      new QueryBuilder()
        .select({ level: sql<string | null>`trim_scale(sum(${column}))` })
        .from(itemPolicy)
        .where(and(eq(itemPolicy.itemId, item.id), shape.ofSite ? eq(itemPolicy.siteId, given.siteId) : atSites(itemPolicy.siteId, seen))),
    );
  const used = usedSince(given.usedSince, seen, { item: item.id, ...(shape.ofSite ? { site: given.siteId } : {}) }).as('used');
  const trimmed = (figure: SQL.Aliased<string>) => sql<string>`trim_scale(${figure})::text`;
  return (
    db
      .select({
        itemId: item.id,
        sku: item.sku,
        name: item.name,
        unit: unit.code,
        onHand: trimmed(top.onHand),
        reserved: trimmed(top.reserved),
        free: trimmed(top.free),
        onOrder: trimmed(top.onOrder),
        inTransit: trimmed(top.inTransit),
        short: trimmed(top.short),
        onLoan: trimmed(top.onLoan),
        quarantine: trimmed(top.quarantine),
        countedOn: top.countedOn,
        used: scalar(new QueryBuilder().select({ quantity: used.quantity }).from(used)),
        unitCost: trimmed(top.unitCost),
        value: top.value,
        reorderPoint: level(itemPolicy.point),
        orderUpTo: level(itemPolicy.upTo),
        ...cursorOf({ sql: sql`${top.sorted}`, type: sort.type }, item.id),
      })
      .from(top)
      .innerJoin(item, eq(item.id, top.itemId))
      .innerJoin(unit, eq(unit.id, item.unitId))
      // Named whole: the text that the cursor is made of has the same short name.
      .orderBy(...page.orderBy(sql`top.row_sorted`, item.id))
  );
});

type Conditions = Held & Pick<StockQuery, 'state'>;

/** Conditions of a stock table, in which the item and its figures are joined. */
const stockConditions = ({ state, ...held }: Conditions, at: At): SQL | undefined => and(itemsHeld(held, at), stateCondition(state, at));

/** The same of a table with a row for each item and site. */
export const siteStockConditions = (query: Conditions): SQL | undefined => stockConditions(query, { figures: itemSite, site: itemSite.siteId, sites: null });

const atSite = alias(itemSite, 'at_site');

/** Whether what is free, comes and is not owed at a site is no more than the reorder point of the item there. */
export const belowPoint = ({ free, onOrder, coming, short }: Record<'free' | 'onOrder' | 'coming' | 'short', PgColumn>): SQL =>
  sql`coalesce(${free} + ${onOrder} + ${coming} - ${short}, 0) <= ${itemPolicy.point}`;

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

/** What lies in a bin, or lay there at the end of a day. */
export async function binContents(act: Act, id: number, asOf?: string): Promise<ResponseOf<typeof contract.binContents>> {
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
          lotKind: lot.kind,
          tag: lot.tag,
          itemCodes: codesOf(balance.itemId, { suppliers: false }),
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
  const shown = seenAt(act, {
    ...row,
    rows: row.rows.map(({ lotKind, tag, itemCodes, ...one }) => ({ ...one, codes: codesHere({ lotKind, lot: one.lot, tag, itemCodes }) })),
  });
  return asOf === undefined ? shown : { ...shown, rows: await pastBin(act, id, asOf) };
}
