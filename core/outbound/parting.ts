import { toBase, type Factor } from '../catalog/units';
import { decimal, least, quantityText, zero, type Decimal } from '../decimal';
import type { FieldError } from '../refusal';

/** A line of a quote, in its own unit. */
interface Line {
  id: number;
  quantity: string;
  factor: Factor;
  /** So many base units of it come straight from a supplier, and so many are brought from another site. */
  direct: string;
  bring: string;
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
  // What stays comes straight from a supplier as far as it was to; only what is beyond goes.
  const straightOf = (line: L) => least(decimal(line.direct), toBase(staysOf(line), line.factor));
  // So it is with what is brought, of what then is left for the shelf.
  const broughtOf = (line: L) => least(decimal(line.bring), toBase(staysOf(line), line.factor).minus(straightOf(line)));
  const some = (quantityOf: (line: L) => Decimal, directOf: (line: L) => Decimal, bringOf: (line: L) => Decimal) =>
    lines.flatMap((line) =>
      quantityOf(line).gt(zero)
        ? [{ ...line, quantity: quantityText(quantityOf(line)), direct: quantityText(directOf(line)), bring: quantityText(bringOf(line)) }]
        : [],
    );
  return {
    staying: some(staysOf, straightOf, broughtOf),
    going: some(
      (line) => decimal(line.quantity).minus(staysOf(line)),
      (line) => decimal(line.direct).minus(straightOf(line)),
      (line) => decimal(line.bring).minus(broughtOf(line)),
    ),
  };
}
