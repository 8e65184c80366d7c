import { zero, type Decimal } from '../decimal';

/** How a customer stands, in company currency: what invoices leave open, what confirmed orders come to that is on no invoice yet, tax included, and how much they may owe (null: any amount). */
export interface Standing {
  owed: Decimal;
  ordered: Decimal;
  limit: Decimal | null;
}

/** By how much a customer is beyond their limit; null when they are not. */
export function beyondLimit({ owed, ordered, limit }: Standing): Decimal | null {
  const beyond = limit === null ? zero : owed.plus(ordered).minus(limit);
  return beyond.gt(0) ? beyond : null;
}
