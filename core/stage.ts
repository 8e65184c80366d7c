import { zero, type Decimal } from './decimal';

/** How far a document is in one respect: so much of so much, with the word for it. */
export interface Stage {
  name: string;
  done: Decimal;
  of: Decimal;
}

export interface PurchaseProgress {
  placed: boolean;
  closed: boolean;
  cancelled: boolean;
  ordered: Decimal;
  received: Decimal;
  /** Goes straight to a customer: it is delivered there, not received here. */
  direct: boolean;
}

const one = (yes: boolean): Pick<Stage, 'done' | 'of'> => ({ done: zero.plus(yes ? 1 : 0), of: zero.plus(1) });

/** Stages of a purchase order, from its decisions and line counters. */
export const purchaseStages = (p: PurchaseProgress): Stage[] => [
  { name: 'Draft', ...one(true) },
  { name: 'Placed', ...one(p.placed) },
  { name: p.direct ? 'Delivered' : 'Received', done: p.received, of: p.ordered },
];

/** One word for a list: what the order is, or waits for. */
export function purchaseState(p: PurchaseProgress): string {
  if (p.cancelled) return 'cancelled';
  if (!p.placed) return 'draft';
  if (p.ordered.isZero()) return 'rest cancelled';
  if (p.received.gte(p.ordered)) return p.direct ? 'delivered' : 'received';
  if (p.closed) return 'rest cancelled';
  if (p.received.isZero()) return 'placed';
  return p.direct ? 'part delivered' : 'part received';
}

export interface SalesProgress {
  confirmed: boolean;
  cancelled: boolean;
  closed: boolean;
  ordered: Decimal;
  picked: Decimal;
  dispatched: Decimal;
  /** Of that, what a supplier sends straight to the customer: it is not picked, and counts as picked once it was sent. */
  straight: { ordered: Decimal; sent: Decimal };
  /** Of that, what is not kept in stock: it is not picked, and counts as picked once it has gone. */
  unkept: { ordered: Decimal; dispatched: Decimal };
}

/** What is never picked of an order. */
const unpicked = (p: SalesProgress): Decimal => p.unkept.ordered.plus(p.straight.ordered);

/** Stages of a sales order, from its decisions and line counters. */
export const salesStages = (p: SalesProgress): Stage[] => [
  { name: 'Quote', ...one(true) },
  { name: 'Confirmed', ...one(p.confirmed) },
  ...(unpicked(p).gt(zero) && unpicked(p).gte(p.ordered)
    ? []
    : [{ name: 'Picked', done: p.picked.minus(p.unkept.dispatched).minus(p.straight.sent), of: p.ordered.minus(unpicked(p)) }]),
  { name: 'Dispatched', done: p.dispatched, of: p.ordered },
];

/** One word for a list: what the order is, or waits for. */
export function salesState(p: SalesProgress): string {
  if (p.cancelled) return 'cancelled';
  if (!p.confirmed) return 'quote';
  if (p.dispatched.gte(p.ordered)) return 'dispatched';
  if (p.closed) return 'rest cancelled';
  if (p.picked.gt(p.dispatched)) return 'waiting on the bench';
  const toSend = p.straight.ordered.minus(p.straight.sent);
  if (toSend.gt(zero) && p.dispatched.plus(toSend).gte(p.ordered)) return 'waiting for the supplier';
  return p.dispatched.gt(zero) ? 'part dispatched' : 'confirmed';
}
