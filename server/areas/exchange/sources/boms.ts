import { eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { bom, bomPart, item, unit } from '../../../db/schema/index';
import { plain } from '../../../db/text';
import { day, type Source } from './source';

const part = alias(item, 'part');
const lineUnit = alias(unit, 'line_unit');

/** What items are made of: a row for each part of each version that is not retired. */
export const boms: Source = {
  read: (db, where) =>
    db
      .select({
        sku: item.sku,
        version: bom.number,
        startsOn: day(bom.startsOn),
        makes: plain(bom.makes),
        part: part.sku,
        quantity: plain(bomPart.quantity),
        unit: sql<string>`coalesce(${lineUnit.code}, ${unit.code})`,
        waste: plain(bomPart.waste),
        note: bomPart.note,
      })
      .from(bomPart)
      .innerJoin(bom, eq(bom.id, bomPart.bomId))
      .innerJoin(item, eq(item.id, bom.itemId))
      .innerJoin(part, eq(part.id, bomPart.itemId))
      .innerJoin(unit, eq(unit.id, part.unitId))
      .leftJoin(lineUnit, eq(lineUnit.id, bomPart.unitId))
      .where(where)
      .orderBy(item.sku, bom.number, bomPart.position),
  words: sql`lower(${item.sku} || ' ' || ${item.name} || ' ' || ${bom.name})`,
  item: item.id,
  shows: { all: sql`${bom.retiredAt} is null` },
};
