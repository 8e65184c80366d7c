import { decimal, zero, type Decimal } from '../decimal';
import { topDown, type Bills, type Part } from './bill';

/** What is free of items at a site, in what steps each is kept, and which are kept in stock at all: what is not never limits anything. */
export interface Shelf {
  free: (itemId: number) => Decimal;
  step: (itemId: number) => Decimal;
  stocked: (itemId: number) => boolean;
}

/** What making something takes of one item, over all levels, in base units. */
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

export interface CanMake {
  /** Whole steps of the item; null when nothing limits it. */
  many: Decimal | null;
  /** What is missing for one step more. */
  limits: readonly number[];
}

export interface Makeable {
  /** How many of an item can be made of what is free, through all levels, and what limits it. */
  canMake: (itemId: number) => CanMake;
  /**
   * What it takes to make `many` of an item: what is needed, what of it is free, what is made of its own parts, and what is missing. The same part on several branches is one row, rounded up to
   * whole steps once; what is free is taken before anything is made. The item itself comes first, and is made whole.
   */
  needed: (itemId: number, many: Decimal) => Needed[];
}

/** An item as it is reckoned with: everything in whole ten-thousandths, the finest that quantities are kept in, so that no division is ever rounded. */
interface Node {
  itemId: number;
  step: bigint;
  free: bigint;
  /** Null for one that is not made. */
  parts: { node: Node; weight: bigint }[] | null;
  /** What the weights it is taken with are parts of. */
  whole: bigint;
  /** While a number is tried: what is wanted of it, in `whole` parts of ten-thousandths. */
  wanted: bigint;
}

/** Beyond so many steps nothing is said to limit it: no quantity is as large. */
const mostSteps = 10n ** 13n;
const fine = (many: Decimal): bigint => BigInt(many.times(10_000).toFixed(0));
const coarse = (many: bigint): Decimal => decimal(String(many)).div(10_000);
const up = (many: bigint, by: bigint): bigint => ((many + by - 1n) / by) * by;
const gcd = (a: bigint, b: bigint): bigint => (b === 0n ? a : gcd(b, a % b));

/** What can be made by bills of what lies on a shelf. The bills are put into whole numbers once, whatever is asked of them then. */
export function makeable(bills: Bills, shelf: Shelf): Makeable {
  const node = nodesOf(bills, shelf);
  const orderOf = (itemId: number): Node[] => topDown([itemId], bills).map(node);

  /** Makes so many of the first of them, and hears of each what it takes; ends where that says so. */
  const tried = (order: readonly Node[], many: bigint, each: (of: Node, needed: bigint, rest: bigint) => boolean): boolean => {
    for (const one of order) one.wanted = 0n;
    for (const [at, of] of order.entries()) {
      if (at > 0 && of.wanted === 0n) continue;
      const needed = at === 0 ? many : up(of.wanted, of.whole * of.step) / of.whole;
      const rest = at === 0 ? many : needed > of.free ? needed - of.free : 0n;
      if (!each(of, needed, rest)) return false;
      if (rest > 0n && of.parts !== null) for (const { node: part, weight } of of.parts) part.wanted += rest * weight;
    }
    return true;
  };
  const isThere = (of: Node, _needed: bigint, rest: bigint) => rest === 0n || of.parts !== null;
  const rowsOf = (itemId: number, many: bigint): Needed[] => {
    const order = orderOf(itemId);
    const rows = new Map<number, Needed>();
    tried(order, many, (of, needed, rest) => {
      const [made, missing] = of.parts === null ? [0n, rest] : [rest, 0n];
      rows.set(of.itemId, { itemId: of.itemId, needed: coarse(needed), free: coarse(needed - rest), made: coarse(made), missing: coarse(missing) });
      return true;
    });
    return order.map((of) => rows.get(of.itemId) ?? { itemId: of.itemId, needed: zero, free: zero, made: zero, missing: zero });
  };

  return {
    needed: (itemId, many) => rowsOf(itemId, fine(many)),
    canMake: (itemId) => {
      const order = orderOf(itemId);
      const step = (order[0] as Node).step;
      const isEnough = (steps: bigint) => tried(order, steps * step, isThere);
      // The more is made, the more is needed of everything: so the most is found by doubling, then by halving what is left between.
      let above = 1n;
      while (isEnough(above)) {
        if (above > mostSteps) return { many: null, limits: [] };
        above *= 2n;
      }
      let below = above / 2n;
      while (above - below > 1n) {
        const between = (above + below) / 2n;
        if (isEnough(between)) below = between;
        else above = between;
      }
      const short = rowsOf(itemId, above * step).filter(({ missing }) => missing.gt(0));
      return { many: coarse(below * step), limits: short.map((row) => row.itemId) };
    },
  };
}

/** Items as nodes, made as they are asked for: of each part so many of so many (`weight` of `whole`) of what its bill makes, where `whole` is the same for all that take it. */
function nodesOf(bills: Bills, shelf: Shelf): (itemId: number) => Node {
  const shares = new Map<number, { weight: bigint; whole: bigint }[]>();
  const share = (makes: Decimal, { quantity, waste }: Part) => {
    const [part, whole] = [fine(quantity) * (1_000_000n + fine(waste)), fine(makes) * 1_000_000n];
    const common = gcd(part, whole);
    return { weight: part / common, whole: whole / common };
  };
  for (const { makes, parts } of bills.values()) for (const part of parts) shares.set(part.itemId, [...(shares.get(part.itemId) ?? []), share(makes, part)]);
  const nodes = new Map<number, Node>();
  const node = (itemId: number): Node => {
    const had = nodes.get(itemId);
    if (had) return had;
    const whole = (shares.get(itemId) ?? []).reduce((all, one) => (all * one.whole) / gcd(all, one.whole), 1n);
    // What is not kept in stock is there whenever it is wanted.
    const free = shelf.stocked(itemId) ? fine(shelf.free(itemId)) : 10n ** 30n;
    const made: Node = { itemId, step: fine(shelf.step(itemId)), free, parts: null, whole, wanted: 0n };
    nodes.set(itemId, made);
    const bill = bills.get(itemId);
    if (bill)
      made.parts = bill.parts.map((part) => {
        const { weight, whole: of } = share(bill.makes, part);
        const taken = node(part.itemId);
        return { node: taken, weight: weight * (taken.whole / of) };
      });
    return made;
  };
  return node;
}
