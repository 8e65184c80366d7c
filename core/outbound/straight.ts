import { decimal, greatest, least, quantityText, sum, zero, type Decimal } from '../decimal';

/** How a sales line stands towards what comes straight from suppliers; all in base units. */
export interface StraightState {
  /** Sold, less what was cancelled. */
  base: string;
  /** Off the shelf or sent straight. */
  picked: string;
  /** Decided to come straight: sent, on order and still to be ordered. */
  direct: string;
  /** Sent straight; it counts among what is picked. */
  sent: string;
  /** Suppliers were ordered to send so many more. */
  onOrder: string;
}

/** So many of a line its site and its suppliers are still to send: all but what was picked from the shelf. */
export const beyondPicked = ({ base, picked, sent }: Pick<StraightState, 'base' | 'picked' | 'sent'>): Decimal =>
  decimal(base).minus(decimal(picked).minus(sent));

/** So many its site is to send beyond what was picked, when `direct` come straight. */
export const wantedOfSite = (line: Pick<StraightState, 'base' | 'picked' | 'sent'>, direct: Decimal): Decimal => beyondPicked(line).minus(direct);

/** So many a supplier may still be ordered to send: neither picked nor sent nor on order. */
export const openStraight = ({ base, picked, onOrder }: Pick<StraightState, 'base' | 'picked' | 'onOrder'>): Decimal =>
  decimal(base).minus(picked).minus(onOrder);

/** So many were decided to come straight and are not ordered yet. */
export const toOrderStraight = ({ direct, sent, onOrder }: Pick<StraightState, 'direct' | 'sent' | 'onOrder'>): Decimal =>
  greatest(decimal(direct).minus(sent).minus(onOrder), zero);

/** What comes straight in all once `quantity` are to, beside those that were sent or are on order. */
export const directDecided = ({ sent, onOrder }: StraightState, quantity: Decimal): Decimal => decimal(sent).plus(onOrder).plus(quantity);

/** What comes straight in all once `quantity` were ordered: what was decided already is ordered first, what goes beyond it is decided with it. */
export const directOrdered = (line: StraightState, quantity: Decimal): Decimal => greatest(decimal(line.direct), directDecided(line, quantity));

/** What comes straight in all once `quantity` of what was on order were called off: its site is to send those again. */
export const directCalledOff = ({ direct }: StraightState, quantity: Decimal): Decimal => decimal(direct).minus(quantity);

/** What comes straight of a line that becomes another quantity: as much as before, as far as that many are still to be sent. */
export const directKept = (line: Pick<StraightState, 'base' | 'picked' | 'sent' | 'direct'>): Decimal => least(decimal(line.direct), beyondPicked(line));

/** What is asked of lines of which less is open than that, each asking seeing what those before it left: where it stands among what is asked, and what was open. */
export function beyondOpen(
  asked: readonly { lineId: number; quantity: string }[],
  openOf: (lineId: number) => Decimal | undefined,
): { index: number; open: Decimal }[] {
  return asked.flatMap(({ lineId, quantity }, index) => {
    const all = openOf(lineId);
    if (!all) return [];
    const before = sum(
      asked
        .slice(0, index)
        .filter((one) => one.lineId === lineId)
        .map((one) => decimal(one.quantity)),
    );
    const open = greatest(all.minus(before), zero);
    return decimal(quantity).gt(open) ? [{ index, open }] : [];
  });
}

/** What is asked in the order it is asked, put together by what must be one purchase order: of one supplier, for one customer at one address, for one site. */
export function bySupplierAndAddress<A extends { supplierId: number }, L extends { siteId: number; customerId: number; shipTo: string }>(
  rows: readonly { asked: A; line: L }[],
): { asked: A; line: L }[][] {
  const groups = new Map<string, { asked: A; line: L }[]>();
  for (const row of rows) {
    const key = JSON.stringify([row.asked.supplierId, row.line.siteId, row.line.customerId, row.line.shipTo]);
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return [...groups.values()];
}

/** "Only 3 of VASE are neither picked …", as the sentence for what asks more. */
export const notOpenSentence = (open: Decimal, sku: string, number: string): string =>
  `Only ${quantityText(open)} of ${sku} for ${number} were neither picked nor ordered straight from a supplier.`;
