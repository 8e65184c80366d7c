import type * as contract from '@larder/contract/counts';
import type { BodyOf, ParamsOf, ResponseOf } from '@larder/contract/endpoint';
import { refuseField } from '@larder/core/refusal';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { insertRows } from '../../db/given';
import { lot } from '../../db/schema/index';
import { lineFacts } from '../../documents/lines';
import { held, refuseOthers } from './counting';

/** Makes a lot or serial that was found in a bin and that no record knows; one that is known is answered as it is. It is there once its count is posted. */
export async function nameLot(
  act: Act,
  at: ParamsOf<typeof contract.nameLot>,
  { itemId, code, useBy }: BodyOf<typeof contract.nameLot>,
): Promise<ResponseOf<typeof contract.nameLot>> {
  const now = await held(act, at);
  await refuseOthers(act, now);
  const { db } = act.tx;
  const item = (await lineFacts(act, [itemId])).items.get(itemId);
  if (!item) throw refuseField(404, 'not-found', 'itemId', 'There is no such item.');
  if (item.tracking === 'none') throw refuseField(422, 'no-lots', 'code', `${item.sku} is kept without lots or serials.`);
  if (item.tracking === 'serial' && useBy !== null) throw refuseField(422, 'no-use-by', 'useBy', 'Only a lot has a use-by day.');
  const fresh = { itemId, kind: item.tracking, code, useBy, pastUse: useBy !== null && useBy < act.today };
  await insertRows(act.tx, lot, [fresh], sql`on conflict (item_id, lower(code)) do nothing`);
  const [known] = await db
    .select({ lotId: lot.id, lot: lot.code, useBy: lot.useBy })
    .from(lot)
    .where(and(eq(lot.itemId, itemId), sql`lower(${lot.code}) = lower(${code})`));
  if (!known) throw new Error('a lot that was made is there');
  if (useBy !== null && known.useBy !== useBy)
    throw refuseField(
      409,
      'lot-known',
      'useBy',
      `Lot ${known.lot} of ${item.sku} ${known.useBy === null ? 'has no use-by day' : `has the use-by day ${known.useBy}`}.`,
    );
  return known;
}
