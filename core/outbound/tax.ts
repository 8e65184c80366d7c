import { money, sum, zero, type Decimal } from '../decimal';

/** Tax of a document: the lines' amounts are added up per rate (per cent), and rounded once for each rate. */
export function taxOf(lines: readonly { amount: Decimal; rate: Decimal }[]): Decimal {
  const bases = new Map<string, Decimal>();
  for (const { amount, rate } of lines) bases.set(rate.toFixed(), (bases.get(rate.toFixed()) ?? zero).plus(amount));
  return sum([...bases].map(([rate, base]) => money(base.times(rate).div(100))));
}
