import type * as contract from '@larder/contract/making';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import { neededFor } from '@larder/core/making/bill';
import { rolledCost, rollUp } from '@larder/core/making/rollUp';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, isNull, ne, sql } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { bom, bomAlternative, bomByProduct, bomCost, bomPart, category, item, itemUnit, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { bomsInUse, bomState, costNowOf, inUseFor, itemsIn, itemsOf } from './inUse';

const query = () => new QueryBuilder();
const partItem = alias(item, 'part_item');
const partUnit = alias(unit, 'part_unit');
const lineItem = alias(item, 'line_item');
const baseUnit = alias(unit, 'base_unit');
const lineUnit = alias(unit, 'line_unit');
const otherUnit = alias(unit, 'other_unit');

/** Bills by the SKU of what is made, the versions of one item in their order. */
export async function boms(act: Act, { q, show, partId, limit, cursor }: QueryOf<typeof contract.listBoms>): Promise<ResponseOf<typeof contract.listBoms>> {
  const { db } = act.tx;
  const used = bomsInUse(act).as('used');
  const sort: Sort = { sql: sql`lower(${item.sku}) || ' ' || lpad(${bom.number}::text, 6, '0')`, type: 'text' };
  const page = pageOf(sort, bom.id, { limit, cursor, direction: 'up' });
  const found = await db
    .select({
      id: bom.id,
      itemId: item.id,
      sku: item.sku,
      itemName: item.name,
      unit: unit.code,
      category: sql<string>`coalesce(${category.name}, '')`,
      number: bom.number,
      name: bom.name,
      startsOn: bom.startsOn,
      state: bomState(act.today, sql`${used.id}`),
      makes: plain(bom.makes),
      parts: sql<number>`${db.$count(bomPart, eq(bomPart.bomId, bom.id))}::int`,
      ...cursorOf(sort, bom.id),
    })
    .from(bom)
    .innerJoin(item, eq(item.id, bom.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(category, eq(category.id, item.categoryId))
    .leftJoin(used, eq(used.itemId, bom.itemId))
    .where(
      and(
        everyWord(sql`lower(concat_ws(' ', ${item.sku}, ${item.name}, ${bom.name}, ${category.name}))`, q),
        show === 'in use' ? eq(bom.id, used.id) : undefined,
        partId === undefined
          ? undefined
          : exists(
              query()
                .select({ one: sql`1` })
                .from(bomPart)
                .where(and(eq(bomPart.bomId, bom.id), eq(bomPart.itemId, partId))),
            ),
        page.after,
      ),
    )
    .orderBy(...page.order)
    .limit(page.limit as number);
  const { rows, next } = paged(found, limit);
  const costs = await costsOf(
    act,
    rows.map(({ itemId }) => itemId),
  );
  // What one costs when it is made is told of the version by which it is.
  return { rows: rows.map((row) => ({ ...row, ...costs(row.itemId), ...(row.state === 'in use' ? {} : { made: null }) })), next };
}

/** What one of items costs now: made, by the bill in use, and as it is in stock. Null where nothing says all of it. */
async function costsOf(act: Act, itemIds: readonly number[]): Promise<(itemId: number) => { made: string | null; own: string | null }> {
  const { bills } = await inUseFor(act, itemIds);
  const items = await itemsOf(act, itemsIn(itemIds, bills));
  const cost = costNowOf(items);
  const of = rollUp(bills, cost);
  return (itemId) => {
    const rolled = of(itemId);
    return { made: rolled && rolled.unknown.length === 0 ? rolledCost(rolled).toFixed(4) : null, own: cost(itemId)?.toFixed(4) ?? null };
  };
}

const named = { itemId: partItem.id, sku: partItem.sku, name: partItem.name, unit: partUnit.code };

const alternatives = jsonRows(
  { ...named, quantity: plain(bomAlternative.quantity) },
  (select) =>
    select
      .from(bomAlternative)
      .innerJoin(partItem, eq(partItem.id, bomAlternative.itemId))
      .innerJoin(partUnit, eq(partUnit.id, partItem.unitId))
      .where(and(eq(bomAlternative.bomId, bomPart.bomId), eq(bomAlternative.part, bomPart.position))),
  { orderBy: bomAlternative.position },
);

export async function getBom(act: Act, id: number): Promise<contract.Bom> {
  const { db } = act.tx;
  const used = bomsInUse(act).as('used');
  const [row] = await db
    .select({
      id: bom.id,
      version: bom.version,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      number: bom.number,
      label: bom.name,
      startsOn: bom.startsOn,
      state: bomState(act.today, sql`${used.id}`),
      makes: plain(bom.makes),
      share: sql<string | null>`${plain(bom.share)}`,
      parts: jsonRows(
        {
          itemId: bomPart.itemId,
          sku: lineItem.sku,
          name: lineItem.name,
          unit: baseUnit.code,
          unitId: bomPart.unitId,
          writtenIn: sql<string>`coalesce(${lineUnit.code}, ${baseUnit.code})`,
          units: jsonRows(
            { unitId: itemUnit.unitId, unit: otherUnit.code, factor: sql<string>`trim_scale(${itemUnit.numerator}::numeric / ${itemUnit.denominator})::text` },
            (select) => select.from(itemUnit).innerJoin(otherUnit, eq(otherUnit.id, itemUnit.unitId)).where(eq(itemUnit.itemId, bomPart.itemId)),
          ),
          quantity: plain(bomPart.quantity),
          waste: plain(bomPart.waste),
          note: bomPart.note,
          alternatives,
        },
        (select) =>
          select
            .from(bomPart)
            .innerJoin(lineItem, eq(lineItem.id, bomPart.itemId))
            .innerJoin(baseUnit, eq(baseUnit.id, lineItem.unitId))
            .leftJoin(lineUnit, eq(lineUnit.id, bomPart.unitId))
            .where(eq(bomPart.bomId, bom.id)),
        { orderBy: bomPart.position },
      ),
      costs: jsonRows(
        { name: bomCost.name, per: bomCost.per, quantity: plain(bomCost.quantity), rate: plain(bomCost.rate), accountId: bomCost.accountId },
        (select) => select.from(bomCost).where(eq(bomCost.bomId, bom.id)),
        { orderBy: bomCost.position },
      ),
      byProducts: jsonRows(
        { ...named, quantity: plain(bomByProduct.quantity), share: sql<string | null>`${plain(bomByProduct.share)}` },
        (select) =>
          select
            .from(bomByProduct)
            .innerJoin(partItem, eq(partItem.id, bomByProduct.itemId))
            .innerJoin(partUnit, eq(partUnit.id, partItem.unitId))
            .where(eq(bomByProduct.bomId, bom.id)),
        { orderBy: bomByProduct.position },
      ),
      steps: bom.steps,
      note: bom.note,
    })
    .from(bom)
    .innerJoin(item, eq(item.id, bom.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(used, eq(used.itemId, bom.itemId))
    .where(eq(bom.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such bill of materials.');
  return { ...row, versions: await versionsOf(act, row.itemId) };
}

/** The versions there are of an item's bill, the last first. */
async function versionsOf(act: Act, itemId: number) {
  const used = bomsInUse(act, eq(bom.itemId, itemId)).as('used');
  return act.tx.db
    .select({ id: bom.id, number: bom.number, name: bom.name, startsOn: bom.startsOn, state: bomState(act.today, sql`${used.id}`), makes: plain(bom.makes) })
    .from(bom)
    .leftJoin(used, eq(used.itemId, bom.itemId))
    .where(eq(bom.itemId, itemId))
    .orderBy(sql`${bom.number} desc`);
}

/** What each item contains by versions that are not retired, whatever their day, also what may be taken in place of a part; without the version `ownId`. */
export async function contentsOf({ tx: { db } }: Act, ownId: number | null): Promise<Map<number, number[]>> {
  const others = and(isNull(bom.retiredAt), ownId === null ? undefined : ne(bom.id, ownId));
  const [contained, instead] = await Promise.all([
    db.selectDistinct({ of: bom.itemId, part: bomPart.itemId }).from(bom).innerJoin(bomPart, eq(bomPart.bomId, bom.id)).where(others),
    db.selectDistinct({ of: bom.itemId, part: bomAlternative.itemId }).from(bom).innerJoin(bomAlternative, eq(bomAlternative.bomId, bom.id)).where(others),
  ]);
  const contents = new Map<number, number[]>();
  for (const { of, part } of [...contained, ...instead]) contents.set(of, [...(contents.get(of) ?? []), part]);
  return contents;
}

/** The SKUs of items, in their order. */
export async function skusOf({ tx: { db } }: Act, ids: readonly number[]): Promise<string[]> {
  const rows = await db.select({ id: item.id, sku: item.sku }).from(item).where(among(item.id, ids));
  return ids.map((id) => rows.find((row) => row.id === id)?.sku ?? '');
}

/** What an item goes into by the bills in use, level by level; how many of it are in one, by all ways. And its own versions. */
export async function whereUsed(act: Act, itemId: number): Promise<ResponseOf<typeof contract.whereUsed>> {
  const { db } = act.tx;
  /** How many of the item are in one of each that contains it, and how far up that is at most. */
  const found = new Map<number, { level: number; bomId: number; quantity: ReturnType<typeof decimal> }>();
  let below = new Map([[itemId, decimal(1)]]);
  for (let level = 1; below.size > 0; level += 1) {
    const used = bomsInUse(act).as('used');
    const rows = await db
      .select({ bomId: bom.id, itemId: bom.itemId, makes: bom.makes, partId: bomPart.itemId, quantity: bomPart.baseQuantity, waste: bomPart.waste })
      .from(bomPart)
      .innerJoin(used, eq(used.id, bomPart.bomId))
      .innerJoin(bom, eq(bom.id, used.id))
      .where(among(bomPart.itemId, [...below.keys()]));
    const next = new Map<number, ReturnType<typeof decimal>>();
    for (const row of rows) {
      const part = { itemId: row.partId, quantity: decimal(row.quantity), waste: decimal(row.waste) };
      const many = neededFor(below.get(row.partId) ?? decimal(0), { makes: decimal(row.makes) }, part);
      next.set(row.itemId, (next.get(row.itemId) ?? decimal(0)).plus(many));
      found.set(row.itemId, { level, bomId: row.bomId, quantity: (found.get(row.itemId)?.quantity ?? decimal(0)).plus(many) });
    }
    below = next;
  }
  const items = await itemsOf(act, [...found.keys()]);
  const rows = [...found].flatMap(([id, { level, bomId, quantity }]) => {
    const of = items.get(id);
    return of ? [{ level, bomId, itemId: id, sku: of.sku, name: of.name, unit: of.unit, quantity: quantity.toDecimalPlaces(4).toFixed() }] : [];
  });
  return { rows: rows.sort((a, b) => a.level - b.level || a.sku.localeCompare(b.sku)), boms: await versionsOf(act, itemId) };
}
