import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type pg from 'pg';
import { drizzleOn, transaction } from '../../db/database';
import { updateRows } from '../../db/given';
import { carrier, carrierBill, parcel, shipment } from '../../db/schema/index';
import { pauseAfter, type Caused } from '../../jobs/jobs';
import type { Task } from '../../jobs/worker';
import { CarrierRefusal, type CarrierDesk } from '../../standins/carrier';
import { parcelsToCarry } from '../../documents/parcels';

/** How long a carrier may keep us waiting, in milliseconds. */
const patience = 5000;

/** What a carrier answers, unless it lets us wait too long. */
async function answered<T>(carriers: string, asked: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, refuse) => {
    timer = setTimeout(() => refuse(new Error(`${carriers} did not answer.`)), patience);
  });
  return Promise.race([asked, late]).finally(() => clearTimeout(timer));
}

const readShipment = (pool: pg.Pool, id: number) =>
  drizzleOn(pool)
    .select({
      id: shipment.id,
      number: shipment.number,
      carrier: carrier.name,
      service: shipment.service,
      address: shipment.address,
      bookedAt: shipment.bookedAt,
      cancelledAt: shipment.cancelledAt,
      movementId: shipment.movementId,
    })
    .from(shipment)
    .innerJoin(carrier, eq(carrier.id, shipment.carrierId))
    .where(eq(shipment.id, id));
type Told = Awaited<ReturnType<typeof readShipment>>[number];

/**
 * Lets a carrier know how a shipment stands: to be booked, ready for the driver or not, cancelled. It goes by the shipment's number, so that asking twice books once. No connection
 * to the database is held meanwhile. A carrier that does not answer is asked again later; one that says no is not.
 */
export function carrierTeller(pool: pg.Pool, desk: CarrierDesk, now: () => Date): Task<Caused['tellCarrier']> {
  return async ({ shipmentId }, { attempts, max_attempts: most }) => {
    const [at] = await readShipment(pool, shipmentId);
    if (!at) return;
    const db = drizzleOn(pool);
    const note = (fault: string, again: boolean) =>
      db
        .update(shipment)
        .set({ fault, tries: attempts, nextTryAt: again ? new Date(now().getTime() + pauseAfter(attempts)).toISOString() : null })
        .where(eq(shipment.id, shipmentId));
    try {
      await tell(pool, desk, at, now);
      await note('', false);
    } catch (error) {
      const { message } = error as Error;
      if (error instanceof CarrierRefusal) return void (await note(`${at.carrier} says no: ${message}`, false));
      await note(message.slice(0, 300), attempts < most);
      throw error;
    }
  };
}

async function tell(pool: pg.Pool, desk: CarrierDesk, at: Told, now: () => Date): Promise<void> {
  if (at.cancelledAt !== null) return answered(at.carrier, desk.cancel(at.number));
  if (at.bookedAt === null) await book(pool, desk, at, now);
  await answered(at.carrier, desk.ready(at.number, at.movementId !== null));
}

/** Books the parcels of a shipment and keeps their tracking numbers and prices, unless it was cancelled meanwhile. */
async function book(pool: pg.Pool, desk: CarrierDesk, { id, number, carrier: by, service, address }: Told, now: () => Date): Promise<void> {
  const db = drizzleOn(pool);
  const own = await db.select({ id: parcel.id }).from(parcel).where(eq(parcel.shipmentId, id));
  const parcels = await parcelsToCarry(
    db,
    own.map((one) => one.id),
  );
  const booked = await answered(by, desk.book(by, number, service, { address, parcels }));
  await transaction(pool, 'write', async (tx) => {
    const [kept] = await tx.db
      .update(shipment)
      .set({ bookedAt: now().toISOString() })
      .where(and(eq(shipment.id, id), isNull(shipment.cancelledAt), isNull(shipment.bookedAt)))
      .returning({ id: shipment.id });
    if (!kept) return;
    await updateRows(
      tx,
      parcel,
      parcels.map((one, index) => ({ id: one.id, tracking: booked[index]?.tracking ?? '', expected: booked[index]?.price ?? '0' })),
    );
  });
}

/** Asks carriers where parcels are, and for the bills they have sent. Gives how many of both are new. */
export async function askCarriers(pool: pg.Pool, desk: CarrierDesk, now: () => Date): Promise<number> {
  const db = drizzleOn(pool);
  const carriers = await db.select({ id: carrier.id, name: carrier.name }).from(carrier).where(eq(carrier.connected, true));
  let news = 0;
  for (const { id, name } of carriers) {
    news += await follow(pool, desk, id, name);
    for (const { reference, billedOn, dueOn, lines } of await answered(name, desk.bills(name))) {
      const { rowCount } = await db
        .insert(carrierBill)
        .values({ carrierId: id, reference, billedOn, dueOn, lines, cameAt: now().toISOString() })
        .onConflictDoNothing();
      news += rowCount ?? 0;
    }
  }
  return news;
}

/** Keeps where the parcels are that a carrier has not delivered yet. Gives of how many that is new. */
async function follow(pool: pg.Pool, desk: CarrierDesk, carrierId: number, name: string): Promise<number> {
  const db = drizzleOn(pool);
  const under = await db
    .select({ id: parcel.id, shipmentId: sql<number>`${parcel.shipmentId}`, tracking: parcel.tracking, whereabouts: parcel.whereabouts })
    .from(parcel)
    .innerJoin(shipment, eq(shipment.id, parcel.shipmentId))
    .where(and(eq(shipment.carrierId, carrierId), isNotNull(shipment.movementId), isNull(parcel.deliveredAt), sql`${parcel.tracking} <> ''`));
  if (under.length === 0) return 0;
  const told = await answered(name, desk.whereAre(under.map(({ tracking }) => tracking)));
  const news = told.flatMap((one) => {
    const own = under.find(({ tracking }) => tracking === one.tracking);
    return own && own.whereabouts !== one.where ? [{ ...one, own }] : [];
  });
  await transaction(pool, 'write', async (tx) => {
    for (const { own, where, at, taken, delivered } of news) {
      await tx.db
        .update(parcel)
        .set({ whereabouts: where, toldAt: at, deliveredAt: delivered ? at : null })
        .where(eq(parcel.id, own.id));
      if (taken)
        await tx.db
          .update(shipment)
          .set({ takenAt: sql`coalesce(${shipment.takenAt}, ${at}::timestamptz)` })
          .where(eq(shipment.id, own.shipmentId));
    }
  });
  return news.length;
}
