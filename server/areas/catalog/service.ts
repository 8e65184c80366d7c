import { eq } from 'drizzle-orm';
import { ownBarcode } from '@larder/core/codes/gtin';
import type * as contract from '@larder/contract/catalog';
import type { BodyOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { item as itemTable } from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { forgetParts, refreshFindable, writeParts } from './itemParts';
import { moveInventory } from './accounts';
import { standsOn } from '../../ledger/accounts';
import { lock } from '../../ledger/lock';
import { refuseCostMethod, refuseKind, refuseTaken, refuseTrackingChange, refuseUnits, refuseUnitChange } from './itemRules';
import { item } from './queries';
import { refuseRetiring } from './retiring';

export { stillInUse } from './retiring';

export { accountFaults, moveInventory } from './accounts';
export { attributeFaults } from './attributes';
export { refreshFindable } from './itemParts';

export async function createItem(act: Act, form: contract.ItemForm): Promise<contract.Item> {
  await refuseTaken(act, form, 0);
  await refuseUnits(act, null, form);
  await refuseCostMethod(act, null, form);
  await refuseKind(act, null, form);
  const [added] = await act.tx.db.insert(itemTable).values(itemFacts(act, form)).returning({ id: itemTable.id });
  const id = added?.id as number;
  await writeParts(act, id, form);
  await refreshFindable(act, [id]);
  await recordChanges(act, 'item', id, {}, { sku: form.sku });
  return item(act, id);
}

export async function editItem(act: Act, id: number, form: contract.ItemForm & { version: number }): Promise<contract.Item> {
  await lock.pools(act, [id]);
  await act.tx.rows('SELECT 1 FROM item WHERE id = $1 FOR UPDATE', [id]);
  const was = await item(act, id);
  refuseStale(form.version, was.version, was.sku);
  await refuseTaken(act, form, id);
  await refuseUnitChange(act, was, form);
  await refuseUnits(act, was, form);
  await refuseTrackingChange(act, was, form.tracking);
  await refuseCostMethod(act, was, form);
  await refuseKind(act, was, form);
  if (form.retired && !was.retired) await refuseRetiring(act, [id], form.retiredInUse);
  const stoodOn = await standsOn(act, [id]);
  await act.tx.db
    .update(itemTable)
    .set({ ...itemFacts(act, form), retiredAt: !form.retired ? null : was.retired ? undefined : act.now.toISOString(), version: was.version + 1 })
    .where(eq(itemTable.id, id));
  await forgetParts(act, id);
  await writeParts(act, id, form);
  await refreshFindable(act, [id]);
  await ownFacts(act, [id]);
  await moveInventory(act, stoodOn);
  return changed(act, was);
}

/** Deletes an item that nothing refers to. What was ever ordered, sold or moved keeps its row: it can only be retired. */
export async function deleteItem(act: Act, id: number, version: number): Promise<Record<string, never>> {
  await act.tx.rows('SELECT 1 FROM item WHERE id = $1 FOR UPDATE', [id]);
  const was = await item(act, id);
  refuseStale(version, was.version, was.sku);
  const [used] = await act.tx.rows<{ what: string }>(
    `SELECT what FROM (SELECT 'moved' AS what FROM movement_line WHERE item_id = $1 UNION ALL SELECT 'ordered' FROM purchase_line WHERE item_id = $1 UNION ALL SELECT 'sold' FROM sales_line WHERE item_id = $1
      UNION ALL SELECT 'given as a substitute' FROM item_substitute WHERE substitute_id = $1 UNION ALL SELECT 'given lots or serials' FROM lot WHERE item_id = $1) u LIMIT 1`,
    [id],
  );
  if (used)
    throw new Refusal(409, 'item-in-use', `${was.sku} was ${used.what} already, so it cannot be deleted. Retire it: it will no longer turn up when ordering.`);
  await forgetParts(act, id);
  for (const table of ['pool', 'item_site']) await act.tx.rows(`DELETE FROM ${table} WHERE item_id = $1`, [id]);
  await act.tx.db.delete(itemTable).where(eq(itemTable.id, id));
  await recordChanges(act, 'item', id, { sku: was.sku }, { sku: null });
  return {};
}

/** A barcode of our own for an item that has none, or one more. */
export async function giveBarcode(act: Act, id: number): Promise<contract.Item> {
  const was = await item(act, id);
  let code: string;
  do {
    const [row] = await act.tx.rows<{ n: number }>(`UPDATE counter SET next = next + 1 WHERE kind = 'own barcode' RETURNING next - 1 AS n`);
    code = ownBarcode((row as { n: number }).n);
  } while ((await act.tx.rows('SELECT 1 FROM barcode WHERE code = $1', [code])).length > 0);
  return addCode(act, was, code, null);
}

/** Teaches an unknown code to an item, for one of its units. */
export async function teachCode(act: Act, id: number, { code, unitId, shared }: BodyOf<typeof contract.teachCode>): Promise<contract.Item> {
  const was = await item(act, id);
  const taken = await act.tx.rows<{ id: number; sku: string; name: string }>(
    'SELECT i.id, i.sku, i.name FROM barcode b JOIN item i ON i.id = b.item_id WHERE b.code = $1 ORDER BY i.id',
    [code],
  );
  if (taken.some((one) => one.id === id)) throw refuseField(409, 'code-known', 'code', `${was.sku} has ${code} already.`);
  if (taken[0] && !shared)
    throw refuseField(409, 'code-in-use', 'code', `${code} is a barcode of ${taken[0].sku} ${taken[0].name} already.`, ['shared-barcode']);
  if (unitId !== null && unitId !== was.unitId && !was.units.some((one) => one.unitId === unitId))
    throw refuseField(422, 'no-such-unit', 'unitId', `${was.sku} is neither bought nor sold in that unit.`);
  return addCode(act, was, code, unitId === was.unitId ? null : unitId);
}

async function addCode(act: Act, was: contract.Item, code: string, unitId: number | null): Promise<contract.Item> {
  await act.tx.rows(
    'INSERT INTO barcode (code, item_id, unit_id, position) SELECT $1, $2, $3, coalesce(max(position), 0) + 1 FROM barcode WHERE item_id = $2',
    [code, was.id, unitId],
  );
  await act.tx.rows('UPDATE item SET version = version + 1 WHERE id = $1', [was.id]);
  await refreshFindable(act, [was.id]);
  return changed(act, was);
}

/** Writes down what changed of an item and answers it as it is now. */
async function changed(act: Act, was: contract.Item): Promise<contract.Item> {
  const is = await item(act, was.id);
  const { version: _was, ...before } = was;
  const { version: _is, ...after } = is;
  await recordChanges(act, 'item', was.id, before, after);
  return is;
}

/** Columns of the item's own row. */
const itemFacts = (act: Act, form: contract.ItemForm) => ({
  sku: form.sku,
  name: form.name,
  kind: form.kind,
  inventoryAccountId: form.inventoryAccountId,
  costAccountId: form.costAccountId,
  description: form.description,
  categoryId: form.categoryId,
  unitId: form.unitId,
  brand: form.brand,
  maker: form.maker,
  tracking: form.tracking,
  costMethod: form.costMethod,
  returnable: form.returnable,
  weightKg: form.weightKg,
  lengthCm: form.lengthCm,
  widthCm: form.widthCm,
  heightCm: form.heightCm,
  notes: form.notes,
  pictureId: form.pictureId,
  salesPrice: form.salesPrice,
  purchasePrice: form.purchasePrice,
  taxCodeId: form.taxCodeId,
  retiredAt: form.retired ? act.now.toISOString() : null,
});

/** A member's facts that differ from its family's are its own from now on; those that agree are shared again. */
export const ownFacts = ({ tx }: Act, ids: readonly number[]): Promise<unknown> =>
  tx.rows(
    `UPDATE item i SET own_facts = array_remove(ARRAY[
        CASE WHEN i.name <> concat_ws(', ', f.name, v1.name, v2.name, v3.name) THEN 'name' END, CASE WHEN i.description <> f.description THEN 'description' END,
        CASE WHEN i.unit_id <> f.unit_id THEN 'unitId' END, CASE WHEN i.brand <> f.brand THEN 'brand' END, CASE WHEN i.category_id IS DISTINCT FROM f.category_id THEN 'categoryId' END,
        CASE WHEN i.tax_code_id IS DISTINCT FROM f.tax_code_id THEN 'taxCodeId' END, CASE WHEN i.returnable <> f.returnable THEN 'returnable' END], NULL)
     FROM item j JOIN family f ON f.id = j.family_id LEFT JOIN family_value v1 ON v1.id = j.value_1_id LEFT JOIN family_value v2 ON v2.id = j.value_2_id LEFT JOIN family_value v3 ON v3.id = j.value_3_id
     WHERE j.id = i.id AND i.id = ANY($1)`,
    [ids],
  );

/** Changes the same facts of many items at once; each change is written down by item. */
export async function editItems(act: Act, form: BodyOf<typeof contract.editItems>): Promise<{ changed: number }> {
  const { ids, priceChange, attribute, retired, retiredInUse, ...facts } = form;
  if (facts.categoryId !== undefined || retired === true) await lock.pools(act, ids);
  const was = await act.tx.rows<{ id: number; salesPrice: string | null; retired: boolean }>(
    'SELECT id, sales_price AS "salesPrice", retired_at IS NOT NULL AS retired FROM item WHERE id = ANY($1) ORDER BY id FOR UPDATE',
    [ids],
  );
  if (was.length < new Set(ids).size) throw refuseField(404, 'not-found', 'ids', 'One of the chosen items is not there any more.');
  if (retired === true) await refuseRetiring(act, ids, retiredInUse);
  const stoodOn = facts.categoryId === undefined ? [] : await standsOn(act, ids);
  const set = Object.fromEntries(Object.entries(facts).filter(([, value]) => value !== undefined));
  if (Object.keys(set).length > 0) for (const { id } of was) await act.tx.db.update(itemTable).set(set).where(eq(itemTable.id, id));
  if (retired !== undefined)
    await act.tx.rows('UPDATE item SET retired_at = $2 WHERE id = ANY($1) AND (retired_at IS NULL) = $3', [
      ids,
      retired ? act.now.toISOString() : null,
      retired,
    ]);
  if (priceChange !== undefined)
    await act.tx.rows('UPDATE item SET sales_price = round(sales_price * (1 + $2::numeric / 100), 2) WHERE id = ANY($1) AND sales_price IS NOT NULL', [
      ids,
      priceChange,
    ]);
  if (attribute)
    await act.tx.rows(
      `INSERT INTO attribute_value (attribute_id, item_id, value) SELECT $2, id, $3 FROM unnest($1::int[]) id ON CONFLICT (attribute_id, item_id, lot_id) DO UPDATE SET value = excluded.value`,
      [ids, attribute.attributeId, attribute.value],
    );
  await act.tx.rows('UPDATE item SET version = version + 1 WHERE id = ANY($1)', [ids]);
  await refreshFindable(act, ids);
  await ownFacts(act, ids);
  await moveInventory(act, stoodOn);
  for (const { id } of was)
    await recordChanges(
      act,
      'item',
      id,
      {},
      { ...set, ...(retired === undefined ? {} : { retired }), ...(priceChange === undefined ? {} : { priceChange }), ...(attribute ? { attribute } : {}) },
    );
  return { changed: was.length };
}
