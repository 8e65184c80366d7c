import { and, eq, ne, sql } from 'drizzle-orm';
import type * as contract from '@larder/contract/lots';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { among, atSitesOrOutside, positive } from '../../db/given';
import { jsonRows } from '../../db/json';
import { attributeValue, balance, item, lot as lotTable, place, site } from '../../db/schema/index';
import { lower, placeInWords, plain, sameText } from '../../db/text';
import { recordChanges, refuseStale } from '../../documents/changes';
import { lock } from '../../ledger/lock';
import { flagPastUse } from '../../ledger/pastUse';
import { attributeFaults } from '../catalog/service';

/** A lot or serial unit: its facts, and what every place holds of it. */
export async function lot(act: Act, id: number): Promise<contract.Lot> {
  const { db } = act.tx;
  const sites = act.sites('look');
  const [row] = await db
    .select({
      id: lotTable.id,
      version: lotTable.version,
      itemId: lotTable.itemId,
      sku: item.sku,
      name: item.name,
      kind: lotTable.kind,
      code: lotTable.code,
      useBy: lotTable.useBy,
      pastUse: lotTable.pastUse,
      tag: lotTable.tag,
      condition: lotTable.condition,
      boughtOn: lotTable.boughtOn,
      warrantyUntil: lotTable.warrantyUntil,
      attributes: jsonRows(
        { attributeId: attributeValue.attributeId, value: attributeValue.value },
        (select) => select.from(attributeValue).where(eq(attributeValue.lotId, lotTable.id)),
        { orderBy: attributeValue.attributeId },
      ),
      places: jsonRows(
        { placeId: place.id, kind: place.kind, where: placeInWords(place, site), quantity: plain(balance.quantity) },
        (select) =>
          select
            .from(balance)
            .innerJoin(place, eq(place.id, balance.placeId))
            .leftJoin(site, eq(site.id, place.siteId))
            .where(and(eq(balance.itemId, lotTable.itemId), eq(balance.lotId, lotTable.id), positive(balance.quantity), atSitesOrOutside(place.siteId, sites))),
        { orderBy: sql`${place.owned} desc, ${place.id}` },
      ),
    })
    .from(lotTable)
    .innerJoin(item, eq(item.id, lotTable.itemId))
    .where(eq(lotTable.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such lot or serial.');
  return row;
}

export async function editLot(act: Act, id: number, { version, attributes, tag, ...facts }: BodyOf<typeof contract.editLot>): Promise<contract.Lot> {
  await lock.pools(act, [(await lot(act, id)).itemId]);
  await act.tx.db.select({ id: lotTable.id }).from(lotTable).where(eq(lotTable.id, id)).for('no key update');
  const was = await lot(act, id);
  refuseStale(version, was.version, was.code);
  if (tag !== '') {
    const [taken] = await act.tx.db
      .select({ sku: item.sku, code: lotTable.code })
      .from(lotTable)
      .innerJoin(item, eq(item.id, lotTable.itemId))
      .where(and(sameText(lotTable.tag, tag), ne(lotTable.id, id)));
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
export async function knownSerials(act: Act, { itemId, codes }: BodyOf<typeof contract.knownSerials>): Promise<ResponseOf<typeof contract.knownSerials>> {
  const known = among(
    lower(lotTable.code),
    codes.map((code) => code.toLowerCase()),
  );
  // That it is known is told everybody, as it cannot come in a second time; where, only at the sites one may look at.
  const seen = atSitesOrOutside(place.siteId, act.sites('look')) ?? sql`true`;
  const rows = await act.tx.db
    .select({
      code: lotTable.code,
      where: sql<string>`case when ${seen} then ${placeInWords(place, site)} else 'another site' end`,
      ours: place.owned,
    })
    .from(lotTable)
    .innerJoin(place, eq(place.id, lotTable.placeId))
    .innerJoin(balance, and(eq(balance.itemId, lotTable.itemId), eq(balance.lotId, lotTable.id), eq(balance.placeId, place.id), positive(balance.quantity)))
    .leftJoin(site, eq(site.id, place.siteId))
    .where(and(eq(lotTable.itemId, itemId), known));
  return { rows };
}
