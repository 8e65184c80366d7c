import { money, sum, zero, type Decimal } from '../decimal';

/** Tax of a document: the lines' amounts are added up per rate (per cent), and rounded once for each rate to the `places` of its currency. */
export function taxOf(lines: readonly { amount: Decimal; rate: Decimal }[], places = 2): Decimal {
  const bases = new Map<string, Decimal>();
  for (const { amount, rate } of lines) bases.set(rate.toFixed(), (bases.get(rate.toFixed()) ?? zero).plus(amount));
  return sum([...bases].map(([rate, base]) => money(base.times(rate).div(100), places)));
}

/** Tax of a bill by rate: rounded once for each rate, and the part of it that can be claimed back (`recoverable`, per cent). */
export function taxParts(lines: readonly { amount: Decimal; rate: Decimal; recoverable: Decimal }[], places = 2): { tax: Decimal; recoverable: Decimal }[] {
  const kinds = new Map<string, typeof lines>();
  for (const line of lines) {
    const key = `${line.rate.toFixed()} ${line.recoverable.toFixed()}`;
    kinds.set(key, [...(kinds.get(key) ?? []), line]);
  }
  return [...kinds.values()].map((same) => {
    const tax = taxOf(same, places);
    return { tax, recoverable: money(tax.times(same[0]?.recoverable ?? 0).div(100), places) };
  });
}
