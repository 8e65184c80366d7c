import type * as contract from '@larder/contract/takingApart';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { jsonRows } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import {
  componentLine,
  item,
  lot,
  movement,
  movementLine,
  person,
  place,
  productLine,
  site,
  unit,
  workAmount,
  workOrder,
  workRecord,
} from '../../db/schema/index';
import { plain } from '../../db/text';

const query = () => new QueryBuilder();
const undo = alias(movement, 'undo_of_apart');
const takenFrom = alias(place, 'apart_from');
const goesTo = alias(place, 'apart_to');

/** What its posting lost of the cost, with the parts that were missing. */
const lost = query()
  .select({ sum: sql`coalesce(-sum(${workAmount.amount}), 0)` })
  .from(workAmount)
  .where(and(eq(workAmount.movementId, workRecord.movementId), eq(workAmount.kind, 'variance')));
/** What came of it, by what the parts took. */
const came = query()
  .select({ sum: sql`coalesce(sum(${movementLine.value} + ${movementLine.variance}), 0)` })
  .from(movementLine)
  .innerJoin(productLine, eq(productLine.id, movementLine.supplyLineId))
  .where(eq(movementLine.movementId, workRecord.movementId));

const rowFields = {
  id: workOrder.id,
  number: workOrder.number,
  on: movement.effectiveOn,
  person: person.name,
  itemId: workOrder.itemId,
  sku: item.sku,
  name: item.name,
  unit: unit.code,
  siteId: workOrder.siteId,
  site: site.name,
  quantity: plain(componentLine.needed),
  parts: sql<number>`(${query()
    .select({ count: sql`count(*)::int` })
    .from(productLine)
    .where(eq(productLine.workOrderId, workOrder.id))})`,
  value: sql<string>`((${came}) + (${lost}))::numeric(20, 2)::text`,
  lost: sql<string>`(${lost})::numeric(20, 2)::text`,
  undone: sql<boolean>`${undo.id} is not null`,
};

const listed = (act: Act, { q, siteId, itemId }: QueryOf<typeof contract.listApart>): SQL | undefined =>
  and(
    workOrder.apart,
    atSites(workOrder.siteId, act.sites('look', siteId)),
    itemId === undefined ? undefined : eq(workOrder.itemId, itemId),
    everyWord(sql`lower(concat_ws(' ', ${workOrder.number}, ${item.sku}, ${item.name}, ${site.name}, ${workOrder.note}))`, q),
  );

/** What was taken apart at the sites that the person may look at, the last first. */
export async function apartList(act: Act, asked: QueryOf<typeof contract.listApart>): Promise<ResponseOf<typeof contract.listApart>> {
  const sort: Sort = { sql: workOrder.createdAt, type: 'timestamptz' };
  const page = pageOf(sort, workOrder.id, { ...asked, direction: 'down' });
  const rows = await act.tx.db
    .select({ ...rowFields, ...cursorOf(sort, workOrder.id) })
    .from(workOrder)
    .innerJoin(componentLine, eq(componentLine.workOrderId, workOrder.id))
    .innerJoin(workRecord, eq(workRecord.workOrderId, workOrder.id))
    .innerJoin(movement, eq(movement.id, workRecord.movementId))
    .innerJoin(person, eq(person.id, workRecord.workerId))
    .innerJoin(site, eq(site.id, workOrder.siteId))
    .innerJoin(item, eq(item.id, workOrder.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(undo, eq(undo.reverses, movement.id))
    .where(and(listed(act, asked), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, asked.limit);
}

/** Something that was taken apart, and what came of it. */
export async function getApart(act: Act, id: number): Promise<contract.Apart> {
  const [row] = await act.tx.db
    .select({
      ...rowFields,
      note: workOrder.note,
      movementId: movement.id,
      bin: takenFrom.code,
      lotId: lot.id,
      lot: lot.code,
      came: jsonRows(
        {
          itemId: item.id,
          sku: item.sku,
          name: item.name,
          unit: unit.code,
          step: plain(unit.step),
          tracking: item.tracking,
          planned: plain(productLine.quantity),
          good: sql<string>`(${query()
            .select({ sum: sql`coalesce(trim_scale(sum(${movementLine.quantity})), 0)::text` })
            .from(movementLine)
            .where(and(eq(movementLine.movementId, workRecord.movementId), eq(movementLine.supplyLineId, productLine.id)))})`,
          value: sql<string>`(${query()
            .select({ sum: sql`coalesce(sum(${movementLine.value} + ${movementLine.variance}), 0)::numeric(20, 2)::text` })
            .from(movementLine)
            .where(and(eq(movementLine.movementId, workRecord.movementId), eq(movementLine.supplyLineId, productLine.id)))})`,
          places: jsonRows(
            { bin: goesTo.code, lot: lot.code, quantity: sql<string>`trim_scale(${movementLine.quantity})::text` },
            (select) =>
              select
                .from(movementLine)
                .innerJoin(goesTo, eq(goesTo.id, movementLine.toPlaceId))
                .leftJoin(lot, eq(lot.id, movementLine.lotId))
                .where(and(eq(movementLine.movementId, workRecord.movementId), eq(movementLine.supplyLineId, productLine.id))),
            { orderBy: movementLine.id },
          ),
        },
        (select) =>
          select
            .from(productLine)
            .innerJoin(item, eq(item.id, productLine.itemId))
            .innerJoin(unit, eq(unit.id, item.unitId))
            .where(eq(productLine.workOrderId, workOrder.id)),
        { orderBy: productLine.position },
      ),
    })
    .from(workOrder)
    .innerJoin(componentLine, eq(componentLine.workOrderId, workOrder.id))
    .innerJoin(workRecord, eq(workRecord.workOrderId, workOrder.id))
    .innerJoin(movement, eq(movement.id, workRecord.movementId))
    .innerJoin(person, eq(person.id, workRecord.workerId))
    .innerJoin(site, eq(site.id, workOrder.siteId))
    .innerJoin(item, eq(item.id, workOrder.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(movementLine, and(eq(movementLine.movementId, movement.id), eq(movementLine.demandLineId, componentLine.id)))
    .innerJoin(takenFrom, and(eq(takenFrom.id, movementLine.fromPlaceId), eq(takenFrom.kind, 'bin')))
    .leftJoin(lot, eq(lot.id, movementLine.lotId))
    .leftJoin(undo, eq(undo.reverses, movement.id))
    .where(and(eq(workOrder.id, id), workOrder.apart));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such thing that was taken apart.');
  act.allow('look', row.siteId);
  const { bin, lotId, lot: code, ...rest } = row;
  return { ...rest, from: { bin, lotId, lot: code } };
}
