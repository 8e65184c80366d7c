import { once, toBase } from '@larder/core/catalog/units';
import { parseGs1 } from '@larder/core/codes/gs1';
import { sameGtin } from '@larder/core/codes/gtin';
import { decimal } from '@larder/core/decimal';
import type * as contract from '@larder/contract/catalog';
import type { ResponseOf } from '@larder/contract/endpoint';
import { and, eq, ne, or, sql, type SQL } from 'drizzle-orm';
import { alias, unionAll, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { prepared } from '../../db/prepared';
import { barcode, item, itemSupplier, itemUnit, lot, unit } from '../../db/schema/index';

type Read = ResponseOf<typeof contract.readCode>;
/**
 * What a code means as goods: by barcode (with the unit it is on), SKU, supplier's code, serial or tag, or by the GTIN of a GS1 element
 * string, which may also say lot, use-by, serial and how many. More than one item means that somebody must choose.
 */
export async function readCode({ tx }: Act, code: string): Promise<Read> {
  const gs1 = parseGs1(code.trim());
  const rows = await readItems(tx, { code: gs1?.gtin ?? code.trim(), gtin: gs1?.gtin ? sameGtin(gs1.gtin) : sameGtin(code.trim()) });
  const items = rows.map(({ numerator, denominator, ...row }) => ({
    ...row,
    factor: toBase(decimal(1), numerator === null ? once : { numerator, denominator: denominator ?? 1 }).toFixed(),
  }));
  const first = items[0];
  const many = gs1?.count ?? null;
  return {
    items,
    lot: gs1?.lot ?? null,
    useBy: gs1?.useBy ?? gs1?.bestBefore ?? null,
    serial: gs1?.serial ?? null,
    quantity: many !== null && first ? decimal(many).times(first.factor).toFixed() : (gs1?.netKg ?? null),
  };
}

const otherUnit = alias(unit, 'other_unit');

/** The items that a code may mean, each once, by the best of the ways in which it means them. */
const readItems = prepared(['code', 'gtin'], (db, value) => {
  const meant = (rank: number, of: { unit?: SQL; lotId?: PgColumn } = {}) => ({
    itemId: sql<number>`${item.id}`.as('item_id'),
    sku: item.sku,
    name: item.name,
    tracking: item.tracking,
    unit: sql<string>`${of.unit ?? unit.code}`.as('unit_code'),
    lotId: sql<number | null>`${of.lotId ?? sql`null::int`}`.as('lot_id'),
    rank: sql<number>`${rank}::int`.as('rank'),
  });
  const none = { numerator: sql<number | null>`null::int`.as('numerator'), denominator: sql<number | null>`null::int`.as('denominator') };
  const is = (column: PgColumn) => sql`lower(${column}) = lower(${value.code})`;
  const gtin = sql`${value.gtin}::text`;
  const padded = (length: number) => sql`${barcode.code} = lpad(${gtin}, ${length}::int, '0')`;
  const byBarcode = db
    .select({
      ...meant(1, { unit: sql`coalesce(${otherUnit.code}, ${unit.code})` }),
      numerator: sql<number | null>`${itemUnit.numerator}`.as('numerator'),
      denominator: sql<number | null>`${itemUnit.denominator}`.as('denominator'),
    })
    .from(barcode)
    .innerJoin(item, eq(item.id, barcode.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(otherUnit, eq(otherUnit.id, barcode.unitId))
    .leftJoin(itemUnit, and(eq(itemUnit.itemId, item.id), eq(itemUnit.unitId, barcode.unitId)))
    .where(or(is(barcode.code), sql`${barcode.code} = ${gtin}`, padded(12), padded(13), padded(14)));
  const bySku = db
    .select({ ...meant(2), ...none })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(is(item.sku));
  const bySerial = db
    .select({ ...meant(3, { lotId: lot.id }), ...none })
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(and(eq(lot.kind, 'serial'), or(is(lot.code), is(lot.tag))));
  const bySupplier = db
    .select({ ...meant(4), ...none })
    .from(itemSupplier)
    .innerJoin(item, eq(item.id, itemSupplier.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(and(ne(itemSupplier.code, ''), is(itemSupplier.code)));
  const found = unionAll(byBarcode, bySku, bySerial, bySupplier).as('found');
  const { itemId, sku, name, tracking, unit: unitCode, numerator, denominator, lotId, rank } = found;
  return db.selectDistinctOn([itemId], { itemId, sku, name, tracking, unit: unitCode, numerator, denominator, lotId }).from(found).orderBy(itemId, rank);
});
