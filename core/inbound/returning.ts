import { greatest, shareOf, zero, type Decimal, type Had } from '../decimal';
import type { TakenOff } from '../ledger/types';
import { takenOff, type ReceiptStand } from './cover';

/** A receipt goods may go back of. */
export interface ReturnSource extends ReceiptStand {
  /** Its running number: the layer of cost it made. */
  seq: number;
  /** What it brought, and at which value in company currency. */
  brought: Had;
  /** What of that went back before, and what the order had paid for it. */
  returned: Had;
}

/**
 * The receipts that `quantity` going back is taken off, each with what the order had paid for it: the share of all that went back of it, less what was counted before.
 * Less than asked for when not so many came.
 */
export function returnParts(sources: readonly ReturnSource[], quantity: Decimal, lotId: number | null, named: number | null = null): TakenOff[] {
  return takenOff(sources, quantity, lotId, named).map((part) => {
    const { seq, brought, returned } = sources.find(({ lineId }) => lineId === part.lineId) as ReturnSource;
    const value = shareOf(brought.amount, returned.quantity.plus(part.quantity), brought.quantity).minus(returned.amount);
    return { lineId: part.lineId, layerSeq: seq, quantity: part.quantity, value, calledOff: zero };
  });
}

/** The receipts as they stand once these parts have gone back. */
export const afterReturn = (sources: readonly ReturnSource[], parts: readonly TakenOff[]): ReturnSource[] =>
  sources.map((source) => {
    const part = parts.find(({ lineId }) => lineId === source.lineId);
    if (!part) return source;
    const { net, here, returned } = source;
    return {
      ...source,
      net: net.minus(part.quantity),
      here: greatest(zero, here.minus(part.quantity)),
      returned: { quantity: returned.quantity.plus(part.quantity), amount: returned.amount.plus(part.value) },
    };
  });

/** By how much more is expected of an order line again when `quantity` of it goes back; nothing of a line that is over. Base units. */
export function expectedAgain(line: { active: boolean; baseQuantity: Decimal; cancelled: Decimal; received: Decimal }, quantity: Decimal): Decimal {
  const outstanding = (received: Decimal) => greatest(zero, line.baseQuantity.minus(line.cancelled).minus(received));
  return line.active ? outstanding(line.received.minus(quantity)).minus(outstanding(line.received)) : zero;
}
