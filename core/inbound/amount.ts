import { decimal, money, nextShare, shareOf, sum, type Decimal, type Had } from '../decimal';

/** Quantity, unit factor and price as entered on a document line. */
export interface PricedLine {
  quantity: Decimal;
  price: Decimal;
  /** The price is for this many, usually 1. */
  pricePer: Decimal;
  /** Discount in per cent. */
  discount: Decimal;
}

/** A line as it is written in text, whose discount may be another than its own. */
export const pricedLine = (line: Record<'quantity' | 'price' | 'pricePer' | 'discount', string>, discount = decimal(line.discount)): PricedLine => ({
  quantity: decimal(line.quantity),
  price: decimal(line.price),
  pricePer: decimal(line.pricePer),
  discount,
});

/** round(quantity × price / per, less discount), in whole minor units of the document's currency, which has so many `places`. */
export const lineAmount = (line: PricedLine, places = 2): Decimal =>
  money(line.quantity.times(line.price).times(line.discount.neg().plus(100)).div(line.pricePer.times(100)), places);

/** An order line as what comes for it sees it: its amount in the order's currency, the whole of its quantity (base units), and the rate. */
export interface CostedLine {
  amount: Decimal;
  baseQuantity: Decimal;
  rate: Decimal;
}

/** What a whole line comes to in company currency, whole cents. */
export const companyAmount = ({ amount, rate }: CostedLine): Decimal => money(amount.times(rate));

/**
 * Purchase cost, in company currency, of receiving `quantity` more of a line that had so many before (base units, net of what was undone or went back).
 * Cumulative, so that the receipts of a line add up to its amount; what is over the ordered quantity goes on at the same price.
 */
export const receiptValue = (line: CostedLine, had: Had, quantity: Decimal): Decimal => nextShare(companyAmount(line), line.baseQuantity, had, quantity);

/**
 * What a bill for `quantity` more (below zero: a credit for so many sent back) clears of what was received on a line, in company currency.
 * Once as much is billed as was received it clears all that is left, so that nothing stays open; else the cumulative share of the line.
 */
export const clearedBy = (line: CostedLine, received: Had, billed: Had, quantity: Decimal): Decimal =>
  billed.quantity.plus(quantity).eq(received.quantity)
    ? received.amount.minus(billed.amount)
    : nextShare(companyAmount(line), line.baseQuantity, billed, quantity);

/** Goods billed at a price: so many base units, of which `per` cost `price` for each `factor` (base units in the unit ordered). */
export interface BilledPart {
  quantity: Decimal;
  price: Decimal;
  /** What the bill counted for it, in its own currency. */
  amount: Decimal;
}

/**
 * What a bill counts for `quantity` at `price`, in its own currency with so many `places`: what all bills of the line in that currency come to, rounded once, less what they counted before.
 * One of the unit ordered is `perUnit` base units, and the price is for `pricePer` of that unit.
 */
export function billedAmount(
  before: readonly BilledPart[],
  quantity: Decimal,
  price: Decimal,
  perUnit: { numerator: Decimal; denominator: Decimal },
  places: number,
): Decimal {
  const exact = sum([...before.map((part) => part.quantity.times(part.price)), quantity.times(price)]);
  return shareOf(exact, perUnit.numerator, perUnit.denominator, places).minus(sum(before.map(({ amount }) => amount)));
}

/** An amount of a bill in company currency, at its rate, so that all parts of the line together are rounded once: `before` are those counted already. */
export const inCompany = (before: readonly { amount: Decimal; rate: Decimal; company: Decimal }[], amount: Decimal, rate: Decimal): Decimal =>
  money(sum([...before.map((part) => part.amount.times(part.rate)), amount.times(rate)])).minus(sum(before.map(({ company }) => company)));
