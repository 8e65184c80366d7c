import { decimal, quantityText, zero } from '../decimal';
import type { FieldError } from '../refusal';

/** A line of a quote, in its own unit. */
interface Line {
  id: number;
  quantity: string;
}
/** How much of a line stays on the quote. */
interface Kept {
  lineId: number;
  quantity: string;
}

/** What is wrong with what is to stay of a quote's lines, by field. */
export const partFaults = (number: string, lines: readonly Line[], kept: readonly Kept[]): FieldError[] =>
  kept.flatMap(({ lineId, quantity }, index): FieldError[] => {
    const line = lines.find(({ id }) => id === lineId);
    if (!line) return [{ field: `lines.${index}.lineId`, sentence: `${number} has no such line.` }];
    return decimal(quantity).gt(line.quantity) ? [{ field: `lines.${index}.quantity`, sentence: `Only ${line.quantity} are on the quote.` }] : [];
  });

/** A quote's lines in two: what stays, and what goes to another quote. Lines that nothing is said of stay whole; what is nothing is left out. */
export function parted<L extends Line>(lines: readonly L[], kept: readonly Kept[]): { staying: L[]; going: L[] } {
  const staysOf = (line: L) => decimal(kept.find(({ lineId }) => lineId === line.id)?.quantity ?? line.quantity);
  const some = (quantityOf: (line: L) => ReturnType<typeof decimal>) =>
    lines.flatMap((line) => (quantityOf(line).gt(zero) ? [{ ...line, quantity: quantityText(quantityOf(line)) }] : []));
  return { staying: some(staysOf), going: some((line) => decimal(line.quantity).minus(staysOf(line))) };
}
