import { greatest, least, zero, type Decimal } from '../decimal';

/** A receipt of an order line, oldest first, as bills and returns see it. Quantities in base units. */
export interface ReceiptStand {
  lineId: number;
  lotId: number | null;
  /** What it brought, net of what went back of it. */
  net: Decimal;
  /** Of that, still here. */
  here: Decimal;
  /** What standing bills have covered of it. */
  covered: Decimal;
}

export interface Part {
  lineId: number;
  quantity: Decimal;
}

/** Takes `quantity` from places that each hold so many, one after the other; what none of them holds is left out. */
function takeInTurn(holds: readonly Part[], quantity: Decimal): Part[] {
  let open = quantity;
  return holds.flatMap(({ lineId, quantity: most }) => {
    const takes = least(open, most);
    if (takes.lte(zero)) return [];
    open = open.minus(takes);
    return [{ lineId, quantity: takes }];
  });
}

/** Which receipts a bill for `quantity` covers: it goes on where earlier bills ended. What has not come, or has gone back, is covered by none. */
export const coveredBy = (receipts: readonly ReceiptStand[], quantity: Decimal): Part[] =>
  takeInTurn(
    receipts.map(({ lineId, net, covered }) => ({ lineId, quantity: greatest(zero, net.minus(covered)) })),
    quantity,
  );

/**
 * Which receipts goods that go back are taken off: the one that is named, else those that brought the lot, else the oldest of which some are still here.
 * What is not here by the way cost is kept (it was sold under moving average, or its layer is used up) comes off the oldest that brought any.
 */
export function takenOff(receipts: readonly ReceiptStand[], quantity: Decimal, lotId: number | null, named: number | null = null): Part[] {
  const fit = receipts.filter((one) => (named === null || one.lineId === named) && (lotId === null || one.lotId === lotId));
  const here = takeInTurn(
    fit.map(({ lineId, net, here: left }) => ({ lineId, quantity: least(net, left) })),
    quantity,
  );
  const of = (lineId: number) => here.find((part) => part.lineId === lineId)?.quantity ?? zero;
  const open = here.reduce((left, part) => left.minus(part.quantity), quantity);
  const beyond = takeInTurn(
    fit.map(({ lineId, net }) => ({ lineId, quantity: net.minus(of(lineId)) })),
    open,
  );
  return fit.flatMap(({ lineId }) => {
    const taken = of(lineId).plus(beyond.find((part) => part.lineId === lineId)?.quantity ?? zero);
    return taken.isZero() ? [] : [{ lineId, quantity: taken }];
  });
}
