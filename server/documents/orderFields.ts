import { and, desc, eq, isNotNull, isNull, lte, sql, type Placeholder, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { item, type purchaseLine, type salesLine, site, taxRate, unit, type purchaseOrder, type salesOrder } from '../db/schema/index';
import { plain } from '../db/text';

/** What is asked of orders of every sort, and of their lines; each sort adds its own. */

type OrderTable = typeof purchaseOrder | typeof salesOrder;
type LineView = typeof purchaseLine | typeof salesLine;

/** Of an order, joined with its site. */
export const orderFields = <T extends OrderTable>(order: T) => ({
  id: order.id as T['id'],
  number: order.number as T['number'],
  siteId: order.siteId as T['siteId'],
  site: site.name,
  createdAt: order.createdAt as T['createdAt'],
  closed: sql<boolean>`${order.closedAt} is not null`,
  cancelled: sql<boolean>`${order.cancelledAt} is not null`,
});

/** Whether an order was decided on and not ended; whether it is still written on. */
export const isStanding = (order: OrderTable, decidedAt: PgColumn): SQL | undefined =>
  and(isNotNull(decidedAt), isNull(order.closedAt), isNull(order.cancelledAt));
export const isDraft = (order: OrderTable, decidedAt: PgColumn): SQL | undefined => and(isNull(decidedAt), isNull(order.cancelledAt));

/** The unit a line was written in, which is the item's own when the line names none. */
export const lineUnit = alias(unit, 'line_unit');

/** Of a line, joined with its item, the item's unit and its own. */
export const lineFields = <L extends LineView>(line: L) => ({
  id: line.id as L['id'],
  position: line.position as L['position'],
  itemId: line.itemId as L['itemId'],
  sku: item.sku,
  name: item.name,
  unit: line.unit as L['unit'],
  unitId: lineUnit.id,
  step: plain(unit.step),
  quantity: plain(line.quantity),
  baseQuantity: plain(line.baseQuantity),
  price: plain(line.price),
  pricePer: plain(line.pricePer),
  amount: line.amount as L['amount'],
});

/** Of a line, joined with its item, what its order's history tells. */
export const writtenFields = <L extends LineView>(line: L) => ({
  sku: item.sku,
  quantity: plain(line.quantity),
  unit: line.unit as L['unit'],
  price: plain(line.price),
  pricePer: plain(line.pricePer),
});

/** The rate of a tax on a day, per cent. */
export const taxRateOn = (taxCodeId: PgColumn, day: Placeholder | string): SQL<string> =>
  sql<string>`coalesce((${new QueryBuilder()
    .select({ rate: taxRate.rate })
    .from(taxRate)
    .where(and(eq(taxRate.taxCodeId, taxCodeId), lte(taxRate.fromDay, day)))
    .orderBy(desc(taxRate.fromDay))
    .limit(1)}), 0)::text`;
