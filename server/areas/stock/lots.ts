import { eq } from 'drizzle-orm';
import type * as contract from '@larder/contract/stock';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { attributeValue, lot as lotTable } from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { lock } from '../../ledger/lock';
import { flagPastUse } from '../../ledger/pastUse';
import { attributeFaults } from '../catalog/service';

/** A lot or serial unit: its facts, and what every place holds of it. */
export async function lot({ tx }: Act, id: number): Promise<contract.Lot> {
  const [row] = await tx.rows<contract.Lot>(
    `SELECT l.id, l.version, l.item_id AS "itemId", i.sku, i.name, l.kind, l.code, l.use_by AS "useBy", l.past_use AS "pastUse", l.tag, l.condition, l.bought_on AS "boughtOn", l.warranty_until AS "warrantyUntil",
      (SELECT coalesce(json_agg(json_build_object('attributeId', attribute_id, 'value', value) ORDER BY attribute_id), '[]') FROM attribute_value WHERE lot_id = l.id) AS attributes,
      (SELECT coalesce(json_agg(json_build_object('placeId', p.id, 'kind', p.kind, 'where', concat_ws(' ', s.name, p.code), 'quantity', trim_scale(b.quantity)::text) ORDER BY p.owned DESC, p.id), '[]')
        FROM balance b JOIN place p ON p.id = b.place_id LEFT JOIN site s ON s.id = p.site_id WHERE b.item_id = l.item_id AND b.lot_id = l.id AND b.quantity > 0) AS places
     FROM lot l JOIN item i ON i.id = l.item_id WHERE l.id = $1`,
    [id],
  );
  if (!row) throw new Refusal(404, 'not-found', 'There is no such lot or serial.');
  return row;
}

export async function editLot(act: Act, id: number, { version, attributes, tag, ...facts }: BodyOf<typeof contract.editLot>): Promise<contract.Lot> {
  await lock.pools(act, [(await lot(act, id)).itemId]);
  await act.tx.rows('SELECT 1 FROM lot WHERE id = $1 FOR NO KEY UPDATE', [id]);
  const was = await lot(act, id);
  refuseStale(version, was.version, was.code);
  if (tag !== '') {
    const [taken] = await act.tx.rows<{ sku: string; code: string }>(
      'SELECT i.sku, l.code FROM lot l JOIN item i ON i.id = l.item_id WHERE lower(l.tag) = lower($1) AND l.id <> $2',
      [tag, id],
    );
    if (taken) throw refuseField(409, 'code-in-use', 'tag', `${tag} is the tag of ${taken.sku} ${taken.code} already.`);
  }
  const faults = await attributeFaults(act, 'unit', attributes);
  if (faults[0]) throw new Refusal(422, 'not-valid', faults[0].sentence, faults);
  await act.tx.db
    .update(lotTable)
    .set({ ...facts, tag: tag === '' ? null : tag, version: was.version + 1 })
    .where(eq(lotTable.id, id));
  await act.tx.db.delete(attributeValue).where(eq(attributeValue.lotId, id));
  const values = attributes.filter(({ value }) => value !== '');
  if (values.length > 0) await act.tx.db.insert(attributeValue).values(values.map((row) => ({ ...row, lotId: id })));
  await flagPastUse(act, was.itemId);
  const is = await lot(act, id);
  await recordChanges(act, 'lot', id, was, is);
  return is;
}

/** Which of these serials of an item are known, and where each is. */
export async function knownSerials({ tx }: Act, { itemId, codes }: BodyOf<typeof contract.knownSerials>): Promise<ResponseOf<typeof contract.knownSerials>> {
  return {
    rows: await tx.rows(
      `SELECT l.code, concat_ws(' ', s.name, p.code) AS where, p.owned AS ours FROM lot l JOIN place p ON p.id = l.place_id JOIN balance b ON b.item_id = l.item_id AND b.lot_id = l.id AND b.place_id = p.id AND b.quantity > 0 LEFT JOIN site s ON s.id = p.site_id WHERE l.item_id = $1 AND lower(l.code) = ANY($2)`,
      [itemId, codes.map((code) => code.toLowerCase())],
    ),
  };
}
