import { eq, sql } from 'drizzle-orm';
import { atSites } from '../../../db/given';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import { itemsWithFigures } from '../references';
import { attributeValue, demandBefore, family, familyValue, item, itemPolicy, itemSupplier, party, place, costPool, site } from '../../../db/schema/index';
import { plain } from '../../../db/text';
import { wayInFile } from '../../../documents/levels';
import { type Source, inOrder, ownOf, figuresAt, figures } from './source';

const [value1, value2, value3] = [alias(familyValue, 'value_1'), alias(familyValue, 'value_2'), alias(familyValue, 'value_3')];
const waySite = alias(site, 'way_site');

/** Price breaks as a file writes them: `100: 0.95; 500: 0.90`. */
const breaksWritten = sql<string>`(${new QueryBuilder()
  .select({ all: sql`coalesce(string_agg((b ->> 'from') || ': ' || (b ->> 'price'), '; ' order by (b ->> 'from')::numeric), '')` })
  .from(sql`jsonb_array_elements(${itemSupplier.breaks}) b`)})`;

export const items: Source = {
  read: (db, where, sites) => itemsWithFigures(db, sites, { figures: figuresAt(costPool), own: ownOf(attributeValue.itemId, item.id) }, where),
  words: item.findable,
  costs: ['purchasePrice'],
  more: figures,
};

export const families: Source = {
  read: (db, where) =>
    db
      .select({
        sku: item.sku,
        family: family.name,
        axis1: value1.axisName,
        value1: value1.name,
        axis2: value2.axisName,
        value2: value2.name,
        axis3: value3.axisName,
        value3: value3.name,
      })
      .from(item)
      .innerJoin(family, eq(family.id, item.familyId))
      .leftJoin(value1, eq(value1.id, item.value1Id))
      .leftJoin(value2, eq(value2.id, item.value2Id))
      .leftJoin(value3, eq(value3.id, item.value3Id))
      .where(where)
      .orderBy(inOrder),
  words: sql`lower(${family.name} || ' ' || ${item.sku})`,
};

export const terms: Source = {
  read: (db, where) =>
    db
      .select({
        supplier: party.name,
        sku: item.sku,
        code: itemSupplier.code,
        packSize: plain(itemSupplier.packSize),
        minimum: plain(itemSupplier.minimum),
        price: plain(itemSupplier.price),
        leadDays: sql<string | null>`${itemSupplier.leadDays}::text`,
        breaks: breaksWritten,
      })
      .from(itemSupplier)
      .innerJoin(item, eq(item.id, itemSupplier.itemId))
      .innerJoin(party, eq(party.id, itemSupplier.supplierId))
      .where(where)
      .orderBy(inOrder),
  words: sql`lower(${party.name} || ' ' || ${item.sku})`,
  costs: ['price', 'breaks'],
};

export const policies: Source = {
  read: (db, where) =>
    db
      .select({
        sku: item.sku,
        site: site.name,
        bin: place.code,
        reorderPoint: plain(itemPolicy.reorderPoint),
        orderUpTo: plain(itemPolicy.orderUpTo),
        coverDays: sql<string | null>`${itemPolicy.coverDays}::text`,
        packSize: plain(itemPolicy.packSize),
        way: wayInFile(party.name, waySite.name),
      })
      .from(itemPolicy)
      .innerJoin(item, eq(item.id, itemPolicy.itemId))
      .innerJoin(site, eq(site.id, itemPolicy.siteId))
      .leftJoin(place, eq(place.id, itemPolicy.binId))
      .leftJoin(party, eq(party.id, itemPolicy.waySupplierId))
      .leftJoin(waySite, eq(waySite.id, itemPolicy.waySiteId))
      .where(where)
      .orderBy(inOrder),
  words: item.findable,
  at: (sites) => atSites(itemPolicy.siteId, sites),
};

export const demand: Source = {
  read: (db, where) =>
    db
      .select({ sku: item.sku, site: site.name, day: sql<string>`${demandBefore.day}::text`, quantity: plain(demandBefore.quantity) })
      .from(demandBefore)
      .innerJoin(item, eq(item.id, demandBefore.itemId))
      .innerJoin(site, eq(site.id, demandBefore.siteId))
      .where(where)
      .orderBy(sql`1, 2, 3`),
  words: item.findable,
  at: (sites) => atSites(demandBefore.siteId, sites),
};
