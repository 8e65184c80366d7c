import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import * as outbound from '@larder/contract/outbound';
import type { Business } from './business';

/** Places a purchase order of one line; returns it with its line's id. */
export async function ordered(business: Business, itemId: number, quantity: string, price = '2.00', expectedOn: string | null = '2026-03-12') {
  const order = await business.owner.get(inbound.createPurchase, {
    body: { supplierId: business.supplierId, siteId: business.siteId, expectedOn, lines: [{ itemId, quantity, price }] },
  });
  const placed = await business.owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
  return { ...placed, lineId: placed.lines[0]?.id as number };
}

/** Orders and receives goods into the first bin. */
export async function stocked(business: Business, itemId: number, quantity: string, price = '2.00') {
  const order = await ordered(business, itemId, quantity, price);
  const posted = await business.owner.get(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity, binId: business.bins[0] as number }] } });
  return { order, movementId: posted.movementId as number };
}

/** Writes and confirms a sales order of one line; returns it with its line's id. */
export async function sold(business: Business, itemId: number, quantity: string, shipBy = '2026-03-12') {
  const quote = await business.owner.get(outbound.createSale, {
    body: { customerId: business.customerId, siteId: business.siteId, shipBy, lines: [{ itemId, quantity, price: '5.00' }] },
  });
  await business.owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
  const order = await business.owner.get(outbound.getSale, { params: { id: quote.id } });
  return { ...order, lineId: order.lines[0]?.id as number };
}

export const pickBody = (business: Business, order: { id: number; lineId: number }, quantity: string) => ({
  orderId: order.id,
  lines: [{ lineId: order.lineId, binId: business.bins[0] as number, quantity }],
});
