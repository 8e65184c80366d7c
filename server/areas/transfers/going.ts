import type * as contract from '@larder/contract/transfers';
import { and, eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { place } from '../../db/schema/index';
import type { GoingOut, LineGoingOut } from '../../documents/goingOut';
import { lock } from '../../ledger/lock';
import { transferNow } from './queries';

/** A transfer as its goods go out: locked, with the places they pass. */
export async function goingTransfer(act: Act, id: number): Promise<GoingOut & { now: contract.Transfer; benchId: number; transitId: number }> {
  await lock.transfers(act, [id]);
  const now = await transferNow(act, id);
  const { db } = act.tx;
  const placeAt = async (kind: 'bench' | 'transit', siteId: number) => {
    const [found] = await db
      .select({ id: place.id })
      .from(place)
      .where(and(eq(place.kind, kind), eq(place.siteId, siteId)));
    if (!found) throw new Error(`site ${siteId} has no ${kind}`);
    return found.id;
  };
  const [benchId, transitId] = [await placeAt('bench', now.fromSiteId), await placeAt('transit', now.toSiteId)];
  const lines = now.lines.map((line): [number, LineGoingOut] => [
    line.id,
    {
      id: line.id,
      kind: 'transfer',
      ownerId: id,
      number: now.number,
      itemId: line.itemId,
      sku: line.sku,
      siteId: now.fromSiteId,
      waitsAtId: benchId,
      active: true,
      stocked: true,
    },
  ]);
  return { now, number: now.number, lines: new Map(lines), benchId, transitId };
}

/** Several transfers as their goods go out. */
export async function goingTransfers(act: Act, ids: readonly number[]): Promise<GoingOut[]> {
  const sorted = [...ids].sort((one, other) => one - other);
  await lock.transfers(act, sorted);
  const found: GoingOut[] = [];
  for (const id of sorted) found.push(await goingTransfer(act, id));
  return found;
}
