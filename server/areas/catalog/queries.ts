import type * as contract from '@larder/contract/catalog';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { parseGs1, type Gs1 } from '@larder/core/codes/gs1';
import { Refusal } from '@larder/core/refusal';
import type { Act } from '../../act';
import { readCode } from './codes';
import { stateConditions } from '../stock/queries';
import { computed, everyWord, hasLongWord, keyset, type PageSql, likeWord, paged, Values, whereAll, type SortColumn } from '../../db/page';

const sorts: Record<Exclude<QueryOf<typeof contract.listItems>['sort'], 'best'>, SortColumn> = {
  sku: { sql: 'lower(i.sku)', type: 'text' },
  name: { sql: 'i.name', type: 'text' },
  salesPrice: { sql: 'coalesce(i.sales_price, 0)', type: 'numeric' },
  onHand: { sql: 'p.on_hand', type: 'numeric' },
  free: { sql: 'p.free', type: 'numeric' },
};

const columns = `i.id, i.sku, i.name, i.kind, c.name AS category, u.code AS unit, trim_scale(u.step) AS step, i.sales_price AS "salesPrice", i.purchase_price AS "purchasePrice",
  trim_scale(p.on_hand) AS "onHand", trim_scale(p.reserved) AS reserved, trim_scale(p.free) AS free, trim_scale(p.on_order) AS "onOrder", i.retired_at IS NOT NULL AS retired, i.tracking, i.picture_id AS "pictureId",
  (SELECT name FROM family WHERE id = i.family_id) AS family, (SELECT s.name FROM item_supplier t JOIN party s ON s.id = t.supplier_id WHERE t.item_id = i.id ORDER BY t.position LIMIT 1) AS supplier,
  (SELECT coalesce(json_agg(json_build_object('unitId', n.unit_id, 'unit', x.code, 'factor', trim_scale(n.numerator::numeric / n.denominator)::text, 'buys', n.buys, 'sells', n.sells)), '[]') FROM item_unit n JOIN unit x ON x.id = n.unit_id WHERE n.item_id = i.id) AS units,
  (SELECT coalesce(json_object_agg(attribute_id, value), '{}') FROM attribute_value WHERE item_id = i.id) AS attributes,
  (SELECT trim_scale(sum(reorder_point)) FROM item_policy WHERE item_id = i.id) AS "reorderPoint", (SELECT trim_scale(sum(order_up_to)) FROM item_policy WHERE item_id = i.id) AS "orderUpTo"`;
const chosen = 'FROM item i JOIN pool p ON p.item_id = i.id';
const tables = 'JOIN item i ON i.id = page.id JOIN pool p ON p.item_id = i.id JOIN unit u ON u.id = i.unit_id LEFT JOIN category c ON c.id = i.category_id';

/** Conditions of a list of items; `i` is the item, `p` its pool. */
export function itemConditions(values: Values, query: Omit<ItemQuery, 'sort' | 'direction' | 'limit' | 'cursor'>): string[] {
  const where = [...everyWord(values, 'i.findable', query.q), ...stateConditions(query.state, 'p', null)];
  const given = (value: unknown, condition: (placeholder: string) => string) => value !== undefined && where.push(condition(values.add(value)));
  given(query.categoryId, (at) => `i.category_id = ${at}`);
  given(query.supplierId, (at) => `EXISTS (SELECT 1 FROM item_supplier t WHERE t.item_id = i.id AND t.supplier_id = ${at})`);
  given(query.kind, (at) => `i.kind = ${at}`);
  given(query.tracking, (at) => `i.tracking = ${at}`);
  if (query.familyId === 0) where.push('i.family_id IS NULL');
  else given(query.familyId, (at) => `i.family_id = ${at}`);
  if (query.life !== 'all') where.push(`i.retired_at IS ${query.life === 'active' ? '' : 'NOT '}NULL`);
  if (query.attributeId !== undefined) {
    const value = query.attributeValue ? ` AND lower(a.value) = lower(${values.add(query.attributeValue)})` : '';
    where.push(`EXISTS (SELECT 1 FROM attribute_value a WHERE a.item_id = i.id AND a.attribute_id = ${values.add(query.attributeId)}${value})`);
  }
  return where;
}

type ItemQuery = QueryOf<typeof contract.listItems>;
type ItemPage = ResponseOf<typeof contract.listItems>;

export async function items({ tx }: Act, query: QueryOf<typeof contract.listItems>): Promise<ItemPage> {
  const values = new Values();
  const where = itemConditions(values, query);
  if (query.sort === 'best') return bestItems(tx, values, where, query);
  const sort = sorts[query.sort];
  const page = keyset(values, sort, 'i.id', query);
  const ids = await tx.rows<{ id: number; cursor: string }>(
    `SELECT id, cursor::text AS cursor FROM (${pageOfIds(sort, where, page, query)}) page`,
    values.list,
  );
  const rows = (
    await rowsOf(
      tx,
      ids.map(({ id }) => id),
    )
  ).map((row, at) => ({ ...row, cursor: ids[at]?.cursor ?? '', cursorId: row.id }));
  if (rows.length === 0 && query.cursor === undefined && query.q) return nearItems(tx, query);
  return paged(rows, query.limit) as ItemPage;
}

/** Where ids are chosen: figures are joined in only when something asks for them. */
const chosenFrom = (sql: readonly string[]): string => (sql.some((one) => one.includes('p.')) ? chosen : 'FROM item i');

/** How many items are looked at in order before the index is asked. */
const mostWalked = 2000;

/**
 * The ids of a page, in order. Words that many items have are soonest found by walking along the order, words that few
 * have by the trigram index; how many have them is not known beforehand, so the walk ends after so many items, and the
 * index is asked only when the page is not full by then.
 */
function pageOfIds(sort: SortColumn, where: readonly string[], page: PageSql, { q, limit }: ItemQuery): string {
  const from = chosenFrom([sort.sql, ...where]);
  const ids = (order: string, conditions: readonly string[]) => `SELECT i.id, ${sort.sql} AS cursor ${from} ${whereAll(conditions)} ${order}`;
  if (from === chosen || !hasLongWord(q)) return ids(page.order, [...where, ...page.where]);
  const walked = `SELECT i.*, ${sort.sql} AS cursor FROM item i ${whereAll(page.where)} ${page.orderBy(sort.sql, mostWalked)}`;
  const full = `(SELECT count(*) FROM walk) > ${limit}`;
  return `WITH walk AS MATERIALIZED (SELECT i.id, i.cursor FROM (${walked}) i ${whereAll(where)} ${page.orderBy('i.cursor')})
    SELECT * FROM walk WHERE ${full}
    UNION ALL SELECT * FROM (${ids(page.orderBy(computed(sort).sql), [...where, ...page.where, `NOT ${full}`])}) rest`;
}

/** The rows of these items, in their order. A statement of its own: it is planned once, while choosing ids is planned for each question. */
const rowsOf = (tx: Act['tx'], ids: readonly number[]): Promise<contract.ItemRow[]> =>
  ids.length === 0 ? Promise.resolve([]) : tx.rows(`SELECT ${columns} FROM unnest($1::int[]) WITH ORDINALITY page(id, at) ${tables} ORDER BY page.at`, [ids]);

/** When no item has all the words: words that some item has stay, the others stand for the words written most like them. */
async function nearItems(tx: Act['tx'], query: ItemQuery): Promise<ItemPage> {
  const words = (query.q ?? '')
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word.length > 2)
    .slice(0, 4);
  if (words.length === 0) return { rows: [], next: null };
  const meant = await tx.rows<{ word: string; known: boolean; near: string[] }>(
    `SELECT x.word, x.word ~ '^[0-9]+$' OR (SELECT count(*) FROM word w WHERE w.word LIKE x."like") > 0 AS known,
      ARRAY(SELECT w.word FROM word w WHERE w.word % x.word ORDER BY similarity(w.word, x.word) DESC, w.word LIMIT 3) AS near
     FROM unnest($1::text[], $2::text[]) WITH ORDINALITY x(word, "like", at) ORDER BY x.at`,
    [words, words.map(likeWord)],
  );
  const odd = meant.filter(({ known }) => !known);
  if (odd.length === 0 || odd.some(({ near }) => near.length === 0)) return { rows: [], next: null };
  const values = new Values();
  const where = itemConditions(values, { ...query, q: words.filter((word) => !odd.some((one) => one.word === word)).join(' ') });
  where.push(...odd.map(({ near }) => `(${near.map((word) => `i.findable LIKE ${values.add(likeWord(word))}`).join(' OR ')})`));
  const page = keyset(values, sorts.sku, 'i.id', { ...query, cursor: undefined, direction: 'up' });
  const ids = await tx.rows<{ id: number }>(`SELECT id FROM (${pageOfIds(sorts.sku, where, page, query)}) page`, values.list);
  const rows = await rowsOf(
    tx,
    ids.slice(0, query.limit).map(({ id }) => id),
  );
  return { rows, next: null };
}

/** The best few for a line or the scan bar: an exact code first, then names and SKUs that begin with the first word. */
async function bestItems(tx: Act['tx'], values: Values, where: string[], query: ItemQuery): Promise<ItemPage> {
  const { q = '', limit } = query;
  const typed = q.trim().toLowerCase();
  const code = values.add(typed);
  const start = values.add(`${typed.replace(/[\\%_]/g, '\\$&')}%`);
  const rows = await tx.rows<contract.ItemRow>(
    `SELECT ${columns} FROM (SELECT i.id, row_number() OVER () AS at FROM (SELECT i.id ${chosen} ${whereAll(where)}
     ORDER BY (lower(i.sku) = ${code} OR EXISTS (SELECT 1 FROM barcode b WHERE b.item_id = i.id AND lower(b.code) = ${code}) OR EXISTS (SELECT 1 FROM item_supplier s WHERE s.item_id = i.id AND lower(s.code) = ${code})) DESC,
       (lower(i.sku) LIKE ${start}) DESC, (lower(i.name) LIKE ${start}) DESC, lower(i.sku) LIMIT ${values.add(limit)}) i) page ${tables} ORDER BY page.at`,
    values.list,
  );
  return rows.length > 0 || typed.length < 3 ? { rows, next: null } : nearItems(tx, query);
}

export async function item({ tx }: Act, id: number): Promise<contract.Item> {
  const [row] = await tx.rows<contract.Item>(itemSql, [id]);
  if (!row) throw new Refusal(404, 'not-found', 'There is no such item.');
  return row;
}

const trimmed = (column: string): string => `trim_scale(${column})::text`;
const itemSql = `SELECT i.id, i.version, i.sku, i.name, i.kind, i.description, i.category_id AS "categoryId", c.name AS category, i.inventory_account_id AS "inventoryAccountId", i.cost_account_id AS "costAccountId", i.unit_id AS "unitId", u.code AS unit, trim_scale(u.step) AS step, i.brand, i.maker, i.tracking, i.cost_method AS "costMethod", i.returnable, i.notes,
    trim_scale(i.weight_kg) AS "weightKg", trim_scale(i.length_cm) AS "lengthCm", trim_scale(i.width_cm) AS "widthCm", trim_scale(i.height_cm) AS "heightCm", i.picture_id AS "pictureId",
    trim_scale(i.sales_price) AS "salesPrice", trim_scale(i.purchase_price) AS "purchasePrice", i.tax_code_id AS "taxCodeId", i.retired_at IS NOT NULL AS retired,
    (SELECT json_build_object('id', f.id, 'name', f.name, 'ownFacts', i.own_facts, 'values', (SELECT coalesce(json_agg(v.name ORDER BY v.axis), '[]') FROM family_value v WHERE v.id IN (i.value_1_id, i.value_2_id, i.value_3_id))) FROM family f WHERE f.id = i.family_id) AS family,
    (SELECT coalesce(json_agg(json_build_object('code', b.code, 'unitId', b.unit_id, 'unit', x.code) ORDER BY b.position), '[]') FROM barcode b LEFT JOIN unit x ON x.id = b.unit_id WHERE b.item_id = i.id) AS barcodes,
    (SELECT coalesce(json_agg(json_build_object('unitId', n.unit_id, 'unit', x.code, 'numerator', n.numerator, 'denominator', n.denominator, 'buys', n.buys, 'sells', n.sells) ORDER BY n.numerator / n.denominator, n.unit_id), '[]') FROM item_unit n JOIN unit x ON x.id = n.unit_id WHERE n.item_id = i.id) AS units,
    (SELECT coalesce(json_agg(json_build_object('itemId', o.id, 'sku', o.sku, 'name', o.name, 'free', ${trimmed('q.free')}) ORDER BY t.position), '[]') FROM item_substitute t JOIN item o ON o.id = t.substitute_id JOIN pool q ON q.item_id = o.id WHERE t.item_id = i.id) AS substitutes,
    (SELECT coalesce(json_agg(json_build_object('attributeId', attribute_id, 'value', value) ORDER BY attribute_id), '[]') FROM attribute_value WHERE item_id = i.id) AS attributes,
    (SELECT coalesce(json_agg(json_build_object('supplierId', s.supplier_id, 'supplier', p.name, 'code', s.code, 'packSize', ${trimmed('s.pack_size')}, 'minimum', ${trimmed('s.minimum')}, 'price', ${trimmed('s.price')}, 'leadDays', s.lead_days, 'breaks', s.breaks) ORDER BY s.position), '[]')
      FROM item_supplier s JOIN party p ON p.id = s.supplier_id WHERE s.item_id = i.id) AS suppliers,
    (SELECT coalesce(json_agg(json_build_object('siteId', y.site_id, 'binId', y.bin_id, 'bin', b.code, 'reorderPoint', ${trimmed('y.reorder_point')}, 'orderUpTo', ${trimmed('y.order_up_to')}) ORDER BY y.site_id), '[]')
      FROM item_policy y LEFT JOIN place b ON b.id = y.bin_id WHERE y.item_id = i.id) AS policies
   FROM item i JOIN unit u ON u.id = i.unit_id LEFT JOIN category c ON c.id = i.category_id WHERE i.id = $1`;

/** Whatever a code or words may mean: exact codes first. A GS1 element string means its item and, if it is known, its lot or serial. */
export async function find(act: Act, q: string): Promise<contract.Found[]> {
  const { tx } = act;
  const gs1 = parseGs1(q);
  if (gs1) return findGs1(act, q, gs1);
  const values = new Values();
  const code = values.add(q.toLowerCase());
  const words = (column: string) => everyWord(values, column, q).join(' AND ');
  return tx.rows<contract.Found>(
    `SELECT kind, id, code, name, exact FROM (
      (SELECT 'item' AS kind, i.id, i.sku AS code, i.name, (lower(i.sku) = ${code} OR EXISTS (SELECT 1 FROM barcode b WHERE b.item_id = i.id AND lower(b.code) = ${code}) OR EXISTS (SELECT 1 FROM item_supplier s WHERE s.item_id = i.id AND lower(s.code) = ${code})) AS exact, 1 AS rank
        FROM item i WHERE ${words('i.findable')} ORDER BY 5 DESC, lower(i.sku) LIMIT 8)
      UNION ALL (SELECT l.kind, l.id, coalesce(l.tag || ' ', '') || l.code, i.sku || ' ' || i.name, true, 2 FROM lot l JOIN item i ON i.id = l.item_id WHERE lower(l.code) = ${code} OR lower(l.tag) = ${code} ORDER BY l.id LIMIT 5)
      UNION ALL (SELECT 'bin', p.id, p.code, s.name, lower(p.code) = ${code}, 3 FROM place p JOIN site s ON s.id = p.site_id WHERE p.kind = 'bin' AND p.retired_at IS NULL AND ${words('lower(p.code)')} ORDER BY 5 DESC, p.code LIMIT 5)
      UNION ALL (SELECT 'purchase order', o.id, o.number, p.name, lower(o.number) = ${code}, 4 FROM purchase_order o JOIN party p ON p.id = o.supplier_id WHERE ${words(`lower(o.number || ' ' || p.name)`)} ORDER BY 5 DESC, o.id DESC LIMIT 5)
      UNION ALL (SELECT 'sales order', o.id, o.number, p.name, lower(o.number) = ${code}, 5 FROM sales_order o JOIN party p ON p.id = o.customer_id WHERE ${words(`lower(o.number || ' ' || p.name)`)} ORDER BY 5 DESC, o.id DESC LIMIT 5)
      UNION ALL (SELECT 'supplier', p.id, 'Supplier', p.name, lower(p.name) = ${code}, 6 FROM party p WHERE p.is_supplier AND p.retired_at IS NULL AND ${words('lower(p.name)')} ORDER BY 5 DESC, p.name LIMIT 5)
     ) found ORDER BY exact DESC, rank, code`,
    values.list,
  );
}

async function findGs1(act: Act, q: string, gs1: Gs1): Promise<contract.Found[]> {
  const { items } = await readCode(act, q);
  const lots = await act.tx.rows<contract.Found>(
    `SELECT l.kind, l.id, l.code, i.sku || ' ' || i.name AS name, true AS exact FROM lot l JOIN item i ON i.id = l.item_id WHERE l.item_id = ANY($1) AND lower(l.code) = lower($2)`,
    [items.map(({ itemId }) => itemId), gs1.serial ?? gs1.lot ?? ''],
  );
  return lots.length > 0 ? lots : items.map(({ itemId, sku, name }) => ({ kind: 'item' as const, id: itemId, code: sku, name, exact: true }));
}
