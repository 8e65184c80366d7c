import { eq } from 'drizzle-orm';
import type { ItemForm } from '@larder/contract/catalog';
import type { Act } from '../../act';
import { keepLevels } from '../../documents/levels';
import { attributeValue, barcode, itemSubstitute, itemSupplier, itemUnit } from '../../db/schema/index';
import { refreshFindable as refresh } from '../../db/functions';

/** Writes what belongs to an item in tables of its own. */
export async function writeParts(act: Act, itemId: number, form: ItemForm): Promise<void> {
  const { tx } = act;
  if (form.barcodes.length > 0) await tx.db.insert(barcode).values(form.barcodes.map((row, index) => ({ ...row, itemId, position: index + 1 })));
  if (form.suppliers.length > 0) await tx.db.insert(itemSupplier).values(form.suppliers.map((row, index) => ({ ...row, itemId, position: index + 1 })));
  await keepLevels(act, itemId, form.policies);
  if (form.units.length > 0) await tx.db.insert(itemUnit).values(form.units.map((row) => ({ ...row, itemId })));
  if (form.substitutes.length > 0)
    await tx.db.insert(itemSubstitute).values(form.substitutes.map((substituteId, index) => ({ itemId, substituteId, position: index + 1 })));
  const values = form.attributes.filter(({ value }) => value !== '');
  if (values.length > 0) await tx.db.insert(attributeValue).values(values.map((row) => ({ ...row, itemId })));
}

/** Takes them away, to be written anew; levels are written over. */
export async function forgetParts({ tx }: Act, itemId: number): Promise<void> {
  for (const table of [barcode, itemSupplier, itemUnit, itemSubstitute, attributeValue]) await tx.db.delete(table).where(eq(table.itemId, itemId));
}

/** Brings what finding looks through up to date. */
export const refreshFindable = ({ tx }: Act, ids: readonly number[]): Promise<unknown> => refresh(tx, ids);
