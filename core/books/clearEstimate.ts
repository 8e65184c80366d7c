import { greatest, least, zero, type Decimal } from '../decimal';

export interface Cleared {
  /** Taken off the clearing account. */
  cleared: Decimal;
  /** To landed cost variance: billed above the estimate, or (negative) estimated and never billed. */
  variance: Decimal;
}

/**
 * What a bill does to the open estimate of a charge: it clears up to what is open, what is over is variance;
 * a final bill also clears the rest, which is variance the other way. cleared + variance is the bill, always.
 */
export function clearEstimate(open: Decimal, billed: Decimal, final: boolean): Cleared {
  const cleared = final ? open : greatest(zero, least(open, billed));
  return { cleared, variance: billed.minus(cleared) };
}
