import { money } from '../decimal';
import type { CostMethod } from './method';

/** Moving average: what leaves takes its part of the whole value, rounded half away from zero to the cent. */
export const average: CostMethod = {
  take: (pool, quantity) => (quantity.gte(pool.quantity) ? pool.value : money(pool.value.times(quantity).div(pool.quantity))),
  unitCost: (pool) => (pool.quantity.isZero() ? null : pool.value.div(pool.quantity)),
};
