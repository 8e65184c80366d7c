import { greatest, quantityText, sum, zero, type Decimal } from '../decimal';
import type { FieldError } from '../refusal';

/** What a transfer is, in a word, or waits for. */
export const transferStates = ['to send', 'part sent', 'in transit', 'part arrived', 'arrived', 'cancelled'] as const;
export type TransferState = (typeof transferStates)[number];

/** How much of a transfer there is, in base units over its lines: to go less what was cancelled, off the shelf, gone, arrived, and lost on the way. */
export interface TransferProgress {
  quantity: Decimal;
  picked: Decimal;
  gone: Decimal;
  arrived: Decimal;
  lost: Decimal;
}

export function transferState({ quantity, gone, arrived, lost }: TransferProgress): TransferState {
  const ended = arrived.plus(lost);
  if (quantity.lte(zero)) return 'cancelled';
  if (ended.gte(quantity)) return 'arrived';
  if (gone.isZero()) return 'to send';
  if (ended.gt(zero)) return 'part arrived';
  return gone.lt(quantity) ? 'part sent' : 'in transit';
}

/** The stages of a transfer: what was lost has ended as well. */
export const transferStages = (p: TransferProgress): { name: string; done: Decimal; of: Decimal }[] => [
  { name: 'Picked', done: p.picked, of: p.quantity },
  { name: 'Sent', done: p.gone, of: p.quantity },
  { name: 'Arrived', done: p.arrived.plus(p.lost), of: p.quantity },
];

/** So many of an item lack at a site of the level that orders fill it up to: its level, less what is free and on its way there, and more by what is short. */
export const lacksOfLevel = (at: { orderUpTo: Decimal | null; free: Decimal; coming: Decimal; short: Decimal }): Decimal =>
  at.orderUpTo === null ? zero : greatest(at.orderUpTo.minus(at.free).minus(at.coming).plus(at.short), zero);

/** A line of a transfer as it stands. */
export interface LineNow {
  id: number;
  sku: string;
  /** Ever asked for, and of that cancelled. */
  base: Decimal;
  cancelled: Decimal;
  picked: Decimal;
}

/** What a line becomes when it is to be so many: more asked for, or more of it cancelled, that of it which was cancelled being taken up again first. */
export function lineBecomes({ base, cancelled }: LineNow, quantity: Decimal): { base: Decimal; cancelled: Decimal } {
  const now = base.minus(cancelled);
  if (quantity.lte(now)) return { base, cancelled: base.minus(quantity) };
  return quantity.lte(base) ? { base, cancelled: base.minus(quantity) } : { base: quantity, cancelled: zero };
}

/** Lines that are asked to become fewer than were picked of them already, by field. */
export const changeFaults = (
  lines: readonly LineNow[],
  asked: readonly { id: number | null; quantity: string }[],
  quantityOf: (text: string) => Decimal,
): FieldError[] =>
  asked.flatMap(({ id, quantity }, index): FieldError[] => {
    const line = lines.find((one) => one.id === id);
    if (!line || quantityOf(quantity).gte(line.picked)) return [];
    return [{ field: `lines.${index}.quantity`, sentence: `${quantityText(line.picked)} of ${line.sku} are picked already; it can be no fewer.` }];
  });

/** Goods of lines, lot by lot. */
export interface Lots {
  lineId: number;
  lotId: number | null;
  quantity: Decimal;
}

/** Where more is asked of what lies somewhere than lies there, those asked before counted: which of them asks too much, and what was left for it. */
export function beyondLots(lying: readonly Lots[], asked: readonly Lots[]): { index: number; left: Decimal } | null {
  const same = (a: Lots, b: Lots): boolean => a.lineId === b.lineId && a.lotId === b.lotId;
  for (const [index, one] of asked.entries()) {
    const there = sum(lying.filter((each) => same(each, one)).map(({ quantity }) => quantity));
    const before = sum(
      asked
        .slice(0, index)
        .filter((each) => same(each, one))
        .map(({ quantity }) => quantity),
    );
    const left = there.minus(before);
    if (one.quantity.gt(left)) return { index, left };
  }
  return null;
}
