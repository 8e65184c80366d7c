import type { Decimal } from '../decimal';
import { average } from './average';

/** What an item's owned stock holds and is worth. `value` is in whole cents of company currency. */
export interface Pool {
  quantity: Decimal;
  value: Decimal;
}

/** How value leaves a pool. One implementation for each cost method an item can be given before its first movement. */
export interface CostMethod {
  /** Value, in whole cents, that `quantity` takes with it. The last unit takes what is left. */
  take(pool: Pool, quantity: Decimal): Decimal;
  /** What one unit is worth now, or null when the pool is empty. */
  unitCost(pool: Pool): Decimal | null;
}

export type CostMethodName = 'average';

export const costMethods: Record<CostMethodName, CostMethod> = { average };
