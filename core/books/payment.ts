import { greatest, least, money, shareOf, sum, zero, type Decimal } from '../decimal';

/** What a bill or an invoice comes to: in its currency, and what is owed for it in company currency, at its rate. */
export interface Owed {
  total: Decimal;
  owed: Decimal;
  rate: Decimal;
}

/**
 * What a payment takes off what is owed, in company currency: the share of all that was paid with it, less what earlier payments took.
 * So the last payment takes the rest, and a paid bill owes nothing. What is paid beyond the bill counts at its rate; a payment below zero is money back.
 */
export function settledBy({ total, owed, rate }: Owed, before: { paid: Decimal; settled: Decimal }, amount: Decimal): Decimal {
  const paid = before.paid.plus(amount);
  const upTo = paid.lt(total) ? shareOf(owed, paid, total) : owed.plus(money(paid.minus(total).times(rate)));
  return upTo.minus(before.settled);
}

/** Shares out money over invoices in their order: each gets what is open of it, and the last one what is left over. Of none below zero anything is taken. */
export function sharedOut(amount: Decimal, open: readonly Decimal[]): Decimal[] {
  let left = amount;
  const parts = open.map((one) => {
    const part = least(left, greatest(one, zero));
    left = left.minus(part);
    return part;
  });
  return parts.map((part, index) => (index === parts.length - 1 ? part.plus(left) : part));
}

/** How long something is due: not yet, or since so many days. */
export const agesOfDebt = ['not due', '1 to 30 days', '31 to 60 days', 'longer'] as const;
export type AgeOfDebt = (typeof agesOfDebt)[number];
export const ageOfDebt = (daysLate: number): AgeOfDebt =>
  daysLate <= 0 ? 'not due' : daysLate <= 30 ? '1 to 30 days' : daysLate <= 60 ? '31 to 60 days' : 'longer';

/** An account of somebody, line by line: what each line left it at, beginning with what it stood at before. */
export function runningBalance<L extends { amount: Decimal }>(before: Decimal, lines: readonly L[]): (L & { balance: Decimal })[] {
  return lines.map((line, index) => ({ ...line, balance: before.plus(sum(lines.slice(0, index + 1).map(({ amount }) => amount))) }));
}
