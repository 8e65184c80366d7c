import { kindFaults } from '@larder/core/catalog/kind';
import { factorFault } from '@larder/core/catalog/units';
import { gtinFault } from '@larder/core/codes/gtin';
import type { Item, ItemForm } from '@larder/contract/catalog';
import { wayFault, wayOf } from '@larder/core/planning/levels';
import { refuseField, Refusal, type FieldError } from '@larder/core/refusal';
import { and, desc, eq, isNull, ne, sql } from 'drizzle-orm';
import { union } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { accountFaults } from './accounts';
import { attributeFaults } from './attributes';
import { among, positive } from '../../db/given';
import { balance, barcode, documentLine, item, movementLine, place, purchaseLine, salesLine, site } from '../../db/schema/index';
import { plain, sameText } from '../../db/text';

/** A SKU in use is refused by the field, naming the item that has it; so are a barcode of another item and a mistyped GTIN, unless they are meant so or were kept before. */
export async function refuseTaken(act: Act, form: ItemForm, id: number): Promise<void> {
  const { tx } = act;
  const errors: FieldError[] = [];
  const [sku] = await tx.db
    .select({ name: item.name })
    .from(item)
    .where(and(sameText(item.sku, form.sku), ne(item.id, id)));
  if (sku) errors.push({ field: 'sku', sentence: `${form.sku} is the SKU of ${sku.name} already.` });
  const codes = form.barcodes.map(({ code }) => code);
  const taken = await tx.db
    .select({ code: barcode.code, sku: item.sku, name: item.name })
    .from(barcode)
    .innerJoin(item, eq(item.id, barcode.itemId))
    .where(and(among(barcode.code, codes), ne(item.id, id)));
  const own = await tx.db.select({ code: barcode.code }).from(barcode).where(eq(barcode.itemId, id));
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
  if (await wasMoved(tx, was.id))
    throw refuseField(409, 'unit-in-use', 'unitId', `Stock of ${was.sku} was moved in ${was.unit}; its unit cannot change any more.`);
}

/** How cost runs is chosen before the first movement; each serial its own asks for serials. */
export async function refuseCostMethod({ tx }: Act, was: Item | null, form: ItemForm): Promise<void> {
  if (form.costMethod === 'specific' && form.tracking !== 'serial')
    throw refuseField(422, 'not-by-serial', 'costMethod', 'Only an item tracked by serial can keep the cost of each unit.');
  if (!was || was.costMethod === form.costMethod) return;
  if (await wasMoved(tx, was.id))
    throw refuseField(409, 'cost-method-in-use', 'costMethod', `Stock of ${was.sku} was moved already; how its cost runs cannot change any more.`);
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
  const units = altered.map(({ unit }) => unit);
  const bought = tx.db
    .select({ unit: purchaseLine.unit })
    .from(purchaseLine)
    .where(and(eq(purchaseLine.itemId, was.id), positive(purchaseLine.received), among(purchaseLine.unit, units)));
  const sold = tx.db
    .select({ unit: salesLine.unit })
    .from(salesLine)
    .where(and(eq(salesLine.itemId, was.id), positive(salesLine.picked), among(salesLine.unit, units)));
  const moved = await union(bought, sold);
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
  const [there] = await tx.db
    .select({ quantity: plain(balance.quantity), code: sql<string>`coalesce(${site.name} || ' ', '') || ${place.code}` })
    .from(balance)
    .innerJoin(place, eq(place.id, balance.placeId))
    .leftJoin(site, eq(site.id, place.siteId))
    .where(and(eq(balance.itemId, was.id), balance.owned, positive(balance.quantity)))
    .orderBy(desc(balance.quantity))
    .limit(1);
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
  const { kind, tracking, costMethod, policies, inventoryAccountId, costAccountId, salesAccountId } = form;
  const errors: FieldError[] = kindFaults({ kind, tracking, costMethod, reordered: policies.filter(({ reorderPoint }) => reorderPoint !== null).length });
  errors.push(...(await accountFaults(tx, { inventoryAccountId, costAccountId, salesAccountId })));
  errors.push(...(await wayFaults(tx, form)));
  if (errors[0]) throw new Refusal(422, 'not-valid', errors[0].sentence, errors);
  if (!was || was.kind === kind) return;
  const used = await usedAs(tx, was.id);
  if (used !== null)
    throw refuseField(409, 'kind-in-use', 'kind', `${was.sku} was ${used} already; what it is cannot change any more. Retire it and set up another.`);
}

/** Ways of topping up that lead nowhere, by field. */
async function wayFaults(tx: Act['tx'], { policies, suppliers }: ItemForm): Promise<FieldError[]> {
  const sites = (await tx.db.select({ id: site.id }).from(site).where(isNull(site.retiredAt))).map(({ id }) => id);
  const known = { suppliers: suppliers.map(({ supplierId }) => supplierId), sites };
  return policies.flatMap(({ siteId, way }, index): FieldError[] => {
    const sentence = wayFault(wayOf(way), siteId, known);
    return sentence === null ? [] : [{ field: `policies.${index}.way`, sentence }];
  });
}

const wasMoved = async ({ db }: Act['tx'], itemId: number): Promise<boolean> => {
  const [line] = await db.select({ id: movementLine.id }).from(movementLine).where(eq(movementLine.itemId, itemId)).limit(1);
  return line !== undefined;
};

/** What was done with an item, in a word: moved, ordered or sold; null when nothing was. */
export async function usedAs(tx: Act['tx'], itemId: number): Promise<string | null> {
  if (await wasMoved(tx, itemId)) return 'moved';
  const [line] = await tx.db.select({ kind: documentLine.kind }).from(documentLine).where(eq(documentLine.itemId, itemId)).limit(1);
  if (!line) return null;
  return line.kind === 'purchase' ? 'ordered' : line.kind === 'sales' ? 'sold' : `on a ${line.kind}`;
}
