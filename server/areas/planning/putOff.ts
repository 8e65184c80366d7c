import type * as contract from '@larder/contract/planning';
import type { BodyOf } from '@larder/contract/endpoint';
import { refuseField } from '@larder/core/refusal';
import { and, eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { item, putOff } from '../../db/schema/index';

/** Puts a proposal off until a day, on which it comes back, or takes it up again at once. */
export async function putOffTopUp(act: Act, { itemId, siteId, until, reason }: BodyOf<typeof contract.putOffTopUp>): Promise<Record<string, never>> {
  act.allow('planning.top-up', siteId);
  const { db } = act.tx;
  if (until === null) {
    await db.delete(putOff).where(and(eq(putOff.itemId, itemId), eq(putOff.siteId, siteId)));
    return {};
  }
  if (until <= act.today) throw refuseField(422, 'not-valid', 'until', 'Choose a day to come.');
  const [known] = await db.select({ id: item.id }).from(item).where(eq(item.id, itemId));
  if (!known) throw refuseField(404, 'not-found', 'itemId', 'There is no such item.');
  const said = { until, reason, at: act.now.toISOString(), personId: act.by.id };
  await db
    .insert(putOff)
    .values({ itemId, siteId, ...said })
    .onConflictDoUpdate({ target: [putOff.itemId, putOff.siteId], set: said });
  return {};
}
