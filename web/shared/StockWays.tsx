import { NavWays } from '../kit/NavWays';
import { useMay } from './may';

const ways = [
  ['/stock', 'Stock', false],
  ['/stock/look-up', 'Look up', false],
  ['/stock/transfers', 'Transfers', false],
  ['/stock/move', 'Move', true],
  ['/stock/put-away', 'Put away', true],
  ['/stock/loans', 'Loans', false],
  ['/stock/counts', 'Counts', false],
  ['/stock/corrections', 'Corrections', false],
  ['/stock/trail', 'Trail', false],
] as const;

/** The ways into what there is, and those of moving it for whom may. */
export function StockWays() {
  const mayMove = useMay('stock.move');
  return <NavWays label="Stock" ways={ways.filter(([, , moves]) => mayMove || !moves).map(([to, name]) => [to, name] as const)} />;
}
