import { greatest, zero, type Decimal } from '../decimal';

/**
 * How a change of what has been received on one order line and not billed falls on its two accounts, debits above zero:
 * above zero it waits for a bill, below zero a credit is expected for what went back after it was billed. Company currency.
 */
export const goodsOpen = (before: Decimal, after: Decimal): { grni: Decimal; creditsExpected: Decimal } => ({
  grni: greatest(before, zero).minus(greatest(after, zero)),
  creditsExpected: greatest(after.neg(), zero).minus(greatest(before.neg(), zero)),
});
