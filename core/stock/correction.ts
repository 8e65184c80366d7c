import type { Decimal } from '../decimal';

/** How a correction says its quantity: what lies there now, or what is more or less. */
export type CorrectionWay = 'there-are-now' | 'plus-or-minus';

/**
 * The signed difference to post. "There are now" is measured against `heldThen`, what lay there at the moment the line was entered,
 * so goods moved since are not cancelled; zero means that nothing is posted.
 */
export const correctionDifference = (way: CorrectionWay, quantity: Decimal, heldThen: Decimal): Decimal =>
  way === 'there-are-now' ? quantity.minus(heldThen) : quantity;
