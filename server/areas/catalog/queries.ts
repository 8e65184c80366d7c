import type * as contract from '@larder/contract/catalog';
import { Refusal } from '@larder/core/refusal';
import { eq, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import {
  attributeValue,
  barcode,
  category,
  family,
  familyValue,
  item as table,
  itemPolicy,
  itemSubstitute,
  itemSupplier,
  itemUnit,
  party,
  place,
  costPool,
  unit,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { wayWritten } from '../../documents/levels';

export { readCode } from './codes';
export { itemConditions } from './itemList';

export async function item({ tx }: Act, id: number): Promise<contract.Item> {
  const [found] = await readItem(tx, { id });
  if (!found) throw new Refusal(404, 'not-found', 'There is no such item.');
  const { familyId, familyName, familyOwnFacts, familyValues, ...row } = found;
  return {
    ...row,
    family:
      familyId === null || familyName === null
        ? null
        : { id: familyId, name: familyName, ownFacts: familyOwnFacts, values: familyValues.map(({ name }) => name) },
  };
}

const otherUnit = alias(unit, 'other_unit');
const other = alias(table, 'other_item');

const barcodes = jsonRows(
  { code: barcode.code, unitId: barcode.unitId, unit: sql<string | null>`${otherUnit.code}` },
  (select) => select.from(barcode).leftJoin(otherUnit, eq(otherUnit.id, barcode.unitId)).where(eq(barcode.itemId, table.id)),
  { orderBy: barcode.position },
);

const units = jsonRows(
  {
    unitId: itemUnit.unitId,
    unit: otherUnit.code,
    numerator: itemUnit.numerator,
    denominator: itemUnit.denominator,
    buys: itemUnit.buys,
    sells: itemUnit.sells,
  },
  (select) => select.from(itemUnit).innerJoin(otherUnit, eq(otherUnit.id, itemUnit.unitId)).where(eq(itemUnit.itemId, table.id)),
  { orderBy: sql`${itemUnit.numerator} / ${itemUnit.denominator}, ${itemUnit.unitId}` },
);

const substitutes = jsonRows(
  { itemId: other.id, sku: other.sku, name: other.name, free: plain(costPool.free) },
  (select) =>
    select
      .from(itemSubstitute)
      .innerJoin(other, eq(other.id, itemSubstitute.substituteId))
      .innerJoin(costPool, eq(costPool.itemId, other.id))
      .where(eq(itemSubstitute.itemId, table.id)),
  { orderBy: itemSubstitute.position },
);

const suppliers = jsonRows(
  {
    supplierId: itemSupplier.supplierId,
    supplier: party.name,
    code: itemSupplier.code,
    packSize: plain(itemSupplier.packSize),
    minimum: plain(itemSupplier.minimum),
    price: plain(itemSupplier.price),
    leadDays: itemSupplier.leadDays,
    breaks: itemSupplier.breaks,
  },
  (select) => select.from(itemSupplier).innerJoin(party, eq(party.id, itemSupplier.supplierId)).where(eq(itemSupplier.itemId, table.id)),
  { orderBy: itemSupplier.position },
);

const policies = jsonRows(
  {
    siteId: itemPolicy.siteId,
    binId: itemPolicy.binId,
    bin: sql<string | null>`${place.code}`,
    reorderPoint: plain(itemPolicy.reorderPoint),
    orderUpTo: plain(itemPolicy.orderUpTo),
    coverDays: itemPolicy.coverDays,
    packSize: plain(itemPolicy.packSize),
    way: wayWritten,
  },
  (select) => select.from(itemPolicy).leftJoin(place, eq(place.id, itemPolicy.binId)).where(eq(itemPolicy.itemId, table.id)),
  { orderBy: itemPolicy.siteId },
);

const attributes = jsonRows(
  { attributeId: attributeValue.attributeId, value: attributeValue.value },
  (select) => select.from(attributeValue).where(eq(attributeValue.itemId, table.id)),
  { orderBy: attributeValue.attributeId },
);

const familyValues = jsonRows(
  { name: familyValue.name },
  (select) => select.from(familyValue).where(or(eq(familyValue.id, table.value1Id), eq(familyValue.id, table.value2Id), eq(familyValue.id, table.value3Id))),
  { orderBy: familyValue.axis },
);

const readItem = prepared(['id'], (db, value) =>
  db
    .select({
      id: table.id,
      version: table.version,
      sku: table.sku,
      name: table.name,
      kind: table.kind,
      description: table.description,
      categoryId: table.categoryId,
      category: category.name,
      inventoryAccountId: table.inventoryAccountId,
      costAccountId: table.costAccountId,
      salesAccountId: table.salesAccountId,
      unitId: table.unitId,
      unit: unit.code,
      step: plain(unit.step),
      brand: table.brand,
      maker: table.maker,
      tracking: table.tracking,
      costMethod: table.costMethod,
      returnable: table.returnable,
      notes: table.notes,
      weightKg: plain(table.weightKg),
      lengthCm: plain(table.lengthCm),
      widthCm: plain(table.widthCm),
      heightCm: plain(table.heightCm),
      shelfLifeDays: table.shelfLifeDays,
      madeToOrder: table.madeToOrder,
      inspected: table.inspected,
      pictureId: table.pictureId,
      salesPrice: plain(table.salesPrice),
      purchasePrice: plain(table.purchasePrice),
      taxCodeId: table.taxCodeId,
      retired: sql<boolean>`${table.retiredAt} is not null`,
      familyId: family.id,
      familyName: family.name,
      familyOwnFacts: table.ownFacts,
      familyValues,
      barcodes,
      units,
      substitutes,
      attributes,
      suppliers,
      policies,
    })
    .from(table)
    .innerJoin(unit, eq(unit.id, table.unitId))
    .leftJoin(category, eq(category.id, table.categoryId))
    .leftJoin(family, eq(family.id, table.familyId))
    .where(sql`${table.id} = ${value.id}`),
);
