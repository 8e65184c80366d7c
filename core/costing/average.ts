import { shareOf, type Decimal } from '../decimal';
import type { CostMethod, Pool } from './method';

/** What part of a pool leaves with `quantity`, rounded half away from zero to the cent; the last unit takes what is left. */
export const partOf = (pool: Pool, quantity: Decimal): Decimal => (quantity.gte(pool.quantity) ? pool.value : shareOf(pool.value, quantity, pool.quantity));

/** Moving average: what leaves takes its part of the whole value. */
export const average: CostMethod = {
  keepsLayers: false,
  take: ({ pool }, { quantity }) => ({ value: partOf(pool, quantity), moves: [] }),
  worthOf: ({ pool }, quantity) => (pool.quantity.isZero() ? null : shareOf(pool.value, quantity, pool.quantity)),
};
