import { refuseField } from '@larder/core/refusal';
import type * as contract from '@larder/contract/landed';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { recordChanges } from '../../documents/changes';
import { item } from '../../db/schema/index';
import { plain } from '../../db/text';

const measures = { weightKg: plain(item.weightKg), lengthCm: plain(item.lengthCm), widthCm: plain(item.widthCm), heightCm: plain(item.heightCm) };

/** Keeps what one of an item weighs, or how large it is; what is not given stays. */
export async function measureItem(
  act: Act,
  { itemId, weightKg, sizeCm }: BodyOf<typeof contract.measureItem>,
): Promise<ResponseOf<typeof contract.measureItem>> {
  const { db } = act.tx;
  const [was] = await db.select(measures).from(item).where(eq(item.id, itemId)).for('update');
  if (!was) throw refuseField(404, 'no-such-item', 'itemId', 'There is no such item.');
  const [lengthCm, widthCm, heightCm] = sizeCm ?? [];
  const [is] = await db
    .update(item)
    .set({ weightKg, lengthCm, widthCm, heightCm, version: sql`${item.version} + 1` })
    .where(eq(item.id, itemId))
    .returning(measures);
  await recordChanges(act, 'item', itemId, { ...was }, { ...is });
  return { itemId };
}
