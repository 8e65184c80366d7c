import { kindFaults } from '@larder/core/catalog/kind';
import { factorFault } from '@larder/core/catalog/units';
import { gtinFault } from '@larder/core/codes/gtin';
import type { Item, ItemForm } from '@larder/contract/catalog';
import { refuseField, Refusal, type FieldError } from '@larder/core/refusal';
import type { Act } from '../../act';
import { accountFaults } from './accounts';
import { attributeFaults } from './attributes';

/** A SKU in use is refused by the field, naming the item that has it; so are a barcode of another item and a mistyped GTIN, unless they are meant so or were kept before. */
export async function refuseTaken(act: Act, form: ItemForm, id: number): Promise<void> {
  const { tx } = act;
  const errors: FieldError[] = [];
  const [sku] = await tx.rows<{ name: string }>('SELECT name FROM item WHERE lower(sku) = lower($1) AND id <> $2', [form.sku, id]);
  if (sku) errors.push({ field: 'sku', sentence: `${form.sku} is the SKU of ${sku.name} already.` });
  const codes = form.barcodes.map(({ code }) => code);
  const taken = await tx.rows<{ code: string; sku: string; name: string }>(
    'SELECT b.code, i.sku, i.name FROM barcode b JOIN item i ON i.id = b.item_id WHERE b.code = ANY($1) AND i.id <> $2',
    [codes, id],
  );
  const own = await tx.rows<{ code: string }>('SELECT code FROM barcode WHERE item_id = $1', [id]);
  const meant = (code: string) => form.oddBarcodes || own.some((row) => row.code === code);
  const odd = codes.flatMap((code, index) => (meant(code) ? [] : gtinError(code, `barcodes.${index}`)));
  const shared = codes.flatMap((code, index): FieldError[] => {
    const other = taken.find((row) => row.code === code);
    const known = form.sharedBarcodes || own.some((row) => row.code === code);
    return other && !known ? [{ field: `barcodes.${index}`, sentence: `${code} is a barcode of ${other.sku} ${other.name} already.` }] : [];
  });
  codes.forEach((code, index) => {
    if (codes.indexOf(code) < index) errors.push({ field: `barcodes.${index}`, sentence: `${code} is given twice.` });
  });
  form.suppliers.forEach((row, index) => {
    if (form.suppliers.findIndex((other) => other.supplierId === row.supplierId) < index)
      errors.push({ field: `suppliers.${index}.supplierId`, sentence: 'This supplier is given twice.' });
  });
  if (form.substitutes.includes(id)) errors.push({ field: 'substitutes', sentence: 'An item is no substitute for itself.' });
  errors.push(...(await attributeFaults(act, 'item', form.attributes)));
  if (errors[0]) throw new Refusal(409, 'code-in-use', errors[0].sentence, [...errors, ...shared, ...odd]);
  if (shared[0]) throw new Refusal(409, 'code-in-use', shared[0].sentence, [...shared, ...odd], ['shared-barcode']);
  if (odd[0]) throw new Refusal(409, 'odd-barcode', odd[0].sentence, odd, ['odd-barcode']);
}

const gtinError = (code: string, field: string): FieldError[] => {
  const sentence = gtinFault(code);
  return sentence === null ? [] : [{ field, sentence }];
};

/** The base unit cannot change once stock was moved in it. */
export async function refuseUnitChange({ tx }: Act, was: Item, form: ItemForm): Promise<void> {
  if (was.unitId === form.unitId) return;
  const [moved] = await tx.rows('SELECT 1 FROM movement_line WHERE item_id = $1 LIMIT 1', [was.id]);
  if (moved) throw refuseField(409, 'unit-in-use', 'unitId', `Stock of ${was.sku} was moved in ${was.unit}; its unit cannot change any more.`);
}

/** How cost runs is chosen before the first movement; each serial its own asks for serials. */
export async function refuseCostMethod({ tx }: Act, was: Item | null, form: ItemForm): Promise<void> {
  if (form.costMethod === 'specific' && form.tracking !== 'serial')
    throw refuseField(422, 'not-by-serial', 'costMethod', 'Only an item tracked by serial can keep the cost of each unit.');
  if (!was || was.costMethod === form.costMethod) return;
  const [moved] = await tx.rows('SELECT 1 FROM movement_line WHERE item_id = $1 LIMIT 1', [was.id]);
  if (moved) throw refuseField(409, 'cost-method-in-use', 'costMethod', `Stock of ${was.sku} was moved already; how its cost runs cannot change any more.`);
}

/** Purchase and sales units: exact factors, each unit once, and a factor that stock was moved under stays. */
export async function refuseUnits({ tx }: Act, was: Item | null, form: ItemForm): Promise<void> {
  const errors: FieldError[] = form.units.flatMap((row, index) => {
    const fault = factorFault(row);
    if (fault) return [{ field: `units.${index}.numerator`, sentence: fault }];
    if (row.unitId === form.unitId) return [{ field: `units.${index}.unitId`, sentence: 'This is the base unit already.' }];
    return form.units.findIndex((other) => other.unitId === row.unitId) < index
      ? [{ field: `units.${index}.unitId`, sentence: 'This unit is given twice.' }]
      : [];
  });
  form.barcodes.forEach(({ unitId }, index) => {
    if (unitId !== null && !form.units.some((row) => row.unitId === unitId))
      errors.push({ field: `barcodes.${index}`, sentence: 'Give the unit that this barcode is on under Units.' });
  });
  if (errors[0]) throw new Refusal(422, 'not-valid', errors[0].sentence, errors);
  const altered = (was?.units ?? []).filter((row) => {
    const now = form.units.find(({ unitId }) => unitId === row.unitId);
    return !now || now.numerator !== row.numerator || now.denominator !== row.denominator;
  });
  if (!was || altered.length === 0) return;
  const moved = await tx.rows<{ unit: string }>(
    `SELECT DISTINCT d.unit FROM (SELECT unit FROM purchase_line WHERE item_id = $1 AND received > 0 UNION ALL SELECT unit FROM sales_line WHERE item_id = $1 AND picked > 0) d WHERE d.unit = ANY($2)`,
    [was.id, altered.map(({ unit }) => unit)],
  );
  if (moved[0])
    throw refuseField(
      409,
      'unit-in-use',
      `units.${Math.max(
        0,
        form.units.findIndex(({ unitId }) => unitId === altered[0]?.unitId),
      )}.numerator`,
      `Stock of ${was.sku} was moved by the ${moved[0].unit}; how many that is cannot change any more.`,
    );
}

/** How an item is tracked changes only while nothing of it is there: what lies there has no lot or serial, or has one. */
export async function refuseTrackingChange({ tx }: Act, was: Item, tracking: ItemForm['tracking']): Promise<void> {
  if (was.tracking === tracking) return;
  const [there] = await tx.rows<{ quantity: string; code: string }>(
    `SELECT trim_scale(b.quantity) AS quantity, coalesce(s.name || ' ', '') || p.code AS code FROM balance b JOIN place p ON p.id = b.place_id LEFT JOIN site s ON s.id = p.site_id WHERE b.item_id = $1 AND b.owned AND b.quantity > 0 ORDER BY b.quantity DESC LIMIT 1`,
    [was.id],
  );
  const kept = { none: 'without lots or serials', lot: 'by lot', serial: 'by serial' }[was.tracking];
  if (there)
    throw refuseField(
      409,
      'tracking-in-use',
      'tracking',
      `${there.quantity} of ${was.sku} at ${there.code} are kept ${kept}. Take them out of stock by a correction first, switch, then bring them in again.`,
    );
}

/** What an item is goes with how it is kept, is of accounts that may stand for it, and changes only before it was ordered, sold or moved. */
export async function refuseKind({ tx }: Act, was: Item | null, form: ItemForm): Promise<void> {
  const { kind, tracking, costMethod, policies, inventoryAccountId, costAccountId } = form;
  const errors: FieldError[] = kindFaults({ kind, tracking, costMethod, reordered: policies.filter(({ reorderPoint }) => reorderPoint !== null).length });
  errors.push(...(await accountFaults(tx, { inventoryAccountId, costAccountId })));
  if (errors[0]) throw new Refusal(422, 'not-valid', errors[0].sentence, errors);
  if (!was || was.kind === kind) return;
  const [used] = await tx.rows<{ what: string }>(
    `SELECT what FROM (SELECT 'moved' AS what FROM movement_line WHERE item_id = $1 UNION ALL SELECT 'ordered' FROM purchase_line WHERE item_id = $1 UNION ALL SELECT 'sold' FROM sales_line WHERE item_id = $1) u LIMIT 1`,
    [was.id],
  );
  if (used)
    throw refuseField(409, 'kind-in-use', 'kind', `${was.sku} was ${used.what} already; what it is cannot change any more. Retire it and set up another.`);
}
