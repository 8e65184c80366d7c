import { refuseField } from '@larder/core/refusal';
import type * as contract from '@larder/contract/landed';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { recordChanges } from '../../documents/changes';

interface Measures {
  weightKg: string | null;
  lengthCm: string | null;
  widthCm: string | null;
  heightCm: string | null;
}

const returned =
  'trim_scale(weight_kg) AS "weightKg", trim_scale(length_cm) AS "lengthCm", trim_scale(width_cm) AS "widthCm", trim_scale(height_cm) AS "heightCm"';

/** Keeps what one of an item weighs, or how large it is; what is not given stays. */
export async function measureItem(
  act: Act,
  { itemId, weightKg, sizeCm = [] as unknown as [string, string, string] }: BodyOf<typeof contract.measureItem>,
): Promise<ResponseOf<typeof contract.measureItem>> {
  const [was] = await act.tx.rows<Measures>(`SELECT ${returned} FROM item WHERE id = $1 FOR UPDATE`, [itemId]);
  if (!was) throw refuseField(404, 'no-such-item', 'itemId', 'There is no such item.');
  const [is] = await act.tx.rows<Measures>(
    `UPDATE item SET weight_kg = coalesce($2, weight_kg), length_cm = coalesce($3, length_cm), width_cm = coalesce($4, width_cm), height_cm = coalesce($5, height_cm), version = version + 1 WHERE id = $1 RETURNING ${returned}`,
    [itemId, weightKg ?? null, sizeCm[0] ?? null, sizeCm[1] ?? null, sizeCm[2] ?? null],
  );
  await recordChanges(act, 'item', itemId, { ...was }, { ...is });
  return { itemId };
}
