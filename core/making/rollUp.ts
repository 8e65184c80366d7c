import { decimal, sum, zero, type Decimal } from '../decimal';
import { neededFor, type Bill, type Bills, type Part } from './bill';

/** What one base unit costs now; null when nothing says. */
export type CostNow = (itemId: number) => Decimal | null;

/** What one base unit comes to when it is made, over all levels. Not rounded. */
export interface RolledUp {
  parts: Decimal;
  /** Labour, machines, work outside: of all levels. */
  work: Decimal;
  /** Parts, on whatever level, of which nothing says what they cost: they are in it with nothing. */
  unknown: readonly number[];
}

export const rolledCost = ({ parts, work }: RolledUp): Decimal => parts.plus(work);

/**
 * Rolls the cost of what is made up over all levels: of each part what it comes to when it is made, and of those that are bought what they cost now.
 * Gives a function of the item; null for one that is not made. Each item is reckoned once.
 */
export function rollUp(bills: Bills, costNow: CostNow): (itemId: number) => RolledUp | null {
  const known = new Map<number, RolledUp>();
  const of = (itemId: number): RolledUp | null => {
    const bill = bills.get(itemId);
    if (!bill) return null;
    const had = known.get(itemId);
    if (had) return had;
    const lines = bill.parts.map((part) => partCost(bill, part));
    const share = ownShare(bill, costNow);
    const own = (cost: Decimal) => cost.times(share.part).div(share.whole);
    const work = sum(bill.costs.map(({ quantity, rate }) => quantity.times(rate))).div(bill.makes);
    const rolled: RolledUp = {
      parts: own(sum(lines.map(({ parts }) => parts))),
      work: own(work.plus(sum(lines.map((line) => line.work)))),
      unknown: [...new Set(lines.flatMap(({ unknown }) => unknown))],
    };
    known.set(itemId, rolled);
    return rolled;
  };
  /** What a part comes to in one of what is made. */
  const partCost = (bill: Bill, part: Part): RolledUp => {
    const many = neededFor(decimal(1), bill, part);
    const made = of(part.itemId);
    if (made) return { parts: made.parts.times(many), work: made.work.times(many), unknown: made.unknown };
    const cost = costNow(part.itemId);
    return { parts: (cost ?? zero).times(many), work: zero, unknown: cost === null ? [part.itemId] : [] };
  };
  return of;
}

/**
 * Which part of the cost of the work the item itself takes, beside its by-products: so much of `whole`. By the typed shares, where the bill has them; else by what all of it is worth now;
 * else, where nothing says what it is worth, by quantity.
 */
export function ownShare(bill: Pick<Bill, 'itemId' | 'makes' | 'share' | 'byProducts'>, costNow: CostNow): { part: Decimal; whole: Decimal } {
  const [own = zero, ...others] = costWeights(bill, costNow);
  return { part: own, whole: own.plus(sum(others)) };
}

/** By what the cost of the work is spread over what comes of it: the item itself first, then its by-products. Never all zero. */
export function costWeights({ itemId, makes, share, byProducts }: Pick<Bill, 'itemId' | 'makes' | 'share' | 'byProducts'>, costNow: CostNow): Decimal[] {
  const outputs = [{ itemId, quantity: makes, share }, ...byProducts];
  if (outputs.length === 1) return [decimal(1)];
  const typed = outputs.map((output) => output.share ?? zero);
  if (outputs.every((output) => output.share !== null) && sum(typed).gt(0)) return typed;
  const worth = outputs.map((output) => (costNow(output.itemId) ?? zero).times(output.quantity));
  return sum(worth).gt(0) ? worth : outputs.map(({ quantity }) => quantity);
}
