import { and, eq, or } from 'drizzle-orm';
import type { Act } from '../../act';
import { lock } from '../../ledger/lock';
import { among, positive } from '../../db/given';
import { place, salesLine, transferLine } from '../../db/schema/index';

/** Locks the orders and transfers that wait for these items, before the stock: some of them may be picked at once; and the transfers that these lines are on. */
export async function lockWaiting(act: Act, itemIds: readonly number[], transferLineIds: readonly number[] = []): Promise<void> {
  if (itemIds.length + transferLineIds.length === 0) return;
  const waiting = await act.tx.db
    .selectDistinct({ id: salesLine.orderId })
    .from(salesLine)
    .where(and(among(salesLine.itemId, itemIds), positive(salesLine.short)));
  const toSend = await act.tx.db
    .selectDistinct({ id: transferLine.transferId })
    .from(transferLine)
    .where(or(and(among(transferLine.itemId, itemIds), positive(transferLine.short)), among(transferLine.id, transferLineIds)));
  await lock.salesOrders(
    act,
    waiting.map(({ id }) => id),
  );
  await lock.transfers(
    act,
    toSend.map(({ id }) => id),
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
