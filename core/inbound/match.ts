import type { Day } from '../day';
import { least, zero, type Decimal } from '../decimal';

/** An open purchase line that still wants goods. Quantities in base units. */
export interface OpenLine {
  lineId: number;
  delivery: string;
  orderNumber: string;
  position: number;
  itemId: number;
  expectedOn: Day | null;
  outstanding: Decimal;
}

export interface Taken {
  lineId: number;
  quantity: Decimal;
}

export interface Match {
  taken: Taken[];
  /** What no open line wants; more than zero means the person is asked. */
  over: Decimal;
}

/**
 * Fills the open lines that want the item, by expected day, then order number, then line, with `quantity`.
 * `chosen` holds it to those orders; empty means all.
 */
export function matchReceipt(open: readonly OpenLine[], itemId: number, quantity: Decimal, chosen: readonly string[]): Match {
  const wanting = open.filter((line) => line.itemId === itemId && (chosen.length === 0 || chosen.includes(line.delivery))).sort(byDue);
  let left = quantity;
  const taken: Taken[] = [];
  for (const line of wanting) {
    const takes = least(left, line.outstanding);
    if (takes.gt(zero)) taken.push({ lineId: line.lineId, quantity: takes });
    left = left.minus(takes);
  }
  return { taken, over: left };
}

const late = '9999-12-31';

function byDue(a: OpenLine, b: OpenLine): number {
  const day = (a.expectedOn ?? late).localeCompare(b.expectedOn ?? late);
  return day || a.orderNumber.localeCompare(b.orderNumber, 'en', { numeric: true }) || a.position - b.position;
}

/**
 * Which of several items that fit one code is meant: the only one the chosen deliveries want, or null when the person must say.
 */
export function itemMeant(items: readonly number[], open: readonly OpenLine[], chosen: readonly string[]): number | null {
  if (items.length === 1) return items[0] ?? null;
  const wanted = items.filter((itemId) =>
    open.some((line) => line.itemId === itemId && line.outstanding.gt(zero) && (chosen.length === 0 || chosen.includes(line.delivery))),
  );
  return wanted.length === 1 ? (wanted[0] ?? null) : null;
}
