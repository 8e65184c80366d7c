import { decimal, type Decimal } from '../decimal';

/** One line of a bill of materials: so many base units of a part for each lot of `makes`, and per cent of waste on top of them. */
export interface Part {
  itemId: number;
  quantity: Decimal;
  /** Per cent; 0 when nothing is wasted. */
  waste: Decimal;
}

/** Work, a machine or somebody outside: so many hours or pieces for each lot of `makes`, at a rate for one. */
export interface WorkCost {
  quantity: Decimal;
  rate: Decimal;
}

/** Something else that comes of the same work: so many base units for each lot of `makes`, and its typed share of the cost. */
export interface ByProduct {
  itemId: number;
  quantity: Decimal;
  /** Null: by value. */
  share: Decimal | null;
}

/** How an item is made: what `makes` base units of it take. */
export interface Bill {
  itemId: number;
  makes: Decimal;
  parts: readonly Part[];
  costs: readonly WorkCost[];
  byProducts: readonly ByProduct[];
  /** The item's own typed share of the cost, beside those of its by-products; null: by value. */
  share: Decimal | null;
}

/** Bills that hold, by the item they make. */
export type Bills = ReadonlyMap<number, Bill>;

const hundred = decimal(100);

/** How many base units of a part go into `many` of what is made, waste included, before they are rounded to what can be taken: many × quantity × (100 + waste) ÷ (100 × makes). */
export const neededFor = (many: Decimal, { makes }: Pick<Bill, 'makes'>, { quantity, waste }: Part): Decimal =>
  many.times(quantity).times(waste.plus(hundred)).div(makes.times(hundred));

/** What one item contains, by all that was written of it: of any day, so that no later day can close a circle. */
export type Contents = ReadonlyMap<number, readonly number[]>;

/**
 * The way from an item through what it contains back to itself, when its bill had these parts; null when there is none. Begins and ends with the item.
 */
export function circleOf(itemId: number, parts: readonly number[], contents: Contents): number[] | null {
  const seen = new Set<number>();
  const search = (at: number): number[] | null => {
    if (at === itemId) return [at];
    if (seen.has(at)) return null;
    seen.add(at);
    for (const next of contents.get(at) ?? []) {
      const way = search(next);
      if (way) return [at, ...way];
    }
    return null;
  };
  for (const part of parts) {
    const way = search(part);
    if (way) return [itemId, ...way];
  }
  return null;
}

/** "BOARD would contain itself: BOARD contains HIVE, which contains BOX, which contains BOARD." By the SKUs on the way of `circleOf`. */
export const wayInWords = (skus: readonly string[]): string =>
  `${skus[0] ?? ''} would contain itself: ${skus.slice(0, 2).join(' contains ')}${skus
    .slice(2)
    .map((sku) => `, which contains ${sku}`)
    .join('')}.`;

/** Items and all that goes into them, each before its own parts, else in the order of `from` and of the bills. Throws RangeError when they go in a circle. */
export function topDown(from: readonly number[], bills: Bills): number[] {
  const order: number[] = [];
  const state = new Map<number, 'open' | 'done'>();
  const visit = (itemId: number): void => {
    const was = state.get(itemId);
    if (was === 'done') return;
    if (was === 'open') throw new RangeError(`bills of materials go in a circle at item ${itemId}`);
    state.set(itemId, 'open');
    for (const part of [...(bills.get(itemId)?.parts ?? [])].reverse()) visit(part.itemId);
    state.set(itemId, 'done');
    order.push(itemId);
  };
  for (const itemId of [...from].reverse()) visit(itemId);
  return order.reverse();
}
