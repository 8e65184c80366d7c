import type { Act } from '../../act';
import { lock } from '../../ledger/lock';

/** Locks the orders that wait for these items, before the stock: some of them may be picked at once. */
export async function lockWaiting(act: Act, itemIds: readonly number[]): Promise<void> {
  const waiting = await act.tx.rows<{ id: number }>('SELECT DISTINCT order_id AS id FROM sales_line WHERE item_id = ANY($1) AND short > 0', [itemIds]);
  await lock.salesOrders(
    act,
    waiting.map(({ id }) => id),
  );
}

/** The benches of these sites. */
export async function benchesAt({ tx }: Act, siteIds: readonly number[]): Promise<number[]> {
  const rows = await tx.rows<{ id: number }>(`SELECT id FROM place WHERE kind = 'bench' AND site_id = ANY($1)`, [siteIds]);
  return rows.map(({ id }) => id);
}
