import type { Act } from '../act';

/**
 * Locks, in the one order everybody takes them: documents by kind and id, then cost pools by item, then the places leaned on.
 * A preview takes none. What a decision rests on is read only after.
 */
export const lock = {
  purchaseOrders: (act: Act, ids: readonly number[]) => lockRows(act, 'SELECT 1 FROM purchase_order WHERE id = ANY($1) ORDER BY id FOR NO KEY UPDATE', ids),
  salesOrders: (act: Act, ids: readonly number[]) => lockRows(act, 'SELECT 1 FROM sales_order WHERE id = ANY($1) ORDER BY id FOR NO KEY UPDATE', ids),
  pools: (act: Act, itemIds: readonly number[]) => lockRows(act, 'SELECT 1 FROM pool WHERE item_id = ANY($1) ORDER BY item_id FOR NO KEY UPDATE', itemIds),
  places: (act: Act, ids: readonly number[]) => lockRows(act, 'SELECT 1 FROM place WHERE id = ANY($1) ORDER BY id FOR KEY SHARE', ids),
};

async function lockRows({ tx }: Act, text: string, ids: readonly number[]): Promise<void> {
  if (!tx.readOnly && ids.length > 0) await tx.rows(text, [[...new Set(ids)]]);
}
