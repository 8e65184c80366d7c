import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { ownBarcode } from '@larder/core/codes/gtin';
import type * as contract from '@larder/contract/catalog';
import type { BodyOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { among, insertRows } from '../../db/given';
import {
  attributeValue,
  barcode,
  bom,
  bomAlternative,
  bomByProduct,
  bomPart,
  counter,
  item as itemTable,
  itemSite,
  itemSubstitute,
  lot,
  costPool,
} from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { keepLevels } from '../../documents/levels';
import { forgetParts, refreshFindable, writeParts } from './itemParts';
import { moveInventory } from './accounts';
import { standsOn } from '../../ledger/accounts';
import { lock } from '../../ledger/lock';
import { refuseCostMethod, refuseKind, refuseTaken, refuseTrackingChange, refuseUnits, refuseUnitChange, usedAs } from './itemRules';
import { item } from './queries';
import { refuseRetiredChoices } from './retiredChoices';
import { refuseRetiring } from './retiring';
import { ownFacts } from './sharedFacts';

export { stillInUse } from './retiring';

export { accountFaults, moveInventory } from './accounts';
export { attributeFaults } from './attributes';
export { refreshFindable } from './itemParts';
export { ownFacts } from './sharedFacts';

export async function createItem(act: Act, form: contract.ItemForm): Promise<contract.Item> {
  await refuseTaken(act, form, 0);
  await refuseRetiredChoices(act, null, form);
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
  await act.tx.db.select({ id: itemTable.id }).from(itemTable).where(eq(itemTable.id, id)).for('update');
  const was = await item(act, id);
  refuseStale(form.version, was.version, was.sku);
  await refuseTaken(act, form, id);
  await refuseRetiredChoices(act, was, form);
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
  await act.tx.db.select({ id: itemTable.id }).from(itemTable).where(eq(itemTable.id, id)).for('update');
  const was = await item(act, id);
  refuseStale(version, was.version, was.sku);
  const used = (await usedAs(act.tx, id)) ?? (await namedAs(act.tx, id));
  if (used !== null)
    throw new Refusal(409, 'item-in-use', `${was.sku} was ${used} already, so it cannot be deleted. Retire it: it will no longer turn up when ordering.`);
  await forgetParts(act, id);
  await keepLevels(act, id, []);
  await act.tx.db.delete(costPool).where(eq(costPool.itemId, id));
  await act.tx.db.delete(itemSite).where(eq(itemSite.itemId, id));
  await act.tx.db.delete(itemTable).where(eq(itemTable.id, id));
  await recordChanges(act, 'item', id, { sku: was.sku }, { sku: null });
  return {};
}

/** What else names an item, in words; null when nothing does. */
async function namedAs({ db }: Act['tx'], id: number): Promise<string | null> {
  if ((await db.$count(itemSubstitute, eq(itemSubstitute.substituteId, id))) > 0) return 'given as a substitute';
  const named = [bom, bomPart, bomAlternative, bomByProduct].map((table) => db.$count(table, eq(table.itemId, id)));
  if ((await Promise.all(named)).some((many) => many > 0)) return 'named by a bill of materials';
  return (await db.$count(lot, eq(lot.itemId, id))) > 0 ? 'given lots or serials' : null;
}

/** A barcode of our own for an item that has none, or one more. */
export async function giveBarcode(act: Act, id: number): Promise<contract.Item> {
  const was = await item(act, id);
  let code: string;
  do {
    const [taken] = await act.tx.db
      .update(counter)
      .set({ next: sql`${counter.next} + 1` })
      .where(eq(counter.kind, 'own barcode'))
      .returning({ number: sql<number>`${counter.next} - 1` });
    if (!taken) throw new Error('there is no counter for barcodes of our own');
    code = ownBarcode(taken.number);
  } while ((await act.tx.db.$count(barcode, eq(barcode.code, code))) > 0);
  return addCode(act, was, code, null);
}

/** Teaches an unknown code to an item, for one of its units. */
export async function teachCode(act: Act, id: number, { code, unitId, shared }: BodyOf<typeof contract.teachCode>): Promise<contract.Item> {
  const was = await item(act, id);
  const taken = await act.tx.db
    .select({ id: itemTable.id, sku: itemTable.sku, name: itemTable.name })
    .from(barcode)
    .innerJoin(itemTable, eq(itemTable.id, barcode.itemId))
    .where(eq(barcode.code, code))
    .orderBy(itemTable.id);
  if (taken.some((one) => one.id === id)) throw refuseField(409, 'code-known', 'code', `${was.sku} has ${code} already.`);
  if (taken[0] && !shared)
    throw refuseField(409, 'code-in-use', 'code', `${code} is a barcode of ${taken[0].sku} ${taken[0].name} already.`, ['shared-barcode']);
  if (unitId !== null && unitId !== was.unitId && !was.units.some((one) => one.unitId === unitId))
    throw refuseField(422, 'no-such-unit', 'unitId', `${was.sku} is neither bought nor sold in that unit.`);
  return addCode(act, was, code, unitId === was.unitId ? null : unitId);
}

async function addCode(act: Act, was: contract.Item, code: string, unitId: number | null): Promise<contract.Item> {
  const { db } = act.tx;
  const next = sql`(${db
    .select({ position: sql`coalesce(max(${barcode.position}), 0) + 1` })
    .from(barcode)
    .where(eq(barcode.itemId, was.id))})`;
  await db.insert(barcode).values({ code, itemId: was.id, unitId, position: next });
  await db
    .update(itemTable)
    .set({ version: sql`${itemTable.version} + 1` })
    .where(eq(itemTable.id, was.id));
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
  salesAccountId: form.salesAccountId,
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
  shelfLifeDays: form.shelfLifeDays,
  madeToOrder: form.madeToOrder,
  inspected: form.inspected,
  notes: form.notes,
  pictureId: form.pictureId,
  salesPrice: form.salesPrice,
  purchasePrice: form.purchasePrice,
  taxCodeId: form.taxCodeId,
  retiredAt: form.retired ? act.now.toISOString() : null,
});

/** Changes the same facts of many items at once; each change is written down by item. */
export async function editItems(act: Act, form: BodyOf<typeof contract.editItems>): Promise<{ changed: number }> {
  const { ids, priceChange, attribute, retired, retiredInUse, ...facts } = form;
  if (facts.categoryId !== undefined || retired === true) await lock.pools(act, ids);
  const { db } = act.tx;
  const chosen = among(itemTable.id, ids);
  const was = await db.select({ id: itemTable.id }).from(itemTable).where(chosen).orderBy(itemTable.id).for('update');
  if (was.length < new Set(ids).size) throw refuseField(404, 'not-found', 'ids', 'One of the chosen items is not there any more.');
  if (retired === true) await refuseRetiring(act, ids, retiredInUse);
  const stoodOn = facts.categoryId === undefined ? [] : await standsOn(act, ids);
  const set = Object.fromEntries(Object.entries(facts).filter(([, value]) => value !== undefined));
  if (Object.keys(set).length > 0) for (const { id } of was) await act.tx.db.update(itemTable).set(set).where(eq(itemTable.id, id));
  if (retired !== undefined)
    await db
      .update(itemTable)
      .set({ retiredAt: retired ? act.now.toISOString() : null })
      .where(and(chosen, retired ? isNull(itemTable.retiredAt) : isNotNull(itemTable.retiredAt)));
  if (priceChange !== undefined)
    await db
      .update(itemTable)
      .set({ salesPrice: sql`round(${itemTable.salesPrice} * (1 + ${priceChange}::numeric / 100), 2)` })
      .where(and(chosen, isNotNull(itemTable.salesPrice)));
  if (attribute)
    await insertRows(
      act.tx,
      attributeValue,
      ids.map((itemId) => ({ attributeId: attribute.attributeId, itemId, value: attribute.value })),
      sql`on conflict (attribute_id, item_id, lot_id) do update set value = excluded.value`,
    );
  await db
    .update(itemTable)
    .set({ version: sql`${itemTable.version} + 1` })
    .where(chosen);
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
