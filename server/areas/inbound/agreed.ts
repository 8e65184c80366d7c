import { Refusal } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { item, party, purchaseCharge, purchaseLine, purchaseOrder, site } from '../../db/schema/index';
import { plain } from '../../db/text';
import { lineUnit } from '../../documents/orderFields';

const customer = alias(party, 'customer');

const readAgreed = prepared(['id'], (db, { id }) =>
  db
    .select({
      id: purchaseOrder.id,
      number: purchaseOrder.number,
      version: purchaseOrder.version,
      siteId: purchaseOrder.siteId,
      site: site.name,
      supplierId: purchaseOrder.supplierId,
      shipsToId: purchaseOrder.shipsToId,
      shipsTo: sql<string | null>`${customer.name}`,
      currency: purchaseOrder.currency,
      rate: plain(purchaseOrder.rate),
      expectedOn: purchaseOrder.expectedOn,
      orderedOn: purchaseOrder.orderedOn,
      hasCharges: sql<boolean>`exists (${db.select({ id: purchaseCharge.id }).from(purchaseCharge).where(eq(purchaseCharge.orderId, purchaseOrder.id))})`,
      lines: jsonRows(
        {
          id: purchaseLine.id,
          position: purchaseLine.position,
          itemId: purchaseLine.itemId,
          sku: item.sku,
          unitId: lineUnit.id,
          quantity: plain(purchaseLine.quantity),
          baseQuantity: plain(purchaseLine.baseQuantity),
          received: plain(purchaseLine.received),
          cancelled: plain(purchaseLine.cancelled),
          outstanding: plain(purchaseLine.outstanding),
          price: plain(purchaseLine.price),
          pricePer: plain(purchaseLine.pricePer),
          currency: purchaseLine.currency,
          rate: plain(purchaseLine.rate),
          expectedOn: purchaseLine.expectedOn,
        },
        (select) =>
          select
            .from(purchaseLine)
            .innerJoin(item, eq(item.id, purchaseLine.itemId))
            .leftJoin(lineUnit, eq(lineUnit.code, purchaseLine.unit))
            .where(eq(purchaseLine.orderId, purchaseOrder.id)),
        { orderBy: purchaseLine.position },
      ),
    })
    .from(purchaseOrder)
    .innerJoin(site, eq(site.id, purchaseOrder.siteId))
    .leftJoin(customer, eq(customer.id, purchaseOrder.shipsToId))
    .where(sql`${purchaseOrder.id} = ${id}`),
);

/** What was agreed with a supplier on an order and is still open of it: what services go by. Throws a Refusal when there is no such order. */
export async function agreedOn({ tx }: Pick<Act, 'tx'>, id: number) {
  const [agreed] = await readAgreed(tx, { id });
  if (!agreed) throw new Refusal(404, 'not-found', 'There is no such purchase order.');
  return agreed;
}
export type Agreed = Awaited<ReturnType<typeof agreedOn>>;
