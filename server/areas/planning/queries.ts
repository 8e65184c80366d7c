import type * as contract from '@larder/contract/planning';
import type { ResponseOf } from '@larder/contract/endpoint';
import { addDays } from '@larder/core/day';
import { decimal, quantityText } from '@larder/core/decimal';
import { daysOfCover } from '@larder/core/planning/reorderPoint';
import { position, topUp } from '@larder/core/planning/topUp';
import { priceOf, type PriceBreak } from '@larder/core/inbound/terms';
import type { Act } from '../../act';
import { purchases } from '../inbound/queries';
import { sales } from '../outbound/queries';

type Candidate = Omit<contract.TopUpRow, 'position' | 'propose' | 'amount'> & { breaks: PriceBreak[] };

/** Each item and site at or below its reorder point, with what to order from its first supplier, grouped by supplier. */
export async function topUpList({ tx }: Act, siteId?: number, most = 10_000): Promise<contract.TopUpRow[]> {
  const candidates = await tx.rows<Candidate>(
    `SELECT i.id AS "itemId", i.sku, i.name, u.code AS unit, trim_scale(u.step) AS step, s.id AS "siteId", s.name AS site, t.supplier_id AS "supplierId", p.name AS supplier, trim_scale(coalesce(f.free, 0)) AS free, trim_scale(coalesce(f.on_order, 0)) AS "onOrder", trim_scale(coalesce(f.short, 0)) AS short,
      trim_scale(y.reorder_point) AS "reorderPoint", trim_scale(y.order_up_to) AS "orderUpTo", trim_scale(coalesce(t.pack_size, u.step)) AS "packSize", trim_scale(coalesce(t.minimum, 0)) AS minimum, trim_scale(coalesce(t.price, i.purchase_price)) AS price, coalesce(t.breaks, '[]') AS breaks
     FROM item_policy y JOIN item i ON i.id = y.item_id JOIN unit u ON u.id = i.unit_id JOIN site s ON s.id = y.site_id LEFT JOIN item_site f ON f.item_id = y.item_id AND f.site_id = y.site_id
      LEFT JOIN LATERAL (SELECT * FROM item_supplier WHERE item_id = i.id ORDER BY position LIMIT 1) t ON true LEFT JOIN party p ON p.id = t.supplier_id
     WHERE y.reorder_point IS NOT NULL AND i.retired_at IS NULL AND coalesce(f.free + f.on_order - f.short, 0) <= y.reorder_point AND ($1::int IS NULL OR s.id = $1) ORDER BY p.name NULLS LAST, s.id, lower(i.sku) LIMIT $2`,
    [siteId ?? null, most],
  );
  return candidates.flatMap(({ breaks, ...row }) => {
    const standing = {
      free: decimal(row.free),
      incoming: decimal(row.onOrder),
      short: decimal(row.short),
      reorderPoint: decimal(row.reorderPoint),
      orderUpTo: decimal(row.orderUpTo),
      packSize: decimal(row.packSize),
      minimum: decimal(row.minimum),
    };
    const propose = topUp(standing);
    if (propose === null) return [];
    const price = priceOf({ price: row.price, breaks }, propose);
    const amount = price?.times(propose).toFixed(2) ?? null;
    return [{ ...row, price: price?.toFixed() ?? null, position: quantityText(position(standing)), propose: quantityText(propose), amount }];
  });
}

/** Orders to ship within so many days are Today's. */
const soon = 7;

/** How much waits in each area; what is counted is what the lists there hold. */
export async function openCounts({ tx, today: day }: Act, siteId?: number): Promise<ResponseOf<typeof contract.openCounts>> {
  const [counts] = await tx.rows<ResponseOf<typeof contract.openCounts>>(
    `SELECT (SELECT count(*)::int FROM purchase_order o WHERE o.placed_at IS NOT NULL AND o.closed_at IS NULL AND o.cancelled_at IS NULL AND ($1::int IS NULL OR o.site_id = $1) AND EXISTS (SELECT 1 FROM purchase_line WHERE order_id = o.id AND incoming > 0)) AS "comingIn",
      (SELECT count(*)::int FROM item_policy y JOIN item i ON i.id = y.item_id LEFT JOIN item_site f ON f.item_id = y.item_id AND f.site_id = y.site_id
        WHERE y.reorder_point IS NOT NULL AND i.retired_at IS NULL AND ($1::int IS NULL OR y.site_id = $1) AND coalesce(f.free + f.on_order - f.short, 0) <= y.reorder_point) AS low,
      (SELECT count(*)::int FROM sales_order o WHERE o.confirmed_at IS NOT NULL AND o.closed_at IS NULL AND o.cancelled_at IS NULL AND o.ship_by <= $2 AND ($1::int IS NULL OR o.site_id = $1) AND EXISTS (SELECT 1 FROM sales_line WHERE order_id = o.id AND dispatched < base_quantity)) AS "goingOut",
      (SELECT count(*)::int FROM sales_order o WHERE o.confirmed_at IS NULL AND o.cancelled_at IS NULL AND ($1::int IS NULL OR o.site_id = $1)) AS quotes`,
    [siteId ?? null, addDays(day, soon)],
  );
  return counts as ResponseOf<typeof contract.openCounts>;
}

/** Everything Today shows, from the same queries as the areas themselves. */
export async function today(act: Act, siteId?: number): Promise<ResponseOf<typeof contract.today>> {
  const here = { siteId, limit: 200 };
  const coming = (await purchases(act, { ...here, show: 'open', to: 'site' })).rows;
  const going = (await sales(act, { ...here, show: 'open' })).rows.filter(({ shipBy }) => shipBy <= addDays(act.today, soon));
  const low = await topUpList(act, siteId, 100);
  return {
    day: act.today,
    cover: await cover(act, siteId),
    comingIn: coming.map(({ id, number, supplier, expectedOn, received, ordered, lines, late }) => ({
      id,
      number,
      supplier,
      expectedOn,
      received,
      ordered,
      lines,
      late,
    })),
    low: low.map(({ itemId, sku, name, siteId: at, site, free, short, onOrder, reorderPoint, orderUpTo, propose }) => ({
      itemId,
      sku,
      name,
      siteId: at,
      site,
      free,
      short,
      onOrder,
      reorderPoint,
      orderUpTo,
      propose,
    })),
    goingOut: going.map(({ id, number, customer, shipBy, state, ordered, picked, dispatched, short, late }) => ({
      id,
      number,
      customer,
      shipBy,
      state,
      ordered,
      picked,
      dispatched,
      short,
      late,
    })),
    counts: await openCounts(act, siteId),
  };
}

/** Days the 400 items in use that end first last at the rate of the last 90 days, against its supplier's lead time. */
async function cover({ tx, today: day }: Act, siteId?: number): Promise<ResponseOf<typeof contract.today>['cover']> {
  const rows = await tx.rows<{ itemId: number; sku: string; name: string; free: string; used: string; leadDays: number; low: boolean }>(
    `SELECT i.id AS "itemId", i.sku, i.name, sum(f.free) AS free, used.quantity AS used, coalesce((SELECT coalesce(t.lead_days, p.lead_days) FROM item_supplier t JOIN party p ON p.id = t.supplier_id WHERE t.item_id = i.id ORDER BY t.position LIMIT 1), 7) AS "leadDays",
      bool_or(coalesce(f.free + f.on_order - f.short <= y.reorder_point, false)) AS low
     FROM item i JOIN item_site f ON f.item_id = i.id LEFT JOIN item_policy y ON y.item_id = i.id AND y.site_id = f.site_id
     JOIN (SELECT l.item_id, sum(l.quantity) AS quantity FROM movement_line l JOIN place t ON t.id = l.to_place_id JOIN place b ON b.id = l.from_place_id WHERE l.demand_line_id IS NOT NULL AND t.kind = 'customer' AND l.effective_on > $1 AND ($2::int IS NULL OR b.site_id = $2) GROUP BY 1) used ON used.item_id = i.id
     WHERE i.retired_at IS NULL AND ($2::int IS NULL OR f.site_id = $2) GROUP BY i.id, used.quantity ORDER BY sum(f.free) / used.quantity, i.id LIMIT 400`,
    [addDays(day, -90), siteId ?? null],
  );
  return rows.map(({ free, used, low, ...row }) => ({
    ...row,
    days: daysOfCover(Number(free), Number(used) / 90) ?? 0,
    state: Number(free) <= 0 ? 'out' : low ? 'low' : 'fine',
  }));
}
