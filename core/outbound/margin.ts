import type { Decimal } from '../decimal';

/** Margin of what it was sold for, per cent with one decimal, half away from zero; empty where it was sold for nothing. */
export const marginPercent = (sold: Decimal, cost: Decimal): string =>
  sold.isZero() ? '' : sold.minus(cost).times(100).div(sold.abs()).toDecimalPlaces(1).toFixed(1);
