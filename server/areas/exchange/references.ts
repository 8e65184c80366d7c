import { and, eq, isNull, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import type { Act } from '../../act';
import { costPoolOver } from '../../documents/seen';
import { lower } from '@larder/core/exchange/rows';
import type { Db } from '../../db/database';
import { among } from '../../db/given';
import type { Fields } from '../../db/json';
import { barcode, bom, bomPart, category, item, itemSupplier, itemUnit, party, place, costPool, site, taxCode, unit } from '../../db/schema/index';

/** Ids of items by SKU in lower case. */
export async function itemsMeant({ tx }: Act, skus: readonly string[]): Promise<Map<string, number>> {
  const rows = await tx.db
    .select({ sku: sql<string>`lower(${item.sku})`, id: item.id })
    .from(item)
    .where(among(sql`lower(${item.sku})`, skus.map(lower)));
  return new Map(rows.map(({ sku, id }) => [sku, id]));
}

/** Ids of sites by name or code in lower case. */
export async function sitesMeant({ tx }: Act): Promise<Map<string, number>> {
  const rows = await tx.db.select({ id: site.id, code: site.code, name: site.name }).from(site).where(isNull(site.retiredAt));
  return new Map(rows.flatMap(({ id, code, name }) => [[lower(code), id] as const, [lower(name), id] as const]));
}

/** Bins by site and code in lower case, as `12/a-01`. */
export async function binsMeant({ tx }: Act): Promise<Map<string, { id: number; unplaced: boolean }>> {
  const rows = await tx.db
    .select({ id: place.id, siteId: place.siteId, code: place.code, unplaced: place.unplaced })
    .from(place)
    .where(and(eq(place.kind, 'bin'), isNull(place.retiredAt)));
  return new Map(rows.map(({ id, siteId, code, unplaced }) => [`${siteId ?? ''}/${lower(code)}`, { id, unplaced }]));
}

/** What is to be said of a cell that names something that is not there. */
export const missing = (map: ReadonlyMap<string, unknown>, text: string | undefined, what: string): string[] =>
  text && !map.has(lower(text)) ? [`There is no ${what} “${text}”.`] : [];

/** What is to be said of a bin that is not at its site. */
export const missingBin = (places: ReadonlyMap<string, unknown>, siteId: number | undefined, bin: string | undefined, site: string | undefined): string[] =>
  bin && !places.has(`${siteId ?? ''}/${lower(bin)}`) ? [`There is no bin “${bin}” at ${site ?? ''}.`] : [];

/** What is to be said of days to deliver that are none. */
export const leadDaysSaid = (days: string | undefined): string[] =>
  days && !(/^\d{1,3}$/.test(days) && Number(days) <= 365) ? ['Days to deliver are whole days from 0 to 365.'] : [];

/** A decimal as a file writes it: without the zeros behind it, and empty where there is none. */
export const written = (column: PgColumn | SQL) => sql<string>`coalesce(trim_scale(${column})::text, '')`;

const query = new QueryBuilder();
const unitBought = alias(unit, 'unit_bought');

const firstTerms = query
  .select({ supplierId: itemSupplier.supplierId, code: itemSupplier.code, packSize: itemSupplier.packSize })
  .from(itemSupplier)
  .where(eq(itemSupplier.itemId, item.id))
  .orderBy(itemSupplier.position)
  .limit(1)
  .as('first_terms');

const bought = query
  .select({
    code: sql<string>`${unitBought.code}`.as('bought_code'),
    many: sql<string>`${itemUnit.numerator}::numeric / ${itemUnit.denominator}`.as('bought_many'),
  })
  .from(itemUnit)
  .innerJoin(unitBought, eq(unitBought.id, itemUnit.unitId))
  .where(and(eq(itemUnit.itemId, item.id), itemUnit.buys))
  .orderBy(itemUnit.unitId)
  .limit(1)
  .as('bought');

const codes = query
  .select({ all: sql`string_agg(${barcode.code}, '; ' order by ${barcode.position})` })
  .from(barcode)
  .where(and(eq(barcode.itemId, item.id), isNull(barcode.unitId)));

const itemFields = {
  sku: item.sku,
  name: item.name,
  kind: item.kind,
  description: item.description,
  category: sql<string>`coalesce(${category.name}, '')`,
  unit: unit.code,
  brand: item.brand,
  maker: item.maker,
  notes: item.notes,
  tax: sql<string>`coalesce(${taxCode.code}, '')`,
  tracking: item.tracking,
  costMethod: item.costMethod,
  salesPrice: written(item.salesPrice),
  purchasePrice: written(item.purchasePrice),
  weightKg: written(item.weightKg),
  lengthCm: written(item.lengthCm),
  widthCm: written(item.widthCm),
  heightCm: written(item.heightCm),
  shelfLife: sql<string>`coalesce(${item.shelfLifeDays}::text, '')`,
  madeToOrder: sql<string>`case when ${item.madeToOrder} then 'yes' else 'no' end`,
  inspected: sql<string>`case when ${item.inspected} then 'yes' else 'no' end`,
  returnable: sql<string>`case when ${item.returnable} then 'yes' else 'no' end`,
  retired: sql<string>`case when ${item.retiredAt} is null then 'no' else 'yes' end`,
  barcode: sql<string>`coalesce((${codes}), '')`,
  supplier: sql<string>`coalesce(${party.name}, '')`,
  supplierCode: sql<string>`coalesce(${firstTerms.code}, '')`,
  packSize: written(firstTerms.packSize),
  buyUnit: sql<string>`coalesce(${bought.code}, '')`,
  buyOf: written(sql`${bought.many}`),
};

/** Items as a file writes them: the same going out and for comparing with what comes in. */
export const itemsWritten = (db: Db, where: SQL | undefined) =>
  db
    .select({ ...itemFields, id: item.id })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(category, eq(category.id, item.categoryId))
    .leftJoin(taxCode, eq(taxCode.id, item.taxCodeId))
    .leftJoinLateral(firstTerms, sql`true`)
    .leftJoin(party, eq(party.id, firstTerms.supplierId))
    .leftJoinLateral(bought, sql`true`)
    .where(where);

/** The same with what there is of each at these sites, and its own attributes, in the order of their SKUs. */
export const itemsWithFigures = (db: Db, sites: Sites, more: { figures: Fields; own: SQL<Record<string, string> | null> }, where: SQL | undefined) =>
  db
    .select({ ...itemFields, ...more.figures, own: more.own })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(costPoolOver(sites), eq(costPool.itemId, item.id))
    .leftJoin(category, eq(category.id, item.categoryId))
    .leftJoin(taxCode, eq(taxCode.id, item.taxCodeId))
    .leftJoinLateral(firstTerms, sql`true`)
    .leftJoin(party, eq(party.id, firstTerms.supplierId))
    .leftJoinLateral(bought, sql`true`)
    .where(where)
    .orderBy(item.sku);

const part = alias(item, 'part');
const lineUnit = alias(unit, 'line_unit');

/** Parts of bills of materials as a file writes them, version by version: the same going out and for comparing with what comes in. */
export const partsWritten = (db: Db, where: SQL | undefined) =>
  db
    .select({
      bomId: bom.id,
      position: bomPart.position,
      sku: item.sku,
      version: sql<string>`${bom.number}::text`,
      startsOn: sql<string>`${bom.startsOn}::text`,
      makes: written(bom.makes),
      part: part.sku,
      quantity: written(bomPart.quantity),
      unit: sql<string>`coalesce(${lineUnit.code}, ${unit.code})`,
      waste: written(bomPart.waste),
      note: bomPart.note,
    })
    .from(bomPart)
    .innerJoin(bom, eq(bom.id, bomPart.bomId))
    .innerJoin(item, eq(item.id, bom.itemId))
    .innerJoin(part, eq(part.id, bomPart.itemId))
    .innerJoin(unit, eq(unit.id, part.unitId))
    .leftJoin(lineUnit, eq(lineUnit.id, bomPart.unitId))
    .where(where)
    .orderBy(item.sku, bom.number, bomPart.position);
