import { greatest, least, zero, type Decimal } from '../decimal';

/** A receipt against what its item's pool holds now; quantities in base units. */
export interface ReceiptStanding {
  /** Of the receipt itself, net of its reversal and of what went back to the supplier. */
  received: Decimal;
  /** What the pool took in after it, net of reversals. */
  receivedLater: Decimal;
  /** What the pool holds now. */
  owned: Decimal;
}

/**
 * Which part of a receipt is still here, from 0 to 1, under moving average: what is here is taken to be the newest.
 * clamp(owned − received later, 0, received) / received; nothing received, nothing here.
 */
export function shareHere({ received, receivedLater, owned }: ReceiptStanding): Decimal {
  if (received.lte(zero)) return zero;
  return greatest(zero, least(received, owned.minus(receivedLater))).div(received);
}
