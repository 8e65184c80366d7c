import type * as contract from '@larder/contract/stock';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { addDays } from '@larder/core/day';
import { daysOfCover } from '@larder/core/planning/reorderPoint';
import type { Act } from '../../act';
import { everyWord, keyset, paged, Values, whereAll, type SortColumn } from '../../db/page';

export { lotConditions, lotWords } from './lotList';

type Sort = QueryOf<typeof contract.stockTable>['sort'];
type StockPage = ResponseOf<typeof contract.stockTable>;

/** What the stock of an item at one site is worth: its part of the pool by quantity, or the cost of the very units there when each keeps its own. */
const valueAt = (site: string): string =>
  `CASE WHEN i.cost_method = 'specific' THEN (SELECT coalesce(sum(y.value), 0) FROM cost_layer y JOIN movement_line w ON w.item_id = y.item_id AND w.seq = y.seq JOIN lot t ON t.id = w.lot_id JOIN place b ON b.id = t.place_id WHERE y.item_id = i.id AND y.quantity > 0 AND b.site_id = ${site})
    ELSE round(p.unit_cost * (f.on_hand + f.bench), 2) END`;

/** Stock per item from the stored figures: over all sites from the pool, at one site from its own row. */
export async function stockTable({ tx }: Act, query: QueryOf<typeof contract.stockTable>): Promise<StockPage> {
  const values = new Values();
  const site = query.siteId === undefined ? null : values.add(query.siteId);
  const at = site ? 'f' : 'p';
  const value = site ? valueAt(site) : 'p.value';
  const sorts: Record<Sort, SortColumn> = {
    sku: { sql: 'lower(i.sku)', type: 'text' },
    name: { sql: 'i.name', type: 'text' },
    onHand: { sql: `${at}.on_hand`, type: 'numeric' },
    reserved: { sql: `${at}.reserved`, type: 'numeric' },
    free: { sql: `${at}.free`, type: 'numeric' },
    onOrder: { sql: `${at}.on_order`, type: 'numeric' },
    unitCost: { sql: 'p.unit_cost', type: 'numeric' },
    value: { sql: value, type: 'numeric' },
  };
  const policy = `(SELECT sum(reorder_point) AS point, sum(order_up_to) AS up_to FROM item_policy WHERE item_id = i.id ${site ? `AND site_id = ${site}` : ''})`;
  const where = [...everyWord(values, 'i.findable', query.q), ...stockConditions(values, query, at, site)];
  const sort = sorts[query.sort];
  const page = keyset(values, sort, 'p.item_id', query);
  const rows = await tx.rows<contract.StockRow & { cursor: string; cursorId: number }>(
    `SELECT i.id AS "itemId", i.sku, i.name, u.code AS unit, trim_scale(${at}.on_hand) AS "onHand", trim_scale(${at}.reserved) AS reserved, trim_scale(${at}.free) AS free, trim_scale(${at}.on_order) AS "onOrder", trim_scale(${at}.short) AS short,
      trim_scale(p.unit_cost) AS "unitCost", ${value} AS value, trim_scale(y.point) AS "reorderPoint", trim_scale(y.up_to) AS "orderUpTo", ${sort.sql}::text AS cursor, i.id AS "cursorId"
     FROM pool p JOIN item i ON i.id = p.item_id JOIN unit u ON u.id = i.unit_id ${site ? `JOIN item_site f ON f.item_id = p.item_id AND f.site_id = ${site}` : ''} LEFT JOIN LATERAL ${policy} y ON true
     ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  return paged(rows, query.limit) as StockPage;
}

/** Conditions of a stock table; `i` is the item, `at` the pool or, with a site, that site's row. */
export function stockConditions(
  values: Values,
  query: { state: Parameters<typeof stateConditions>[0]; categoryId?: number | undefined; supplierId?: number | undefined },
  at: string,
  site: string | null,
): string[] {
  const where = [`i.kind = 'stocked'`, ...stateConditions(query.state, at, site)];
  if (query.categoryId !== undefined) where.push(`i.category_id = ${values.add(query.categoryId)}`);
  if (query.supplierId !== undefined)
    where.push(`EXISTS (SELECT 1 FROM item_supplier t WHERE t.item_id = i.id AND t.supplier_id = ${values.add(query.supplierId)})`);
  return where;
}

/** Conditions for a state of stock; `i` is the item, `at` the pool or, with a site, that site's row. */
export function stateConditions(state: QueryOf<typeof contract.stockTable>['state'], at: string, site: string | null): string[] {
  const low = `EXISTS (SELECT 1 FROM item_policy y LEFT JOIN item_site g ON g.item_id = y.item_id AND g.site_id = y.site_id WHERE y.item_id = i.id ${site ? `AND y.site_id = ${site}` : ''} AND coalesce(g.free + g.on_order - g.short, 0) <= y.reorder_point)`;
  return { all: [], 'in-stock': [`${at}.on_hand > 0`], out: [`${at}.on_hand = 0`], low: [low], short: [`${at}.short > 0`] }[state];
}

/** What each place holds of item `i`, and of which lots. */
const binSql = `SELECT x.place_id, sum(x.quantity) AS quantity,
    coalesce(json_agg(json_build_object('lotId', t.id, 'code', t.code, 'useBy', t.use_by, 'pastUse', t.past_use, 'quantity', trim_scale(x.quantity)::text) ORDER BY t.use_by NULLS LAST, t.code) FILTER (WHERE t.id IS NOT NULL), '[]') AS lots
  FROM balance x LEFT JOIN lot t ON t.id = x.lot_id WHERE x.item_id = i.id AND x.quantity <> 0 GROUP BY 1`;

/** Where one item lies, how its stock went in the last 60 days, and what is expected. */
export async function itemStock({ tx, today }: Act, id: number, siteId?: number): Promise<contract.ItemStock> {
  const from = addDays(today, -60);
  const [row] = await tx.rows<Omit<contract.ItemStock, 'past' | 'daysOfCover' | 'today'> & { onHand: string; used: string }>(
    `SELECT i.id AS "itemId", i.sku, i.name, i.tracking, i.picture_id AS "pictureId", u.code AS unit, trim_scale(u.step) AS step, trim_scale(p.unit_cost) AS "unitCost", p.value, p.last_seq AS seq, trim_scale(y.point) AS "reorderPoint", trim_scale(y.up_to) AS "orderUpTo", ${siteId === undefined ? 'p.on_hand' : 'coalesce((SELECT on_hand FROM item_site WHERE item_id = i.id AND site_id = $2), 0)'} AS "onHand",
      (SELECT coalesce(sum(l.quantity), 0) FROM movement_line l JOIN place t ON t.id = l.to_place_id JOIN place b ON b.id = l.from_place_id WHERE l.item_id = i.id AND l.effective_on > $3 AND t.kind = 'customer' AND ($2::int IS NULL OR b.site_id = $2)) AS used,
      (SELECT coalesce(json_agg(json_build_object('siteId', s.id, 'site', s.name, 'onHand', trim_scale(f.on_hand)::text, 'reserved', trim_scale(f.reserved)::text, 'free', trim_scale(f.free)::text, 'bench', trim_scale(f.bench)::text, 'onOrder', trim_scale(f.on_order)::text, 'short', trim_scale(f.short)::text,
          'reorderPoint', (SELECT trim_scale(reorder_point)::text FROM item_policy WHERE item_id = i.id AND site_id = s.id), 'orderUpTo', (SELECT trim_scale(order_up_to)::text FROM item_policy WHERE item_id = i.id AND site_id = s.id),
          'bins', (SELECT coalesce(json_agg(json_build_object('binId', b.id, 'bin', b.code, 'quantity', trim_scale(q.quantity)::text, 'sellable', b.sellable, 'lots', q.lots) ORDER BY b.walk, b.code), '[]') FROM (${binSql}) q JOIN place b ON b.id = q.place_id WHERE b.site_id = s.id AND b.kind = 'bin')) ORDER BY s.id), '[]')
        FROM item_site f JOIN site s ON s.id = f.site_id WHERE f.item_id = i.id AND ($2::int IS NULL OR s.id = $2)) AS sites,
      (SELECT coalesce(json_agg(e ORDER BY e.day), '[]') FROM (
        SELECT coalesce(l.expected_on, o.expected_on) AS day, trim_scale(l.incoming)::text AS quantity, o.number AS document, 'purchase order' AS kind, o.id FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id WHERE l.item_id = i.id AND l.incoming > 0 AND coalesce(l.expected_on, o.expected_on) IS NOT NULL AND ($2::int IS NULL OR l.site_id = $2)
        UNION ALL SELECT l.ship_by, trim_scale(-l.wanted)::text, o.number, 'sales order', o.id FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE l.item_id = i.id AND l.wanted > 0 AND ($2::int IS NULL OR l.site_id = $2)) e) AS expected,
      (SELECT coalesce(json_agg(json_build_object('orderId', o.id, 'number', o.number, 'customer', c.name, 'reserved', trim_scale(l.reserved)::text, 'short', trim_scale(l.short)::text, 'shipBy', l.ship_by) ORDER BY l.ship_by, o.id), '[]')
        FROM sales_line l JOIN sales_order o ON o.id = l.order_id JOIN party c ON c.id = o.customer_id WHERE l.item_id = i.id AND l.wanted > 0 AND ($2::int IS NULL OR l.site_id = $2)) AS "reservedFor"
     FROM item i JOIN pool p ON p.item_id = i.id JOIN unit u ON u.id = i.unit_id
      LEFT JOIN LATERAL (SELECT sum(reorder_point) AS point, sum(order_up_to) AS up_to FROM item_policy WHERE item_id = i.id AND ($2::int IS NULL OR site_id = $2)) y ON true WHERE i.id = $1`,
    [id, siteId ?? null, addDays(today, -90)],
  );
  if (!row) throw new Refusal(404, 'not-found', 'There is no such item.');
  const past = await tx.rows<{ day: string; quantity: string }>(
    `SELECT d.day::text AS day, trim_scale($3::numeric - coalesce(sum(c.change) OVER (ORDER BY d.day DESC ROWS BETWEEN UNBOUNDED PRECEDING AND 1 PRECEDING), 0)) AS quantity
     FROM (SELECT generate_series($2::date, $4::date, '1 day')::date AS day) d LEFT JOIN (
       SELECT l.effective_on AS day, sum(l.quantity * ((t.kind = 'bin' AND t.sellable AND ($5::int IS NULL OR t.site_id = $5))::int - (f.kind = 'bin' AND f.sellable AND ($5::int IS NULL OR f.site_id = $5))::int)) AS change
       FROM movement_line l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id WHERE l.item_id = $1 AND l.effective_on >= $2 GROUP BY 1) c ON c.day = d.day ORDER BY d.day`,
    [id, from, row.onHand, today, siteId ?? null],
  );
  const { onHand: _onHand, used, ...rest } = row;
  const free = rest.sites.reduce((sum, site) => sum + Number(site.free), 0);
  return { ...rest, today, past, daysOfCover: daysOfCover(free, Number(used) / 90) };
}

/** Movement lines, newest first: who, when, why, from where to where, how many, at what value. */
export async function trail({ tx }: Act, query: QueryOf<typeof contract.trail>): Promise<ResponseOf<typeof contract.trail>> {
  const values = new Values();
  const where: string[] = [];
  if (query.itemId !== undefined) where.push(`l.item_id = ${values.add(query.itemId)}`);
  if (query.lotId !== undefined) where.push(`l.lot_id = ${values.add(query.lotId)}`);
  if (query.placeId !== undefined) {
    const place = values.add(query.placeId);
    where.push(`(l.from_place_id = ${place} OR l.to_place_id = ${place})`);
  }
  const site = query.siteId === undefined ? 'true' : `@.site_id = ${values.add(query.siteId)}`;
  const counts = { 'on-hand': `@.kind = 'bin' AND @.sellable AND ${site}`, bench: `@.kind = 'bench' AND ${site}`, all: `@.owned AND ${site}` }[query.measure];
  const change = `(${counts.replaceAll('@', 't')})::int - (${counts.replaceAll('@', 'f')})::int`;
  if (query.measure !== 'all' || query.siteId !== undefined) where.push(`((${counts.replaceAll('@', 't')}) OR (${counts.replaceAll('@', 'f')}))`);
  if (query.measure !== 'all') where.push(`${change} <> 0`);
  const page = keyset(values, { sql: 'l.id', type: 'numeric' }, 'l.id', { ...query, direction: 'down' });
  const rows = await tx.rows<contract.TrailRow & { cursor: string; cursorId: number }>(
    `SELECT l.id AS "lineId", m.id AS "movementId", m.kind, m.posted_at AS "postedAt", l.effective_on AS "effectiveOn", w.name AS person, i.id AS "itemId", i.sku, i.name,
      coalesce(fs.name || ' ', '') || f.code AS "from", coalesce(ts.name || ' ', '') || t.code AS "to", trim_scale(l.quantity) AS quantity, trim_scale(l.quantity * (${change})) AS change, l.value, l.lot_id AS "lotId", (SELECT code FROM lot WHERE id = l.lot_id) AS lot,
      CASE WHEN po.id IS NOT NULL THEN json_build_object('kind', 'purchase order', 'id', po.id, 'number', po.number) WHEN so.id IS NOT NULL THEN json_build_object('kind', 'sales order', 'id', so.id, 'number', so.number) END AS document,
      concat_ws(': ', r.name, nullif(m.note, '')) AS why, EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id) AS undone, m.reverses AS undoes, l.id::text AS cursor, l.id AS "cursorId"
     FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN person w ON w.id = m.person_id JOIN item i ON i.id = l.item_id JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
      LEFT JOIN site fs ON fs.id = f.site_id LEFT JOIN site ts ON ts.id = t.site_id LEFT JOIN reason r ON r.id = m.reason_id
      LEFT JOIN purchase_line pl ON pl.id = l.supply_line_id LEFT JOIN purchase_order po ON po.id = pl.order_id LEFT JOIN sales_line sl ON sl.id = l.demand_line_id LEFT JOIN sales_order so ON so.id = sl.order_id
     ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  return paged(rows, query.limit) as ResponseOf<typeof contract.trail>;
}

export async function binContents({ tx }: Act, id: number): Promise<ResponseOf<typeof contract.binContents>> {
  const [row] = await tx.rows<ResponseOf<typeof contract.binContents>>(
    `SELECT p.id, p.code, p.sellable, s.id AS "siteId", s.name AS site,
      (SELECT coalesce(json_agg(json_build_object('itemId', i.id, 'sku', i.sku, 'name', i.name, 'unit', u.code, 'quantity', trim_scale(b.quantity)::text, 'lotId', l.id, 'lot', l.code, 'useBy', l.use_by, 'pastUse', coalesce(l.past_use, false)) ORDER BY i.sku, l.use_by NULLS LAST, l.code), '[]') FROM balance b JOIN item i ON i.id = b.item_id JOIN unit u ON u.id = i.unit_id LEFT JOIN lot l ON l.id = b.lot_id WHERE b.place_id = p.id AND b.quantity <> 0) AS rows
     FROM place p JOIN site s ON s.id = p.site_id WHERE p.id = $1 AND p.kind = 'bin'`,
    [id],
  );
  if (!row) throw new Refusal(404, 'not-found', 'There is no such bin.');
  return row;
}
