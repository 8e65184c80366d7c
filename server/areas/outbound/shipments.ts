import type * as contract from '@larder/contract/shipping';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, sum } from '@larder/core/decimal';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { updateRows } from '../../db/given';
import { carrier, parcel, party, salesOrder, shipment } from '../../db/schema/index';
import { refuseErrors } from '../../documents/lines';
import { nextNumber } from '../../documents/number';
import { recordOrder } from '../../documents/orders';
import { parcelsToCarry } from '../../documents/parcels';
import { tellCarrier } from '../../documents/shipments';
import { lock } from '../../ledger/lock';
import { CarrierRefusal, carrierPrices } from '../../standins/carrier';
import { seenSale } from './queries';

/** Where an order goes: the address on it, else the customer's own. */
const addressOf = sql<string>`coalesce(nullif(${salesOrder.shipTo}, ''), ${party.address}, '')`;

async function orderToShip({ tx: { db } }: Act, id: number) {
  const [order] = await db
    .select({ id: salesOrder.id, number: salesOrder.number, siteId: salesOrder.siteId, address: addressOf })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .where(eq(salesOrder.id, id));
  if (!order) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  return order;
}

/** What carriers ask for parcels of an order, or why they do not take them; of those that are not asked over an interface, that they are there. */
export async function carrierOffers(
  act: Act,
  orderId: number,
  { parcelIds }: BodyOf<typeof contract.carrierOffers>,
): Promise<ResponseOf<typeof contract.carrierOffers>> {
  const order = await orderToShip(act, orderId);
  const parcels = (await parcelsToCarry(act.tx.db, parcelIds)).filter((one) => one.orderId === orderId);
  seenSale(act, { siteId: order.siteId, lines: parcels });
  const carriers = await act.tx.db
    .select({ carrierId: carrier.id, carrier: carrier.name, connected: carrier.connected })
    .from(carrier)
    .where(isNull(carrier.retiredAt))
    .orderBy(carrier.id);
  const nothing = { service: '', price: null, arrivesOn: null, refusal: '' };
  const offers: ResponseOf<typeof contract.carrierOffers>['offers'] = [];
  for (const one of carriers) {
    if (!one.connected || parcels.length === 0) {
      offers.push({ ...one, ...nothing });
      continue;
    }
    const asked = await carrierPrices.offers({ address: order.address, parcels }, act.today).catch((error: unknown) => {
      if (error instanceof CarrierRefusal) return error.message;
      throw error;
    });
    if (typeof asked === 'string') offers.push({ ...one, ...nothing, refusal: asked });
    else
      for (const { service, prices, arrivesOn } of asked)
        offers.push({ ...one, ...nothing, service, price: sum(prices.map((price) => decimal(price))).toFixed(2), arrivesOn });
  }
  return { offers };
}

type Booking = BodyOf<typeof contract.bookShipment>;

/** Books parcels with a carrier. One that is asked over an interface is asked once this is kept; of another, price and tracking are what was typed. */
export async function bookShipment(act: Act, orderId: number, form: Booking): Promise<ResponseOf<typeof contract.bookShipment>> {
  await lock.salesOrders(act, [orderId]);
  const order = await orderToShip(act, orderId);
  const parcels = await parcelsToCarry(act.tx.db, form.parcelIds);
  for (const { siteId } of parcels) act.allow('outbound.ship', siteId);
  if (parcels.length === 0) act.allow('outbound.ship', order.siteId);
  const { db } = act.tx;
  const [by] = await db
    .select({ id: carrier.id, name: carrier.name, connected: carrier.connected })
    .from(carrier)
    .where(and(eq(carrier.id, form.carrierId), isNull(carrier.retiredAt)));
  if (!by) throw refuseField(422, 'no-such-carrier', 'carrierId', 'Choose a carrier from the list.');
  refuseErrors(
    form.parcelIds.flatMap((id, index): FieldError[] => {
      const found = parcels.find((one) => one.id === id);
      const refuse = (sentence: string): FieldError[] => [{ field: `parcelIds.${index}`, sentence }];
      if (found?.orderId !== orderId) return refuse(`${order.number} has no such parcel.`);
      if (found.shipmentId !== null) return refuse(`${found.number} is booked already, or went out.`);
      return found.siteId === parcels[0]?.siteId ? [] : refuse(`${found.number} is at another site; book each site’s parcels by themselves.`);
    }),
  );
  if (order.address.trim() === '') throw refuseField(422, 'no-address', 'address', `Neither ${order.number} nor its customer has an address to send to.`);
  if (by.connected && form.service === '') throw refuseField(422, 'no-service', 'service', 'Choose one of the carrier’s services.');
  if (act.tx.readOnly) return { id: 0, number: '' };
  const at = act.now.toISOString();
  const [made] = await db
    .insert(shipment)
    .values({
      orderId,
      siteId: parcels[0]?.siteId as number,
      way: 'carrier',
      carrierId: by.id,
      service: form.service,
      address: order.address,
      charged: form.charged,
      bookedAt: by.connected ? null : at,
      createdAt: at,
      createdBy: act.by.id,
      number: await nextNumber(act, 'shipment'),
    })
    .returning({ id: shipment.id, number: shipment.number });
  if (!made) throw new Error('the shipment was not written');
  const typedFor = (id: number) => (by.connected ? undefined : form.typed.find(({ parcelId }) => parcelId === id));
  await updateRows(
    act.tx,
    parcel,
    parcels.map(({ id }) => ({ id, shipmentId: made.id, expected: typedFor(id)?.expected ?? '0', tracking: typedFor(id)?.tracking ?? '' })),
  );
  await recordOrder(act, 'sales', orderId, {}, { booked: `${made.number} with ${by.name}` });
  await tellCarrier(act, { id: made.id, carrierId: by.id });
  return made;
}

/** A shipment of which the order is locked. */
async function held(act: Act, id: number): Promise<typeof shipment.$inferSelect> {
  const read = () =>
    act.tx.db
      .select()
      .from(shipment)
      .where(and(eq(shipment.id, id), isNull(shipment.cancelledAt)));
  const missing = new Refusal(404, 'not-found', 'There is no such shipment, or its booking was cancelled.');
  const [seen] = await read();
  if (!seen) throw missing;
  act.allow('outbound.ship', seen.siteId);
  await lock.salesOrders(act, [seen.orderId]);
  const [found] = await read();
  if (!found) throw missing;
  return found;
}

/** Asks the carrier again, now. */
export async function askAgain(act: Act, id: number): Promise<Record<string, never>> {
  const found = await held(act, id);
  if (found.bookedAt !== null) return {};
  await act.tx.db.update(shipment).set({ fault: '', nextTryAt: null }).where(eq(shipment.id, id));
  await tellCarrier(act, found);
  return {};
}

/** Cancels a booking whose parcels are still here: they may be booked anew, or taken apart. */
export async function cancelShipment(act: Act, id: number): Promise<Record<string, never>> {
  const found = await held(act, id);
  if (found.movementId !== null) throw new Refusal(409, 'gone', `${found.number} went out already. Undo its dispatch first.`);
  await act.tx.db.update(shipment).set({ cancelledAt: act.now.toISOString() }).where(eq(shipment.id, id));
  await act.tx.db.update(parcel).set({ shipmentId: null, tracking: '', expected: '0', whereabouts: '', toldAt: null }).where(eq(parcel.shipmentId, id));
  await recordOrder(act, 'sales', found.orderId, {}, { booked: `${found.number} cancelled` });
  await tellCarrier(act, found);
  return {};
}

/** Notes that the driver has what was dispatched. */
export async function noteTaken(act: Act, id: number): Promise<Record<string, never>> {
  const found = await held(act, id);
  if (found.movementId === null) throw new Refusal(409, 'here', `${found.number} was not dispatched yet.`);
  await act.tx.db.update(shipment).set({ takenAt: act.now.toISOString() }).where(eq(shipment.id, id));
  return {};
}
