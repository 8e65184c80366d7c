import { greatest, zero, type Decimal } from '../decimal';

export interface Standing {
  free: Decimal;
  /** On order and in transit to the site. */
  incoming: Decimal;
  short: Decimal;
  reorderPoint: Decimal;
  orderUpTo: Decimal;
  packSize: Decimal;
  minimum: Decimal;
}

/** free + incoming − short. */
export const position = (at: Pick<Standing, 'free' | 'incoming' | 'short'>): Decimal => at.free.plus(at.incoming).minus(at.short);

/**
 * How many to order, in base units: order-up-to less position, raised to the minimum and to whole packs.
 * Null when the position is above the reorder point or nothing is missing.
 */
export function topUp(at: Standing): Decimal | null {
  const now = position(at);
  if (now.gt(at.reorderPoint)) return null;
  const missing = at.orderUpTo.minus(now);
  if (missing.lte(zero)) return null;
  const atLeast = greatest(missing, at.minimum);
  return at.packSize.gt(zero) ? atLeast.div(at.packSize).ceil().times(at.packSize) : atLeast;
}
