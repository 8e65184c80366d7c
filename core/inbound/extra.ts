import { decimal, sum, zero, type Decimal } from '../decimal';

/** What comes in on a line of an order: `extra` is how many more than are still to come the person has agreed to take. */
interface Coming {
  lineId: number;
  quantity: string;
  extra?: string | undefined;
}

/** The first line with which more comes in than is still to come and was agreed to; all that comes in on one order line counts together. */
export function beyond(lines: readonly Coming[], outstanding: (lineId: number) => Decimal): { index: number; total: Decimal; over: Decimal } | null {
  const totals = new Map<number, Decimal>();
  const agreed = (lineId: number) => sum(lines.filter((line) => line.lineId === lineId).map(({ extra }) => decimal(extra ?? 0)));
  for (const [index, { lineId, quantity }] of lines.entries()) {
    const total = (totals.get(lineId) ?? zero).plus(quantity);
    totals.set(lineId, total);
    const over = total.minus(outstanding(lineId));
    if (over.gt(agreed(lineId))) return { index, total, over };
  }
  return null;
}
