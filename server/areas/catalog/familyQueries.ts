import type * as contract from '@larder/contract/families';
import type { QueryOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import type { Act } from '../../act';
import { jsonList, jsonRows } from '../../db/json';
import { everyWord } from '../../db/paging';
import { family as table, familyValue, item, costPool } from '../../db/schema/index';
import { lower, plain } from '../../db/text';
import { costPoolOver } from '../../documents/seen';

const query = new QueryBuilder();

const axes = query
  .select({ name: familyValue.axisName })
  .from(familyValue)
  .where(eq(familyValue.familyId, table.id))
  .groupBy(familyValue.axis, familyValue.axisName)
  .orderBy(familyValue.axis);

/** How many members it has, and what there is of them. */
const sumsOver = (sites: Sites) =>
  query
    .select({
      members: sql<number>`count(*)`.as('members'),
      onHand: sql<string>`trim_scale(coalesce(sum(${costPool.onHand}), 0))`.as('sum_on_hand'),
      free: sql<string>`trim_scale(coalesce(sum(${costPool.free}), 0))`.as('sum_free'),
    })
    .from(item)
    .innerJoin(costPoolOver(sites), eq(costPool.itemId, item.id))
    .where(eq(item.familyId, table.id))
    .as('sums');

const rowFields = (sums: ReturnType<typeof sumsOver>) => ({
  id: table.id,
  name: table.name,
  code: table.code,
  axes: sql<string[]>`array(${axes})`,
  members: sums.members,
  onHand: sums.onHand,
  free: sums.free,
  retired: sql<boolean>`${table.retiredAt} is not null`,
});

export async function families({ tx: { db }, sites }: Act, { q, life }: QueryOf<typeof contract.listFamilies>): Promise<contract.FamilyRow[]> {
  const sums = sumsOver(sites('look'));
  return db
    .select(rowFields(sums))
    .from(table)
    .innerJoinLateral(sums, sql`true`)
    .where(
      and(
        everyWord(sql`lower(${table.name} || ' ' || ${table.code})`, q),
        { all: undefined, active: isNull(table.retiredAt), retired: isNotNull(table.retiredAt) }[life],
      ),
    )
    .orderBy(lower(table.name))
    .limit(500);
}

const ofAxis = query
  .select({
    axis: familyValue.axis,
    name: familyValue.axisName,
    values: jsonList({ id: familyValue.id, name: familyValue.name, code: familyValue.code }, { orderBy: sql`${familyValue.position}, ${familyValue.id}` }).as(
      'axis_values',
    ),
  })
  .from(familyValue)
  .where(eq(familyValue.familyId, table.id))
  .groupBy(familyValue.axis, familyValue.axisName)
  .as('of_axis');

const [value1, value2, value3] = [alias(familyValue, 'value_1'), alias(familyValue, 'value_2'), alias(familyValue, 'value_3')];

const memberFields = {
  itemId: item.id,
  sku: item.sku,
  name: item.name,
  valueIds: sql<number[]>`array_remove(array[${item.value1Id}, ${item.value2Id}, ${item.value3Id}], null)`,
  onHand: plain(costPool.onHand),
  free: plain(costPool.free),
  salesPrice: plain(item.salesPrice),
  purchasePrice: plain(item.purchasePrice),
  ownFacts: sql<string[]>`${item.ownFacts}`,
  retired: sql<boolean>`${item.retiredAt} is not null`,
};

export async function family({ tx: { db }, sites }: Act, id: number): Promise<contract.Family> {
  const seen = sites('look');
  const sums = sumsOver(seen);
  const [row] = await db
    .select({
      ...rowFields(sums),
      version: table.version,
      description: table.description,
      categoryId: table.categoryId,
      unitId: table.unitId,
      brand: table.brand,
      taxCodeId: table.taxCodeId,
      returnable: table.returnable,
      kind: table.kind,
      maker: table.maker,
      inventoryAccountId: table.inventoryAccountId,
      costAccountId: table.costAccountId,
      salesAccountId: table.salesAccountId,
      skuPattern: table.skuPattern,
      axisValues: jsonRows({ name: ofAxis.name, values: ofAxis.values }, (select) => select.from(ofAxis), { orderBy: ofAxis.axis }),
      list: jsonRows(
        memberFields,
        (select) =>
          select
            .from(item)
            .innerJoin(costPoolOver(seen), eq(costPool.itemId, item.id))
            .leftJoin(value1, eq(value1.id, item.value1Id))
            .leftJoin(value2, eq(value2.id, item.value2Id))
            .leftJoin(value3, eq(value3.id, item.value3Id))
            .where(eq(item.familyId, table.id)),
        { orderBy: sql`${value1.position}, ${value2.position}, ${value3.position}, ${item.id}` },
      ),
    })
    .from(table)
    .innerJoinLateral(sums, sql`true`)
    .where(eq(table.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such family.');
  return row;
}
