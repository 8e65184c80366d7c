import { addDays, nextWorkday, type Day } from '@larder/core/day';
import { decimal, type Decimal } from '@larder/core/decimal';
import { arrivesOn, chargeableWeight, parcelPrice, type Measured, type ZoneTariff } from '@larder/core/outbound/carriage';
import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type pg from 'pg';
import { drizzleOn } from '../db/database';
import { among } from '../db/given';
import { standinParcel } from '../db/schema/index';

/** What is to be carried to one address. */
export interface Consignment {
  address: string;
  parcels: Measured[];
}

/** What a carrier asks for a consignment by one of its services. */
export interface CarrierOffer {
  service: string;
  /** For each parcel, before tax, in the order they were named. */
  prices: string[];
  arrivesOn: Day;
}
export interface Booked {
  tracking: string;
  price: string;
}
/** Where a parcel is, since when, and how far it got. */
export interface Whereabouts {
  tracking: string;
  at: string;
  where: string;
  taken: boolean;
  delivered: boolean;
}
export interface SentBill {
  reference: string;
  billedOn: Day;
  dueOn: Day;
  lines: { tracking: string; amount: string }[];
}

/** A carrier has said no, and why: asking again changes nothing. */
export class CarrierRefusal extends Error {}

/** What a carrier asks for. A real one is asked over its own interface; so is this one, in the same words. */
export interface CarrierPrices {
  /** What each service asks; throws a `CarrierRefusal` for what it does not carry. */
  offers(consignment: Consignment, day: Day): Promise<CarrierOffer[]>;
}

/** A carrier's desk. Everything but asking goes by a reference of ours, and the same reference again is the same consignment there. */
export interface CarrierDesk {
  /** Books a consignment; gives each parcel's tracking number and price. Throws a `CarrierRefusal` for what it does not carry. */
  book(carrier: string, reference: string, service: string, consignment: Consignment): Promise<Booked[]>;
  /** It stands ready for the driver, or no longer does. Throws a `CarrierRefusal` when the driver has it. */
  ready(reference: string, ready: boolean): Promise<void>;
  /** It is not to be carried. Throws a `CarrierRefusal` when the driver has it. */
  cancel(reference: string): Promise<void>;
  whereAre(trackings: readonly string[]): Promise<Whereabouts[]>;
  /** Every bill it has sent so far, the oldest first. */
  bills(carrier: string): Promise<SentBill[]>;
}

const zones: Record<number, ZoneTariff> = {
  1: { parcel: '4.20', kilogram: '0.35', days: 1 },
  2: { parcel: '5.60', kilogram: '0.48', days: 2 },
  3: { parcel: '9.80', kilogram: '0.95', days: 3 },
};
/** The made-up postcodes that it carries to, by their letters. */
const zoneOfArea: Record<string, number> = { LM: 1, LK: 1, HB: 1, WD: 2, CR: 2, ST: 2, FE: 2, IS: 3 };
const services = [
  { name: 'Next van', times: '1.55', days: 0 },
  { name: 'Steady', times: '1', days: 2 },
];
const heaviest = 30;
const longest = 150;

/** The zone of an address by its postcode, the last there is in it. */
function zoneOf(address: string): number {
  const postcode = [...address.toUpperCase().matchAll(/\b([A-Z]{2})\d{1,2}\b/g)].at(-1);
  if (!postcode) throw new CarrierRefusal('There is no postcode in the address, such as LM12.');
  const zone = zoneOfArea[postcode[1] ?? ''];
  if (zone === undefined) throw new CarrierRefusal(`It does not carry to ${postcode[0]}: there is no such place.`);
  return zone;
}

function weightOf(parcel: Measured): Decimal {
  const { weight, length, width, height } = parcel;
  if (weight === null) throw new CarrierRefusal('It wants to know what each parcel weighs.');
  if (decimal(weight).gt(heaviest)) throw new CarrierRefusal(`A parcel of ${decimal(weight).toFixed()} kg is too heavy: it carries up to ${heaviest} kg.`);
  const side = Math.max(length ?? 0, width ?? 0, height ?? 0);
  if (side > longest) throw new CarrierRefusal(`A parcel of ${side} cm is too long: it carries up to ${longest} cm.`);
  return chargeableWeight({ weight, length, width, height });
}

const tariffOf = (zone: number): ZoneTariff => zones[zone] as ZoneTariff;
const serviceOf = (name: string): (typeof services)[number] => {
  const found = services.find((one) => one.name === name);
  if (!found) throw new CarrierRefusal(`It has no service “${name}”.`);
  return found;
};

/** What the simulated carrier asks: by zone, and by weight or size. */
export const carrierPrices: CarrierPrices = {
  offers: async ({ address, parcels }, day) => {
    const tariff = tariffOf(zoneOf(address));
    const weights = parcels.map(weightOf);
    return Promise.resolve(
      services.map(({ name, times, days }) => ({
        service: name,
        prices: weights.map((weight) => parcelPrice(tariff, weight, times).toFixed(2)),
        arrivesOn: arrivesOn(day, tariff.days + days),
      })),
    );
  },
};

/** The driver comes at five in the afternoon of each working day, UTC. */
const driverComes = 17;
/** The first moment from `ready` on at which the driver comes. */
function takenAt(ready: string): Date {
  const day = ready.slice(0, 10);
  const inTime = new Date(ready).getUTCHours() < driverComes;
  return new Date(`${nextWorkday(inTime ? day : addDays(day, 1))}T${driverComes}:00:00Z`);
}

type Row = typeof standinParcel.$inferSelect;

/** How far a parcel is at a moment. */
function whereIs({ tracking, zone, service, bookedAt, readyAt }: Row, now: Date): Whereabouts {
  const taken = readyAt === null ? null : takenAt(readyAt);
  if (readyAt === null || taken === null || now < taken)
    return { tracking, at: readyAt ?? bookedAt, where: 'Waits for the driver', taken: false, delivered: false };
  const depot = new Date(taken.getTime() + 4 * 3_600_000);
  const delivered = new Date(`${arrivesOn(taken.toISOString().slice(0, 10), tariffOf(zone).days + serviceOf(service).days)}T12:00:00Z`);
  if (now >= delivered) return { tracking, at: delivered.toISOString(), where: 'Delivered', taken: true, delivered: true };
  const isThere = now >= depot;
  return { tracking, at: (isThere ? depot : taken).toISOString(), where: isThere ? 'At the depot' : 'With the driver', taken: true, delivered: false };
}

/** What it bills for a parcel: it weighs again, and finds every tenth a kilogram heavier than it was told, and every tenth one lighter. */
function billedFor({ tracking, zone, service, weight, price }: Row): string {
  const last = Number(tracking.at(-1));
  const more = last === 3 ? 1 : last === 8 ? -1 : 0;
  const found = decimal(weight).ceil().plus(more);
  return more === 0 || found.lt(1) ? price : parcelPrice(tariffOf(zone), found, serviceOf(service).times).toFixed(2);
}

/** Monday of the week of a day. */
const mondayOf = (day: Day): Day => addDays(day, -((new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7));

/**
 * The desk of the simulated carrier that ships with the product: it books, follows and bills parcels by the clock, and keeps them in a table of its own.
 * It leaves some bookings unanswered the first time although it has made them: those whose reference ends in 7, unless
 * it is to answer all.
 */
export function carrierDesk(pool: pg.Pool, now: () => Date, { answersAll = false } = {}): CarrierDesk {
  const db = drizzleOn(pool);
  const ofReference = (reference: string) => db.select().from(standinParcel).where(eq(standinParcel.reference, reference)).orderBy(standinParcel.position);
  const refuseTaken = (rows: readonly Row[]) => {
    if (rows.some((row) => whereIs(row, now()).taken)) throw new CarrierRefusal('The driver has these parcels already.');
  };
  return {
    book: async (carrier, reference, service, { address, parcels }) => {
      const zone = zoneOf(address);
      const { name, times } = serviceOf(service);
      const before = await ofReference(reference);
      const made = parcels.map((parcel, position) => {
        const weight = weightOf(parcel);
        const price = parcelPrice(tariffOf(zone), weight, times).toFixed(2);
        return { carrier, reference, position, zone, service: name, weight: weight.toFixed(4), price, bookedAt: now().toISOString() };
      });
      if (before.length === 0)
        await db
          .insert(standinParcel)
          .values(
            made.map((row) => ({
              ...row,
              tracking: `HW${reference.replace(/\D/g, '').padStart(6, '0')}${row.position + 1}${(row.position * 7 + 3 + Number(reference.at(-1))) % 10}`,
            })),
          )
          .onConflictDoNothing();
      if (before.length === 0 && reference.endsWith('7') && !answersAll) return new Promise<never>(() => undefined);
      return (await ofReference(reference)).map(({ tracking, price }) => ({ tracking, price }));
    },
    ready: async (reference, ready) => {
      const rows = await ofReference(reference);
      if (!ready) refuseTaken(rows);
      await db
        .update(standinParcel)
        .set({ readyAt: ready ? now().toISOString() : null })
        .where(and(eq(standinParcel.reference, reference), ready ? isNull(standinParcel.readyAt) : undefined));
    },
    cancel: async (reference) => {
      refuseTaken(await ofReference(reference));
      await db.update(standinParcel).set({ cancelledAt: now().toISOString() }).where(eq(standinParcel.reference, reference));
    },
    whereAre: async (trackings) => (await db.select().from(standinParcel).where(among(standinParcel.tracking, trackings))).map((row) => whereIs(row, now())),
    bills: async (carrier) => {
      const sent = await db
        .select()
        .from(standinParcel)
        .where(and(eq(standinParcel.carrier, carrier), isNotNull(standinParcel.readyAt), isNull(standinParcel.cancelledAt)))
        .orderBy(sql`${standinParcel.readyAt}, ${standinParcel.id}`);
      const weeks = new Map<Day, Row[]>();
      for (const row of sent) {
        const monday = addDays(
          mondayOf(
            takenAt(row.readyAt as string)
              .toISOString()
              .slice(0, 10),
          ),
          7,
        );
        if (monday <= now().toISOString().slice(0, 10)) weeks.set(monday, [...(weeks.get(monday) ?? []), row]);
      }
      return [...weeks]
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([billedOn, rows]) => ({
          reference: `HW-${billedOn.replace(/-/g, '')}`,
          billedOn,
          dueOn: addDays(billedOn, 30),
          lines: rows.map((row) => ({ tracking: row.tracking, amount: billedFor(row) })),
        }));
    },
  };
}
