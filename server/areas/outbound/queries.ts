import type * as contract from '@larder/contract/outbound';
import { choosePicks, type Lying } from '@larder/core/outbound/picking';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, least, quantityText, shareOf, sum } from '@larder/core/decimal';
import { taxOf } from '@larder/core/outbound/tax';
import { Refusal } from '@larder/core/refusal';
import { salesStages, salesState, type SalesProgress } from '@larder/core/stage';
import { promiseDate } from '@larder/core/stock/availability';
import type { Act } from '../../act';
import { everyWord, keyset, paged, Values, whereAll } from '../../db/page';
import { codesSql } from '../../documents/codes';
import { movementRefs } from '../../documents/movements';

interface OrderRow {
  id: number;
  number: string;
  customerId: number;
  customer: string;
  siteId: number;
  site: string;
  shipBy: string;
  createdAt: string;
  confirmedAt: string | null;
  closed: boolean;
  cancelled: boolean;
  ordered: string;
  picked: string;
  dispatched: string;
  short: string;
  /** Of lines that are not kept in stock. */
  unkept: string;
  unkeptGone: string;
  lines: number;
  amount: string;
}

const columns = `o.id, o.number, o.customer_id AS "customerId", p.name AS customer, o.site_id AS "siteId", s.name AS site, o.ship_by AS "shipBy", o.created_at AS "createdAt", o.confirmed_at AS "confirmedAt",
  o.closed_at IS NOT NULL AS closed, o.cancelled_at IS NOT NULL AS cancelled, x.ordered, x.picked, x.dispatched, x.short, x.unkept, x."unkeptGone", x.lines, x.amount`;
const tables = `FROM sales_order o JOIN party p ON p.id = o.customer_id JOIN site s ON s.id = o.site_id
  CROSS JOIN LATERAL (SELECT coalesce(trim_scale(sum(base_quantity)), 0) AS ordered, coalesce(trim_scale(sum(picked)), 0) AS picked, coalesce(trim_scale(sum(dispatched)), 0) AS dispatched, coalesce(trim_scale(sum(short)), 0) AS short, coalesce(sum(base_quantity) FILTER (WHERE NOT kept), 0) AS unkept, coalesce(sum(dispatched) FILTER (WHERE NOT kept), 0) AS "unkeptGone",
    count(*)::int AS lines, coalesce(sum(amount), 0) AS amount FROM sales_line WHERE order_id = o.id) x`;

const shows: Record<QueryOf<typeof contract.listSales>['show'], string[]> = {
  open: ['o.confirmed_at IS NOT NULL', 'o.closed_at IS NULL', 'o.cancelled_at IS NULL', 'x.dispatched < x.ordered'],
  quotes: ['o.confirmed_at IS NULL', 'o.cancelled_at IS NULL'],
  all: [],
};

export async function sales({ tx, today }: Act, query: QueryOf<typeof contract.listSales>): Promise<ResponseOf<typeof contract.listSales>> {
  const values = new Values();
  const where = [...shows[query.show], ...everyWord(values, `lower(o.number || ' ' || p.name)`, query.q)];
  if (query.siteId !== undefined) where.push(`o.site_id = ${values.add(query.siteId)}`);
  const sort = query.show === 'open' ? { sql: 'o.ship_by', type: 'date' as const } : { sql: 'o.created_at', type: 'timestamptz' as const };
  const page = keyset(values, sort, 'o.id', { ...query, direction: query.show === 'open' ? 'up' : 'down' });
  const rows = await tx.rows<OrderRow & { cursor: string; cursorId: number }>(
    `SELECT ${columns}, ${sort.sql}::text AS cursor, o.id AS "cursorId" ${tables} ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown.map((row) => salesRow(row as OrderRow, today)), next };
}

const progress = (row: OrderRow): SalesProgress => ({
  confirmed: row.confirmedAt !== null,
  closed: row.closed,
  cancelled: row.cancelled,
  ordered: decimal(row.ordered),
  picked: decimal(row.picked),
  dispatched: decimal(row.dispatched),
  unkept: { ordered: decimal(row.unkept), dispatched: decimal(row.unkeptGone) },
});
const isOpen = (row: OrderRow): boolean => row.confirmedAt !== null && !row.closed && !row.cancelled && decimal(row.dispatched).lt(row.ordered);

function salesRow({ confirmedAt, closed, cancelled, unkept, unkeptGone, ...row }: OrderRow, today: string): contract.SalesRow {
  const full = { confirmedAt, closed, cancelled, unkept, unkeptGone, ...row };
  return { ...row, state: salesState(progress(full)), late: isOpen(full) && row.shipBy < today };
}

type LineRow = contract.SalesOrder['lines'][number] & { rate: string };

export async function sale({ tx, today }: Act, id: number): Promise<contract.SalesOrder> {
  const [row] = await tx.rows<OrderRow & Pick<contract.SalesOrder, 'version' | 'note' | 'currency' | 'movements'> & { orderLines: LineRow[] }>(
    `SELECT ${columns}, o.version, o.note, o.currency, ${movementRefs('sales', 'o.id')} AS movements,
      (SELECT coalesce(json_agg(json_build_object('id', l.id, 'position', l.position, 'itemId', l.item_id, 'sku', i.sku, 'name', i.name, 'unit', l.unit, 'unitId', (SELECT id FROM unit WHERE code = l.unit), 'step', trim_scale(u.step)::text, 'quantity', trim_scale(l.quantity)::text, 'baseQuantity', trim_scale(l.base_quantity)::text, 'kept', l.kept,
          'price', trim_scale(l.price)::text, 'pricePer', trim_scale(l.price_per)::text, 'amount', l.amount::text, 'picked', trim_scale(l.picked)::text, 'dispatched', trim_scale(l.dispatched)::text, 'reserved', trim_scale(l.reserved)::text, 'short', trim_scale(l.short)::text,
          'free', trim_scale(coalesce(f.free, 0))::text, 'cost', l.dispatched_cost::text, 'coming', ${comingSql('l.item_id', 'l.site_id')},
          'rate', coalesce((SELECT rate FROM tax_rate r WHERE r.tax_code_id = l.tax_code_id AND from_day <= $2 ORDER BY from_day DESC LIMIT 1), 0)::text) ORDER BY l.position), '[]')
        FROM sales_line l JOIN item i ON i.id = l.item_id JOIN unit u ON u.id = i.unit_id LEFT JOIN item_site f ON f.item_id = l.item_id AND f.site_id = l.site_id WHERE l.order_id = o.id) AS "orderLines"
     ${tables} WHERE o.id = $1`,
    [id, today],
  );
  if (!row) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  const { orderLines, version, note, currency, movements, ...order } = row;
  const gone = sum(orderLines.map((line) => shareOf(decimal(line.amount), decimal(line.dispatched), decimal(line.baseQuantity))));
  const cost = sum(orderLines.map((line) => decimal(line.cost)));
  return {
    ...salesRow(order, today),
    version,
    note,
    currency,
    movements,
    confirmedAt: row.confirmedAt,
    stages: salesStages(progress(row)).map((stage) => ({ name: stage.name, done: quantityText(stage.done), of: quantityText(stage.of) })),
    open: isOpen(row),
    canEdit: row.confirmedAt === null && !row.cancelled,
    tax: taxOf(orderLines.map((line) => ({ amount: decimal(line.amount), rate: decimal(line.rate) }))).toFixed(2),
    dispatchedAmount: gone.toFixed(2),
    dispatchedCost: cost.toFixed(2),
    margin: gone.minus(cost).toFixed(2),
    lines: orderLines.map(({ rate: _rate, ...line }) => line),
  };
}

/** What is on order for an item at a site, by expected day, as JSON. */
const comingSql = (item: string, site: string): string =>
  `(SELECT coalesce(json_agg(json_build_object('orderNumber', d.number, 'orderId', d.id, 'quantity', trim_scale(c.incoming)::text, 'expectedOn', coalesce(c.expected_on, d.expected_on)) ORDER BY coalesce(c.expected_on, d.expected_on) NULLS LAST, d.id), '[]')
    FROM purchase_line c JOIN purchase_order d ON d.id = c.order_id WHERE c.item_id = ${item} AND c.site_id = ${site} AND c.incoming > 0)`;

type Availability = ResponseOf<typeof contract.availability>;

/** What a line of so many would find: free, short, the promise date, what is coming and what other sites have free. */
export async function availability({ tx, today }: Act, query: QueryOf<typeof contract.availability>): Promise<Availability> {
  const [row] = await tx.rows<{
    kept: boolean;
    free: string;
    coming: Availability['coming'];
    elsewhere: Availability['elsewhere'];
    demand: { day: string; quantity: string; document: string }[];
  }>(
    `SELECT EXISTS (SELECT 1 FROM item WHERE id = $1 AND kind = 'stocked') AS kept, trim_scale(coalesce((SELECT free FROM item_site WHERE item_id = $1 AND site_id = $2), 0)) AS free, ${comingSql('$1', '$2')} AS coming,
      (SELECT coalesce(json_agg(json_build_object('siteId', s.id, 'site', s.name, 'free', trim_scale(f.free)::text) ORDER BY f.free DESC), '[]') FROM item_site f JOIN site s ON s.id = f.site_id WHERE f.item_id = $1 AND f.site_id <> $2 AND f.free > 0) AS elsewhere,
      (SELECT coalesce(json_agg(json_build_object('day', l.ship_by, 'quantity', l.short::text, 'document', o.number)), '[]') FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE l.item_id = $1 AND l.site_id = $2 AND l.short > 0 AND l.wanted > 0) AS demand`,
    [query.itemId, query.siteId],
  );
  if (row?.kept === false) return { kept: false, free: '0', short: '0', promise: today, coming: [], elsewhere: [] };
  const { free = '0', coming = [], elsewhere = [], demand = [] } = row ?? {};
  const wanted = decimal(query.quantity);
  const incoming = coming.flatMap((one) =>
    one.expectedOn === null ? [] : [{ day: one.expectedOn, quantity: decimal(one.quantity), document: one.orderNumber }],
  );
  const promise = promiseDate({ today, free: decimal(free), incoming, demand: demand.map((one) => ({ ...one, quantity: decimal(one.quantity) })) }, wanted);
  return { kept: true, free, short: quantityText(wanted.minus(least(wanted, decimal(free)))), promise, coming, elsewhere };
}

type PickList = ResponseOf<typeof contract.pickList>;

/** What to take from which bin for an order, in walking order: reserved goods and, beyond, what is free. */
export async function pickList({ tx, today }: Act, id: number): Promise<PickList> {
  const lines = await tx.rows<{
    lineId: number;
    itemId: number;
    position: number;
    sku: string;
    name: string;
    unit: string;
    step: string;
    wanted: string;
    may: string;
  }>(
    `SELECT l.id AS "lineId", i.id AS "itemId", l.position, i.sku, i.name, u.code AS unit, trim_scale(u.step) AS step, trim_scale(l.wanted) AS wanted, least(l.wanted, l.reserved + coalesce(f.free, 0)) AS may
     FROM sales_line l JOIN item i ON i.id = l.item_id JOIN unit u ON u.id = i.unit_id LEFT JOIN item_site f ON f.item_id = l.item_id AND f.site_id = l.site_id WHERE l.order_id = $1 AND l.wanted > 0 ORDER BY l.position`,
    [id],
  );
  const lying = await tx.rows<Omit<Lying, 'quantity'> & { inBin: string; lot: string | null; codes: PickList['rows'][number]['codes'] }>(
    `SELECT q.item_id AS "itemId", b.id AS "binId", b.code AS bin, b.walk, b.unplaced, q.lot_id AS "lotId", t.code AS lot, t.use_by AS "useBy", trim_scale(q.quantity) AS "inBin",
      CASE WHEN t.kind = 'serial' THEN (SELECT json_agg(json_build_object('code', c, 'factor', '1')) FROM unnest(ARRAY[t.code, t.tag]) c WHERE c IS NOT NULL) ELSE ${codesSql('q.item_id', { suppliers: false })} END AS codes
     FROM sales_order o JOIN place b ON b.kind = 'bin' AND b.site_id = o.site_id AND b.sellable JOIN balance q ON q.place_id = b.id AND q.quantity > 0 LEFT JOIN lot t ON t.id = q.lot_id
     WHERE o.id = $1 AND q.item_id = ANY($3) AND NOT coalesce(t.past_use OR t.use_by < $2, false)`,
    [id, today, lines.map(({ itemId }) => itemId)],
  );
  const { picks, missing } = choosePicks(
    lines.map((line) => ({ ...line, wanted: decimal(line.wanted), may: decimal(line.may) })),
    lying.map((one) => ({ ...one, quantity: decimal(one.inBin) })),
  );
  const lineOf = (lineId: number) => lines.find((line) => line.lineId === lineId) as (typeof lines)[number];
  return {
    rows: picks.map(({ lineId, from, take }) => {
      const { itemId, sku, name, unit, step, wanted } = lineOf(lineId);
      const { binId, bin, inBin, lotId, lot, useBy, codes } = from;
      return { lineId, itemId, sku, name, unit, step, wanted, binId, bin, inBin, lotId, lot, useBy, codes, take: quantityText(take) };
    }),
    missing: [...missing].map(([lineId, quantity]) => ({ lineId, sku: lineOf(lineId).sku, quantity: quantityText(quantity) })),
  };
}
