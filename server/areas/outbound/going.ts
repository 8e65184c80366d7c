import { and, eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { item, place, salesLine, salesOrder } from '../../db/schema/index';
import { lock } from '../../ledger/lock';

const customerPlace = alias(place, 'customer_place');
const nowhere = alias(place, 'nowhere');

/** An order that goods go out on: the places they pass, and its lines with what has not gone out yet. */
const readGoing = prepared(['ids'], (db, { ids }) =>
  db
    .select({
      id: salesOrder.id,
      number: salesOrder.number,
      whole: salesOrder.whole,
      /** Where goes out from what is not kept in stock. */
      nowhereId: nowhere.id,
      customerPlaceId: customerPlace.id,
      lines: jsonRows(
        {
          id: salesLine.id,
          number: sql<string>`${salesOrder.number}`,
          itemId: salesLine.itemId,
          siteId: salesLine.siteId,
          /** Of the site it comes from. */
          waitsAtId: place.id,
          sku: item.sku,
          active: salesLine.active,
          stocked: salesLine.stocked,
          /** Not gone yet, and of that what a supplier sends. */
          open: sql<string>`(${salesLine.baseQuantity} - ${salesLine.dispatched})::text`,
          straight: sql<string>`(${salesLine.direct} - ${salesLine.sent})::text`,
        },
        (select) =>
          select
            .from(salesLine)
            .innerJoin(item, eq(item.id, salesLine.itemId))
            .innerJoin(place, and(eq(place.kind, 'bench'), eq(place.siteId, salesLine.siteId)))
            .where(eq(salesLine.orderId, salesOrder.id)),
      ),
    })
    .from(salesOrder)
    .innerJoin(customerPlace, and(eq(customerPlace.kind, 'customer'), eq(customerPlace.partyId, salesOrder.customerId)))
    .innerJoin(nowhere, eq(nowhere.kind, 'nowhere'))
    .where(among(salesOrder.id, ids)),
);
type ReadOrder = Awaited<ReturnType<typeof readGoing>>[number];
export type GoingLine = ReadOrder['lines'][number] & { kind: 'sales'; ownerId: number };
export type GoingOrder = Omit<ReadOrder, 'lines'> & { lines: Map<number, GoingLine> };

/** An order that goods go out on, locked. */
export async function goingOrder(act: Act, id: number): Promise<GoingOrder> {
  const [order] = await goingOrders(act, [id]);
  if (!order) throw refuseField(404, 'not-found', 'orderId', 'There is no such sales order.');
  return order;
}

/** Orders that goods go out on, locked. */
export async function goingOrders(act: Act, ids: readonly number[]): Promise<GoingOrder[]> {
  await lock.salesOrders(act, ids);
  return (await readGoing(act.tx, { ids })).map((order) => ({
    ...order,
    lines: new Map(order.lines.map((line) => [line.id, { ...line, kind: 'sales', ownerId: order.id }])),
  }));
}
