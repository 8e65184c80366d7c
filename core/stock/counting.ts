import { addDays, type Day } from '../day';
import { sum, zero, type Decimal } from '../decimal';

/** By what bins and items are chosen to be counted. What is empty chooses nothing out. */
export interface CountPlan {
  zone: string;
  binIds: number[];
  categoryId: number | null;
  itemIds: number[];
  classes: ItemClass[];
  /** Not counted since this day. */
  notSince: Day | null;
  /** Counts differed since this day. */
  differedSince: Day | null;
  /** A pick found fewer than there should be. */
  doubted: boolean;
  /** Its class says that it is due. */
  due: boolean;
}

/** Whether a plan chooses items; else all that lies in its bins is counted, and empty bins too. */
export const choosesItems = ({ categoryId, itemIds, classes, notSince, differedSince, doubted, due }: CountPlan): boolean =>
  categoryId !== null || itemIds.length > 0 || classes.length > 0 || notSince !== null || differedSince !== null || doubted || due;

export const itemClasses = ['A', 'B', 'C'] as const;
export type ItemClass = (typeof itemClasses)[number];
/** Up to these shares of all that is used, in per cent, items of the highest value are A, then B. */
interface ClassShares {
  A: number;
  B: number;
}

/**
 * The class of each item by the value of what is used of it: sorted from the highest on, A while those before it come to less than the first share (80 %) of all,
 * then B until the second (95 %), and C the rest and whatever is not used. Items of the same value are taken in the order of their ids.
 */
export function classesOf(items: readonly { id: number; used: Decimal }[], upTo: ClassShares = { A: 80, B: 95 }): Map<number, ItemClass> {
  const total = sum(items.map(({ used }) => used));
  const sorted = [...items].sort((one, other) => other.used.comparedTo(one.used) || one.id - other.id);
  const classes = new Map<number, ItemClass>();
  let before = zero;
  for (const { id, used } of sorted) {
    const share = before.times(100);
    classes.set(id, used.lte(zero) ? 'C' : share.lt(total.times(upTo.A)) ? 'A' : share.lt(total.times(upTo.B)) ? 'B' : 'C');
    before = before.plus(used);
  }
  return classes;
}

/** The last day on which something is still counted often enough: what was last counted before it, or never, is due. Null where nobody has said how often. */
export const dueBefore = (today: Day, everyDays: number | null): Day | null => (everyDays === null ? null : addDays(today, -everyDays));

/**
 * Why something is to be counted again: goods of it moved while it was scanned (`moved`), it was counted by a device that did not know what had moved before (`late`),
 * it differs by more than the sheet lets pass (`differs`), or somebody asked for it (`asked`).
 */
export const recountReasons = ['moved', 'late', 'differs', 'asked'] as const;
export type RecountWhy = (typeof recountReasons)[number];

export interface CountedLine {
  counted: Decimal;
  expected: Decimal;
  /** How often it was counted. */
  rounds: number;
  moved: boolean;
  late: boolean;
  /** What one is worth. */
  unitCost: Decimal;
}

/** A difference above a share of what there should be (per cent) or above a value is counted again; null lets any pass. */
export interface RecountLimits {
  share: Decimal | null;
  value: Decimal | null;
}

/** Whether a line is to be counted again, once its bin is. A difference is asked about once only: counted twice, it is believed. */
export function recountOf({ counted, expected, rounds, moved, late, unitCost }: CountedLine, { share, value }: RecountLimits): RecountWhy | null {
  if (moved) return 'moved';
  if (late) return 'late';
  const difference = counted.minus(expected).abs();
  if (rounds > 1 || difference.isZero()) return null;
  if (share !== null && difference.times(100).gt(expected.times(share))) return 'differs';
  return value !== null && difference.times(unitCost).gt(value) ? 'differs' : null;
}

export const countStates = ['planned', 'counting', 'review', 'posted', 'discarded'] as const;
export type CountState = (typeof countStates)[number];

export interface CountProgress {
  bins: number;
  /** Bins that somebody has begun, and those that are counted whole. */
  begun: number;
  done: number;
  /** Lines that are settled: posted, or found to agree. */
  settled: number;
  closed: boolean;
}

/** How far a count is. Closed with nothing settled, it was discarded. */
export function countState({ bins, begun, done, settled, closed }: CountProgress): CountState {
  if (closed) return settled > 0 ? 'posted' : 'discarded';
  if (done === bins) return 'review';
  return begun > 0 ? 'counting' : 'planned';
}

/** The stages of a count: its bins counted, its lines settled. */
export const countStages = ({ bins, done, lines, settled }: { bins: number; done: number; lines: number; settled: number }) => [
  { name: 'Counted', done: String(done), of: String(bins) },
  { name: 'Settled', done: String(settled), of: String(lines) },
];
