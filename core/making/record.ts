import { greatest, sum, zero, type Decimal } from '../decimal';
import { notTaken, outputParts } from './work';

/** A work order as a record of it is decided. Base units. */
export interface WorkNow {
  components: readonly { lineId: number; used: Decimal; drawn: Decimal; stocked: boolean }[];
  /** The first is what the order is for. */
  products: readonly { lineId: number; quantity: Decimal; made: Decimal; scrapped: Decimal; share: Decimal | null; worth: Decimal }[];
}

/** What was written down: what was used in all of each component, what was made of each output, and what becomes of the rest. */
export interface Recorded {
  used: ReadonlyMap<number, Decimal>;
  made: ReadonlyMap<number, { good: Decimal; scrapped: Decimal }>;
  rest: 'goes on' | 'new order' | 'given up';
}

export interface RecordPlan {
  /** Of what the order is for: still to be made once this is recorded. */
  still: Decimal;
  /** More than that was ordered. */
  beyond: Decimal;
  /** Nothing more is made on this order: all is made, the rest is given up, or is another order from now on. */
  ends: boolean;
  /** What is left in progress then is variance; it is not when another order goes on with it. */
  clears: boolean;
  /** Used, and never taken from a shelf: it cannot be completed. */
  untaken: { lineId: number; quantity: Decimal }[];
  /** Something is made of components that are kept in stock, and none of them was ever recorded as used. */
  nothingUsed: boolean;
  /** Which part of what is in progress each output takes, in their order. */
  parts: { lineId: number; part: Decimal; whole: Decimal }[];
}

/** Decides what a record does to its work order. */
export function planRecord(now: WorkNow, recorded: Recorded): RecordPlan {
  const none = { good: zero, scrapped: zero };
  const madeOf = (lineId: number) => recorded.made.get(lineId) ?? none;
  const [main] = now.products;
  if (!main) throw new Error('a work order is for something');
  const { good, scrapped } = madeOf(main.lineId);
  const left = main.quantity.minus(main.made).minus(main.scrapped).minus(good).minus(scrapped);
  const still = greatest(left, zero);
  const ends = still.isZero() || recorded.rest !== 'goes on';
  const clears = still.isZero() || recorded.rest === 'given up';
  const outputs = now.products.map(({ lineId, quantity, share, worth }) => {
    const made = madeOf(lineId).good;
    return { lineId, made, weight: share === null ? worth.times(made) : share.times(made).div(quantity) };
  });
  const parts = outputParts(outputs, { made: good, still }, clears);
  const usedOf = (lineId: number) => recorded.used.get(lineId) ?? zero;
  const untaken = now.components
    .filter(({ stocked }) => stocked)
    .map((component) => ({ lineId: component.lineId, quantity: notTaken(component, usedOf(component.lineId)) }))
    .filter(({ quantity }) => quantity.gt(zero));
  const stocked = now.components.filter((component) => component.stocked);
  const usedEver = sum(stocked.map(({ lineId, used }) => used.plus(usedOf(lineId))));
  const nothingUsed = stocked.length > 0 && usedEver.isZero() && outputs.some(({ made }) => made.gt(zero));
  return {
    still,
    beyond: greatest(left.neg(), zero),
    ends,
    clears,
    untaken,
    nothingUsed,
    parts: outputs.flatMap(({ lineId, made }, index) => {
      const taken = parts[index];
      return made.gt(zero) && taken ? [{ lineId, ...taken }] : [];
    }),
  };
}

/** By how much what one costs differs from what it should, in per cent of that; null where that is not known or nothing. */
export const costDifference = (unitCost: Decimal, rolledUp: Decimal | null): Decimal | null =>
  rolledUp === null || rolledUp.isZero() ? null : unitCost.minus(rolledUp).abs().times(100).div(rolledUp);

/** What by the plan is still to be used and charged once this is recorded, at what it costs now: what the others that are to be made will bear. Not rounded. */
export const stillToCome = (
  components: readonly { needed: Decimal; used: Decimal; cost: Decimal | null }[],
  costs: readonly { planned: Decimal; charged: Decimal; rate: Decimal }[],
): Decimal =>
  sum([
    ...components.map(({ needed, used, cost }) => greatest(needed.minus(used), zero).times(cost ?? zero)),
    ...costs.map(({ planned, charged, rate }) => greatest(planned.minus(charged), zero).times(rate)),
  ]);
