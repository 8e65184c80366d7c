import type { Act } from '../act';

export interface StandsOn {
  itemId: number;
  accountId: number;
  value: string;
}

/** The inventory account that each item stands on, and what it is worth there. The pools are locked. */
export const standsOn = ({ tx }: Act, itemIds: readonly number[]): Promise<StandsOn[]> =>
  tx.rows<StandsOn>(
    `SELECT i.id AS "itemId", coalesce(i.inventory_account_id, c.inventory_account_id, (SELECT id FROM account WHERE purpose = 'inventory')) AS "accountId", p.value
     FROM item i JOIN pool p ON p.item_id = i.id LEFT JOIN category c ON c.id = i.category_id WHERE i.id = ANY($1) ORDER BY i.id`,
    [itemIds],
  );

/** The same, as a map from item to account. */
export const inventoryAccountsOf = async (act: Act, itemIds: readonly number[]): Promise<Map<number, number>> =>
  new Map((await standsOn(act, itemIds)).map(({ itemId, accountId }) => [itemId, accountId]));
