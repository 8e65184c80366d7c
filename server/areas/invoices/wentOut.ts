import type { Gone } from '@larder/core/outbound/invoicing';
import { decimal } from '@larder/core/decimal';
import { and, eq, sql } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { invoice, invoiceCover, invoiceLine, movement, movementLine, place, salesLine, salesOrder, shipment, standingMovement } from '../../db/schema/index';

/** What went out to customers, and what invoices that stand cover of it. */

const from = alias(place, 'from_place');
const to = alias(place, 'to_place');
const sign = sql`case ${invoice.kind} when 'credit' then -1 else 1 end`;

/** How many of a movement's line are on invoices, credit notes taken off. */
const coveredOf = new QueryBuilder()
  .select({ sum: sql`coalesce(sum(${sign} * ${invoiceCover.quantity}), 0)` })
  .from(invoiceCover)
  .innerJoin(invoiceLine, eq(invoiceLine.id, invoiceCover.invoiceLineId))
  .innerJoin(invoice, eq(invoice.id, invoiceLine.invoiceId))
  .where(eq(invoiceCover.lineId, movementLine.id));

/** What a shipment has been charged on invoices, credit notes taken off, in the currency of those. */
export const chargedOf = new QueryBuilder()
  .select({ sum: sql`coalesce(sum(${sign} * ${invoiceLine.amount}), 0)` })
  .from(invoiceLine)
  .innerJoin(invoice, eq(invoice.id, invoiceLine.invoiceId))
  .where(eq(invoiceLine.shipmentId, shipment.id));

export interface WentOut extends Gone {
  orderId: number;
  movementId: number;
  day: string;
  /** From a supplier, and never off the shelf. */
  straight: boolean;
}

/** What went out for orders by movements that stand, in the order it went, with what invoices cover of each. */
export async function wentOut({ tx: { db } }: Act, orderIds: readonly number[]): Promise<WentOut[]> {
  const rows = await db
    .select({
      movementLineId: movementLine.id,
      salesLineId: salesLine.id,
      orderId: salesLine.orderId,
      movementId: movement.id,
      day: movement.effectiveOn,
      straight: sql<boolean>`${from.kind} = 'supplier'`,
      quantity: movementLine.quantity,
      covered: sql<string>`(${coveredOf})`,
    })
    .from(salesLine)
    .innerJoin(movementLine, eq(movementLine.demandLineId, salesLine.id))
    .innerJoin(standingMovement, eq(standingMovement.id, movementLine.movementId))
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, and(eq(to.id, movementLine.toPlaceId), eq(to.kind, 'customer')))
    .where(among(salesLine.orderId, orderIds))
    .orderBy(movementLine.id);
  return rows.map(({ quantity, covered, ...row }) => ({ ...row, quantity: decimal(quantity), covered: decimal(covered) }));
}

/** Orders, as invoices see them. */
export const ordersOf = ({ tx: { db } }: Act, ids: readonly number[]) =>
  db
    .select({
      id: salesOrder.id,
      number: salesOrder.number,
      partyId: salesOrder.customerId,
      currency: salesOrder.currency,
      rate: sql<string>`trim_scale(${salesOrder.rate})::text`,
      reference: salesOrder.reference,
    })
    .from(salesOrder)
    .where(among(salesOrder.id, ids))
    .orderBy(salesOrder.id);

/** What is charged for shipments of orders that went out, where it is on no invoice yet. */
export const openFreight = ({ tx: { db } }: Act, orderIds: readonly number[]) =>
  db
    .select({
      shipmentId: shipment.id,
      number: shipment.number,
      orderId: shipment.orderId,
      movementId: sql<number>`${shipment.movementId}`,
      /** In company currency. */
      charged: shipment.charged,
    })
    .from(shipment)
    .where(and(among(shipment.orderId, orderIds), sql`${shipment.movementId} is not null and ${chargedOf} = 0`))
    .orderBy(shipment.id);
