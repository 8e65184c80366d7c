import { greatest, least, sum, zero, type Decimal } from '../decimal';
import type { DemandLine } from './types';

/** Order in which short lines are served: accepted promises by their day, then ship-by, then order number, then line. */
export function bySerial(a: DemandLine, b: DemandLine): number {
  if ((a.promisedOn === null) !== (b.promisedOn === null)) return a.promisedOn === null ? 1 : -1;
  const promised = (a.promisedOn ?? '').localeCompare(b.promisedOn ?? '');
  return promised || a.neededOn.localeCompare(b.neededOn) || a.number.localeCompare(b.number, 'en', { numeric: true }) || a.position - b.position;
}

export const reservedOf = (demand: readonly DemandLine[]): Decimal => sum(demand.map((line) => line.reserved));
export const shortOf = (demand: readonly DemandLine[]): Decimal => sum(demand.map((line) => greatest(line.wanted.minus(line.reserved), zero)));

/**
 * Reserves what is free for the lines that are short, `first` before all others, and none for those that stand back. Never takes another line's reservation.
 * Returns the demand as it is then.
 */
export function serve(onHand: Decimal, demand: readonly DemandLine[], first: readonly number[] = []): DemandLine[] {
  let left = onHand.minus(reservedOf(demand));
  const order = [...demand].sort((a, b) => Number(first.includes(b.lineId)) - Number(first.includes(a.lineId)) || bySerial(a, b));
  return order.map((line) => {
    const takes = least(line.wanted.minus(line.reserved), left);
    if (takes.lte(zero) || (line.standsBack && !first.includes(line.lineId))) return line;
    left = left.minus(takes);
    return { ...line, reserved: line.reserved.plus(takes) };
  });
}

/** The demand once so much is on hand: the short are served from what is free, or the last served give back what is no longer there. */
export const reservedAnew = (onHand: Decimal, demand: readonly DemandLine[], first: readonly number[] = []): DemandLine[] =>
  onHand.gte(reservedOf(demand)) ? serve(onHand, demand, first) : releaseLost(onHand, demand);

/** Releases reservations, last served first, until no more is reserved than is on hand. */
export function releaseLost(onHand: Decimal, demand: readonly DemandLine[]): DemandLine[] {
  let over = reservedOf(demand).minus(onHand);
  return [...demand]
    .sort((a, b) => bySerial(b, a))
    .map((line) => {
      const gives = least(line.reserved, over);
      if (gives.lte(zero)) return line;
      over = over.minus(gives);
      return { ...line, reserved: line.reserved.minus(gives) };
    });
}
