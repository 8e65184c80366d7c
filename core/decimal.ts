import DecimalJs from 'decimal.js';

/** Exact decimals for quantities, prices and money. Rounds half away from zero. */
export const Decimal = DecimalJs.clone({ precision: 120, rounding: DecimalJs.ROUND_HALF_UP, toExpNeg: -30, toExpPos: 40 });
export type Decimal = DecimalJs;

export const zero = new Decimal(0);
const quantityLimit = new Decimal('1e9');
/** No line of a document comes to as much, in company currency or its own. */
export const moneyLimit = new Decimal('1e12');

export const decimal = (value: DecimalJs.Value): Decimal => new Decimal(value);
export const sum = (values: readonly Decimal[]): Decimal => values.reduce((total, value) => total.plus(value), zero);
export const least = (a: Decimal, b: Decimal): Decimal => (a.lte(b) ? a : b);
export const greatest = (a: Decimal, b: Decimal): Decimal => (a.gte(b) ? a : b);

/** Whole minor units of a currency, half away from zero; `places` are its decimals, two for the company's. */
export const money = (value: DecimalJs.Value, places = 2): Decimal => new Decimal(value).toDecimalPlaces(places);

/** Money as the wire and the database write it: two decimals. */
export const moneyText = (value: Decimal): string => value.toFixed(2);

/** A price with two decimals, or with as many as it has beyond. */
export const priceText = (value: DecimalJs.Value): string => new Decimal(value).toFixed(Math.max(2, new Decimal(value).decimalPlaces()));
/** A quantity without superfluous zeros: "12", "0.25". */
export const quantityText = (value: DecimalJs.Value): string => new Decimal(value).toDecimalPlaces(4).toFixed();

export type QuantityFault = 'not-a-number' | 'not-positive' | 'too-large' | 'too-fine';

const faultSentences: Record<QuantityFault, (step: string) => string> = {
  'not-a-number': () => 'Give the quantity as a number, such as 12 or 0.5.',
  'not-positive': () => 'The quantity must be more than zero.',
  'too-large': () => 'The quantity must be below 1,000,000,000.',
  'too-fine': (step) => `This item is kept in steps of ${step}; the quantity is divided too finely.`,
};

/**
 * What is wrong with a quantity typed or sent as text, or null when it is a positive multiple of `step` below 10^9.
 * With `allowZero`, zero is a quantity too ("there are now 0").
 */
export function quantityFault(text: string, step: DecimalJs.Value, allowZero = false): QuantityFault | null {
  if (!/^[+-]?\d{1,20}(\.\d{1,20})?$/.test(text.trim())) return 'not-a-number';
  const value = new Decimal(text.trim());
  if (value.lt(0) || (value.isZero() && !allowZero)) return 'not-positive';
  if (value.gte(quantityLimit)) return 'too-large';
  return value.mod(step).isZero() ? null : 'too-fine';
}

/** The sentence for a fault of `quantityFault`; `step` is the unit's. */
export const quantityFaultSentence = (fault: QuantityFault, step: string): string => faultSentences[fault](quantityText(step));

/**
 * Spreads `amount` over `weights` so that the parts add up to it exactly.
 * Parts are whole minor units of a currency with two decimals; what rounding leaves goes to the largest remainders, ties to the earlier line.
 * All weights zero: spreads evenly. Throws RangeError on a negative weight or when there is nothing to spread over.
 */
export function spread(amount: Decimal, weights: readonly Decimal[]): Decimal[] {
  if (weights.length === 0) throw new RangeError('There are no lines to spread the amount over.');
  if (weights.some((weight) => weight.lt(0))) throw new RangeError('A weight cannot be negative.');
  const total = sum(weights);
  const used = total.isZero() ? weights.map(() => new Decimal(1)) : weights;
  const whole = sum(used);
  const cents = amount.abs().times(100).toDecimalPlaces(0);
  const exact = used.map((weight) => cents.times(weight));
  const floors = exact.map((part) => part.divToInt(whole));
  const left = cents.minus(sum(floors)).toNumber();
  const byRemainder = exact
    .map((part, index) => ({ index, remainder: part.minus(whole.times(floors[index] as Decimal)) }))
    .sort((a, b) => b.remainder.comparedTo(a.remainder) || a.index - b.index);
  const raised = new Set(byRemainder.slice(0, left).map(({ index }) => index));
  const sign = amount.lt(0) ? -1 : 1;
  return floors.map((part, index) =>
    part
      .plus(raised.has(index) ? 1 : 0)
      .div(100)
      .times(sign),
  );
}

/** `part` of `whole` of an amount, in whole minor units: multiplied first and divided once, so that half a cent is seen as such. Of nothing it is nothing. */
export const shareOf = (amount: Decimal, part: Decimal, whole: Decimal, places = 2): Decimal =>
  whole.isZero() ? zero : money(amount.times(part).div(whole), places);

/** What a document line has had so far: the quantity, and what was posted for it. */
export interface Had {
  quantity: Decimal;
  amount: Decimal;
}

/**
 * What the next `quantity` of a line comes to, whose whole of `whole` comes to `amount`: the share of all that it has had with it, less what was posted before.
 * So the parts add up to the amount whatever was undone in between: what an undo turned round is not in `had`, neither its quantity nor its amount.
 */
export const nextShare = (amount: Decimal, whole: Decimal, had: Had, quantity: Decimal, places = 2): Decimal =>
  shareOf(amount, had.quantity.plus(quantity), whole, places).minus(had.amount);
