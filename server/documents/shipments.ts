import { decimal, sum } from '@larder/core/decimal';
import { refuseField } from '@larder/core/refusal';
import { and, eq, isNotNull, isNull } from 'drizzle-orm';
import type { Act } from '../act';
import { bill, billLine, carrier, parcel, shipment } from '../db/schema/index';
import { cause } from '../jobs/outbox';
import { Entry, writeEntry } from '../ledger/entry';
import { postedLines, turnRound } from '../ledger/turnRound';

/** What goes out together, and what its carrier is to bill. */

/** Notes that a shipment went out with a movement: its carrier is told, and what it will bill is expected from now on. */
export async function sendOut(act: Act, shipmentId: number, movementId: number): Promise<void> {
  const [sent] = await act.tx.db.update(shipment).set({ movementId }).where(eq(shipment.id, shipmentId)).returning();
  if (!sent) throw new Error(`there is no shipment ${shipmentId}`);
  const parcels = await act.tx.db.select({ expected: parcel.expected }).from(parcel).where(eq(parcel.shipmentId, shipmentId));
  const expected = sum(parcels.map((one) => decimal(one.expected)));
  const entry = await Entry.open(act);
  entry.add('outbound-freight', expected);
  entry.add('carriage-clearing', expected.neg());
  await writeEntry(act, { effectiveOn: act.today, text: `Freight of ${sent.number}`, shipmentId }, entry);
  await tellCarrier(act, sent);
}

/** Lets the carrier of a shipment know how it stands, when it is asked over an interface. */
export async function tellCarrier(act: Act, { id, carrierId }: { id: number; carrierId: number | null }): Promise<void> {
  if (carrierId === null) return;
  const [known] = await act.tx.db.select({ connected: carrier.connected }).from(carrier).where(eq(carrier.id, carrierId));
  if (known?.connected) await cause(act, 'tellCarrier', { shipmentId: id }, String(id));
}

const sentWith = ({ tx: { db } }: Act, movementId: number) => db.select().from(shipment).where(eq(shipment.movementId, movementId)).for('update');

/** Refuses to undo a dispatch that its carrier has taken, or has billed. */
export async function refuseTaken(act: Act, movementId: number): Promise<void> {
  const { db } = act.tx;
  const [taken] = await db
    .select({ number: shipment.number, carrier: carrier.name })
    .from(shipment)
    .leftJoin(carrier, eq(carrier.id, shipment.carrierId))
    .where(and(eq(shipment.movementId, movementId), isNotNull(shipment.takenAt)));
  if (taken)
    throw refuseField(409, 'taken', 'movementId', `${taken.carrier ?? 'The driver'} has taken ${taken.number}. What comes back is a return from the customer.`);
  const [billed] = await db
    .select({ number: bill.number })
    .from(shipment)
    .innerJoin(parcel, eq(parcel.shipmentId, shipment.id))
    .innerJoin(billLine, eq(billLine.parcelId, parcel.id))
    .innerJoin(bill, eq(bill.id, billLine.billId))
    .where(and(eq(shipment.movementId, movementId), isNotNull(bill.postedAt), isNull(bill.undoneAt)));
  if (billed) throw refuseField(409, 'rests-on-it', 'movementId', `${billed.number} rests on this. Undo ${billed.number} first.`);
}

/** Notes that what went out with a movement is here again: it is still packed and booked, and nothing is to be billed for it. */
export async function takeBack(act: Act, movementId: number): Promise<void> {
  if (act.tx.readOnly) return;
  for (const sent of await sentWith(act, movementId)) {
    // What goes without a carrier is chosen anew; a booking stands.
    const ends = sent.carrierId === null;
    await act.tx.db
      .update(shipment)
      .set({ movementId: null, cancelledAt: ends ? act.now.toISOString() : null })
      .where(eq(shipment.id, sent.id));
    if (ends) await act.tx.db.update(parcel).set({ shipmentId: null }).where(eq(parcel.shipmentId, sent.id));
    const entry = await Entry.open(act);
    turnRound(entry, await postedLines(act, 'shipment', sent.id), [], { inventory: () => 0, goneTo: () => 0 });
    await writeEntry(act, { effectiveOn: act.today, text: `Freight of ${sent.number}, undone`, shipmentId: sent.id }, entry);
    await tellCarrier(act, sent);
  }
}
