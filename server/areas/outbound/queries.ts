import type * as contract from '@larder/contract/outbound';
import { choosePicks } from '@larder/core/outbound/picking';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, least, quantityText, shareOf, sum } from '@larder/core/decimal';
import { taxOf } from '@larder/core/outbound/tax';
import { Refusal } from '@larder/core/refusal';
import { salesStages, salesState, type SalesProgress } from '@larder/core/stage';
import { promiseDate } from '@larder/core/stock/availability';
import { and, desc, eq, exists, isNotNull, isNull, lte, ne, or, sql, type SQL, type Placeholder } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { seenAt, type Act } from '../../act';
import type { Db } from '../../db/database';
import { among, atSites, oneRow, positive } from '../../db/given';
import { jsonRows, type RowOf } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import {
  balance,
  company,
  item,
  itemSite,
  lot,
  party,
  place,
  purchaseLine,
  purchaseOrder,
  salesLine,
  salesOrder,
  site,
  taxRate,
  unit,
} from '../../db/schema/index';
import { prepared } from '../../db/prepared';
import { plain } from '../../db/text';
import { codesOf } from '../../documents/codes';
import { movementsOf } from '../../documents/movements';

/** What the lines of an order come to. */
const sums = new QueryBuilder()
  .select({
    ordered: sql<string>`coalesce(trim_scale(sum(${salesLine.baseQuantity})), 0)`.as('sum_ordered'),
    picked: sql<string>`coalesce(trim_scale(sum(${salesLine.picked})), 0)`.as('sum_picked'),
    dispatched: sql<string>`coalesce(trim_scale(sum(${salesLine.dispatched})), 0)`.as('sum_dispatched'),
    short: sql<string>`coalesce(trim_scale(sum(${salesLine.short})), 0)`.as('sum_short'),
    /** Of lines that are not kept in stock. */
    unkept: sql<string>`coalesce(sum(${salesLine.baseQuantity}) filter (where not ${salesLine.kept}), 0)`.as('unkept'),
    unkeptGone: sql<string>`coalesce(sum(${salesLine.dispatched}) filter (where not ${salesLine.kept}), 0)`.as('unkept_gone'),
    lines: sql<number>`count(*)`.as('line_count'),
    amount: sql<string>`coalesce(sum(${salesLine.amount}), 0)`.as('sum_amount'),
  })
  .from(salesLine)
  .where(eq(salesLine.orderId, salesOrder.id))
  .as('sums');

const rowFields = {
  id: salesOrder.id,
  number: salesOrder.number,
  customerId: salesOrder.customerId,
  customer: party.name,
  siteId: salesOrder.siteId,
  site: site.name,
  shipBy: salesOrder.shipBy,
  createdAt: salesOrder.createdAt,
  confirmedAt: salesOrder.confirmedAt,
  closed: sql<boolean>`${salesOrder.closedAt} is not null`,
  cancelled: sql<boolean>`${salesOrder.cancelledAt} is not null`,
  ordered: sums.ordered,
  picked: sums.picked,
  dispatched: sums.dispatched,
  short: sums.short,
  unkept: sums.unkept,
  unkeptGone: sums.unkeptGone,
  lines: sums.lines,
  amount: sums.amount,
};
type OrderRow = RowOf<typeof rowFields>;

type ListQuery = QueryOf<typeof contract.listSales>;
const shows: Record<ListQuery['show'], SQL | undefined> = {
  open: and(isNotNull(salesOrder.confirmedAt), isNull(salesOrder.closedAt), isNull(salesOrder.cancelledAt), sql`${sums.dispatched} < ${sums.ordered}`),
  quotes: and(isNull(salesOrder.confirmedAt), isNull(salesOrder.cancelledAt)),
  all: undefined,
};

export async function sales(act: Act, query: ListQuery): Promise<ResponseOf<typeof contract.listSales>> {
  const sort: Sort = query.show === 'open' ? { sql: salesOrder.shipBy, type: 'date' } : { sql: salesOrder.createdAt, type: 'timestamptz' };
  const page = pageOf(sort, salesOrder.id, { ...query, direction: query.show === 'open' ? 'up' : 'down' });
  const rows = await act.tx.db
    .select({ ...rowFields, ...cursorOf(sort, salesOrder.id) })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(site, eq(site.id, salesOrder.siteId))
    .innerJoinLateral(sums, sql`true`)
    .where(
      and(
        shows[query.show],
        everyWord(sql`lower(${salesOrder.number} || ' ' || ${party.name})`, query.q),
        atSites(salesOrder.siteId, act.sites('look', query.siteId)),
        page.after,
      ),
    )
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown.map((row) => salesRow(row, act.today)), next };
}

const progress = (row: OrderRow): SalesProgress => ({
  confirmed: row.confirmedAt !== null,
  closed: row.closed,
  cancelled: row.cancelled,
  ordered: decimal(row.ordered),
  picked: decimal(row.picked),
  dispatched: decimal(row.dispatched),
  unkept: { ordered: decimal(row.unkept), dispatched: decimal(row.unkeptGone) },
});
const isOpen = (row: OrderRow): boolean => row.confirmedAt !== null && !row.closed && !row.cancelled && decimal(row.dispatched).lt(row.ordered);

function salesRow({ confirmedAt, closed, cancelled, unkept, unkeptGone, ...row }: OrderRow, today: string): contract.SalesRow {
  const full = { confirmedAt, closed, cancelled, unkept, unkeptGone, ...row };
  return { ...row, state: salesState(progress(full)), late: isOpen(full) && row.shipBy < today };
}

const lineUnit = alias(unit, 'line_unit');

const linesOf = (db: Db, today: Placeholder) => {
  const rate = db
    .select({ rate: taxRate.rate })
    .from(taxRate)
    .where(and(eq(taxRate.taxCodeId, salesLine.taxCodeId), lte(taxRate.fromDay, today)))
    .orderBy(desc(taxRate.fromDay))
    .limit(1);
  return jsonRows(
    {
      id: salesLine.id,
      position: salesLine.position,
      itemId: salesLine.itemId,
      sku: item.sku,
      name: item.name,
      unit: salesLine.unit,
      unitId: lineUnit.id,
      step: plain(unit.step),
      quantity: plain(salesLine.quantity),
      baseQuantity: plain(salesLine.baseQuantity),
      kept: salesLine.kept,
      price: plain(salesLine.price),
      pricePer: plain(salesLine.pricePer),
      amount: salesLine.amount,
      picked: plain(salesLine.picked),
      dispatched: plain(salesLine.dispatched),
      reserved: plain(salesLine.reserved),
      short: plain(salesLine.short),
      free: sql<string>`trim_scale(coalesce(${itemSite.free}, 0))::text`,
      cost: salesLine.dispatchedCost,
      coming: comingOf(salesLine.itemId, salesLine.siteId),
      rate: sql<string>`coalesce((${rate}), 0)::text`,
    },
    (select) =>
      select
        .from(salesLine)
        .innerJoin(item, eq(item.id, salesLine.itemId))
        .innerJoin(unit, eq(unit.id, item.unitId))
        .leftJoin(lineUnit, eq(lineUnit.code, salesLine.unit))
        .leftJoin(itemSite, and(eq(itemSite.itemId, salesLine.itemId), eq(itemSite.siteId, salesLine.siteId)))
        .where(eq(salesLine.orderId, salesOrder.id)),
    { orderBy: salesLine.position },
  );
};

const readOrder = prepared(['id', 'today'], (db, { id, today }) =>
  db
    .select({
      ...rowFields,
      version: salesOrder.version,
      note: salesOrder.note,
      currency: salesOrder.currency,
      movements: movementsOf('sales', salesOrder.id),
      orderLines: linesOf(db, today),
    })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(site, eq(site.id, salesOrder.siteId))
    .innerJoinLateral(sums, sql`true`)
    .where(sql`${salesOrder.id} = ${id}`),
);

export async function sale({ tx, today }: Act, id: number): Promise<contract.SalesOrder> {
  const [row] = await readOrder(tx, { id, today });
  if (!row) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  const { orderLines, version, note, currency, movements, ...order } = row;
  const gone = sum(orderLines.map((line) => shareOf(decimal(line.amount), decimal(line.dispatched), decimal(line.baseQuantity))));
  const cost = sum(orderLines.map((line) => decimal(line.cost)));
  return {
    ...salesRow(order, today),
    version,
    note,
    currency,
    movements,
    confirmedAt: row.confirmedAt,
    stages: salesStages(progress(row)).map((stage) => ({ name: stage.name, done: quantityText(stage.done), of: quantityText(stage.of) })),
    open: isOpen(row),
    canEdit: row.confirmedAt === null && !row.cancelled,
    tax: taxOf(orderLines.map((line) => ({ amount: decimal(line.amount), rate: decimal(line.rate) }))).toFixed(2),
    dispatchedAmount: gone.toFixed(2),
    dispatchedCost: cost.toFixed(2),
    margin: gone.minus(cost).toFixed(2),
    lines: orderLines.map(({ rate: _rate, ...line }) => line),
  };
}

/** What is on order for an item at a site, by expected day. */
function comingOf(itemId: PgColumn | number, siteId: PgColumn | number) {
  const expectedOn = sql<string | null>`coalesce(${purchaseLine.expectedOn}, ${purchaseOrder.expectedOn})`;
  return jsonRows(
    { orderNumber: purchaseOrder.number, orderId: purchaseOrder.id, quantity: plain(purchaseLine.incoming), expectedOn },
    (select) =>
      select
        .from(purchaseLine)
        .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
        .where(and(sql`${purchaseLine.itemId} = ${itemId}`, sql`${purchaseLine.siteId} = ${siteId}`, positive(purchaseLine.incoming))),
    { orderBy: sql`${expectedOn} nulls last, ${purchaseOrder.id}` },
  );
}

type Availability = ResponseOf<typeof contract.availability>;

/** What a line of so many would find: free, short, the promise date, what is coming and what other sites have free. */
export async function availability({ tx, today, allow, sites }: Act, query: QueryOf<typeof contract.availability>): Promise<Availability> {
  const { itemId, siteId } = query;
  const { db } = tx;
  allow('look', siteId);
  const mine = sites('look');
  // What is free anywhere is seen by all, so that shortages can be filled from there, unless the business says no.
  const seen = mine === null ? undefined : or(sql`(${db.select({ all: company.freeSeenElsewhere }).from(company)})`, atSites(itemSite.siteId, mine));
  const here = db
    .select({ free: itemSite.free })
    .from(itemSite)
    .where(and(eq(itemSite.itemId, itemId), eq(itemSite.siteId, siteId)));
  const [row] = await db
    .select({
      kept: sql<boolean>`${exists(
        db
          .select({ one: sql`1` })
          .from(item)
          .where(and(eq(item.id, itemId), eq(item.kind, 'stocked'))),
      )}`,
      free: sql<string>`trim_scale(coalesce((${here}), 0))`,
      coming: comingOf(itemId, siteId),
      elsewhere: jsonRows(
        { siteId: site.id, site: site.name, free: plain(itemSite.free) },
        (select) =>
          select
            .from(itemSite)
            .innerJoin(site, eq(site.id, itemSite.siteId))
            .where(and(eq(itemSite.itemId, itemId), ne(itemSite.siteId, siteId), positive(itemSite.free), seen)),
        { orderBy: desc(itemSite.free) },
      ),
      demand: jsonRows({ day: sql<string>`${salesLine.shipBy}`, quantity: salesLine.short, document: salesOrder.number }, (select) =>
        select
          .from(salesLine)
          .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
          .where(and(eq(salesLine.itemId, itemId), eq(salesLine.siteId, siteId), positive(salesLine.short), positive(salesLine.wanted))),
      ),
    })
    .from(oneRow);
  if (row?.kept === false) return { kept: false, free: '0', short: '0', promise: today, coming: [], elsewhere: [] };
  const { free = '0', coming = [], elsewhere = [], demand = [] } = row ?? {};
  const wanted = decimal(query.quantity);
  const incoming = coming.flatMap((one) =>
    one.expectedOn === null ? [] : [{ day: one.expectedOn, quantity: decimal(one.quantity), document: one.orderNumber }],
  );
  const promise = promiseDate({ today, free: decimal(free), incoming, demand: demand.map((one) => ({ ...one, quantity: decimal(one.quantity) })) }, wanted);
  return { kept: true, free, short: quantityText(wanted.minus(least(wanted, decimal(free)))), promise, coming, elsewhere };
}

type PickList = ResponseOf<typeof contract.pickList>;

interface LyingHere {
  lotKind: 'lot' | 'serial' | null;
  lot: string | null;
  tag: string | null;
  itemCodes: { code: string; factor: string }[];
}

/** The codes that mean what lies there: a serial unit its own, everything else its item's. */
const codesHere = ({ lotKind, lot: code, tag, itemCodes }: LyingHere) =>
  lotKind === 'serial' ? [code, tag].flatMap((own) => (own === null ? [] : [{ code: own, factor: '1' }])) : itemCodes;

/** What an order still wants, and how much of it may be taken. */
const readWanted = prepared(['id'], (db, { id }) =>
  db
    .select({
      lineId: salesLine.id,
      itemId: item.id,
      position: salesLine.position,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      wanted: plain(salesLine.wanted),
      may: sql<string>`least(${salesLine.wanted}, ${salesLine.reserved} + coalesce(${itemSite.free}, 0))`,
    })
    .from(salesLine)
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(itemSite, and(eq(itemSite.itemId, salesLine.itemId), eq(itemSite.siteId, salesLine.siteId)))
    .where(and(sql`${salesLine.orderId} = ${id}`, positive(salesLine.wanted)))
    .orderBy(salesLine.position),
);

/** Where these items lie at the order's site, of what may go out. */
const readLying = prepared(['id', 'items', 'today'], (db, { id, items, today }) =>
  db
    .select({
      itemId: balance.itemId,
      binId: place.id,
      bin: place.code,
      walk: place.walk,
      unplaced: place.unplaced,
      lotId: balance.lotId,
      lot: lot.code,
      useBy: lot.useBy,
      inBin: plain(balance.quantity),
      lotKind: lot.kind,
      tag: lot.tag,
      itemCodes: codesOf(balance.itemId, { suppliers: false }),
    })
    .from(salesOrder)
    .innerJoin(place, and(eq(place.kind, 'bin'), eq(place.siteId, salesOrder.siteId), place.sellable))
    .innerJoin(balance, and(eq(balance.placeId, place.id), positive(balance.quantity)))
    .leftJoin(lot, eq(lot.id, balance.lotId))
    .where(and(sql`${salesOrder.id} = ${id}`, among(balance.itemId, items), sql`not coalesce(${lot.pastUse} or ${lot.useBy} < ${today}, false)`)),
);

/** What to take from which bin for an order, in walking order: reserved goods and, beyond, what is free. */
export async function pickList(act: Act, id: number): Promise<PickList> {
  const { tx, today } = act;
  const [order] = await tx.db.select({ siteId: salesOrder.siteId }).from(salesOrder).where(eq(salesOrder.id, id));
  if (!order) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  seenAt(act, order);
  const lines = await readWanted(tx, { id });
  const lying = await readLying(tx, { id, items: lines.map(({ itemId }) => itemId), today });
  const { picks, missing } = choosePicks(
    lines.map((line) => ({ ...line, wanted: decimal(line.wanted), may: decimal(line.may) })),
    lying.map((one) => ({ ...one, quantity: decimal(one.inBin), codes: codesHere(one) })),
  );
  const lineOf = (lineId: number) => lines.find((line) => line.lineId === lineId) as (typeof lines)[number];
  return {
    rows: picks.map(({ lineId, from, take }) => {
      const { itemId, sku, name, unit: of, step, wanted } = lineOf(lineId);
      const { binId, bin, inBin, lotId, lot: code, useBy, codes } = from;
      return { lineId, itemId, sku, name, unit: of, step, wanted, binId, bin, inBin, lotId, lot: code, useBy, codes, take: quantityText(take) };
    }),
    missing: [...missing].map(([lineId, quantity]) => ({ lineId, sku: lineOf(lineId).sku, quantity: quantityText(quantity) })),
  };
}
