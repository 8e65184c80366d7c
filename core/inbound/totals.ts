import { decimal, shareOf, sum, type Decimal } from '../decimal';
import { taxOf } from '../outbound/tax';

/** An order line as its total counts it: amount in whole cents, base quantities, tax rate in per cent. */
export interface TotalledLine {
  amount: string;
  baseQuantity: string;
  cancelled: string;
  rate: string;
}

/** What a line comes to in whole minor units of its currency, less what was called off of it. */
export const stillOrdered = ({ amount, baseQuantity, cancelled }: Omit<TotalledLine, 'rate'>, places = 2): Decimal =>
  shareOf(decimal(amount), decimal(baseQuantity).minus(cancelled), decimal(baseQuantity), places);

/** What an order comes to, in a currency of so many `places`: its goods less what was called off, its charges, tax rounded once for each rate, and all together. */
export function orderTotals(
  lines: readonly TotalledLine[],
  charges: readonly { amount: string; rate: string }[],
  places = 2,
): { goods: Decimal; charges: Decimal; tax: Decimal; total: Decimal } {
  const parts = [
    ...lines.map((line) => ({ amount: stillOrdered(line, places), rate: decimal(line.rate) })),
    ...charges.map(({ amount, rate }) => ({ amount: decimal(amount), rate: decimal(rate) })),
  ];
  const goods = sum(parts.slice(0, lines.length).map(({ amount }) => amount));
  const beside = sum(parts.slice(lines.length).map(({ amount }) => amount));
  const tax = taxOf(parts, places);
  return { goods, charges: beside, tax, total: goods.plus(beside).plus(tax) };
}
