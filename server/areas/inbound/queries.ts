import type * as contract from '@larder/contract/inbound';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { amountText, currencyPlaces } from '@larder/core/books/currency';
import { decimal, quantityText } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { orderTotals, stillOrdered } from '@larder/core/inbound/totals';
import { purchaseStages, purchaseState, type PurchaseProgress } from '@larder/core/stage';
import { and, eq, isNotNull, isNull, sql, type SQL, type Placeholder } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { jsonRows, type RowOf } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { item, itemSupplier, party, purchaseCharge, purchaseLine, purchaseOrder, site, taxCode, unit } from '../../db/schema/index';
import { prepared } from '../../db/prepared';
import { plain } from '../../db/text';
import { changesOf, toldTo } from '../../documents/changes';
import { movementsOf } from '../../documents/movements';
import { suppliedBy } from '../../documents/supplies';
import { isDraft, isStanding, lineFields, lineUnit, orderFields, taxRateOn } from '../../documents/orderFields';

const customer = alias(party, 'customer');

/** Of a line in its order's currency, of which another may have been agreed on since, what is still ordered. */
const stillAmount = sql`round(${purchaseLine.amount} * (${purchaseLine.baseQuantity} - ${purchaseLine.cancelled})
  * case when ${purchaseLine.currency} = ${purchaseOrder.currency} then 1 else ${purchaseLine.rate} / ${purchaseOrder.rate} end
  / ${purchaseLine.baseQuantity}, scale(${purchaseLine.amount}))`;
const stillWanted = sql`${purchaseLine.baseQuantity} - ${purchaseLine.cancelled}`;

/** What the lines of an order come to. */
const sums = new QueryBuilder()
  .select({
    ordered: sql<string>`coalesce(trim_scale(sum(${stillWanted})), 0)`.as('sum_ordered'),
    received: sql<string>`coalesce(trim_scale(sum(least(${purchaseLine.received}, ${stillWanted}))), 0)`.as('sum_received'),
    lines: sql<number>`count(*)`.as('line_count'),
    amount: sql<string>`coalesce(sum(${stillAmount}), 0)`.as('sum_amount'),
    wants: sql<boolean>`bool_or(${purchaseLine.outstanding} > 0)`.as('wants'),
  })
  .from(purchaseLine)
  .where(eq(purchaseLine.orderId, purchaseOrder.id))
  .as('sums');

const rowFields = {
  ...orderFields(purchaseOrder),
  supplierId: purchaseOrder.supplierId,
  supplier: party.name,
  shipsToId: purchaseOrder.shipsToId,
  shipsTo: sql<string | null>`${customer.name}`,
  expectedOn: purchaseOrder.expectedOn,
  placedAt: purchaseOrder.placedAt,
  currency: purchaseOrder.currency,
  rate: plain(purchaseOrder.rate),
  ordered: sums.ordered,
  received: sums.received,
  lines: sums.lines,
  amount: sums.amount,
};

type OrderRow = RowOf<typeof rowFields>;

type ListQuery = QueryOf<typeof contract.listPurchases>;
const shows: Record<ListQuery['show'], SQL | undefined> = {
  open: and(isStanding(purchaseOrder, purchaseOrder.placedAt), sql`${sums.wants}`),
  drafts: isDraft(purchaseOrder, purchaseOrder.placedAt),
  all: undefined,
};
const goesTo: Record<ListQuery['to'], SQL | undefined> = {
  anywhere: undefined,
  site: isNull(purchaseOrder.shipsToId),
  customer: isNotNull(purchaseOrder.shipsToId),
};

/** Conditions of a list of purchase orders; their supplier, customer and sums are joined. */
const listed = (act: Act, query: ListQuery): SQL | undefined =>
  and(
    shows[query.show],
    everyWord(sql`lower(${purchaseOrder.number} || ' ' || ${party.name} || ' ' || coalesce(${customer.name}, ''))`, query.q),
    atSites(purchaseOrder.siteId, act.sites('look', query.siteId)),
    goesTo[query.to],
    query.supplierId === undefined ? undefined : eq(purchaseOrder.supplierId, query.supplierId),
  );

/** How many purchase orders the list has in all, and what they come to in each currency. */
export async function purchasesInAll(act: Act, query: ListQuery): Promise<ResponseOf<typeof contract.purchasesInAll>> {
  const rows = await act.tx.db
    .select({ currency: purchaseOrder.currency, count: sql<number>`count(*)::int`, amount: sql<string>`sum(${sums.amount})` })
    .from(purchaseOrder)
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .leftJoin(customer, eq(customer.id, purchaseOrder.shipsToId))
    .innerJoinLateral(sums, sql`true`)
    .where(listed(act, query))
    .groupBy(purchaseOrder.currency)
    .orderBy(purchaseOrder.currency);
  return { count: rows.reduce((all, { count }) => all + count, 0), amounts: rows.map(({ currency, amount }) => ({ currency, amount })) };
}

export async function purchases(act: Act, query: ListQuery): Promise<ResponseOf<typeof contract.listPurchases>> {
  const sort: Sort =
    query.show === 'open'
      ? { sql: sql`coalesce(${purchaseOrder.expectedOn}, '9999-12-31')`, type: 'date' }
      : { sql: purchaseOrder.createdAt, type: 'timestamptz' };
  const page = pageOf(sort, purchaseOrder.id, { ...query, direction: query.show === 'open' ? 'up' : 'down' });
  const rows = await act.tx.db
    .select({ ...rowFields, ...cursorOf(sort, purchaseOrder.id) })
    .from(purchaseOrder)
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .innerJoin(site, eq(site.id, purchaseOrder.siteId))
    .leftJoin(customer, eq(customer.id, purchaseOrder.shipsToId))
    .innerJoinLateral(sums, sql`true`)
    .where(and(listed(act, query), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown.map((row) => purchaseRow(row, act.today)), next };
}

type Progressing = Pick<OrderRow, 'placedAt' | 'closed' | 'cancelled' | 'ordered' | 'received' | 'shipsToId'>;
const progress = (row: Progressing): PurchaseProgress => ({
  placed: row.placedAt !== null,
  closed: row.closed,
  cancelled: row.cancelled,
  ordered: decimal(row.ordered),
  received: decimal(row.received),
  direct: row.shipsToId !== null,
});
const isOpen = (row: Progressing): boolean => row.placedAt !== null && !row.closed && !row.cancelled && decimal(row.received).lt(row.ordered);

function purchaseRow({ placedAt, closed, cancelled, rate: _rate, ...row }: OrderRow, today: string): contract.PurchaseRow {
  const full = { placedAt, closed, cancelled, ...row };
  return { ...row, state: purchaseState(progress(full)), late: isOpen(full) && row.expectedOn !== null && row.expectedOn < today };
}

const linesOf = (today: Placeholder) =>
  jsonRows(
    {
      ...lineFields(purchaseLine),
      tracking: item.tracking,
      supplierCode: sql<string>`coalesce(${itemSupplier.code}, '')`,
      currency: purchaseLine.currency,
      rate: plain(purchaseLine.rate),
      received: plain(purchaseLine.received),
      cancelled: plain(purchaseLine.cancelled),
      expectedOn: purchaseLine.expectedOn,
      outstanding: plain(purchaseLine.outstanding),
      forSale: suppliedBy(purchaseLine.id),
      tax: sql<string | null>`${taxCode.code}`,
      taxRate: taxRateOn(purchaseLine.taxCodeId, today),
    },
    (select) =>
      select
        .from(purchaseLine)
        .innerJoin(item, eq(item.id, purchaseLine.itemId))
        .innerJoin(unit, eq(unit.id, item.unitId))
        .leftJoin(lineUnit, eq(lineUnit.code, purchaseLine.unit))
        .leftJoin(taxCode, eq(taxCode.id, purchaseLine.taxCodeId))
        .leftJoin(itemSupplier, and(eq(itemSupplier.itemId, item.id), eq(itemSupplier.supplierId, purchaseOrder.supplierId)))
        .where(eq(purchaseLine.orderId, purchaseOrder.id)),
    { orderBy: purchaseLine.position },
  );

const chargesOf = (today: Placeholder) =>
  jsonRows(
    {
      id: purchaseCharge.id,
      label: purchaseCharge.label,
      amount: purchaseCharge.amount,
      taxCodeId: purchaseCharge.taxCodeId,
      tax: sql<string | null>`${taxCode.code}`,
      rate: taxRateOn(purchaseCharge.taxCodeId, today),
    },
    (select) => select.from(purchaseCharge).leftJoin(taxCode, eq(taxCode.id, purchaseCharge.taxCodeId)).where(eq(purchaseCharge.orderId, purchaseOrder.id)),
    { orderBy: purchaseCharge.position },
  );

const readOrder = prepared(['id', 'today'], (db, { id, today }) =>
  db
    .select({
      ...rowFields,
      version: purchaseOrder.version,
      note: purchaseOrder.note,
      orderedOn: purchaseOrder.orderedOn,
      shipsToAddress: sql<string>`coalesce(nullif(${purchaseOrder.shipTo}, ''), ${customer.address}, '')`,
      movements: movementsOf('purchase', purchaseOrder.id),
      changes: changesOf('purchase order', purchaseOrder.id),
      orderLines: linesOf(today),
      orderCharges: chargesOf(today),
    })
    .from(purchaseOrder)
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .innerJoin(site, eq(site.id, purchaseOrder.siteId))
    .leftJoin(customer, eq(customer.id, purchaseOrder.shipsToId))
    .innerJoinLateral(sums, sql`true`)
    .where(sql`${purchaseOrder.id} = ${id}`),
);

export async function purchase(act: Act, id: number): Promise<contract.PurchaseOrder> {
  const [row] = await readOrder(act.tx, { id, today: act.today });
  if (!row) throw new Refusal(404, 'not-found', 'There is no such purchase order.');
  const places = currencyPlaces(row.currency) ?? 2;
  const totals = orderTotals(
    row.orderLines.map(({ taxRate: rate, ...line }) => ({ ...line, rate, amount: inOrders(row, line) })),
    row.orderCharges,
    places,
  );
  const { orderLines, orderCharges, shipsToAddress, version, note, orderedOn, movements, changes, ...order } = row;
  return {
    ...purchaseRow(order, act.today),
    version,
    note,
    rate: row.rate,
    orderedOn,
    movements,
    changes: toldTo(act, changes),
    placedAt: row.placedAt,
    stages: purchaseStages(progress(row)).map((stage) => ({ name: stage.name, done: quantityText(stage.done), of: quantityText(stage.of) })),
    canEdit: row.placedAt === null && !row.cancelled,
    open: isOpen(row),
    shipsToAddress,
    charges: orderCharges.map(({ rate: _rate, ...charge }) => charge),
    tax: amountText(row.currency, totals.tax),
    total: amountText(row.currency, totals.total),
    lines: orderLines.map(({ taxRate: _rate, ...line }) => ({
      ...line,
      amount: amountText(line.currency, stillOrdered(line, currencyPlaces(line.currency) ?? 2)),
    })),
  };
}

/** The amount of a line in its order's currency, of which another may have been agreed on since. */
const inOrders = (order: OrderRow, line: { amount: string; currency: string; rate: string }): string =>
  line.currency === order.currency ? line.amount : decimal(line.amount).times(line.rate).div(order.rate).toFixed();
