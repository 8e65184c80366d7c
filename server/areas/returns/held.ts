import type * as contract from '@larder/contract/returns';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import type { SentOut } from '@larder/core/outbound/comingBack';
import { and, eq, gt, or, sql, type SQL } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { everyWord } from '../../db/paging';
import { item, lot, party, salesLine, salesOrder, unit, wentOut } from '../../db/schema/index';
import { saleAt } from '../../documents/seen';
import { readCode } from '../catalog/queries';

type Query = QueryOf<typeof contract.listHeld>;
const most = 100;

/** What customers have and have not brought back, what went out last first. */
export async function listHeld(act: Act, query: Query): Promise<ResponseOf<typeof contract.listHeld>> {
  const sites = act.sites('outbound.return');
  const wanted = await wantedOf(act, query);
  if (wanted === null) return { rows: [], more: false };
  const sum = (column: SQL) => sql<string>`trim_scale(sum(${column}))::text`;
  const rows = await act.tx.db
    .select({
      salesLineId: salesLine.id,
      orderId: salesOrder.id,
      order: salesOrder.number,
      position: salesLine.position,
      customerId: party.id,
      customer: party.name,
      siteId: salesOrder.siteId,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      lotId: wentOut.lotId,
      lot: sql<string | null>`${lot.code}`,
      day: sql<string>`max(${wentOut.day})`,
      sent: sum(sql`${wentOut.quantity}`),
      back: sum(sql`${wentOut.back}`),
      held: sum(sql`${wentOut.quantity} - ${wentOut.back}`),
      straight: sql<string>`trim_scale(coalesce(sum(${wentOut.quantity} - ${wentOut.back}) filter (where ${wentOut.straight}), 0))::text`,
      price: sql<string>`trim_scale(round(${salesLine.amount} / nullif(${salesLine.baseQuantity}, 0), 4))::text`,
      currency: salesOrder.currency,
      returnable: item.returnable,
    })
    .from(wentOut)
    .innerJoin(salesLine, eq(salesLine.id, wentOut.salesLineId))
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(item, and(eq(item.id, wentOut.itemId), eq(item.kind, 'stocked')))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(lot, eq(lot.id, wentOut.lotId))
    .where(
      and(
        query.customerId === undefined ? undefined : eq(salesOrder.customerId, query.customerId),
        query.orderId === undefined ? undefined : eq(salesOrder.id, query.orderId),
        query.itemId === undefined ? undefined : eq(wentOut.itemId, query.itemId),
        query.lotId === undefined ? undefined : eq(wentOut.lotId, query.lotId),
        wanted,
        saleAt(sites),
        gt(wentOut.quantity, wentOut.back),
      ),
    )
    .groupBy(salesLine.id, salesLine.position, salesLine.amount, salesLine.baseQuantity, salesOrder.id, party.id, item.id, unit.id, wentOut.lotId, lot.id)
    .orderBy(sql`max(${wentOut.day}) desc`, sql`${salesOrder.id} desc`, salesLine.position, sql`${lot.code}`)
    .limit(most + 1);
  return { rows: rows.slice(0, most), more: rows.length > most };
}

/** What is asked for by words or by a code; null when nothing says whose goods, or which. */
async function wantedOf(act: Act, { customerId, orderId, itemId, lotId, q = '' }: Query): Promise<SQL | undefined | null> {
  const words = q.trim();
  const isHeldTo = [customerId, orderId, itemId, lotId].some((id) => id !== undefined);
  if (words === '') return isHeldTo ? undefined : null;
  const code = await readCode(act, words);
  const units = code.items.flatMap((one) => one.lotId ?? []);
  const itemIds = code.items.flatMap((one) => (one.lotId === null ? one.itemId : []));
  const said = code.serial ?? code.lot;
  const ofCode = or(
    and(among(wentOut.itemId, itemIds), said === null ? undefined : sql`lower(${lot.code}) = lower(${said})`),
    among(wentOut.lotId, units),
    sql`lower(${lot.code}) = lower(${words})`,
    sql`lower(${salesOrder.number}) = lower(${words})`,
    sql`${salesOrder.reference} <> '' and lower(${salesOrder.reference}) = lower(${words})`,
  );
  if (!isHeldTo) return ofCode;
  return or(everyWord(sql`lower(concat_ws(' ', ${salesOrder.number}, ${salesOrder.reference}, ${item.sku}, ${item.name}, ${lot.code}))`, words), ofCode);
}

/** What went out of order lines of one customer, at sites whose orders the person sees, the oldest first. Their orders are locked. */
export async function sentOut({ tx: { db }, sites }: Act, customerId: number, salesLineIds: readonly number[]): Promise<SentOut[]> {
  const rows = await db
    .select({
      lineId: wentOut.lineId,
      salesLineId: wentOut.salesLineId,
      lotId: wentOut.lotId,
      purchaseLineId: sql<number | null>`case when ${wentOut.straight} then ${wentOut.purchaseLineId} end`,
      day: wentOut.day,
      quantity: wentOut.quantity,
      cost: wentOut.cost,
      back: wentOut.back,
      backCost: wentOut.backCost,
    })
    .from(wentOut)
    .innerJoin(salesLine, eq(salesLine.id, wentOut.salesLineId))
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .where(and(among(wentOut.salesLineId, salesLineIds), eq(salesOrder.customerId, customerId), saleAt(sites('outbound.return'))))
    .orderBy(wentOut.lineId);
  return rows.map(({ quantity, cost, back, backCost, ...row }) => ({
    ...row,
    sent: { quantity: decimal(quantity), amount: decimal(cost) },
    back: { quantity: decimal(back), amount: decimal(backCost) },
  }));
}
