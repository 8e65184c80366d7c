import type * as contract from '@larder/contract/catalog';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, desc, eq, getTableColumns, isNotNull, isNull, or, sql, type Placeholder, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, unionAll } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import type { Act } from '../../act';
import { atSites, given, jsonOf } from '../../db/given';
import { jsonRows } from '../../db/json';
import {
  computed,
  everyWord,
  hasLongWord,
  likeWord,
  pageAt,
  paged,
  readCursor,
  wordNames,
  wordPatterns,
  wordsGiven,
  wordValues,
  type Sort,
} from '../../db/paging';
import { prepared, preparedFor } from '../../db/prepared';
import { attributeValue, category, costPool, family, item, itemPolicy, itemSupplier, itemUnit, party, unit, word } from '../../db/schema/index';
import { lower, plain } from '../../db/text';
import { costPoolOver } from '../../documents/seen';
import { boughtFrom, withAttribute } from '../../documents/itemsHeld';
import { over, stateCondition } from '../stock/queries';

export type ItemQuery = QueryOf<typeof contract.listItems>;
export type ItemPage = ResponseOf<typeof contract.listItems>;
type Conditions = Omit<ItemQuery, 'sort' | 'direction' | 'limit' | 'cursor' | 'customerId'>;
/** What is asked of an item but words. */
export type Facts = Omit<Conditions, 'q'>;

const sorts: Record<Exclude<ItemQuery['sort'], 'best'>, Sort> = {
  sku: { sql: lower(item.sku), type: 'text' },
  name: { sql: item.name, type: 'text' },
  salesPrice: { sql: sql`coalesce(${item.salesPrice}, 0)`, type: 'numeric' },
  onHand: { sql: costPool.onHand, type: 'numeric' },
  free: { sql: costPool.free, type: 'numeric' },
};

export async function items(act: Act, query: ItemQuery): Promise<ItemPage> {
  const asking = { tx: act.tx, sites: act.sites('look') };
  const ids = await pageOfIds(
    asking,
    query,
    wordPatterns(query.q).map((pattern) => [pattern]),
  );
  const found = await rowsOf(
    asking,
    ids.map(({ id }) => id),
  );
  const rows = found.map((row, at) => ({ ...row, cursor: ids[at]?.cursor ?? '', cursorId: row.id }));
  if (rows.length === 0 && query.cursor === undefined && query.q) return nearItems(asking, query);
  return paged(rows, query.limit);
}

/** How many items the list has in all. */
export async function itemsInAll(act: Act, query: ItemQuery): Promise<ResponseOf<typeof contract.itemsInAll>> {
  const { db } = act.tx;
  const sites = act.sites('look');
  const found = db.select({ id: item.id }).from(item).innerJoin(costPoolOver(sites), eq(costPool.itemId, item.id)).where(itemConditions(query, sites));
  return { count: await db.$count(found.as('found')) };
}

/** Conditions of a list of items but its words; where a state of stock is asked for, the pool is joined. */
export const factConditions = (query: Facts, sites: Sites | Placeholder): SQL | undefined =>
  and(
    stateCondition(query.state, over(sites)),
    query.categoryId === undefined ? undefined : eq(item.categoryId, query.categoryId),
    query.supplierId === undefined ? undefined : boughtFrom(query.supplierId),
    query.kind === undefined ? undefined : eq(item.kind, query.kind),
    query.tracking === undefined ? undefined : eq(item.tracking, query.tracking),
    query.familyId === undefined ? undefined : query.familyId === 0 ? isNull(item.familyId) : eq(item.familyId, query.familyId),
    { all: undefined, active: isNull(item.retiredAt), retired: isNotNull(item.retiredAt) }[query.life],
    query.attributeId === undefined ? undefined : withAttribute(query.attributeId, query.attributeValue || undefined),
  );

/** Conditions of a list of items, whose stock is looked at over these sites. */
export const itemConditions = (query: Conditions, sites: Sites): SQL | undefined => and(everyWord(item.findable, query.q), factConditions(query, sites));

/** What conditions may ask of an item's own row. */
const { id, findable, kind, tracking, categoryId, familyId, retiredAt } = getTableColumns(item);
const askedOf = { id, findable, kind, tracking, categoryId, familyId, retiredAt };

/** How many items are looked at in order before the index is asked. */
const mostWalked = 2000;

/** What a page of ids reads like: by which sort, of which facts, and how many patterns there are for each word. */
interface Shape {
  sort: keyof typeof sorts;
  direction: 'up' | 'down';
  isAfter: boolean;
  facts: Facts;
  words: number[];
  isLong: boolean;
  /** Not all sites are looked at. */
  ofSome: boolean;
}

/** Who asks: over which sites stock is looked at. */
export interface Asking {
  tx: Act['tx'];
  sites: Sites;
}

/** The ids of a page in order, of items that match one of the patterns of each word. */
function pageOfIds({ tx, sites }: Asking, query: ItemQuery, words: readonly (readonly string[])[]): Promise<{ id: number; cursor: string }[]> {
  const { q, limit, cursor, direction, sort: asked, customerId: _customer, ...facts } = query;
  const sort = asked === 'best' ? 'sku' : asked;
  const after = readCursor(cursor, sorts[sort].type);
  const shape: Shape = {
    sort,
    direction,
    isAfter: after !== null,
    facts,
    words: words.map((some) => some.length),
    isLong: hasLongWord(q),
    ofSome: sites !== null,
  };
  return readIds(tx, shape, { ...wordValues(words.flat()), sites, limit, more: limit + 1, cursor: after?.[0], cursorId: after?.[1] });
}

/**
 * The ids of a page, in order. Words that many items have are soonest found by walking along the order, words that few
 * have by the trigram index; how many have them is not known beforehand, so the walk ends after so many items, and the
 * index is asked only when the page is not full by then.
 */
const readIds = preparedFor(['limit', 'more', 'sites', 'cursor', 'cursorId', ...wordNames], (db, asked, shape: Shape) => {
  const sort = sorts[shape.sort];
  const page = pageAt(sort, item.id, { limit: asked.more, after: shape.isAfter ? [asked.cursor, asked.cursorId] : null, direction: shape.direction });
  const places = wordsGiven(
    asked,
    shape.words.reduce((sum, count) => sum + count, 0),
  );
  const words = shape.words.map((count) => or(...places.splice(0, count).map((pattern) => sql`${item.findable} like ${pattern}`)));
  const seen = shape.ofSome ? asked.sites : null;
  const conditions = and(...words, factConditions(shape.facts, seen));
  const fields = { id: item.id, cursor: sql<string>`(${sort.sql})::text`.as('cursor') };
  const where = and(conditions, page.after);
  // Figures are joined in only when something asks for them.
  if (['onHand', 'free'].includes(shape.sort) || !['all', 'low'].includes(shape.facts.state))
    return db
      .select(fields)
      .from(item)
      .innerJoin(costPoolOver(seen), eq(costPool.itemId, item.id))
      .where(where)
      .orderBy(...page.order)
      .limit(page.limit);
  if (!shape.isLong)
    return db
      .select(fields)
      .from(item)
      .where(where)
      .orderBy(...page.order)
      .limit(page.limit);
  // Under the name of the table, so that the conditions are said of what was walked along.
  const walked = db
    .select({ ...askedOf, value: sql<string>`${sort.sql}`.as('sort_value') })
    .from(item)
    .where(page.after)
    .orderBy(...page.order)
    .limit(mostWalked)
    .as('item');
  const walk = db.$with('walk').as(
    db
      .select({ id: walked.id, cursor: sql<string>`(${walked.value})::text`.as('cursor') })
      .from(walked)
      .where(conditions)
      .orderBy(...page.orderBy(sql`${walked.value}`, walked.id))
      .limit(page.limit),
  );
  const full = sql`${db.$count(walk)} > ${asked.limit}`;
  const rest = db
    .select(fields)
    .from(item)
    .where(and(where, sql`not ${full}`))
    .orderBy(...page.orderBy(computed(sort).sql))
    .limit(page.limit)
    .as('rest');
  const both = unionAll(db.select({ id: walk.id, cursor: walk.cursor }).from(walk).where(full), db.select({ id: rest.id, cursor: rest.cursor }).from(rest)).as(
    'both',
  );
  return db.with(walk).select({ id: both.id, cursor: both.cursor }).from(both);
});

const otherUnit = alias(unit, 'other_unit');
const ofItem = new QueryBuilder();

const firstSupplier = ofItem
  .select({ name: party.name })
  .from(itemSupplier)
  .innerJoin(party, eq(party.id, itemSupplier.supplierId))
  .where(eq(itemSupplier.itemId, item.id))
  .orderBy(itemSupplier.position)
  .limit(1);

const ownAttributes = ofItem
  .select({ all: sql`coalesce(json_object_agg(${attributeValue.attributeId}, ${attributeValue.value}), '{}')` })
  .from(attributeValue)
  .where(eq(attributeValue.itemId, item.id));

const policiesAt = (sites: Sites | Placeholder) =>
  ofItem
    .select({
      point: sql<string | null>`trim_scale(sum(${itemPolicy.point}))`.as('point'),
      upTo: sql<string | null>`trim_scale(sum(${itemPolicy.upTo}))`.as('up_to'),
    })
    .from(itemPolicy)
    .where(and(eq(itemPolicy.itemId, item.id), atSites(itemPolicy.siteId, sites)))
    .as('policies');

/** The rows of these items, in their order. A statement of its own: it is planned once, while choosing ids is planned for each question. */
const readRows = preparedFor(['ids', 'sites'], (db, { ids, sites }, { ofSome }: { ofSome: boolean }) => {
  const seen = ofSome ? sites : null;
  const policies = policiesAt(seen);
  return db
    .select({
      id: item.id,
      sku: item.sku,
      name: item.name,
      kind: item.kind,
      category: category.name,
      unit: unit.code,
      step: plain(unit.step),
      salesPrice: item.salesPrice,
      purchasePrice: item.purchasePrice,
      onHand: plain(costPool.onHand),
      reserved: plain(costPool.reserved),
      free: plain(costPool.free),
      onOrder: plain(costPool.onOrder),
      retired: sql<boolean>`${item.retiredAt} is not null`,
      tracking: item.tracking,
      pictureId: item.pictureId,
      family: family.name,
      supplier: sql<string | null>`(${firstSupplier})`,
      units: jsonRows(
        {
          unitId: itemUnit.unitId,
          unit: otherUnit.code,
          factor: sql<string>`trim_scale(${itemUnit.numerator}::numeric / ${itemUnit.denominator})::text`,
          buys: itemUnit.buys,
          sells: itemUnit.sells,
        },
        (select) => select.from(itemUnit).innerJoin(otherUnit, eq(otherUnit.id, itemUnit.unitId)).where(eq(itemUnit.itemId, item.id)),
      ),
      attributes: sql<Record<string, string>>`(${ownAttributes})`,
      reorderPoint: policies.point,
      orderUpTo: policies.upTo,
    })
    .from(sql`unnest(${ids}::int[]) with ordinality page(id, at)`)
    .innerJoin(item, sql`${item.id} = page.id`)
    .innerJoin(costPoolOver(seen), eq(costPool.itemId, item.id))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(category, eq(category.id, item.categoryId))
    .leftJoin(family, eq(family.id, item.familyId))
    .leftJoinLateral(policies, sql`true`)
    .orderBy(sql`page.at`);
});

export const rowsOf = async ({ tx, sites }: Asking, ids: readonly number[]): Promise<contract.ItemRow[]> =>
  ids.length === 0 ? [] : readRows(tx, { ofSome: sites !== null }, { ids, sites });

/** When no item has all the words: words that some item has stay, the others stand for the words written most like them. */
export async function nearItems(asking: Asking, query: ItemQuery): Promise<ItemPage> {
  const words = (query.q ?? '')
    .toLowerCase()
    .split(/\s+/)
    .filter((each) => each.length > 2)
    .slice(0, 4);
  if (words.length === 0) return { rows: [], next: null };
  const odd = (await wordsMeant(asking.tx, { words: jsonOf(words.map((each, at) => ({ at, word: each, pattern: likeWord(each) }))) })).filter(
    ({ known }) => !known,
  );
  if (odd.length === 0 || odd.some(({ near }) => near.length === 0)) return { rows: [], next: null };
  const known = words.filter((each) => !odd.some((one) => one.word === each));
  const patterns = [...known.map((each) => [likeWord(each)]), ...odd.map((one) => one.near.map(likeWord))];
  const ids = await pageOfIds(asking, { ...query, sort: 'sku', cursor: undefined, direction: 'up' }, patterns);
  const rows = await rowsOf(
    asking,
    ids.slice(0, query.limit).map(({ id }) => id),
  );
  return { rows, next: null };
}

/** Whether items have the words, and which words of items are written most like them. */
const wordsMeant = prepared(['words'], (db, value) => {
  const { rows, row } = given('typed', { at: item.id, word: word.word, pattern: word.word }, value.words);
  // Counted, not only looked for: so that the index is asked, which knows parts of words.
  const having = db.$count(word, sql`${word.word} like ${row.pattern}`);
  const near = db
    .select({ word: word.word })
    .from(word)
    .where(sql`${word.word} % ${row.word}`)
    .orderBy(desc(sql`similarity(${word.word}, ${row.word})`), word.word)
    .limit(3);
  return db
    .select({ word: row.word, known: sql<boolean>`${row.word} ~ '^[0-9]+$' or ${having} > 0`, near: sql<string[]>`array(${near})` })
    .from(rows)
    .orderBy(row.at);
});
