import { decimal, type Decimal } from '../decimal';

/** How many base units one of a unit is: numerator / denominator, whole numbers above zero. */
export interface Factor {
  numerator: number;
  denominator: number;
}

export const once: Factor = { numerator: 1, denominator: 1 };

/**
 * What is wrong with a factor, or null. One of the unit must be a number of base units with at most 4 decimals,
 * since that is how exactly stock is kept.
 */
export function factorFault({ numerator, denominator }: Factor): string | null {
  if (!Number.isInteger(numerator) || !Number.isInteger(denominator) || numerator < 1 || denominator < 1) return 'Give whole numbers above zero.';
  return (BigInt(numerator) * 10_000n) % BigInt(denominator) === 0n
    ? null
    : 'One of it is not a number of base units with at most 4 decimals; choose a smaller base unit.';
}

/** A quantity in a unit as base units. Exact when `factorFault` is null and the quantity is whole. */
export const toBase = (quantity: Decimal, { numerator, denominator }: Factor): Decimal => quantity.times(numerator).div(denominator);

/** Whether so many of a unit are a quantity that stock can be kept in: at most 4 decimals. */
export const fitsStock = (quantity: Decimal, factor: Factor): boolean => toBase(quantity, factor).decimalPlaces() <= 4;

/** A base quantity in whole units and what is left over, for showing: 30 pieces in cases of 12 are 2 cases and 6. */
export function inUnits(base: Decimal, factor: Factor): { whole: Decimal; left: Decimal } {
  const one = toBase(decimal(1), factor);
  const whole = base.div(one).floor();
  return { whole, left: base.minus(whole.times(one)) };
}
