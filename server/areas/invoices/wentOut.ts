import { openOf, type Gone, type Open } from '@larder/core/outbound/invoicing';
import { decimal } from '@larder/core/decimal';
import { and, eq, sql } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { invoice, invoiceLine, salesOrder, salesTerms, shipment, wentOut as out } from '../../db/schema/index';

/** What went out to customers, and what invoices that stand cover of it. */

const sign = sql`case ${invoice.kind} when 'credit' then -1 else 1 end`;

/** What a shipment has been charged on invoices, credit notes taken off, in the currency of those. */
export const chargedOf = new QueryBuilder()
  .select({ sum: sql`coalesce(sum(${sign} * ${invoiceLine.amount}), 0)` })
  .from(invoiceLine)
  .innerJoin(invoice, eq(invoice.id, invoiceLine.invoiceId))
  .where(eq(invoiceLine.shipmentId, shipment.id));

interface Went extends Gone {
  orderId: number;
  movementId: number;
  day: string;
  /** From a supplier, and never off the shelf. */
  straight: boolean;
}

export type WentOut = Open<Went>;

/** What went out for orders by movements that stand, in the order it went, with what came back, what invoices cover of each, and what is to be invoiced. */
export async function wentOut({ tx: { db } }: Act, orderIds: readonly number[]): Promise<WentOut[]> {
  const rows = await db
    .select({
      movementLineId: out.lineId,
      salesLineId: out.salesLineId,
      orderId: salesTerms.orderId,
      movementId: out.movementId,
      day: out.day,
      straight: out.straight,
      quantity: out.quantity,
      back: out.back,
      covered: out.covered,
    })
    .from(salesTerms)
    .innerJoin(out, eq(out.salesLineId, salesTerms.id))
    .where(among(salesTerms.orderId, orderIds))
    .orderBy(out.lineId);
  return openOf(
    rows.map(({ quantity, back, covered, ...row }): Went => ({ ...row, quantity: decimal(quantity), back: decimal(back), covered: decimal(covered) })),
  );
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
