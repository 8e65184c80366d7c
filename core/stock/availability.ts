import type { Day } from '../day';
import { greatest, sum, zero, type Decimal } from '../decimal';

/** Goods expected (positive) or demanded and not reserved (negative) on a day, with the document they belong to. */
export interface Expected {
  day: Day;
  quantity: Decimal;
  document: string;
}

/** Free may be promised: on hand less reserved, never below zero. */
export const free = (onHand: Decimal, reserved: Decimal): Decimal => greatest(onHand.minus(reserved), zero);

export interface Supply {
  today: Day;
  free: Decimal;
  incoming: readonly Expected[];
  /** Demand that is not reserved, as positive quantities by ship-by day. */
  demand: readonly Expected[];
}

/** Projected free at the end of each day on which it changes, from today on. Overdue demand counts today; overdue deliveries support nothing. */
export function projectedFree(supply: Supply): { day: Day; quantity: Decimal; document: string }[] {
  const coming = supply.incoming.filter(({ day }) => day >= supply.today);
  const wanted = supply.demand.map((one) => ({ ...one, day: one.day < supply.today ? supply.today : one.day, quantity: one.quantity.neg() }));
  const changes = [...coming, ...wanted].sort((a, b) => a.day.localeCompare(b.day));
  let running = supply.free;
  const steps = [{ day: supply.today, quantity: running, document: '' }];
  for (const change of changes) {
    running = running.plus(change.quantity);
    steps.push({ day: change.day, quantity: running, document: change.document });
  }
  return steps;
}

/**
 * The earliest day on which taking `quantity` leaves projected free at or above zero from that day on; null when there is none.
 */
export function availableOn(supply: Supply, quantity: Decimal): Day | null {
  const days = [...new Set([supply.today, ...supply.incoming.filter(({ day }) => day >= supply.today).map(({ day }) => day)])].sort();
  return days.find((day) => lowestFrom(supply, day).gte(quantity)) ?? null;
}

/** The lowest projected free at the end of any day from `day` on. */
function lowestFrom(supply: Supply, day: Day): Decimal {
  const steps = projectedFree(supply);
  const ends = new Map(steps.map((step) => [step.day, step.quantity]));
  const at = sum([supply.free, ...changesUntil(supply, day)]);
  return [...ends].filter(([end]) => end > day).reduce((low, [, quantity]) => (quantity.lt(low) ? quantity : low), at);
}

function changesUntil(supply: Supply, day: Day): Decimal[] {
  const coming = supply.incoming.filter((one) => one.day >= supply.today && one.day <= day).map((one) => one.quantity);
  return [...coming, ...supply.demand.filter((one) => one.day <= day).map((one) => one.quantity.neg())];
}
