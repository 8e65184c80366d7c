import { and, eq, exists, isNotNull, isNull, ne, or, sql } from 'drizzle-orm';
import { combinations, manyMembers, memberName } from '@larder/core/catalog/family';
import { kindFaults, type ItemKind } from '@larder/core/catalog/kind';
import { ItemForm } from '@larder/contract/catalog';
import type * as contract from '@larder/contract/families';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import type { Effects } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { twiceAt } from '@larder/core/twice';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { barcode, documentLine, family as familyTable, familyValue, item as itemTable, itemPolicy, movementLine, place } from '../../db/schema/index';
import { lower, sameText } from '../../db/text';
import { recordChanges, refuseStale } from '../../documents/changes';
import { standsOn } from '../../ledger/accounts';
import { lock } from '../../ledger/lock';
import { openStock } from '../stock/service';
import { accountFaults, moveInventory } from './accounts';
import { family } from './familyQueries';
import { refreshFindable } from './itemParts';
import { refuseRetiredChoices } from './retiredChoices';
import { refuseRetiring } from './retiring';
import { createItem } from './service';
import { sharedFacts } from './sharedFacts';

type Made = ResponseOf<typeof contract.createFamily>;
interface ValueRow {
  id: number;
  axis: number;
  name: string;
}

/** Makes a family with the chosen combinations of its values, and brings their opening stock in through the ledger. */
export async function createFamily(act: Act, form: contract.FamilyForm): Promise<Made> {
  refuseAxes(form);
  const [taken] = await act.tx.db.select({ id: familyTable.id }).from(familyTable).where(sameText(familyTable.name, form.name));
  if (taken) throw refuseField(409, 'name-in-use', 'name', `There is a family ${form.name} already.`);
  if (form.members.length > manyMembers && !form.many)
    throw refuseField(409, 'many-members', 'members', `That makes ${form.members.length} items. Make them all?`, ['many-members']);
  await refuseRetiredChoices(act, null, form);
  await refuseMembers(act, form.members);
  if (act.tx.readOnly) return { id: null, members: form.members.length };
  const { axes, members, supplierId, many: _many, ...shared } = form;
  const { familyId, values } = await beginFamily(act, shared, axes);
  await makeMembers(act, { id: familyId, ...shared }, values, members, supplierId);
  await recordChanges(act, 'family', familyId, {}, { name: form.name, members: members.length });
  return { id: familyId, members: members.length };
}

/** A family with its axes and values, and no members yet. */
export async function beginFamily(
  act: Act,
  shared: Omit<contract.FamilyForm, 'axes' | 'members' | 'supplierId' | 'many'>,
  axes: contract.FamilyForm['axes'],
): Promise<{ familyId: number; values: ValueRow[] }> {
  const [added] = await act.tx.db.insert(familyTable).values(shared).returning({ id: familyTable.id });
  const familyId = added?.id as number;
  const values = await act.tx.db
    .insert(familyValue)
    .values(axes.flatMap((axis, at) => axis.values.map((value, index) => ({ familyId, axis: at + 1, axisName: axis.name, position: index + 1, ...value }))))
    .returning({ id: familyValue.id, axis: familyValue.axis, name: familyValue.name });
  return { familyId, values };
}

function refuseAxes({ axes, members }: contract.FamilyForm): void {
  const errors = axes.flatMap((axis, at): FieldError[] => {
    const twice = twiceAt(axis.values, ({ name }) => name);
    if (twice >= 0) return [{ field: `axes.${at}.values.${twice}.name`, sentence: `${axis.values[twice]?.name ?? ''} stands there twice.` }];
    return axes.findIndex(({ name }) => name.toLowerCase() === axis.name.toLowerCase()) < at
      ? [{ field: `axes.${at}.name`, sentence: 'Another axis has this name.' }]
      : [];
  });
  const known = new Set(combinations(axes).map((one) => JSON.stringify(one.map(({ name }) => name))));
  const seen = new Set<string>();
  members.forEach(({ values }, index) => {
    const combination = JSON.stringify(values);
    if (!known.has(combination)) errors.push({ field: `members.${index}.values`, sentence: `${values.join(', ')} is no combination of the axes.` });
    else if (seen.has(combination)) errors.push({ field: `members.${index}.values`, sentence: `${values.join(', ')} stands there twice.` });
    seen.add(combination);
  });
  if (errors[0]) throw new Refusal(422, 'not-valid', errors[0].sentence, errors);
}

/** SKUs and barcodes of new members are refused by their field when they are in use, or given twice. */
async function refuseMembers(act: Act, members: readonly contract.NewMember[]): Promise<void> {
  const taken = await takenCodes(act, { skus: members.map(({ sku }) => sku), barcodes: members.map(({ barcode }) => barcode).filter((code) => code !== '') });
  const errors = members.flatMap((member, index): FieldError[] => {
    const sku = taken.skus.find(({ code }) => code.toLowerCase() === member.sku.toLowerCase());
    const barcode = taken.barcodes.find(({ code }) => code === member.barcode);
    return [
      ...(sku ? [{ field: `members.${index}.sku`, sentence: `${member.sku} is the SKU of ${sku.name} already.` }] : []),
      ...(barcode ? [{ field: `members.${index}.barcode`, sentence: `${member.barcode} is a barcode of ${barcode.name} already.` }] : []),
      ...(members.findIndex(({ sku: other }) => other.toLowerCase() === member.sku.toLowerCase()) < index
        ? [{ field: `members.${index}.sku`, sentence: `${member.sku} is given twice.` }]
        : []),
      ...(member.barcode !== '' && members.findIndex(({ barcode: other }) => other === member.barcode) < index
        ? [{ field: `members.${index}.barcode`, sentence: `${member.barcode} is given twice.` }]
        : []),
    ];
  });
  if (errors[0]) throw new Refusal(409, 'code-in-use', errors[0].sentence, errors);
}

/** Which of these codes are in use, and by what. */
export async function takenCodes({ tx }: Act, { skus, barcodes }: BodyOf<typeof contract.takenCodes>): Promise<ResponseOf<typeof contract.takenCodes>> {
  const { db } = tx;
  const lowered = skus.map((sku) => sku.toLowerCase());
  return {
    skus: await db
      .select({ code: itemTable.sku, name: itemTable.name })
      .from(itemTable)
      .where(among(lower(itemTable.sku), lowered)),
    barcodes: await db
      .select({ code: barcode.code, name: sql<string>`${itemTable.sku} || ' ' || ${itemTable.name}` })
      .from(barcode)
      .innerJoin(itemTable, eq(itemTable.id, barcode.itemId))
      .where(among(barcode.code, barcodes)),
  };
}

interface SharedFacts {
  id: number;
  name: string;
  description: string;
  categoryId: number | null;
  unitId: number;
  brand: string;
  taxCodeId: number | null;
  returnable: boolean;
  kind: ItemKind;
  maker: string;
  inventoryAccountId: number | null;
  costAccountId: number | null;
  salesAccountId: number | null;
}

async function makeMembers(
  act: Act,
  shared: SharedFacts,
  values: readonly ValueRow[],
  members: readonly contract.NewMember[],
  supplierId: number | null,
): Promise<Effects | null> {
  const bins = await act.tx.db.select({ siteId: place.siteId, id: place.id }).from(place).where(eq(place.unplaced, true));
  const opening: { itemId: number; binId: number; quantity: string; unitValue: string; lots: [] }[] = [];
  for (const [index, member] of members.entries()) {
    const of = member.values.map((name, at) => values.find((value) => value.axis === at + 1 && value.name.toLowerCase() === name.toLowerCase()));
    if (of.some((value) => value === undefined))
      throw refuseField(422, 'no-such-value', `members.${index}.values`, `${member.values.join(', ')} is no combination of this family.`);
    const form = ItemForm.parse({
      ...shared,
      sku: member.sku,
      name: memberName(shared.name, of as ValueRow[]),
      salesPrice: member.salesPrice,
      purchasePrice: member.purchasePrice,
      weightKg: member.weightKg,
      barcodes: member.barcode === '' ? [] : [member.barcode],
      suppliers: supplierId === null ? [] : [{ supplierId, code: member.supplierCode, price: member.purchasePrice }],
    });
    const made = await createItem(act, form).catch((error: unknown) => {
      if (error instanceof Refusal)
        throw new Refusal(
          error.status,
          error.type,
          error.message,
          error.errors.map(({ field, sentence }) => ({ field: `members.${index}.${field.replace(/^barcodes\.0/, 'barcode')}`, sentence })),
          error.asks,
        );
      throw error;
    });
    await setValues(
      act,
      made.id,
      shared.id,
      of.map((value) => (value as ValueRow).id),
    );
    for (const { siteId, quantity, unitValue } of member.opening) {
      const bin = bins.find((one) => one.siteId === siteId);
      if (!bin) throw refuseField(404, 'no-such-site', `members.${index}.opening`, 'There is no such site.');
      if (decimal(quantity).gt(0)) opening.push({ itemId: made.id, binId: bin.id, quantity, unitValue, lots: [] });
    }
  }
  return opening.length === 0 ? null : (await openStock(act, { lines: opening, note: `opening of family ${shared.name}`, countedSince: false })).effects;
}

export const setValues = ({ tx }: Act, itemId: number, familyId: number | null, valueIds: readonly number[]) =>
  tx.db
    .update(itemTable)
    .set({ familyId, value1Id: valueIds[0] ?? null, value2Id: valueIds[1] ?? null, value3Id: valueIds[2] ?? null, ownFacts: [] })
    .where(eq(itemTable.id, itemId));

/** Changes what members share; a member that has a fact of its own keeps it. */
export async function editFamily(
  act: Act,
  id: number,
  { version, retired, retiredInUse, ...shared }: BodyOf<typeof contract.editFamily>,
): Promise<contract.Family> {
  const was = await lockedFamily(act, id);
  refuseStale(version, was.version, was.name);
  const [taken] = await act.tx.db
    .select({ id: familyTable.id })
    .from(familyTable)
    .where(and(sameText(familyTable.name, shared.name), ne(familyTable.id, id)));
  if (taken) throw refuseField(409, 'name-in-use', 'name', `There is a family ${shared.name} already.`);
  if (retired && !was.retired)
    await refuseRetiring(
      act,
      was.list.map(({ itemId }) => itemId),
      retiredInUse,
    );
  const members = was.list.map(({ itemId }) => itemId);
  const faults = await accountFaults(act.tx, shared);
  if (faults[0]) throw new Refusal(422, 'not-valid', faults[0].sentence, faults);
  await refuseRetiredChoices(act, was, shared);
  if (shared.kind !== was.kind) await refuseKindOf(act, id, shared.kind);
  const isElsewhere = shared.categoryId !== was.categoryId || shared.inventoryAccountId !== was.inventoryAccountId;
  if (isElsewhere) await lock.pools(act, members);
  const stoodOn = isElsewhere ? await standsOn(act, members) : [];
  if (shared.unitId !== was.unitId) {
    const lines = act.tx.db
      .select({ one: sql`1` })
      .from(movementLine)
      .where(eq(movementLine.itemId, itemTable.id));
    const [moved] = await act.tx.db
      .select({ sku: itemTable.sku })
      .from(itemTable)
      .where(and(eq(itemTable.familyId, id), sql`not 'unitId' = any(${itemTable.ownFacts})`, exists(lines)))
      .limit(1);
    if (moved) throw refuseField(409, 'unit-in-use', 'unitId', `Stock of ${moved.sku} was moved already; the unit cannot change any more.`);
  }
  await act.tx.db
    .update(familyTable)
    .set({ ...shared, retiredAt: retired ? act.now.toISOString() : null, version: was.version + 1 })
    .where(eq(familyTable.id, id));
  await act.tx.db
    .update(itemTable)
    .set({ ...sharedFacts(), version: sql`${itemTable.version} + 1` })
    .from(familyTable)
    .where(and(eq(familyTable.id, itemTable.familyId), eq(familyTable.id, id)));
  if (retired !== was.retired)
    await act.tx.db
      .update(itemTable)
      .set({ retiredAt: retired ? act.now.toISOString() : null })
      .where(and(eq(itemTable.familyId, id), retired ? isNull(itemTable.retiredAt) : isNotNull(itemTable.retiredAt)));
  await refreshFindable(act, members);
  await moveInventory(act, stoodOn);
  const is = await family(act, id);
  await recordChanges(act, 'family', id, headOf(was), headOf(is));
  return is;
}

const headOf = ({ name, description, categoryId, unitId, brand, taxCodeId, returnable, kind, maker, ...rest }: contract.Family) => ({
  ...{ name, description, categoryId, unitId, brand, taxCodeId, returnable, kind, maker },
  inventoryAccountId: rest.inventoryAccountId,
  costAccountId: rest.costAccountId,
  salesAccountId: rest.salesAccountId,
  retired: rest.retired,
});

/** What members are changes only before any that shares it was ordered, sold or moved, and goes with how each is kept. */
async function refuseKindOf({ tx: { db } }: Act, id: number, kind: ItemKind): Promise<void> {
  const one = { one: sql`1` };
  const ofIt = and(eq(itemTable.familyId, id), sql`not 'kind' = any(${itemTable.ownFacts})`);
  const used = or(
    exists(db.select(one).from(movementLine).where(eq(movementLine.itemId, itemTable.id))),
    exists(db.select(one).from(documentLine).where(eq(documentLine.itemId, itemTable.id))),
  );
  const [there] = await db.select({ sku: itemTable.sku }).from(itemTable).where(and(ofIt, used)).limit(1);
  if (there) throw refuseField(409, 'kind-in-use', 'kind', `${there.sku} was ordered, sold or moved already; what its family is cannot change any more.`);
  const reordered = exists(
    db
      .select(one)
      .from(itemPolicy)
      .where(and(eq(itemPolicy.itemId, itemTable.id), isNotNull(itemPolicy.reorderPoint))),
  );
  const kept = await db
    .select({ sku: itemTable.sku, tracking: itemTable.tracking, costMethod: itemTable.costMethod, reordered: sql<boolean>`${reordered}` })
    .from(itemTable)
    .where(ofIt);
  for (const { sku, reordered: is, ...member } of kept) {
    const [fault] = kindFaults({ kind, ...member, reordered: is ? 1 : 0 });
    if (fault) throw refuseField(422, 'not-valid', 'kind', `${sku}: ${fault.sentence}`);
  }
}

/** Adds values and combinations; only the combinations that are not there yet are made. */
export async function addMembers(act: Act, id: number, { newValues, members }: BodyOf<typeof contract.addMembers>): Promise<contract.Family> {
  const was = await lockedFamily(act, id);
  await addValues(act, was, newValues);
  const now = await family(act, id);
  const values = now.axisValues.flatMap((axis, at) => axis.values.map(({ id: valueId, name }) => ({ id: valueId, axis: at + 1, name })));
  const there = new Set(now.list.map(({ valueIds }) => valueIds.join()));
  const fresh = members.filter(
    (member) =>
      !there.has(member.values.map((name, at) => values.find((value) => value.axis === at + 1 && value.name.toLowerCase() === name.toLowerCase())?.id).join()),
  );
  await refuseMembers(act, fresh);
  await makeMembers(act, now, values, fresh, null);
  await recordChanges(act, 'family', id, { members: was.members }, { members: was.members + fresh.length });
  return family(act, id);
}

/** Gives axes more values. Throws when an axis has one already. */
export async function addValues(act: Act, was: contract.Family, newValues: BodyOf<typeof contract.addMembers>['newValues']): Promise<void> {
  const errors = newValues.flatMap((value, index): FieldError[] => {
    const axis = was.axisValues[value.axis - 1];
    if (!axis) return [{ field: `newValues.${index}.axis`, sentence: `${was.name} has no such axis.` }];
    return axis.values.some(({ name }) => name.toLowerCase() === value.name.toLowerCase())
      ? [{ field: `newValues.${index}.name`, sentence: `${axis.name} has ${value.name} already.` }]
      : [];
  });
  if (errors[0]) throw new Refusal(409, 'value-known', errors[0].sentence, errors);
  if (newValues.length > 0)
    await act.tx.db.insert(familyValue).values(
      newValues.map((value, index) => ({
        familyId: was.id,
        ...value,
        axisName: was.axisValues[value.axis - 1]?.name ?? '',
        position: (was.axisValues[value.axis - 1]?.values.length ?? 0) + index + 1,
      })),
    );
}

export async function lockedFamily(act: Act, id: number): Promise<contract.Family> {
  await act.tx.db.select({ id: familyTable.id }).from(familyTable).where(eq(familyTable.id, id)).for('update');
  return family(act, id);
}
