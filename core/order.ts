import { zero, type Decimal } from './decimal';
import { purchaseState, salesState } from './stage';

/** A line of an order, as far as decisions on the order go by it. Base units. */
export interface OrderLineFacts {
  ordered: Decimal;
  cancelled: Decimal;
  stocked: boolean;
  arrived: Decimal;
  drawn: Decimal;
  /** To come straight from a supplier, and not sent yet. */
  straight: Decimal;
  finished: Decimal;
}

/** What decisions on an order go by: what was decided so far, and its lines. */
export interface OrderFacts {
  number: string;
  /** Placed, or confirmed. */
  decided: boolean;
  closed: boolean;
  cancelled: boolean;
  /** Goes straight from the supplier to a customer. */
  direct: boolean;
  lines: readonly OrderLineFacts[];
}

/** How an order stands, of whatever kind. */
export interface OrderStanding {
  /** In one word. */
  state: string;
  isDraft: boolean;
  isOpen: boolean;
  /** Some of its goods have moved; some of them are under way within the house. */
  begun: boolean;
  underWay: boolean;
}

/** What is particular to a kind of order. */
interface OrderWays {
  draft: string;
  begun: (number: string) => string;
  standing: (facts: OrderFacts) => OrderStanding;
}

const total = (lines: readonly OrderLineFacts[], of: (line: OrderLineFacts) => Decimal): Decimal => lines.reduce((sum, line) => sum.plus(of(line)), zero);
const wanted = (line: OrderLineFacts): Decimal => line.ordered.minus(line.cancelled);

export const orderWays: Record<'purchase' | 'sales', OrderWays> = {
  purchase: {
    draft: 'draft',
    begun: (number) => `Goods have come in on ${number}`,
    standing: ({ decided, closed, cancelled, direct, lines }) => {
      const ordered = total(lines, wanted);
      // What came beyond what was ordered of one line is not what is missing of another.
      const received = total(lines, (line) => (line.arrived.gt(wanted(line)) ? wanted(line) : line.arrived));
      return {
        state: purchaseState({ placed: decided, closed, cancelled, ordered, received, direct }),
        isDraft: !decided && !cancelled,
        isOpen: decided && !closed && !cancelled && received.lt(ordered),
        begun: received.gt(zero),
        underWay: false,
      };
    },
  },
  sales: {
    draft: 'quote',
    begun: (number) => `Goods of ${number} have gone out`,
    standing: ({ decided, closed, cancelled, lines }) => {
      const ordered = total(lines, wanted);
      const [picked, dispatched] = [total(lines, (line) => line.drawn), total(lines, (line) => line.finished)];
      const unkept = lines.filter(({ stocked }) => !stocked);
      return {
        state: salesState({
          confirmed: decided,
          closed,
          cancelled,
          ordered,
          picked,
          dispatched,
          straight: { ordered: total(lines, (line) => line.straight), sent: zero },
          unkept: { ordered: total(unkept, wanted), dispatched: total(unkept, (line) => line.finished) },
        }),
        isDraft: !decided && !cancelled,
        isOpen: decided && !closed && !cancelled && dispatched.lt(ordered),
        begun: picked.gt(zero),
        underWay: picked.gt(dispatched),
      };
    },
  },
};
export type OrderSort = keyof typeof orderWays;
export type OrderDecision = 'decide' | 'withdraw' | 'cancel' | 'close' | 'reopen';

/** Why a decision on an order is not to be had, or null. `decide` places or confirms it, `withdraw` takes that back while nothing of it has moved; `reopen` takes back that it, or its rest, was cancelled. */
export function decisionFault(sort: OrderSort, facts: OrderFacts, decision: OrderDecision): { type: string; sentence: string } | null {
  const { draft, begun: words, standing } = orderWays[sort];
  const { state, isDraft, isOpen, begun, underWay } = standing(facts);
  const { number } = facts;
  if (decision === 'decide') return isDraft ? null : { type: `not-a-${draft}`, sentence: `${number} is ${state} already.` };
  if (decision === 'withdraw') {
    if (isDraft || !isOpen) return { type: 'not-open', sentence: isDraft ? `${number} is a ${draft} already.` : `${number} is ${state} already.` };
    return begun || underWay ? { type: 'begun', sentence: `${words(number)}, or wait on the bench: it cannot be a ${draft} again.` } : null;
  }
  if (decision === 'reopen') {
    if (!facts.cancelled && !facts.closed) return { type: 'not-cancelled', sentence: `${number} was not cancelled: it is ${state}.` };
    const would = standing({ ...facts, cancelled: false, closed: false });
    return would.isOpen || would.isDraft ? null : { type: 'nothing-left', sentence: `Nothing of ${number} is left to come or go.` };
  }
  if (!isOpen && !isDraft) return { type: 'not-open', sentence: `${number} is ${state} already.` };
  if (underWay) return { type: 'on-the-bench', sentence: `Goods of ${number} wait on the bench. Dispatch them or undo the pick first.` };
  if (decision === 'cancel' && begun) return { type: 'cannot-cancel', sentence: `${words(number)}; cancel the rest instead.` };
  if (decision === 'close' && isDraft) return { type: 'not-open', sentence: `${number} is only a ${draft}; cancel it instead.` };
  return null;
}
