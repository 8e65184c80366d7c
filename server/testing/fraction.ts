/** Exact fractions of whole numbers, and money in whole cents: for reckonings that are held against the product's own. Nothing of core is used. */

/** A fraction of whole numbers. */
export type Part = readonly [numerator: bigint, denominator: bigint];

export const plus = ([a, b]: Part, [c, d]: Part): Part => [a * d + c * b, b * d];
export const times = ([a, b]: Part, [c, d]: Part): Part => [a * c, b * d];
export const whole = (n: number): Part => [BigInt(n), 1n];
export const quotient = (n: number, d: number): Part => (d === 0 ? [0n, 1n] : [BigInt(n), BigInt(d)]);

/** To whole cents, half away from zero. */
export function cents([numerator, denominator]: Part): number {
  const [n, d] = denominator < 0n ? [-numerator, -denominator] : [numerator, denominator];
  const size = n < 0n ? -n : n;
  const rounded = (2n * size + d) / (2n * d);
  return Number(n < 0n ? -rounded : rounded);
}

/** So many cents over weights: whole cents, largest remainders first, ties to the earlier. */
export function spread(amount: number, weights: readonly Part[]): number[] {
  const total = weights.reduce(plus, [0n, 1n] as Part);
  if (total[0] === 0n) return weights.map(() => 0);
  const exact = weights.map((weight) => times(times(whole(Math.abs(amount)), weight), [total[1], total[0]]));
  const floors = exact.map(([n, d]) => n / d);
  const left = BigInt(Math.abs(amount)) - floors.reduce((sum, one) => sum + one, 0n);
  const order = exact
    .map(([n, d], at) => ({ at, rest: [n - (floors[at] as bigint) * d, d] as Part }))
    .sort((a, b) => {
      const more = b.rest[0] * a.rest[1] - a.rest[0] * b.rest[1];
      return more === 0n ? a.at - b.at : more > 0n ? 1 : -1;
    });
  const raised = new Set(order.slice(0, Number(left)).map(({ at }) => at));
  return floors.map((floor, at) => Math.sign(amount) * (Number(floor) + Number(raised.has(at))) + 0);
}

/** A rate such as 0.85 as a fraction. */
export const rateOf = (text: string): Part => {
  const [before = '0', after = ''] = text.split('.');
  return [BigInt(before + after), 10n ** BigInt(after.length)];
};
/** What quantities at prices in tenths of a cent come to, in cents. */
export const amountOf = (parts: readonly { quantity: number; price: number }[]): number =>
  cents(
    quotient(
      parts.reduce((sum, one) => sum + one.quantity * one.price, 0),
      10,
    ),
  );
/** An amount at a rate, in company cents. */
export const companyOf = (amount: number, rate: Part): number => cents(times(whole(amount), rate));
