import type * as contract from '@larder/contract/inbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import type { Act } from '../../act';

type Supplier = ResponseOf<typeof contract.getSupplier>;

const headSql = `SELECT p.id, p.name, p.email, p.address, p.currency, p.lead_days AS "leadDays", p.tax_code_id AS "taxCodeId", p.version,
  (SELECT trim_scale(round(percentile_cont(0.5) WITHIN GROUP (ORDER BY x.days)::numeric, 1))::text FROM (
    SELECT min(m.effective_on) - min(o.placed_at)::date AS days FROM purchase_order o JOIN purchase_line l ON l.order_id = o.id JOIN movement_line m ON m.supply_line_id = l.id
    WHERE o.supplier_id = p.id AND o.placed_at >= $2::date - 365 GROUP BY o.id) x) AS "usualDays",
  coalesce(b.owed, 0)::text AS owed, coalesce(b.overdue, 0)::text AS overdue
 FROM party p LEFT JOIN LATERAL (
  SELECT sum(open) AS owed, sum(open) FILTER (WHERE due_on < $2) AS overdue FROM (
    SELECT b.due_on, (b.owed - (SELECT coalesce(sum(y.settled), 0) FROM payment y WHERE y.bill_id = b.id AND y.undone_at IS NULL)) * CASE WHEN b.kind = 'credit' THEN -1 ELSE 1 END AS open
    FROM bill b WHERE b.party_id = p.id AND b.posted_at IS NOT NULL AND b.undone_at IS NULL) o) b ON true
 WHERE p.id = $1 AND p.is_supplier`;

/** Lines whose day has passed: whole by that day, and whole at all. What was called off is not counted against anybody. */
const punctualSql = `SELECT count(*)::int AS lines, count(*) FILTER (WHERE x.in_time >= x.wanted)::int AS "onTime", count(*) FILTER (WHERE x.received >= x.wanted)::int AS "inFull" FROM (
  SELECT l.base_quantity - l.cancelled AS wanted, l.received,
    (SELECT coalesce(sum(CASE WHEN f.kind = 'supplier' THEN m.quantity ELSE -m.quantity END), 0) FROM movement_line m JOIN place f ON f.id = m.from_place_id
      WHERE m.supply_line_id = l.id AND m.effective_on <= coalesce(l.expected_on, o.expected_on)) AS in_time
  FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id
  WHERE o.supplier_id = $1 AND o.placed_at IS NOT NULL AND o.cancelled_at IS NULL AND l.base_quantity > l.cancelled AND coalesce(l.expected_on, o.expected_on) < $2 AND coalesce(l.expected_on, o.expected_on) >= $2::date - 365) x`;

const itemsSql = `SELECT i.id AS "itemId", i.sku, i.name, u.code AS unit, t.code, trim_scale(t.pack_size)::text AS "packSize", trim_scale(t.minimum)::text AS minimum, trim_scale(t.price)::text AS price, t.breaks,
  coalesce((SELECT json_agg(json_build_object('day', h.day, 'price', trim_scale(h.price)::text) ORDER BY h.day) FROM (
    SELECT day, price, lag(price) OVER (ORDER BY day) AS before FROM (
      SELECT DISTINCT ON (o.placed_at::date) o.placed_at::date AS day, round(l.price * l.quantity * l.rate / (l.base_quantity * l.price_per), 6) AS price
      FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id WHERE l.item_id = i.id AND o.supplier_id = $1 AND o.placed_at IS NOT NULL AND o.cancelled_at IS NULL ORDER BY o.placed_at::date, l.id DESC) d) h
    WHERE h.before IS DISTINCT FROM h.price), '[]') AS prices
 FROM item_supplier t JOIN item i ON i.id = t.item_id JOIN unit u ON u.id = i.unit_id WHERE t.supplier_id = $1 AND i.retired_at IS NULL ORDER BY i.sku LIMIT 500`;

const ordersSql = `SELECT o.id, o.number, o.expected_on AS "expectedOn", s.name AS site, trim_scale(x.outstanding)::text AS outstanding, coalesce(o.expected_on < $2, false) AS late
 FROM purchase_order o JOIN site s ON s.id = o.site_id CROSS JOIN LATERAL (SELECT sum(outstanding) AS outstanding FROM purchase_line WHERE order_id = o.id) x
 WHERE o.supplier_id = $1 AND x.outstanding > 0 ORDER BY o.expected_on NULLS LAST, o.id LIMIT 100`;

/** Everything the supplier's page tells. */
export async function supplier({ tx, today }: Act, id: number): Promise<Supplier> {
  const [head] = await tx.rows<Omit<Supplier, 'punctual' | 'items' | 'orders'>>(headSql, [id, today]);
  if (!head) throw new Refusal(404, 'not-found', 'There is no such supplier.');
  const [punctual] = await tx.rows<Supplier['punctual']>(punctualSql, [id, today]);
  return {
    ...head,
    punctual: punctual ?? { lines: 0, onTime: 0, inFull: 0 },
    items: await tx.rows<Supplier['items'][number]>(itemsSql, [id]),
    orders: await tx.rows<Supplier['orders'][number]>(ordersSql, [id, today]),
  };
}

/** What a supplier asks for these items; those it has no terms for are left out. */
export async function supplierTerms({ tx }: Act, id: number, itemIds: string): Promise<ResponseOf<typeof contract.supplierTerms>> {
  const [head] = await tx.rows<{ taxCodeId: number | null; leadDays: number }>(
    'SELECT tax_code_id AS "taxCodeId", lead_days AS "leadDays" FROM party WHERE id = $1 AND is_supplier',
    [id],
  );
  if (!head) throw new Refusal(404, 'not-found', 'There is no such supplier.');
  const rows = await tx.rows<ResponseOf<typeof contract.supplierTerms>['rows'][number]>(
    `SELECT i.id AS "itemId", coalesce(t.code, '') AS code, trim_scale(coalesce(t.pack_size, u.step))::text AS "packSize", trim_scale(coalesce(t.minimum, 0))::text AS minimum, trim_scale(coalesce(t.price, i.purchase_price))::text AS price, t.lead_days AS "leadDays", coalesce(t.breaks, '[]') AS breaks, i.tax_code_id AS "taxCodeId"
     FROM item i JOIN unit u ON u.id = i.unit_id LEFT JOIN item_supplier t ON t.item_id = i.id AND t.supplier_id = $1 WHERE i.id = ANY($2)`,
    [id, itemIds.split(',').filter(Boolean).map(Number)],
  );
  return { ...head, rows };
}
