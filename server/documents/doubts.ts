import { sql } from 'drizzle-orm';
import type { Act } from '../act';
import { given } from '../db/given';
import { binDoubt } from '../db/schema/index';

/** Bins in which less of an item was found than they should hold: they are to be counted, and picked from last until then. */

interface At {
  itemId: number;
  placeId: number;
}

/** Marks bins to be counted; one that is marked already keeps the first who did, with the last reason. */
export async function noteDoubts({ tx: { db }, now, by }: Act, at: readonly At[], reason: string): Promise<void> {
  const pairs = [...new Map(at.map((one) => [`${one.itemId} ${one.placeId}`, one])).values()];
  if (pairs.length === 0) return;
  await db
    .insert(binDoubt)
    .values(pairs.map(({ itemId, placeId }) => ({ itemId, placeId, since: now.toISOString(), personId: by.id, reason })))
    .onConflictDoUpdate({ target: [binDoubt.itemId, binDoubt.placeId], set: { reason } });
}

/** Somebody has said how much is there. */
export async function clearDoubts({ tx: { db } }: Act, at: readonly At[]): Promise<void> {
  const { rows, row } = given('looked', { itemId: binDoubt.itemId, placeId: binDoubt.placeId }, at);
  await db.delete(binDoubt).where(sql`(${binDoubt.itemId}, ${binDoubt.placeId}) in (select ${row.itemId}, ${row.placeId} from ${rows})`);
}
