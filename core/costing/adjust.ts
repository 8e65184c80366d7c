import { greatest, least, money, shareOf, spread, sum, zero, type Decimal } from '../decimal';
import type { Pool } from './method';

/** A receipt line as cost that comes later falls on it. Quantities in base units. */
export interface Bearer {
  itemId: number;
  /** The receipt's movement line. */
  lineId: number;
  /** Which pool holds it: the item's, or one layer of it. */
  poolKey: string;
  /** What it brought, net of what went back. */
  net: Decimal;
  /** How many of that are still here. */
  here: Decimal;
}

/** Part of a cost on one receipt line, in whole cents of company currency; the three add up to `amount`. */
export interface PlannedCost {
  itemId: number;
  lineId: number;
  poolKey: string;
  /** Negative takes cost off. */
  amount: Decimal;
  /** Goes to the item's stock. */
  toStock: Decimal;
  /** For goods that have left already. */
  toGone: Decimal;
  /** What would have taken the pool below zero: goes to cost variance. Usually zero. */
  variance: Decimal;
}

/** A quantity kept as `weight` (amounts × quantities) over `amount`, so that nothing is divided before it must be. */
export interface FellOn {
  weight: Decimal;
  amount: Decimal;
}

/** What a cost would move of a pool. */
interface Wanted {
  bearer: Pick<Bearer, 'itemId' | 'lineId' | 'poolKey'>;
  amount: Decimal;
  wanted: Decimal;
}

/** No pool is taken below 0.00 and an empty one takes nothing. The pools are those before; parts of one pool follow one another. */
function clamped(parts: readonly Wanted[], pools: ReadonlyMap<string, Pool>): PlannedCost[] {
  const worth = new Map<string, Decimal>();
  return parts.map(({ bearer: { itemId, lineId, poolKey }, amount, wanted }) => {
    const pool = pools.get(poolKey);
    if (!pool) throw new Error('the pool was not read');
    const value = worth.get(poolKey) ?? pool.value;
    const borne = pool.quantity.isZero() ? zero : wanted;
    const toStock = value.plus(borne).lt(zero) ? value.neg() : borne;
    worth.set(poolKey, value.plus(toStock));
    return { itemId, lineId, poolKey, amount, toStock, toGone: amount.minus(borne), variance: borne.minus(toStock) };
  });
}

/** A price difference on what was billed of one order line: so many of each receipt. */
export interface Difference {
  amount: Decimal;
  /** How many it is for; what of it covers no receipt, because those have gone back, bears its part elsewhere. */
  quantity: Decimal;
  /** What is billed of each receipt, none of them zero. */
  covers: readonly { bearer: Bearer; quantity: Decimal }[];
}

/**
 * A price difference over the receipts it falls on: to stock goes amount × Σ (covered × here / net) / quantity, rounded once for the order line, and the rest of
 * what is covered is for goods that have gone.
 * What falls on no receipt is no part of the result.
 */
export function planDifferences(differences: readonly Difference[], pools: ReadonlyMap<string, Pool>): PlannedCost[][] {
  const parts = differences.map(wantedOf);
  const planned = clamped(parts.flat(), pools);
  let from = 0;
  return parts.map(({ length }) => planned.slice(from, (from += length)));
}

function wantedOf({ amount, quantity: whole, covers }: Difference): Wanted[] {
  if (covers.length === 0 || amount.isZero()) return [];
  const quantities = covers.map(({ quantity }) => quantity);
  const wholes = spread(shareOf(amount, sum(quantities), whole), quantities);
  // Over the common denominator of the receipts that are not covered whole; the others' shares are whole quantities.
  const partly = covers.filter(({ bearer, quantity }) => !quantity.eq(bearer.net));
  const denominator = partly.reduce((product, { bearer }) => product.times(bearer.net), money(1));
  const shares = covers.map(({ bearer, quantity }) =>
    quantity.eq(bearer.net) ? bearer.here.times(denominator) : quantity.times(bearer.here).times(denominator).div(bearer.net),
  );
  const inStock = shareOf(amount, sum(shares), whole.times(denominator));
  const wanted = shares.every((share) => share.isZero()) ? shares.map(() => zero) : spread(inStock, shares);
  return covers.map(({ bearer }, index) => ({
    bearer,
    amount: wholes[index] ?? zero,
    wanted: wanted[index] ?? zero,
  }));
}

/** What a charge comes to on one receipt line, and how it was posted so far. */
export interface Charged {
  /** What has been posted for it, in whole cents. */
  amount: Decimal;
  /** What the line brought, net, when the charge was put on it: what it is a share of. */
  of: Decimal;
  /** How many were still here, the fewest there ever were. */
  here: Decimal;
  /** Σ of each amount posted × how many were here then. */
  weight: Decimal;
  /** What has gone to stock. */
  toStock: Decimal;
}

/** A charge on a receipt line before it is posted. */
export const notCharged = (of: Decimal): Charged => ({ amount: zero, of, here: of, weight: zero, toStock: zero });

export interface ChargePart {
  bearer: Bearer;
  before: Charged;
  /** What the charge is to come to on the line. */
  amount: Decimal;
}

export interface PlannedCharge extends PlannedCost {
  after: Charged;
}

/**
 * Posts what a charge comes to now, less what was posted before: the share of goods still here goes to stock, the rest is for goods that have left.
 * No later share exceeds an earlier one, and what goes to stock is cumulative, so that changing an estimate ends where putting it in at once would.
 */
export function planCharges(parts: readonly ChargePart[], pools: ReadonlyMap<string, Pool>): PlannedCharge[] {
  const drafts = parts.map(({ bearer, before, amount }) => {
    const change = amount.minus(before.amount);
    const here = least(before.here, bearer.here);
    const weight = before.weight.plus(change.times(here));
    const wanted = shareOf(weight, money(1), before.of).minus(shareOf(before.weight, money(1), before.of));
    return { wanted: { bearer, amount: change, wanted }, after: { amount, of: before.of, here, weight, toStock: before.toStock } };
  });
  const planned = clamped(
    drafts.map(({ wanted }) => wanted),
    pools,
  );
  return planned.map((cost, index) => {
    const { after } = drafts[index] as (typeof drafts)[number];
    return { ...cost, after: { ...after, toStock: after.toStock.plus(cost.toStock) } };
  });
}

/** A cost as it was posted on a receipt line, to be turned round. */
export interface PostedCost {
  bearer: Pick<Bearer, 'itemId' | 'lineId' | 'poolKey' | 'here'>;
  amount: Decimal;
  toStock: Decimal;
  /** What the pool could not bear then. */
  variance: Decimal;
  fellOn: FellOn;
}

/** What turning a cost round does. `toStock` + `toGone` + `variance` turn round what it had put into stock; everything else of it is turned round as it was posted. */
export interface UndoneCost extends Pick<PlannedCost, 'itemId' | 'lineId' | 'poolKey' | 'toStock'> {
  posted: Pick<PostedCost, 'amount' | 'toStock' | 'variance'>;
  /** What has left with goods since, and stays with them. */
  toGone: Decimal;
  /** What the pool cannot give back. */
  variance: Decimal;
}

/**
 * Turns round what was posted: all of it while the goods it fell on are here; what has left with goods since stays with them.
 * What comes off stock is posted × here now / here then, of which no more than then are counted.
 */
export function planUndone(costs: readonly PostedCost[], pools: ReadonlyMap<string, Pool>): UndoneCost[] {
  const planned = clamped(
    costs.map(({ bearer, toStock, fellOn: { weight, amount } }) => {
      const left = greatest(zero, least(weight, bearer.here.times(amount)));
      return { bearer, amount: toStock.neg(), wanted: shareOf(toStock, left, weight).neg() };
    }),
    pools,
  );
  return planned.map(({ itemId, lineId, poolKey, toStock, toGone, variance }, index) => {
    const { amount, toStock: put, variance: unborne } = costs[index] as PostedCost;
    return { itemId, lineId, poolKey, toStock, toGone, variance, posted: { amount, toStock: put, variance: unborne } };
  });
}

/** A charge on a receipt line as it was posted, for taking it off again. */
export const postedCharge = (bearer: Bearer, { amount, of, here, weight, toStock }: Charged): PostedCost => ({
  bearer: { ...bearer, here: least(here, bearer.here) },
  amount,
  toStock,
  variance: shareOf(weight, money(1), of).minus(toStock),
  fellOn: { weight, amount },
});
