import { money, zero, type Decimal } from '../decimal';
import type { Pool } from './method';

/** Part of a charge or of a price difference that falls on one receipt line. */
export interface CostPart {
  itemId: number;
  /** Which pool it goes to: the item's, or one layer of it. */
  poolKey: string;
  /** The receipt's movement line. */
  lineId: number;
  /** Whole cents of company currency; negative takes cost off. */
  amount: Decimal;
  /** Which part of that receipt is still here, from 0 to 1. */
  share: Decimal;
}

export interface PlannedCost extends CostPart {
  /** Goes to the item's stock. */
  toStock: Decimal;
  /** For goods that have left already. */
  toGone: Decimal;
  /** What would have taken the pool below zero: goes to cost variance. Usually zero. */
  variance: Decimal;
}

/**
 * Splits each part into what goes to stock and what is for goods that have left; the three always add up to the part.
 * No pool is taken below 0.00 and an empty one takes nothing. The pools are those before; parts of one pool follow one another.
 */
export function planCosts(parts: readonly CostPart[], pools: ReadonlyMap<string, Pool>): PlannedCost[] {
  const worth = new Map<string, Decimal>();
  return parts.map((part) => {
    const pool = pools.get(part.poolKey);
    if (!pool) throw new Error('the pool was not read');
    const value = worth.get(part.poolKey) ?? pool.value;
    const wanted = pool.quantity.isZero() ? zero : money(part.amount.times(part.share));
    const toStock = value.plus(wanted).lt(zero) ? value.neg() : wanted;
    worth.set(part.poolKey, value.plus(toStock));
    return { ...part, toStock, toGone: part.amount.minus(wanted), variance: wanted.minus(toStock) };
  });
}
