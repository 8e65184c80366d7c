import type * as contract from '@larder/contract/inbound';
import type * as receiving from '@larder/contract/receiving';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { amountText, currencyPlaces } from '@larder/core/books/currency';
import { decimal, quantityText } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { orderTotals, stillOrdered } from '@larder/core/inbound/totals';
import { purchaseStages, purchaseState, type PurchaseProgress } from '@larder/core/stage';
import type { Act } from '../../act';
import { everyWord, keyset, paged, Values, whereAll } from '../../db/page';
import { changesSql } from '../../documents/changes';
import { codesSql } from '../../documents/codes';
import { movementRefs } from '../../documents/movements';

interface OrderRow {
  id: number;
  number: string;
  supplierId: number;
  supplier: string;
  siteId: number;
  site: string;
  shipsToId: number | null;
  shipsTo: string | null;
  expectedOn: string | null;
  createdAt: string;
  placedAt: string | null;
  closed: boolean;
  cancelled: boolean;
  ordered: string;
  received: string;
  lines: number;
  amount: string;
  currency: string;
  rate: string;
}

const columns = `o.id, o.number, o.supplier_id AS "supplierId", p.name AS supplier, o.site_id AS "siteId", s.name AS site, o.ships_to_id AS "shipsToId", c.name AS "shipsTo", o.expected_on AS "expectedOn", o.created_at AS "createdAt", o.placed_at AS "placedAt", o.currency, trim_scale(o.rate) AS rate,
  o.closed_at IS NOT NULL AS closed, o.cancelled_at IS NOT NULL AS cancelled, x.ordered, x.received, x.lines, x.amount`;
const tables = `FROM purchase_order o JOIN party p ON p.id = o.supplier_id JOIN site s ON s.id = o.site_id LEFT JOIN party c ON c.id = o.ships_to_id
  CROSS JOIN LATERAL (SELECT coalesce(trim_scale(sum(base_quantity - cancelled)), 0) AS ordered, coalesce(trim_scale(sum(least(received, base_quantity - cancelled))), 0) AS received, count(*)::int AS lines, coalesce(sum(round(amount * (base_quantity - cancelled) * CASE WHEN l.currency = o.currency THEN 1 ELSE l.rate / o.rate END / base_quantity, scale(amount))), 0) AS amount, bool_or(outstanding > 0) AS wants FROM purchase_line l WHERE order_id = o.id) x`;

const shows: Record<QueryOf<typeof contract.listPurchases>['show'], string[]> = {
  open: ['o.placed_at IS NOT NULL', 'o.closed_at IS NULL', 'o.cancelled_at IS NULL', 'x.wants'],
  drafts: ['o.placed_at IS NULL', 'o.cancelled_at IS NULL'],
  all: [],
};

export async function purchases({ tx, today }: Act, query: QueryOf<typeof contract.listPurchases>): Promise<ResponseOf<typeof contract.listPurchases>> {
  const values = new Values();
  const where = [...shows[query.show], ...everyWord(values, `lower(o.number || ' ' || p.name || ' ' || coalesce(c.name, ''))`, query.q)];
  if (query.siteId !== undefined) where.push(`o.site_id = ${values.add(query.siteId)}`);
  if (query.to !== 'anywhere') where.push(`o.ships_to_id IS ${query.to === 'customer' ? 'NOT ' : ''}NULL`);
  const sort =
    query.show === 'open' ? { sql: `coalesce(o.expected_on, '9999-12-31')`, type: 'date' as const } : { sql: 'o.created_at', type: 'timestamptz' as const };
  const page = keyset(values, sort, 'o.id', { ...query, direction: query.show === 'open' ? 'up' : 'down' });
  const rows = await tx.rows<OrderRow & { cursor: string; cursorId: number }>(
    `SELECT ${columns}, ${sort.sql}::text AS cursor, o.id AS "cursorId" ${tables} ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown.map((row) => purchaseRow(row as OrderRow, today)), next };
}

type Progressing = Pick<OrderRow, 'placedAt' | 'closed' | 'cancelled' | 'ordered' | 'received' | 'shipsToId'>;
const progress = (row: Progressing): PurchaseProgress => ({
  placed: row.placedAt !== null,
  closed: row.closed,
  cancelled: row.cancelled,
  ordered: decimal(row.ordered),
  received: decimal(row.received),
  direct: row.shipsToId !== null,
});
const isOpen = (row: Progressing): boolean => row.placedAt !== null && !row.closed && !row.cancelled && decimal(row.received).lt(row.ordered);

function purchaseRow({ placedAt, closed, cancelled, rate: _rate, ...row }: OrderRow, today: string): contract.PurchaseRow {
  const full = { placedAt, closed, cancelled, ...row };
  return { ...row, state: purchaseState(progress(full)), late: isOpen(full) && row.expectedOn !== null && row.expectedOn < today };
}

type RatedLine = contract.PurchaseOrder['lines'][number] & { taxRate: string };
type RatedCharge = contract.PurchaseOrder['charges'][number] & { rate: string };
const taxName = (row: string): string => `(SELECT code FROM tax_code WHERE id = ${row}.tax_code_id)`;
const taxRate = (row: string, day: string): string =>
  `coalesce((SELECT rate FROM tax_rate r WHERE r.tax_code_id = ${row}.tax_code_id AND from_day <= ${day} ORDER BY from_day DESC LIMIT 1), 0)::text`;

export async function purchase({ tx, today }: Act, id: number): Promise<contract.PurchaseOrder> {
  const [row] = await tx.rows<
    OrderRow &
      Pick<contract.PurchaseOrder, 'version' | 'note' | 'rate' | 'orderedOn' | 'movements' | 'changes' | 'shipsToAddress'> & {
        orderLines: RatedLine[];
        orderCharges: RatedCharge[];
      }
  >(
    `SELECT ${columns}, o.version, o.note, o.ordered_on AS "orderedOn", coalesce(c.address, '') AS "shipsToAddress", ${movementRefs('purchase', 'o.id')} AS movements, ${changesSql('purchase order', 'o.id')} AS changes,
      (SELECT coalesce(json_agg(json_build_object('id', l.id, 'position', l.position, 'itemId', l.item_id, 'sku', i.sku, 'name', i.name, 'unit', l.unit, 'unitId', (SELECT id FROM unit WHERE code = l.unit), 'step', trim_scale(u.step)::text, 'tracking', i.tracking, 'supplierCode', coalesce(t.code, ''),
          'quantity', trim_scale(l.quantity)::text, 'baseQuantity', trim_scale(l.base_quantity)::text, 'price', trim_scale(l.price)::text, 'pricePer', trim_scale(l.price_per)::text, 'currency', l.currency, 'rate', trim_scale(l.rate)::text, 'amount', l.amount::text, 'received', trim_scale(l.received)::text, 'cancelled', trim_scale(l.cancelled)::text, 'expectedOn', l.expected_on, 'outstanding', trim_scale(l.outstanding)::text, 'tax', ${taxName('l')}, 'taxRate', ${taxRate('l', '$2')}) ORDER BY l.position), '[]')
        FROM purchase_line l JOIN item i ON i.id = l.item_id JOIN unit u ON u.id = i.unit_id LEFT JOIN item_supplier t ON t.item_id = i.id AND t.supplier_id = o.supplier_id WHERE l.order_id = o.id) AS "orderLines",
      (SELECT coalesce(json_agg(json_build_object('id', h.id, 'label', h.label, 'amount', h.amount::text, 'taxCodeId', h.tax_code_id, 'tax', ${taxName('h')}, 'rate', ${taxRate('h', '$2')}) ORDER BY h.position), '[]') FROM purchase_charge h WHERE h.order_id = o.id) AS "orderCharges"
     ${tables} WHERE o.id = $1`,
    [id, today],
  );
  if (!row) throw new Refusal(404, 'not-found', 'There is no such purchase order.');
  const places = currencyPlaces(row.currency) ?? 2;
  const totals = orderTotals(
    row.orderLines.map(({ taxRate: rate, ...line }) => ({ ...line, rate, amount: inOrders(row, line) })),
    row.orderCharges,
    places,
  );
  const { orderLines, orderCharges, shipsToAddress, version, note, orderedOn, movements, changes, ...order } = row;
  return {
    ...purchaseRow(order, today),
    version,
    note,
    rate: row.rate,
    orderedOn,
    movements,
    changes,
    placedAt: row.placedAt,
    stages: purchaseStages(progress(row)).map((stage) => ({ name: stage.name, done: quantityText(stage.done), of: quantityText(stage.of) })),
    canEdit: row.placedAt === null && !row.cancelled,
    open: isOpen(row),
    shipsToAddress,
    charges: orderCharges.map(({ rate: _rate, ...charge }) => charge),
    tax: amountText(row.currency, totals.tax),
    total: amountText(row.currency, totals.total),
    lines: orderLines.map(({ taxRate: _rate, ...line }) => ({
      ...line,
      amount: amountText(line.currency, stillOrdered(line, currencyPlaces(line.currency) ?? 2)),
    })),
  };
}

/** The amount of a line in its order's currency, of which another may have been agreed on since. */
const inOrders = (order: OrderRow, line: { amount: string; currency: string; rate: string }): string =>
  line.currency === order.currency ? line.amount : decimal(line.amount).times(line.rate).div(order.rate).toFixed();

/** Every open line that still wants goods, by expected day. The bin proposed is the item's own, else where it lies already, else the place for goods without a bin. */
export async function deskLines({ tx, by, now }: Act, siteId?: number): Promise<receiving.DeskLine[]> {
  return tx.rows<receiving.DeskLine>(
    `SELECT l.id AS "lineId", o.id AS "orderId", o.number AS "orderNumber", p.name AS supplier, s.id AS "siteId", s.name AS site, coalesce(l.expected_on, o.expected_on) AS "expectedOn", l.position, i.id AS "itemId", i.sku, i.name, u.code AS unit,
      trim_scale(u.step) AS step, trim_scale(l.outstanding) AS outstanding, i.tracking, l.kept, CASE WHEN l.kept THEN b.id END AS "binId", CASE WHEN l.kept THEN b.code END AS bin,
      CASE WHEN f.short > 0 THEN (SELECT json_agg(json_build_object('orderId', w.id, 'number', w.number, 'customer', w.customer, 'short', trim_scale(w.short)::text) ORDER BY w.promised, w.due, w.id)
        FROM (SELECT d.id, d.number, c.name AS customer, w.short, coalesce(w.promised_on, '9999-12-31') AS promised, w.ship_by AS due FROM sales_line w JOIN sales_order d ON d.id = w.order_id JOIN party c ON c.id = d.customer_id
          WHERE w.item_id = i.id AND w.site_id = s.id AND w.short > 0 ORDER BY 5, 6, 1 LIMIT 5) w) ELSE '[]' END AS waiting,
      (SELECT coalesce(json_agg(json_build_object('person', n.name, 'quantity', y.tally->'lines'->l.id::text->>'quantity') ORDER BY n.name), '[]') FROM desk_tally y JOIN person n ON n.id = y.person_id
        WHERE y.person_id <> $2 AND y.changed_at > $3::timestamptz - interval '12 hours' AND y.tally->'lines'->l.id::text->>'quantity' ~ '^[0-9]') AS others,
      ${codesSql('i.id', { suppliers: true })} AS codes
     FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN party p ON p.id = o.supplier_id JOIN site s ON s.id = o.site_id JOIN item i ON i.id = l.item_id JOIN unit u ON u.id = i.unit_id
      LEFT JOIN item_site f ON f.item_id = i.id AND f.site_id = s.id
      LEFT JOIN LATERAL (
        SELECT b.id, b.code FROM place b LEFT JOIN item_policy y ON y.bin_id = b.id AND y.item_id = i.id AND y.site_id = s.id LEFT JOIN balance q ON q.place_id = b.id AND q.item_id = i.id AND q.quantity > 0
        WHERE b.site_id = s.id AND b.kind = 'bin' AND b.retired_at IS NULL AND (y.item_id IS NOT NULL OR (q.item_id IS NOT NULL AND b.sellable) OR b.unplaced)
        ORDER BY y.item_id IS NULL, q.quantity DESC NULLS LAST, b.id LIMIT 1) b ON true
     WHERE (l.incoming > 0 OR (NOT l.kept AND NOT l.direct AND l.outstanding > 0)) AND ($1::int IS NULL OR l.site_id = $1) ORDER BY coalesce(l.expected_on, o.expected_on) NULLS LAST, length(o.number), o.number, l.position`,
    [siteId ?? null, by.id, now.toISOString()],
  );
}
