import { Refusal } from '@larder/core/refusal';
import { and, eq, ne } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { person, pickRound, roundOrder, salesOrder } from '../../db/schema/index';

/** Asks before somebody picks what another has in a round at the same site. */
export async function refuseOthers({ tx: { db }, by }: Act, orderIds: readonly number[], siteIds: readonly number[]): Promise<void> {
  const [other] = await db
    .select({ id: pickRound.id, picker: person.name, number: salesOrder.number })
    .from(roundOrder)
    .innerJoin(pickRound, eq(pickRound.id, roundOrder.roundId))
    .innerJoin(person, eq(person.id, pickRound.pickerId))
    .innerJoin(salesOrder, eq(salesOrder.id, roundOrder.orderId))
    .where(and(among(roundOrder.orderId, orderIds), among(roundOrder.siteId, siteIds), roundOrder.open, ne(pickRound.pickerId, by.id)))
    .limit(1);
  if (other) throw new Refusal(409, 'others-round', `${other.picker} picks ${other.number} in round ${other.id}. Pick it all the same?`, [], ['othersRound']);
}
