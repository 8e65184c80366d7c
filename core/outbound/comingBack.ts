import { least, nextShare, quantityText, sum, zero, type Decimal, type Had } from '../decimal';
import type { Day } from '../day';
import type { CameBack } from '../ledger/types';
import type { FieldError } from '../refusal';

/** How goods are that come back, and so where they go: back to a shelf, into quarantine, they are thrown away, or the customer sends them straight on to the supplier they came from. */
export const conditions = ['shelf', 'quarantine', 'scrap', 'supplier'] as const;
export type Condition = (typeof conditions)[number];
/** Whether goods in a condition go into a bin. */
export const needsBin = (condition: Condition): boolean => condition === 'shelf' || condition === 'quarantine';

/** What went out to a customer with one line of a movement, and what of it came back. */
export interface SentOut {
  lineId: number;
  salesLineId: number;
  lotId: number | null;
  /** What came straight from a supplier: the purchase line it was ordered on. */
  purchaseLineId: number | null;
  day: Day;
  /** Base units, and what they cost as they left, in company currency. */
  sent: Had;
  back: Had;
}

/** A line of goods that come back, as it is asked for. */
export interface ComingBack {
  salesLineId: number;
  lotId: number | null;
  /** It goes straight on to the supplier: only of what came straight from there. */
  straight: boolean;
  quantity: Decimal;
}

type Lot = Pick<ComingBack, 'salesLineId' | 'lotId' | 'straight'>;
const stillOut = ({ sent, back }: SentOut): Decimal => sent.quantity.minus(back.quantity);
const isOf = (one: SentOut, { salesLineId, lotId, straight }: Lot): boolean =>
  one.salesLineId === salesLineId && one.lotId === lotId && (!straight || one.purchaseLineId !== null);

/** How many of an order line, and of one lot or serial of it, the customer has; `straight`: of what came straight from a supplier. Base units. */
export const heldOf = (sent: readonly SentOut[], of: Lot): Decimal => sum(sent.filter((one) => isOf(one, of)).map(stillOut));

/**
 * What goods that come back went out with, the oldest first, each part at what it left for: the cumulative share of what its dispatch cost, less what came back of it before.
 * Less than asked for where the customer has not so many.
 */
function partsOf(sent: readonly SentOut[], of: ComingBack, returnId: number): CameBack[] {
  let left = of.quantity;
  return sent.flatMap((one) => {
    const quantity = isOf(one, of) ? least(left, stillOut(one)) : zero;
    left = left.minus(quantity);
    if (quantity.lte(zero)) return [];
    return [{ ofLineId: one.lineId, returnId, quantity, value: nextShare(one.sent.amount, one.sent.quantity, one.back, quantity) }];
  });
}

const afterParts = (sent: readonly SentOut[], parts: readonly CameBack[]): SentOut[] =>
  sent.map((one) => {
    const part = parts.find(({ ofLineId }) => ofLineId === one.lineId);
    return part ? { ...one, back: { quantity: one.back.quantity.plus(part.quantity), amount: one.back.amount.plus(part.value) } } : one;
  });

/** For each line what its goods went out with: those that go straight on to a supplier first, then one line after the other. What is asked has no `comingBackFaults`. */
export function comingBack(sent: readonly SentOut[], lines: readonly ComingBack[], returnId: number): CameBack[][] {
  let known = sent;
  const found = new Map<ComingBack, CameBack[]>();
  for (const line of [...lines.filter(({ straight }) => straight), ...lines.filter(({ straight }) => !straight)]) {
    const parts = partsOf(known, line, returnId);
    known = afterParts(known, parts);
    found.set(line, parts);
  }
  return lines.map((line) => found.get(line) ?? []);
}

/** A line of goods that come back, with what a sentence about it says. */
export interface AskedBack extends ComingBack {
  sku: string;
  /** Of its order, and the order line's place in it. */
  label: string;
  /** Whether customers may bring the item back at all. */
  returnable: boolean;
}

/** What is wrong with goods that come back on a day, by the field of their line: more than the customer has, an item that is not taken back, or a day before they went out. */
export function comingBackFaults(sent: readonly SentOut[], lines: readonly AskedBack[], cameOn: Day): FieldError[] {
  const asked = new Map<string, Decimal>();
  return lines.flatMap((line, index): FieldError[] => {
    const refuse = (sentence: string): FieldError[] => [{ field: `lines.${index}.quantity`, sentence }];
    const { sku, label, lotId, salesLineId } = line;
    if (!line.returnable) return refuse(`${sku} is not taken back: its own page says so.`);
    const add = (key: string): Decimal => {
      const all = (asked.get(key) ?? zero).plus(line.quantity);
      asked.set(key, all);
      return all;
    };
    const all = add(`${salesLineId}/${lotId ?? ''}`);
    const held = heldOf(sent, { ...line, straight: false });
    if (held.isZero()) return refuse(`Nothing of ${sku} on ${label} is with this customer.`);
    if (all.gt(held)) return refuse(`Only ${quantityText(held)} of ${sku} on ${label} are with this customer.`);
    if (line.straight && add(`${salesLineId}/${lotId ?? ''} straight`).gt(heldOf(sent, line)))
      return refuse(`${sku} on ${label} did not come straight from a supplier, or not so many. Take it into quarantine, and send it back from there.`);
    const first = sent.find((one) => isOf(one, line) && stillOut(one).gt(zero));
    return first && cameOn < first.day ? [{ field: 'cameOn', sentence: `${sku} on ${label} went out on ${first.day}; it cannot have come back before.` }] : [];
  });
}

/** What is wrong with where goods go that come back in a condition; null when nothing is. */
export function whereFault(condition: Condition, bin: { siteId: number; sellable: boolean } | null, siteId: number): string | null {
  if (!needsBin(condition)) return bin === null ? null : 'What is thrown away or goes straight on to the supplier goes into no bin.';
  if (bin === null) return 'Choose the bin it goes into.';
  if (bin.siteId !== siteId) return 'That bin is not at the site the goods came back to.';
  if (condition === 'shelf')
    return bin.sellable ? null : 'That bin is quarantine: nothing is sold from it. Choose a shelf, or say that the goods go into quarantine.';
  return bin.sellable ? 'Goods are sold from that bin. Choose a quarantine bin, or say that they go back to the shelf.' : null;
}
