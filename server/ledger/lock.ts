import type { Act } from '../act';

/**
 * Locks, in the one order everybody takes them: documents by kind and id, then cost pools by item, then the places leaned on.
 * A preview takes none. What a decision rests on is read only after.
 */
export const lock = {
  purchaseOrders: (act: Act, ids: readonly number[]) => lockRows(act, 'SELECT 1 FROM purchase_order WHERE id = ANY($1) ORDER BY id FOR NO KEY UPDATE', ids),
  /** The orders that these lines are on. */
  purchaseOrdersOf: (act: Act, lineIds: readonly number[]) =>
    lockRows(act, 'SELECT 1 FROM purchase_order WHERE id IN (SELECT order_id FROM purchase_line WHERE id = ANY($1)) ORDER BY id FOR NO KEY UPDATE', lineIds),
  salesOrders: (act: Act, ids: readonly number[]) => lockRows(act, 'SELECT 1 FROM sales_order WHERE id = ANY($1) ORDER BY id FOR NO KEY UPDATE', ids),
  /** The worksheets that these charges are on. */
  sheetsOf: (act: Act, chargeIds: readonly number[]) =>
    lockRows(act, 'SELECT 1 FROM landed_sheet WHERE id IN (SELECT sheet_id FROM landed_charge WHERE id = ANY($1)) ORDER BY id FOR NO KEY UPDATE', chargeIds),
  sheets: (act: Act, ids: readonly number[]) => lockRows(act, 'SELECT 1 FROM landed_sheet WHERE id = ANY($1) ORDER BY id FOR NO KEY UPDATE', ids),
  bills: (act: Act, ids: readonly number[]) => lockRows(act, 'SELECT 1 FROM bill WHERE id = ANY($1) ORDER BY id FOR NO KEY UPDATE', ids),
  /** The pools of the items on these purchase lines. */
  poolsOfLines: (act: Act, lineIds: readonly number[]) =>
    lockRows(act, 'SELECT 1 FROM pool WHERE item_id IN (SELECT item_id FROM purchase_line WHERE id = ANY($1)) ORDER BY item_id FOR NO KEY UPDATE', lineIds),
  pools: (act: Pick<Act, 'tx'>, itemIds: readonly number[]) => lockRows(act, poolsSql, itemIds),
  /** Pools and then places, in one round trip. */
  stock: (act: Act, itemIds: readonly number[], placeIds: readonly number[]) => lockRows(act, stockSql, itemIds, placeIds),
};

const poolsSql = 'SELECT 1 FROM pool WHERE item_id = ANY($1) ORDER BY item_id FOR NO KEY UPDATE';
const stockSql = `WITH pools AS MATERIALIZED (${poolsSql}), places AS MATERIALIZED (SELECT 1 FROM place WHERE id = ANY($2) AND (SELECT count(*) FROM pools) > 0 ORDER BY id FOR KEY SHARE) SELECT count(*) FROM places`;

async function lockRows({ tx }: Pick<Act, 'tx'>, text: string, ...ids: readonly (readonly number[])[]): Promise<void> {
  if (!tx.readOnly && ids[0]?.length)
    await tx.rows(
      text,
      ids.map((some) => [...new Set(some)]),
    );
}
