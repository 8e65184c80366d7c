import type { Act } from '../act';
import { among } from '../db/given';
import { itemAccount, costPool } from '../db/schema/index';
import { eq } from 'drizzle-orm';

export interface StandsOn {
  itemId: number;
  accountId: number;
  value: string;
}

/** The inventory account that each item stands on, and what it is worth there. The pools are locked. */
export const standsOn = async ({ tx }: Act, itemIds: readonly number[]): Promise<StandsOn[]> =>
  tx.db
    .select({ itemId: itemAccount.itemId, accountId: itemAccount.inventory, value: costPool.value })
    .from(itemAccount)
    .innerJoin(costPool, eq(costPool.itemId, itemAccount.itemId))
    .where(among(itemAccount.itemId, itemIds))
    .orderBy(itemAccount.itemId);

/** The same, as a map from item to account. */
export const inventoryAccountsOf = async (act: Act, itemIds: readonly number[]): Promise<Map<number, number>> =>
  new Map((await standsOn(act, itemIds)).map(({ itemId, accountId }) => [itemId, accountId]));
