import { and, eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { lock } from '../../ledger/lock';
import { among, positive } from '../../db/given';
import { place, salesLine } from '../../db/schema/index';

/** Locks the orders that wait for these items, before the stock: some of them may be picked at once. */
export async function lockWaiting(act: Act, itemIds: readonly number[]): Promise<void> {
  const waiting = await act.tx.db
    .selectDistinct({ id: salesLine.orderId })
    .from(salesLine)
    .where(and(among(salesLine.itemId, itemIds), positive(salesLine.short)));
  await lock.salesOrders(
    act,
    waiting.map(({ id }) => id),
  );
}

/** The benches of these sites. */
export async function benchesAt({ tx }: Act, siteIds: readonly number[]): Promise<number[]> {
  const rows = await tx.db
    .select({ id: place.id })
    .from(place)
    .where(and(eq(place.kind, 'bench'), among(place.siteId, siteIds)));
  return rows.map(({ id }) => id);
}
