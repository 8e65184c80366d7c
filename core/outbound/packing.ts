import { decimal, greatest, quantityText, sum, zero, type Decimal } from '../decimal';
import type { FieldError } from '../refusal';

/** So many base units of an order line, of one lot or serial where the item has them. */
export interface Content {
  lineId: number;
  lotId: number | null;
  quantity: string;
}

/** What lies on the bench for a line, lot by lot. */
export interface OnBench extends Content {
  sku: string;
}

/** A parcel as it is to be. Weight in kilograms, measures in centimetres; null: not said. */
export interface ParcelAsked {
  weight: string | null;
  length: number | null;
  width: number | null;
  height: number | null;
  contents: Content[];
}

const same = (a: Omit<Content, 'quantity'>, b: Omit<Content, 'quantity'>): boolean => a.lineId === b.lineId && a.lotId === b.lotId;
const totalOf = (contents: readonly Content[], of: Omit<Content, 'quantity'>): Decimal =>
  sum(contents.filter((one) => same(one, of)).map(({ quantity }) => decimal(quantity)));

/** What of the bench is in none of these parcels, lot by lot; what is all packed is left out. */
export const looseOf = <B extends Content>(bench: readonly B[], packed: readonly Content[]): B[] =>
  bench.flatMap((at) => {
    const left = decimal(at.quantity).minus(totalOf(packed, at));
    return left.gt(zero) ? [{ ...at, quantity: quantityText(left) }] : [];
  });

/** What is wrong with parcels, by field: nothing in them, or more than lies on the bench and in no other parcel. */
export function packFaults(parcels: readonly ParcelAsked[], loose: readonly OnBench[]): FieldError[] {
  const before: Content[] = [];
  return parcels.flatMap(({ contents, length, width, height }, index): FieldError[] => {
    const at = `parcels.${index}`;
    if (contents.length === 0) return [{ field: `${at}.contents`, sentence: 'Nothing is in this parcel. Put something in, or remove it.' }];
    const measures = [length, width, height];
    const missing = (['length', 'width', 'height'] as const).find((_, n) => measures[n] === null);
    if (missing && measures.some((one) => one !== null)) return [{ field: `${at}.${missing}`, sentence: 'Give length, width and height, or none of them.' }];
    return contents.flatMap((content, n): FieldError[] => {
      const lies = loose.find((one) => same(one, content));
      const left = greatest(decimal(lies?.quantity ?? 0).minus(totalOf(before, content)), zero);
      before.push(content);
      if (decimal(content.quantity).lte(left)) return [];
      const what = lies ? `of ${lies.sku} ` : 'of this ';
      return [
        {
          field: `${at}.contents.${n}.quantity`,
          sentence: left.isZero() ? `Nothing more ${what}lies on the bench.` : `Only ${quantityText(left)} ${what}lie on the bench and in no other parcel.`,
        },
      ];
    });
  });
}

/** What leaves the bench although it is in a parcel, lot by lot: how many too many. */
export const takenFromParcels = (bench: readonly OnBench[], packed: readonly Content[], leaving: readonly Content[]): { sku: string; lineId: number }[] =>
  bench
    .filter((at) => decimal(at.quantity).minus(totalOf(leaving, at)).lt(totalOf(packed, at)))
    .filter((at) => totalOf(leaving, at).gt(zero))
    .map(({ sku, lineId }) => ({ sku, lineId }));

/** What contents weigh in kilograms by the weights of their items, to the gram; null when one of them has none. */
export function weightOf(contents: readonly { quantity: string; weight: string | null }[]): string | null {
  if (contents.some(({ weight }) => weight === null)) return null;
  const grams = sum(contents.map(({ quantity, weight }) => decimal(quantity).times(weight ?? 0)));
  return grams.toDecimalPlaces(3).toFixed();
}

/** What is wrong with what is to go loose, by field: part of it is in parcels. */
export function looseFaults(
  asked: readonly { lineId: number; quantity: string }[],
  loose: readonly OnBench[],
  packed: readonly (Content & { parcel: string })[],
): FieldError[] {
  return asked.flatMap(({ lineId, quantity }, index): FieldError[] => {
    const holding = packed.find((one) => one.lineId === lineId);
    const mine = loose.filter((one) => one.lineId === lineId);
    const left = sum(mine.map((one) => decimal(one.quantity)));
    if (!holding || decimal(quantity).lte(left)) return [];
    return [
      {
        field: `lines.${index}.quantity`,
        sentence: `Only ${quantityText(left)} lie loose on the bench; others are packed in parcel ${holding.parcel}.`,
      },
    ];
  });
}
