import { addDays, nextWorkday, type Day } from '../day';
import { decimal, greatest, money, type Decimal } from '../decimal';

/** A parcel as a carrier sees it: kilograms, and centimetres where it was measured. */
export interface Measured {
  weight: string | null;
  length: number | null;
  width: number | null;
  height: number | null;
}

/** Cubic centimetres that are carried at the price of a kilogram: the usual divisor of parcel carriers. */
const perKilogram = 5000;

/** What a parcel is priced by, in kilograms: what it weighs, or what its size counts for when that is more. */
export function chargeableWeight({ weight, length, width, height }: Measured & { weight: string }): Decimal {
  const size = length === null || width === null || height === null ? decimal(0) : decimal(length).times(width).times(height).div(perKilogram);
  return greatest(decimal(weight), size);
}

/** A tariff of a zone: for a parcel, for each kilogram begun, and how many working days it takes. */
export interface ZoneTariff {
  parcel: string;
  kilogram: string;
  days: number;
}

/** What a parcel costs by a tariff, to the cent; every kilogram begun counts as a whole one. `times`: what the service multiplies it by. */
export const parcelPrice = ({ parcel, kilogram }: ZoneTariff, weight: Decimal, times: string): Decimal =>
  money(decimal(parcel).plus(decimal(kilogram).times(weight.ceil())).times(times));

/** The day on which something arrives that is taken on a day and is so many working days under way. */
export const arrivesOn = (takenOn: Day, workdays: number): Day =>
  Array.from({ length: workdays }).reduce<Day>((day) => nextWorkday(addDays(day, 1)), nextWorkday(takenOn));

export type ShipmentState = 'asking' | 'unanswered' | 'refused' | 'booked' | 'dispatched' | 'taken' | 'delivered';

/** How far a shipment is. */
export function shipmentState(of: {
  bookedAt: string | null;
  fault: string;
  nextTryAt: string | null;
  movementId: number | null;
  takenAt: string | null;
  delivered: boolean;
}): ShipmentState {
  if (of.movementId !== null) return of.delivered ? 'delivered' : of.takenAt !== null ? 'taken' : 'dispatched';
  if (of.bookedAt !== null) return 'booked';
  if (of.fault === '') return 'asking';
  return of.nextTryAt === null ? 'refused' : 'unanswered';
}
