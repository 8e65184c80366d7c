import { money, shareOf, type Decimal } from '../decimal';

/**
 * What a payment takes off what is owed, in company currency: the share of all that was paid with it, less what earlier payments took.
 * So the last payment takes the rest, and a paid bill owes nothing. What is paid beyond the bill counts at its rate.
 */
export function settledBy(bill: { total: Decimal; owed: Decimal; rate: Decimal }, before: { paid: Decimal; settled: Decimal }, amount: Decimal): Decimal {
  const paid = before.paid.plus(amount);
  const upTo = paid.lte(bill.total) ? shareOf(bill.owed, paid, bill.total) : bill.owed.plus(money(paid.minus(bill.total).times(bill.rate)));
  return upTo.minus(before.settled);
}
