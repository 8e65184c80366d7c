import { greatest, least, zero, type Decimal } from '../decimal';

/** A receipt against what its item's pool holds now; quantities in base units. */
export interface ReceiptStanding {
  /** Of the receipt itself, net of its reversal and of what went back of it to the supplier. */
  net: Decimal;
  /** What other receipts brought after it, each net likewise. */
  receivedLater: Decimal;
  /** What the pool holds now. */
  owned: Decimal;
}

/**
 * How many of a receipt are still here, under moving average: what is here is taken to be the newest.
 * clamp(owned − received later, 0, net).
 */
export const stillHere = ({ net, receivedLater, owned }: ReceiptStanding): Decimal => greatest(zero, least(net, owned.minus(receivedLater)));
