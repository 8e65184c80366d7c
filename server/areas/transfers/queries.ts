import type * as contract from '@larder/contract/transfers';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { transferStages, transferState, type TransferProgress } from '@larder/core/stock/transfers';
import { and, eq, exists, or, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites, positive } from '../../db/given';
import { jsonRows, type RowOf } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { prepared } from '../../db/prepared';
import {
  carrier,
  item,
  lot,
  movementLine,
  place,
  placeChange,
  salesLine,
  salesOrder,
  site,
  standingMovement,
  transfer,
  transferLine,
  unit,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { changesOf } from '../../documents/changes';
import { movementsOf } from '../../documents/movements';

const query = () => new QueryBuilder();
const toSite = alias(site, 'to_site');
const fromBin = alias(place, 'from_bin');
const toBin = alias(place, 'to_bin');
const one = { one: sql`1` };

const total = (column: SQL | typeof transferLine.gone, name: string) => sql<string>`coalesce(trim_scale(sum(${column})), 0)`.as(name);
/** What the lines of a transfer come to. */
const sums = query()
  .select({
    lines: sql<number>`count(*)::int`.as('line_count'),
    quantity: total(transferLine.quantity, 'sum_quantity'),
    picked: total(transferLine.picked, 'sum_picked'),
    gone: total(transferLine.gone, 'sum_gone'),
    inTransit: total(transferLine.inTransit, 'sum_in_transit'),
    arrived: total(transferLine.arrived, 'sum_arrived'),
    lost: total(transferLine.lost, 'sum_lost'),
    short: total(transferLine.short, 'sum_short'),
  })
  .from(transferLine)
  .where(eq(transferLine.transferId, transfer.id))
  .as('sums');

const items = sql<string>`coalesce((${query()
  .select({ all: sql`string_agg(distinct ${item.sku}, ', ')` })
  .from(transferLine)
  .innerJoin(item, eq(item.id, transferLine.itemId))
  .where(eq(transferLine.transferId, transfer.id))}), '')`;

/** The day the first of it left that did not come back by an undo. */
const since = sql<string | null>`(${query()
  .select({ day: sql`min(${standingMovement.effectiveOn})` })
  .from(transferLine)
  .innerJoin(movementLine, eq(movementLine.demandLineId, transferLine.id))
  .innerJoin(standingMovement, and(eq(standingMovement.id, movementLine.movementId), eq(standingMovement.kind, 'transfer')))
  .where(eq(transferLine.transferId, transfer.id))})`;

const rowFields = {
  id: transfer.id,
  number: transfer.number,
  fromSiteId: transfer.fromSiteId,
  from: site.name,
  toSiteId: transfer.toSiteId,
  to: toSite.name,
  sendBy: transfer.sendBy,
  expectedOn: transfer.expectedOn,
  since,
  items,
  lines: sums.lines,
  quantity: sums.quantity,
  picked: sums.picked,
  gone: sums.gone,
  inTransit: sums.inTransit,
  arrived: sums.arrived,
  lost: sums.lost,
  short: sums.short,
};
type Row = RowOf<typeof rowFields>;

const toSend = sql`${sums.gone} < ${sums.quantity}`;
const underWay = positive(sums.inTransit);
type Asked = QueryOf<typeof contract.listTransfers>;
const shows: Record<Asked['show'], SQL | undefined> = {
  open: or(toSend, underWay),
  'to-send': toSend,
  'in-transit': underWay,
  done: and(sql`not ${toSend}`, sql`not ${underWay}`),
  all: undefined,
};

const listed = (act: Act, { q, show, siteId, fromSiteId, toSiteId, itemId }: Asked): SQL | undefined => {
  const sites = act.sites('look', siteId);
  return and(
    shows[show],
    sites === null ? undefined : or(atSites(transfer.fromSiteId, sites), atSites(transfer.toSiteId, sites)),
    everyWord(sql`lower(concat_ws(' ', ${transfer.number}, ${site.name}, ${toSite.name}, ${transfer.tracking}, ${items}))`, q),
    fromSiteId === undefined ? undefined : eq(transfer.fromSiteId, fromSiteId),
    toSiteId === undefined ? undefined : eq(transfer.toSiteId, toSiteId),
    itemId === undefined
      ? undefined
      : exists(
          query()
            .select(one)
            .from(transferLine)
            .where(and(eq(transferLine.transferId, transfer.id), eq(transferLine.itemId, itemId))),
        ),
  );
};

/** How many transfers the list has in all. */
export async function transfersInAll(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.transfersInAll>> {
  const [row] = await act.tx.db
    .select({ count: sql<number>`count(*)::int` })
    .from(transfer)
    .innerJoin(site, eq(site.id, transfer.fromSiteId))
    .innerJoin(toSite, eq(toSite.id, transfer.toSiteId))
    .innerJoinLateral(sums, sql`true`)
    .where(listed(act, asked));
  return row ?? { count: 0 };
}

/** Transfers from or to the sites that the person may look at: what is open by the day it is sent, else the last first. */
export async function transfers(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.listTransfers>> {
  const isOpen = !['done', 'all'].includes(asked.show);
  const sort: Sort = isOpen ? { sql: transfer.sendBy, type: 'date' } : { sql: transfer.createdAt, type: 'timestamptz' };
  const page = pageOf(sort, transfer.id, { ...asked, direction: isOpen ? 'up' : 'down' });
  const rows = await act.tx.db
    .select({ ...rowFields, ...cursorOf(sort, transfer.id) })
    .from(transfer)
    .innerJoin(site, eq(site.id, transfer.fromSiteId))
    .innerJoin(toSite, eq(toSite.id, transfer.toSiteId))
    .innerJoinLateral(sums, sql`true`)
    .where(and(listed(act, asked), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, asked.limit);
  return { rows: shown.map((row) => rowOf(row, act.today)), next };
}

const progress = (row: Row): TransferProgress => ({
  quantity: decimal(row.quantity),
  picked: decimal(row.picked),
  gone: decimal(row.gone),
  arrived: decimal(row.arrived),
  lost: decimal(row.lost),
});

function rowOf(row: Row, today: string): contract.TransferRow {
  const late =
    (row.sendBy < today && decimal(row.gone).lt(row.quantity)) || (row.expectedOn !== null && row.expectedOn < today && decimal(row.inTransit).gt(0));
  return { ...row, state: transferState(progress(row)), late };
}

/** What of the lines lies at places of a kind, lot by lot. */
const lotsAt = (kind: 'bench' | 'transit') => {
  const there = query()
    .select({
      lineId: sql<number>`${movementLine.demandLineId}`.as(`${kind}_line`),
      lotId: sql<number | null>`${placeChange.lotId}`.as(`${kind}_lot`),
      quantity: sql<string>`trim_scale(sum(${placeChange.quantity}))::text`.as(`${kind}_quantity`),
    })
    .from(transferLine)
    .innerJoin(movementLine, eq(movementLine.demandLineId, transferLine.id))
    .innerJoin(placeChange, eq(placeChange.lineId, movementLine.id))
    .innerJoin(place, and(eq(place.id, placeChange.placeId), eq(place.kind, kind)))
    .where(eq(transferLine.transferId, transfer.id))
    .groupBy(movementLine.demandLineId, placeChange.lotId)
    .having(sql`sum(${placeChange.quantity}) > 0`)
    .as(`at_${kind}`);
  return jsonRows(
    { lineId: there.lineId, lotId: there.lotId, lot: lot.code, quantity: there.quantity },
    (select) => select.from(there).leftJoin(lot, eq(lot.id, there.lotId)),
    { orderBy: sql`${there.lineId}, ${lot.useBy}, ${there.lotId}` },
  );
};

const readTransfer = prepared(['id'], (db, { id }) =>
  db
    .select({
      ...rowFields,
      version: transfer.version,
      carrierId: transfer.carrierId,
      carrier: carrier.name,
      tracking: transfer.tracking,
      note: transfer.note,
      onBench: lotsAt('bench'),
      underWay: lotsAt('transit'),
      movements: movementsOf('transfer', transfer.id),
      changes: changesOf('transfer', transfer.id),
      lineRows: jsonRows(
        {
          id: transferLine.id,
          position: transferLine.position,
          itemId: item.id,
          sku: item.sku,
          name: item.name,
          unit: unit.code,
          step: plain(unit.step),
          tracking: item.tracking,
          fromBinId: transferLine.fromBinId,
          fromBin: fromBin.code,
          toBinId: transferLine.toBinId,
          toBin: toBin.code,
          sale: sql<{
            orderId: number;
            number: string;
          } | null>`case when ${salesOrder.id} is not null then json_build_object('orderId', ${salesOrder.id}, 'number', ${salesOrder.number}) end`,
          quantity: plain(transferLine.quantity),
          cancelled: plain(transferLine.cancelled),
          reserved: plain(transferLine.reserved),
          wanted: plain(transferLine.wanted),
          short: plain(transferLine.short),
          picked: plain(transferLine.picked),
          gone: plain(transferLine.gone),
          inTransit: plain(transferLine.inTransit),
          arrived: plain(transferLine.arrived),
          lost: plain(transferLine.lost),
        },
        (select) =>
          select
            .from(transferLine)
            .innerJoin(item, eq(item.id, transferLine.itemId))
            .innerJoin(unit, eq(unit.id, item.unitId))
            .leftJoin(fromBin, eq(fromBin.id, transferLine.fromBinId))
            .leftJoin(toBin, eq(toBin.id, transferLine.toBinId))
            .leftJoin(salesLine, eq(salesLine.id, transferLine.salesLineId))
            .leftJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
            .where(eq(transferLine.transferId, transfer.id)),
        { orderBy: transferLine.position },
      ),
    })
    .from(transfer)
    .innerJoin(site, eq(site.id, transfer.fromSiteId))
    .innerJoin(toSite, eq(toSite.id, transfer.toSiteId))
    .leftJoin(carrier, eq(carrier.id, transfer.carrierId))
    .innerJoinLateral(sums, sql`true`)
    .where(sql`${transfer.id} = ${id}`),
);

/** A transfer as it stands, whoever asks. */
export async function transferNow({ tx, today }: Act, id: number): Promise<contract.Transfer> {
  const [row] = await readTransfer(tx, { id });
  if (!row) throw new Refusal(404, 'not-found', 'There is no such transfer.');
  const { lineRows, movements, changes, ...head } = row;
  return {
    ...head,
    ...rowOf(row, today),
    stages: transferStages(progress(row)).map(({ name, done, of }) => ({ name, done: quantityText(done), of: quantityText(of) })),
    lines: lineRows,
    movements: movements.map(({ value: _value, ...one }) => one),
    changes: changes.map(({ cost: _cost, ...change }) => change),
  };
}

/** A transfer that the person may look at: at one of its two sites. */
export async function getTransfer(act: Act, id: number): Promise<contract.Transfer> {
  const found = await transferNow(act, id);
  const mine = act.sites('look');
  if (mine !== null && !mine.includes(found.toSiteId)) act.allow('look', found.fromSiteId);
  return found;
}
