import { spread, sum, zero, type Decimal } from '../decimal';
import type { Valuation } from './types';

/**
 * How value comes with each lot of goods that come in together: what is stated is spread over them by quantity, to the cent; of a part of something each takes its part, and they add up to it exactly.
 * What stands by itself, as current cost, is the same for each.
 */
export function overLots(valuation: Valuation, quantities: readonly Decimal[]): Valuation[] {
  if (valuation.by === 'stated') return spread(valuation.value, quantities).map((value) => ({ by: 'stated', value }));
  if (valuation.by !== 'work' && valuation.by !== 'inputs') return quantities.map(() => valuation);
  const { part, whole, by } = valuation;
  const all = sum(quantities);
  let [reached, given] = [zero, zero];
  return quantities.map((quantity) => {
    // Each takes what is due up to here less what those before it took.
    reached = reached.plus(quantity);
    const due = part.times(reached).div(all);
    const own = due.minus(given);
    given = due;
    return { by, part: own, whole };
  });
}
