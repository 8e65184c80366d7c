import { NavWays } from '../kit/NavWays';

const ways = [
  ['/stock', 'Stock'],
  ['/stock/transfers', 'Transfers'],
  ['/stock/trail', 'Trail'],
] as const;

/** The ways into what there is. */
export const StockWays = () => <NavWays label="Stock" ways={ways} />;
