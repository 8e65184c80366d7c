import type { Day } from '../day';
import { zero, type Decimal } from '../decimal';

/** What an item's pool held at the end of a day on which it changed. */
export interface DayStand {
  day: Day;
  quantity: Decimal;
  value: Decimal;
}

/** Value that belongs to another day than the one it was posted on. */
export interface DayShift {
  day: Day;
  amount: Decimal;
}

/**
 * What must be shifted so that no past day has a value of stock without stock: cost runs in the order things were posted, and something dated back may take, or leave,
 * value on a day that held nothing. Each such value comes off on the first of those days and is put back on the day there is stock again.
 * `stands` are the days in order, up to today; the shifts add up to zero.
 */
export function dayShifts(stands: readonly DayStand[]): DayShift[] {
  let shifted = zero;
  const shifts: DayShift[] = [];
  const shift = (day: Day, amount: Decimal) => {
    if (amount.isZero()) return;
    shifts.push({ day, amount });
    shifted = shifted.plus(amount);
  };
  for (const { day, quantity, value } of stands) shift(day, quantity.isZero() ? value.plus(shifted).neg() : shifted.neg());
  return shifts;
}
