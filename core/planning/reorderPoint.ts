/** Demand and lead time, both per day, as average and standard deviation. */
export interface DemandPattern {
  demand: number;
  demandSpread: number;
  leadTime: number;
  leadTimeSpread: number;
  /** Normal quantile of the service level, such as 1.645 for 95%. */
  z: number;
}

/** d·L + z·sqrt(L·σd² + d²·σL²), the textbook reorder point with variable demand and lead time. A statistical estimate, not an exact quantity. */
export const suggestedPoint = (p: DemandPattern): number =>
  p.demand * p.leadTime + p.z * Math.sqrt(p.leadTime * p.demandSpread ** 2 + p.demand ** 2 * p.leadTimeSpread ** 2);

/**
 * How many to order at once so that ordering and holding cost least in all, the square root of 2DK/h (Harris 1913, reprinted in Operations Research 38
 * (1990) 947–950): `perYear` are used in a year, an order costs `order`, and one held for a year `holding`. Null where holding costs nothing or nothing
 * is used.
 */
export const economicQuantity = ({ perYear, order, holding }: { perYear: number; order: number; holding: number }): number | null =>
  holding > 0 && perYear > 0 ? Math.sqrt((2 * perYear * order) / holding) : null;

/** Days that `free` lasts at `perDay` (sold in a period, divided by its days); null when nothing is used. */
export const daysOfCover = (free: number, perDay: number): number | null => (perDay > 0 ? free / perDay : null);
