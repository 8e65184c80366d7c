import { eq } from 'drizzle-orm';
import type { Item, ItemForm } from '@larder/contract/catalog';
import { refuseField, Refusal, type FieldError } from '@larder/core/refusal';
import type { Act } from '../../act';
import { barcode, item as itemTable, itemPolicy, itemSupplier } from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { item } from './queries';

export async function createItem(act: Act, form: ItemForm): Promise<Item> {
  await refuseTaken(act, form, 0);
  const [added] = await act.tx.db
    .insert(itemTable)
    .values({ ...facts(form), findable: await findable(act, form) })
    .returning({ id: itemTable.id });
  const id = added?.id as number;
  await writeParts(act, id, form);
  return item(act, id);
}

export async function editItem(act: Act, id: number, form: ItemForm & { version: number }): Promise<Item> {
  await act.tx.rows('SELECT 1 FROM item WHERE id = $1 FOR UPDATE', [id]);
  const was = await item(act, id);
  refuseStale(form.version, was.version, was.sku);
  await refuseTaken(act, form, id);
  await refuseUnitChange(act, was, form);
  await act.tx.db
    .update(itemTable)
    .set({ ...facts(form), findable: await findable(act, form), version: was.version + 1 })
    .where(eq(itemTable.id, id));
  await act.tx.db.delete(barcode).where(eq(barcode.itemId, id));
  await act.tx.db.delete(itemSupplier).where(eq(itemSupplier.itemId, id));
  await act.tx.db.delete(itemPolicy).where(eq(itemPolicy.itemId, id));
  await writeParts(act, id, form);
  const is = await item(act, id);
  const { version: _was, ...before } = was;
  const { version: _is, ...after } = is;
  await recordChanges(act, 'item', id, before, after);
  return is;
}

const facts = (form: ItemForm) => ({
  sku: form.sku,
  name: form.name,
  description: form.description,
  categoryId: form.categoryId,
  unitId: form.unitId,
  brand: form.brand,
  salesPrice: form.salesPrice,
  purchasePrice: form.purchasePrice,
  taxCodeId: form.taxCodeId,
});

/** What finding looks through: every word and code that means the item, in lower case. */
async function findable({ tx }: Act, form: ItemForm): Promise<string> {
  const [category] = form.categoryId === null ? [] : await tx.rows<{ name: string }>('SELECT name FROM category WHERE id = $1', [form.categoryId]);
  return [form.sku, form.name, form.brand, category?.name ?? '', ...form.barcodes, ...form.suppliers.map(({ code }) => code)].join(' ').toLowerCase();
}

async function writeParts({ tx }: Act, itemId: number, form: ItemForm): Promise<void> {
  if (form.barcodes.length > 0) await tx.db.insert(barcode).values(form.barcodes.map((code, index) => ({ code, itemId, position: index + 1 })));
  if (form.suppliers.length > 0) await tx.db.insert(itemSupplier).values(form.suppliers.map((row, index) => ({ ...row, itemId, position: index + 1 })));
  const policies = form.policies.filter((row) => row.binId !== null || row.reorderPoint !== null);
  if (policies.length > 0) await tx.db.insert(itemPolicy).values(policies.map((row) => ({ ...row, itemId })));
}

/** A SKU or barcode in use is refused by the field, naming the item that has it. */
async function refuseTaken({ tx }: Act, form: ItemForm, id: number): Promise<void> {
  const errors: FieldError[] = [];
  const [sku] = await tx.rows<{ name: string }>('SELECT name FROM item WHERE lower(sku) = lower($1) AND id <> $2', [form.sku, id]);
  if (sku) errors.push({ field: 'sku', sentence: `${form.sku} is the SKU of ${sku.name} already.` });
  const taken = await tx.rows<{ code: string; sku: string; name: string }>(
    'SELECT b.code, i.sku, i.name FROM barcode b JOIN item i ON i.id = b.item_id WHERE b.code = ANY($1) AND i.id <> $2',
    [form.barcodes, id],
  );
  form.barcodes.forEach((code, index) => {
    const other = taken.find((row) => row.code === code);
    if (other) errors.push({ field: `barcodes.${index}`, sentence: `${code} is a barcode of ${other.sku} ${other.name} already.` });
    else if (form.barcodes.indexOf(code) < index) errors.push({ field: `barcodes.${index}`, sentence: `${code} is given twice.` });
  });
  form.suppliers.forEach((row, index) => {
    if (form.suppliers.findIndex((other) => other.supplierId === row.supplierId) < index)
      errors.push({ field: `suppliers.${index}.supplierId`, sentence: 'This supplier is given twice.' });
  });
  if (errors[0]) throw new Refusal(409, 'code-in-use', errors[0].sentence, errors);
}

async function refuseUnitChange({ tx }: Act, was: Item, form: ItemForm): Promise<void> {
  if (was.unitId === form.unitId) return;
  const [moved] = await tx.rows('SELECT 1 FROM movement_line WHERE item_id = $1 LIMIT 1', [was.id]);
  if (moved) throw refuseField(409, 'unit-in-use', 'unitId', `Stock of ${was.sku} was moved in ${was.unit}; its unit cannot change any more.`);
}
