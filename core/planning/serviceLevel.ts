import { jStat } from 'jstat';
import type { ItemClass } from '../stock/counting';

/** Of how many of a hundred times that an item of a class is wanted it should be there at once, in per cent. */
export type ServiceLevels = Record<ItemClass, number>;

/** The normal quantile of a service level in per cent: 95 gives 1.645, 50 gives 0. Nothing is held for less than half. */
export const quantileOf = (percent: number): number => Math.max(0, jStat.normal.inv(percent / 100, 0, 1));
