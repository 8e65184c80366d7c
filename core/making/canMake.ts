import { decimal, least, zero, type Decimal } from '../decimal';
import { inSteps, neededFor, topDown, type Bills } from './bill';

/** What is free of items at a site, in what steps each is kept, and which are kept in stock at all: what is not never limits anything. */
export interface Shelf {
  free: (itemId: number) => Decimal;
  step: (itemId: number) => Decimal;
  stocked: (itemId: number) => boolean;
}

/** What making something takes of one item, over all levels. Base units; what is free plus what is made plus what is missing is what is needed, or more by rounding up. */
export interface Needed {
  itemId: number;
  needed: Decimal;
  /** Of that, free and so taken as it is. */
  free: Decimal;
  /** Of that, made first. */
  made: Decimal;
  /** Of that, neither free nor to be made. */
  missing: Decimal;
}

/**
 * What it takes to make `many` of an item: level by level what is needed, what of it is free, what is made of its own parts, and what is missing. The same part on several
 * branches is one row. What is free is taken before anything is made; what is needed is rounded up to whole steps
 * once, of all branches together. The item itself comes first, and is made whole.
 */
export function netted(itemId: number, many: Decimal, bills: Bills, shelf: Shelf, order = topDown([itemId], bills)): Needed[] {
  const wanted = new Map<number, Decimal>([[itemId, many]]);
  return order.map((at): Needed => {
    const exact = wanted.get(at) ?? zero;
    const needed = inSteps(exact, shelf.step(at));
    const isFree = at !== itemId;
    const free = isFree ? (shelf.stocked(at) ? least(needed, shelf.free(at)) : needed) : zero;
    const rest = needed.minus(free);
    const bill = bills.get(at);
    if (bill) for (const part of bill.parts) wanted.set(part.itemId, (wanted.get(part.itemId) ?? zero).plus(neededFor(rest, bill, part)));
    return { itemId: at, needed, free, made: bill ? rest : zero, missing: bill ? zero : rest };
  });
}

export interface CanMake {
  /** Whole steps of the item; null when nothing limits it. */
  many: Decimal | null;
  /** What is missing for one step more. */
  limits: readonly number[];
}

/**
 * How many of an item can be made of what is free, through all levels, and what limits it.
 *
 * What is needed of each part grows with the number made as a convex function of straight pieces (it begins once what is free of what it goes into is used up). So the number is found by
 * Newton's method from above: beginning with every level made, each step goes to where the part that is missed most would be just enough, and ends after as many steps as there are pieces at most.
 * Rounding to whole steps of parts, which that leaves out, is settled by looking downwards from there.
 */
export function canMake(itemId: number, bills: Bills, shelf: Shelf): CanMake {
  const order = topDown([itemId], bills);
  let most: Decimal | null = null;
  for (;;) {
    const next = stepDown(itemId, most, order, bills, shelf);
    if (next === 'enough') break;
    if (next === 'no limit') return { many: null, limits: [] };
    most = next;
  }
  const step = shelf.step(itemId);
  const missingFor = (steps: Decimal) =>
    netted(itemId, steps.times(step), bills, shelf, order)
      .filter(({ missing }) => missing.gt(0))
      .map((row) => row.itemId);
  // A division that does not end may have come out just below.
  let above = (most ?? zero).div(step).floor().plus(2);
  let below = above;
  for (let back = decimal(1); below.gt(0) && missingFor(below).length > 0; back = back.times(2)) {
    above = below;
    below = below.minus(back).lt(0) ? zero : below.minus(back);
  }
  while (above.minus(below).gt(1)) {
    const between = above.plus(below).div(2).floor();
    if (missingFor(between).length > 0) above = between;
    else below = between;
  }
  return { many: below.times(step), limits: missingFor(below.plus(1)) };
}

/** From so many (null: from without end) down to where the part that is missed most is just enough, by how fast each is used up there; without rounding. */
function stepDown(itemId: number, from: Decimal | null, order: readonly number[], bills: Bills, shelf: Shelf): Decimal | 'enough' | 'no limit' {
  // What is wanted of each item, less what is there, is `rate` × so many − `there`.
  const wanted = new Map([[itemId, { rate: decimal(1), there: zero }]]);
  let least: Decimal | null = null;
  for (const at of order) {
    const { rate, there } = wanted.get(at) ?? { rate: zero, there: zero };
    const free = at === itemId ? zero : shelf.free(at);
    const isShort = at === itemId || (shelf.stocked(at) && rate.gt(0) && (from === null || rate.times(from).minus(there).gt(free)));
    const bill = bills.get(at);
    if (!isShort) continue;
    if (!bill) {
      const enough = there.plus(free).div(rate);
      if (least === null || enough.lt(least)) least = enough;
      continue;
    }
    for (const part of bill.parts) {
      const had = wanted.get(part.itemId) ?? { rate: zero, there: zero };
      wanted.set(part.itemId, { rate: had.rate.plus(neededFor(rate, bill, part)), there: had.there.plus(neededFor(there.plus(free), bill, part)) });
    }
  }
  if (least === null) return from === null ? 'no limit' : 'enough';
  if (from !== null && least.gte(from)) return 'enough';
  return least;
}
