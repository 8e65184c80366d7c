import { decimal, greatest, least, nextShare, shareOf, sum, zero, type Decimal, type Had } from '../decimal';

/** What went out for an order line with one line of a movement: how many base units, how many of them came back, and how many invoices cover that stand. */
export interface Gone {
  movementLineId: number;
  salesLineId: number;
  quantity: Decimal;
  back: Decimal;
  covered: Decimal;
}
/** The same, and how many base units of it are to be invoiced. */
export type Open<G extends Gone> = G & { open: Decimal };

/**
 * How many base units of what went out and did not come back are on no invoice yet. What came back of one dispatch and is invoiced stands against what another dispatch
 * of the same order line has open, from the last on: only the rest is invoiced.
 */
export function openOf<G extends Gone>(gone: readonly G[]): Open<G>[] {
  const rest = (one: G) => one.quantity.minus(one.back).minus(one.covered);
  const over = new Map<number, Decimal>();
  for (const one of gone) if (rest(one).lt(zero)) over.set(one.salesLineId, (over.get(one.salesLineId) ?? zero).minus(rest(one)));
  return [...gone]
    .reverse()
    .map((one): Open<G> => {
      const left = over.get(one.salesLineId) ?? zero;
      const against = least(left, greatest(zero, rest(one)));
      over.set(one.salesLineId, left.minus(against));
      return { ...one, open: greatest(zero, rest(one)).minus(against) };
    })
    .reverse();
}

interface OpenPart {
  salesLineId: number;
  quantity: Decimal;
  covers: { movementLineId: number; quantity: Decimal }[];
}

/** What is to be invoiced by sales line, in the order of what went out; lines of which nothing is open are left out. */
export function openParts(gone: readonly Open<Gone>[]): OpenPart[] {
  const lines = new Map<number, OpenPart['covers']>();
  for (const { movementLineId, salesLineId, open } of gone)
    if (open.gt(zero)) lines.set(salesLineId, [...(lines.get(salesLineId) ?? []), { movementLineId, quantity: open }]);
  return [...lines].map(([salesLineId, covers]) => ({ salesLineId, quantity: sum(covers.map(({ quantity }) => quantity)), covers }));
}

/** The first of these that come to so many. */
function firstOf<C extends { quantity: Decimal }>(covers: readonly C[], quantity: Decimal): C[] {
  let left = quantity;
  return covers.flatMap((cover) => {
    const taken = least(left, cover.quantity);
    left = left.minus(taken);
    return taken.gt(zero) ? [{ ...cover, quantity: taken }] : [];
  });
}

/**
 * What an invoice asks for `quantity` more of an order line, whose whole of `baseQuantity` comes to `amount`, in whole minor units of a currency with so many `places`.
 * Cumulative over all invoices and credit notes by quantity, so that a line invoiced whole comes to its amount.
 */
export const invoicedAmount = (line: { amount: Decimal; baseQuantity: Decimal }, had: Had, quantity: Decimal, places = 2): Decimal =>
  nextShare(line.amount, line.baseQuantity, had, quantity, places);

/** Tax of a document at one rate (per cent): on how much, and how much, in its currency; and how much in company currency. */
export interface TaxAtRate {
  rate: string;
  base: Decimal;
  tax: Decimal;
  company: Decimal;
}

/** Tax of an invoice: the lines' amounts are added up for each rate and rounded once; in company currency at the invoice's exchange rate, rounded once more. */
export function taxesOf(lines: readonly { amount: Decimal; rate: Decimal }[], exchange: Decimal, places = 2): TaxAtRate[] {
  const bases = new Map<string, Decimal>();
  for (const { amount, rate } of lines) bases.set(rate.toFixed(), (bases.get(rate.toFixed()) ?? zero).plus(amount));
  return [...bases].map(([rate, base]) => {
    const tax = shareOf(base, decimal(rate), hundred, places);
    return { rate, base, tax, company: shareOf(tax, exchange, one) };
  });
}
const hundred = decimal(100);
const one = decimal(1);

/** A line of an invoice, and what credit notes took off it: by quantity, as an allowance on the price, and both in company currency. */
export interface CreditedLine {
  /** Null for what has no quantity, a charge. */
  quantity: Decimal | null;
  amount: Decimal;
  company: Decimal;
  credited: { quantity: Decimal; byQuantity: Decimal; allowed: Decimal; company: Decimal };
}

/** How much of a line's amount can still be credited. */
export const creditable = ({ amount, credited }: CreditedLine): Decimal => amount.minus(credited.byQuantity).minus(credited.allowed);

/**
 * What a credit note takes off a line of an invoice, in the invoice's currency and in the company's: for so many base units the cumulative share of what the line came to
 * less allowances, or an amount as it was said. A line that is credited whole comes to nothing in both.
 */
export function creditOf(line: CreditedLine, asked: { quantity: Decimal } | { amount: Decimal }, places = 2): { amount: Decimal; company: Decimal } {
  const { credited } = line;
  const amount =
    'amount' in asked
      ? asked.amount
      : nextShare(
          line.amount.minus(credited.allowed),
          line.quantity ?? zero,
          { quantity: credited.quantity, amount: credited.byQuantity },
          asked.quantity,
          places,
        );
  const before = { quantity: credited.byQuantity.plus(credited.allowed), amount: credited.company };
  return { amount, company: nextShare(line.company, line.amount, before, amount) };
}

/** Tax that a credit note takes off an invoice: for each rate the cumulative share of the invoice's, so that what is credited whole is credited with all its tax. */
export function creditedTaxes(
  taxes: readonly TaxAtRate[],
  before: readonly TaxAtRate[],
  lines: readonly { amount: Decimal; rate: Decimal }[],
  places = 2,
): TaxAtRate[] {
  return taxes.flatMap(({ rate, base: whole, tax, company }) => {
    const base = sum(lines.filter((line) => line.rate.eq(rate)).map(({ amount }) => amount));
    if (base.isZero()) return [];
    const had = before.filter((row) => row.rate === rate);
    const quantity = sum(had.map((row) => row.base));
    return [
      {
        rate,
        base,
        tax: nextShare(tax, whole, { quantity, amount: sum(had.map((row) => row.tax)) }, base, places),
        company: nextShare(company, whole, { quantity, amount: sum(had.map((row) => row.company)) }, base),
      },
    ];
  });
}

/** Which of the covers of an invoice's line a credit for so many takes off: what went out last first. */
export const uncovered = <C extends { quantity: Decimal }>(covers: readonly C[], quantity: Decimal): C[] => firstOf([...covers].reverse(), quantity);

/** Which lines of invoices are credited for so many of an order line that came back: what was invoiced last first, as far as it is not credited. */
export const creditParts = <C extends { quantity: Decimal }>(invoiced: readonly C[], back: Decimal): C[] => firstOf([...invoiced].reverse(), back);

/** How many base units of an order line are invoiced beyond what the customer has kept. */
export const overInvoiced = ({ dispatched, returned, invoiced }: { dispatched: Decimal; returned: Decimal; invoiced: Decimal }): Decimal =>
  greatest(zero, invoiced.minus(dispatched.minus(returned)));
