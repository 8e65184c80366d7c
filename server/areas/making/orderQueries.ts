import type * as contract from '@larder/contract/workOrders';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText } from '@larder/core/decimal';
import { workStages, workState, type WorkProgress } from '@larder/core/making/work';
import { Refusal } from '@larder/core/refusal';
import { and, eq, gte, isNotNull, isNull, lt, lte, not, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites, positive } from '../../db/given';
import { jsonRows, type RowOf } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { prepared } from '../../db/prepared';
import {
  bom,
  componentLine,
  item,
  lot,
  movement,
  movementLine,
  untakenOpen,
  person,
  place,
  placeChange,
  productLine,
  salesLine,
  salesOrder,
  site,
  unit,
  workAmount,
  workCost,
  workOrder,
  workProgress,
  workRecord,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { changesOf } from '../../documents/changes';
import { movementsOf } from '../../documents/movements';
import { properBin, quarantineBin } from '../../documents/properBin';
import { lotsMade } from './lotsMade';
import { comesOn } from './promises';
import { rolledUpOf } from './rolledUp';

const query = () => new QueryBuilder();
const total = (column: SQL | typeof componentLine.needed, name: string) => sql<string>`coalesce(trim_scale(sum(${column})), 0)`.as(name);

/** What the components of a work order come to. */
const sums = query()
  .select({
    components: sql<number>`count(*)::int`.as('component_count'),
    needed: total(sql`case when ${componentLine.stocked} then ${componentLine.needed} else 0 end`, 'sum_needed'),
    // What was taken or used beyond what the order says of one stands for nothing of another.
    taken: total(sql`least(${componentLine.taken}, ${componentLine.needed})`, 'sum_taken'),
    used: total(sql`least(${componentLine.used}, ${componentLine.needed})`, 'sum_used'),
    atWork: total(componentLine.atWork, 'sum_at_work'),
    short: total(componentLine.short, 'sum_short'),
  })
  .from(componentLine)
  .where(eq(componentLine.workOrderId, workOrder.id))
  .as('sums');

/** What an order is for: its first output. */
const main = query()
  .select({ quantity: productLine.quantity, made: productLine.made, scrapped: productLine.scrapped })
  .from(productLine)
  .where(and(eq(productLine.workOrderId, workOrder.id), sql`${productLine.position} = 1`))
  .as('main');

const untakenOf = sql<string>`coalesce((${query()
  .select({ sum: sql`trim_scale(sum(${untakenOpen.open}))` })
  .from(untakenOpen)
  .where(eq(untakenOpen.workOrderId, workOrder.id))}), 0)::text`;

const rowFields = {
  id: workOrder.id,
  number: workOrder.number,
  itemId: workOrder.itemId,
  sku: item.sku,
  name: item.name,
  unit: unit.code,
  siteId: workOrder.siteId,
  site: site.name,
  startsOn: workOrder.startsOn,
  dueOn: workOrder.dueOn,
  quantity: plain(main.quantity),
  made: plain(main.made),
  scrapped: plain(main.scrapped),
  components: sums.components,
  needed: sums.needed,
  taken: sums.taken,
  used: sums.used,
  atWork: sums.atWork,
  short: sums.short,
  untaken: untakenOf,
  apart: workOrder.apart,
  released: sql<boolean>`${workOrder.releasedAt} is not null`,
  ended: sql<boolean>`(${workOrder.endedAt} is not null or ${workOrder.cancelledAt} is not null)`,
  sale: sql<{
    orderId: number;
    number: string;
  } | null>`case when ${salesOrder.id} is not null then json_build_object('orderId', ${salesOrder.id}, 'number', ${salesOrder.number}) end`,
};
type Row = RowOf<typeof rowFields>;

const isOpen = and(isNull(workOrder.endedAt), isNull(workOrder.cancelledAt)) as SQL;
const isReleased = and(isOpen, isNotNull(workOrder.releasedAt));
type Asked = QueryOf<typeof contract.listWorkOrders>;
const shows = (today: string): Record<Asked['show'], SQL | undefined> => ({
  open: isOpen,
  today: and(isOpen, lte(workOrder.startsOn, today)),
  planned: and(isOpen, isNull(workOrder.releasedAt)),
  released: isReleased,
  'to-record': and(isReleased, positive(sums.atWork)),
  late: and(isOpen, lt(workOrder.dueOn, today)),
  short: and(isReleased, positive(sums.short)),
  done: not(isOpen),
  all: undefined,
});

const listed = (act: Act, { q, show, siteId, itemId, from, through }: Asked): SQL | undefined =>
  and(
    shows(act.today)[show],
    // What was taken apart has a list of its own.
    not(workOrder.apart),
    atSites(workOrder.siteId, act.sites('look', siteId)),
    itemId === undefined ? undefined : eq(workOrder.itemId, itemId),
    from === undefined ? undefined : gte(workOrder.startsOn, from),
    through === undefined ? undefined : lte(workOrder.startsOn, through),
    everyWord(sql`lower(concat_ws(' ', ${workOrder.number}, ${item.sku}, ${item.name}, ${site.name}, ${salesOrder.number}, ${workOrder.note}))`, q),
  );

/** How many work orders the list has in all. */
export async function workOrdersInAll(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.workOrdersInAll>> {
  const [row] = await act.tx.db
    .select({ count: sql<number>`count(*)::int` })
    .from(workOrder)
    .innerJoin(site, eq(site.id, workOrder.siteId))
    .innerJoin(item, eq(item.id, workOrder.itemId))
    .leftJoin(salesLine, eq(salesLine.id, workOrder.salesLineId))
    .leftJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoinLateral(sums, sql`true`)
    .where(listed(act, asked));
  return row ?? { count: 0 };
}

/** Work orders at the sites that the person may look at: what is open by the day it is due, else the last first. */
export async function workOrders(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.listWorkOrders>> {
  const byDay = !['done', 'all'].includes(asked.show);
  const sort: Sort = byDay ? { sql: workOrder.dueOn, type: 'date' } : { sql: workOrder.createdAt, type: 'timestamptz' };
  const page = pageOf(sort, workOrder.id, { ...asked, direction: byDay ? 'up' : 'down' });
  const rows = await act.tx.db
    .select({ ...rowFields, ...cursorOf(sort, workOrder.id) })
    .from(workOrder)
    .innerJoin(site, eq(site.id, workOrder.siteId))
    .innerJoin(item, eq(item.id, workOrder.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(salesLine, eq(salesLine.id, workOrder.salesLineId))
    .leftJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoinLateral(sums, sql`true`)
    .innerJoinLateral(main, sql`true`)
    .where(and(listed(act, asked), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, asked.limit);
  return { rows: shown.map((row) => rowOf(row, act.today)), next };
}

const progress = (row: Row): WorkProgress => ({
  released: row.released,
  ended: row.ended,
  quantity: decimal(row.quantity),
  made: decimal(row.made),
  scrapped: decimal(row.scrapped),
  needed: decimal(row.needed),
  drawn: decimal(row.taken),
  used: decimal(row.used),
});

const rowOf = (row: Row, today: string): contract.WorkRow => ({ ...row, state: workState(progress(row)), late: !row.ended && row.dueOn < today });

const atWorkPlace = alias(place, 'at_work_place');
/** What of a component is at the work, lot by lot. */
const lotsAtWork = () => {
  const there = query()
    .select({
      lotId: sql<number | null>`${placeChange.lotId}`.as('at_work_lot'),
      quantity: sql<string>`trim_scale(sum(${placeChange.quantity}))::text`.as('at_work_quantity'),
    })
    .from(movementLine)
    .innerJoin(placeChange, eq(placeChange.lineId, movementLine.id))
    .innerJoin(atWorkPlace, and(eq(atWorkPlace.id, placeChange.placeId), eq(atWorkPlace.kind, 'in-work')))
    .where(sql`${movementLine.demandLineId} = ${componentLine.id}`)
    .groupBy(placeChange.lotId)
    .having(sql`sum(${placeChange.quantity}) > 0`)
    .as('at_work_lots');
  return jsonRows(
    { lotId: there.lotId, lot: lot.code, useBy: lot.useBy, quantity: there.quantity },
    (select) => select.from(there).leftJoin(lot, eq(lot.id, there.lotId)),
    { orderBy: sql`${lot.useBy}, ${there.lotId}` },
  );
};

const undo = alias(movement, 'undo_of_record');
const bin = alias(place, 'goes_to');
const rest = alias(workOrder, 'rest_order');
const origin = alias(workOrder, 'origin_order');
const hoursOf = query()
  .select({ sum: sql`coalesce(trim_scale(sum(${workAmount.quantity})), 0)::text` })
  .from(workAmount)
  .where(and(eq(workAmount.movementId, workRecord.movementId), eq(workAmount.per, 'hour'), positive(workAmount.quantity)));
const madeBy = (what: SQL) =>
  query()
    .select({ sum: sql`coalesce(${what}, 0)::text` })
    .from(movementLine)
    .innerJoin(productLine, eq(productLine.id, movementLine.supplyLineId))
    .where(and(eq(movementLine.movementId, workRecord.movementId), eq(productLine.workOrderId, workRecord.workOrderId)));

const readWorkOrder = prepared(['id'], (db, { id }) =>
  db
    .select({
      ...rowFields,
      version: workOrder.version,
      bomId: workOrder.bomId,
      bill: sql<string | null>`case when ${bom.id} is not null then concat_ws(' ', ${bom.number}, nullif(${bom.name}, '')) end`,
      steps: workOrder.steps,
      note: workOrder.note,
      cancelled: sql<boolean>`${workOrder.cancelledAt} is not null`,
      salesLineId: workOrder.salesLineId,
      followsSale: workOrder.followsSale,
      restOf: sql<{
        id: number;
        number: string;
      } | null>`case when ${origin.id} is not null then json_build_object('id', ${origin.id}, 'number', ${origin.number}) end`,
      rests: jsonRows(
        { id: rest.id, number: rest.number },
        (select) => select.from(rest).where(and(eq(rest.restOfId, workOrder.id), isNull(rest.cancelledAt))),
        { orderBy: rest.id },
      ),
      lines: jsonRows(
        {
          id: componentLine.id,
          position: componentLine.position,
          itemId: item.id,
          sku: item.sku,
          name: item.name,
          unit: unit.code,
          step: plain(unit.step),
          tracking: item.tracking,
          stocked: componentLine.stocked,
          note: componentLine.note,
          needed: plain(componentLine.needed),
          taken: plain(componentLine.taken),
          used: plain(componentLine.used),
          atWork: plain(componentLine.atWork),
          reserved: plain(componentLine.reserved),
          wanted: plain(componentLine.wanted),
          short: plain(componentLine.short),
          lots: lotsAtWork(),
          untaken: sql<string>`coalesce((${query()
            .select({ sum: sql`trim_scale(sum(${untakenOpen.open}))` })
            .from(untakenOpen)
            .where(eq(untakenOpen.lineId, componentLine.id))}), 0)::text`,
        },
        (select) =>
          select
            .from(componentLine)
            .innerJoin(item, eq(item.id, componentLine.itemId))
            .innerJoin(unit, eq(unit.id, item.unitId))
            .where(eq(componentLine.workOrderId, workOrder.id)),
        { orderBy: componentLine.position },
      ),
      products: jsonRows(
        {
          id: productLine.id,
          position: productLine.position,
          itemId: item.id,
          sku: item.sku,
          name: item.name,
          unit: unit.code,
          step: plain(unit.step),
          tracking: item.tracking,
          quantity: plain(productLine.quantity),
          made: plain(productLine.made),
          scrapped: plain(productLine.scrapped),
          share: sql<string | null>`${plain(productLine.share)}`,
          binId: bin.id,
          bin: bin.code,
          inspected: item.inspected,
          shelfLifeDays: item.shelfLifeDays,
        },
        (select) =>
          select
            .from(productLine)
            .innerJoin(item, eq(item.id, productLine.itemId))
            .innerJoin(unit, eq(unit.id, item.unitId))
            .innerJoin(
              bin,
              sql`${bin.id} = coalesce(${productLine.binId}, case when ${item.inspected} then ${quarantineBin(workOrder.siteId)} end, ${properBin(item.id, workOrder.siteId)})`,
            )
            .where(eq(productLine.workOrderId, workOrder.id)),
        { orderBy: productLine.position },
      ),
      costs: jsonRows(
        {
          position: workCost.position,
          name: workCost.name,
          per: workCost.per,
          quantity: plain(workCost.quantity),
          charged: sql<string>`coalesce((${query()
            .select({ sum: sql`trim_scale(sum(${workAmount.quantity}))` })
            .from(workAmount)
            .where(and(eq(workAmount.workOrderId, workOrder.id), eq(workAmount.kind, 'charge'), eq(workAmount.name, workCost.name)))}), 0)::text`,
          rate: plain(workCost.rate),
          accountId: workCost.accountId,
        },
        (select) => select.from(workCost).where(eq(workCost.workOrderId, workOrder.id)),
        { orderBy: workCost.position },
      ),
      inProgress: workProgress.value,
      movements: movementsOf('work', workOrder.id),
      records: jsonRows(
        {
          movementId: workRecord.movementId,
          postedAt: movement.postedAt,
          worker: person.name,
          made: sql<string>`(${madeBy(sql`trim_scale(sum(case when ${productLine.position} = 1 then ${movementLine.quantity} end))`)})`,
          scrapped: plain(workRecord.scrapped),
          value: sql<string>`(${madeBy(sql`sum(${movementLine.value} + ${movementLine.variance})`)})`,
          hours: sql<string>`(${hoursOf})`,
          undone: sql<boolean>`${undo.id} is not null`,
          untakenReason: workRecord.untakenReason,
        },
        (select) =>
          select
            .from(workRecord)
            .innerJoin(movement, eq(movement.id, workRecord.movementId))
            .innerJoin(person, eq(person.id, workRecord.workerId))
            .leftJoin(undo, eq(undo.reverses, movement.id))
            .where(eq(workRecord.workOrderId, workOrder.id)),
        { orderBy: sql`${workRecord.movementId} desc` },
      ),
      changes: changesOf('work order', workOrder.id),
    })
    .from(workOrder)
    .innerJoin(site, eq(site.id, workOrder.siteId))
    .innerJoin(item, eq(item.id, workOrder.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(workProgress, eq(workProgress.workOrderId, workOrder.id))
    .leftJoin(bom, eq(bom.id, workOrder.bomId))
    .leftJoin(origin, eq(origin.id, workOrder.restOfId))
    .leftJoin(salesLine, eq(salesLine.id, workOrder.salesLineId))
    .leftJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoinLateral(sums, sql`true`)
    .innerJoinLateral(main, sql`true`)
    .where(sql`${workOrder.id} = ${id}`),
);

/** A work order as decisions on it go by it, whoever asks. */
export async function workNow({ tx }: Act, id: number) {
  const [row] = await readWorkOrder(tx, { id });
  if (!row) throw new Refusal(404, 'not-found', 'There is no such work order.');
  return row;
}
export type WorkNowRow = Awaited<ReturnType<typeof workNow>>;

/** A work order that the person may look at. */
export async function getWorkOrder(act: Act, id: number): Promise<contract.WorkOrder> {
  const row = await workNow(act, id);
  act.allow('look', row.siteId);
  const { movements, changes, lines, products, salesLineId: _salesLineId, followsSale: _followsSale, ...head } = row;
  const [comes, rolledUp, lots] = await Promise.all([comesOn(act, row.siteId, lines), rolledUpOf(act, row.itemId), lotsMade(act, row)]);
  return {
    ...head,
    ...rowOf(row, act.today),
    stages: workStages(progress(row)).map(({ name, done, of }) => ({ name, done: quantityText(done), of: quantityText(of) })),
    lines: lines.map((line) => ({ ...line, comesOn: comes.get(line.id) ?? null })),
    products: products.map(({ shelfLifeDays: _days, ...line }, index) => ({ ...line, nextLot: lots[index] ?? null })),
    rolledUp: rolledUp?.toFixed(4) ?? null,
    movements: movements.map(({ value: _value, ...one }) => one),
    changes: changes.map(({ cost: _cost, ...change }) => change),
  };
}

/** Whether an order is one that work can be done on. */
export const isGoing = ({ released, ended }: Pick<WorkNowRow, 'released' | 'ended'>): boolean => released && !ended;
