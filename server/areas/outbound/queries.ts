import type * as contract from '@larder/contract/outbound';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { amountText, currencyPlaces } from '@larder/core/books/currency';
import { decimal, quantityText, shareOf, sum, zero, type Decimal } from '@larder/core/decimal';
import { lineAmount, pricedLine } from '@larder/core/inbound/amount';
import { taxOf } from '@larder/core/outbound/tax';
import { Refusal } from '@larder/core/refusal';
import { salesStages, salesState, type SalesProgress } from '@larder/core/stage';
import { and, eq, inArray, isNotNull, lt, sql, type SQL, type Placeholder } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import { type Act } from '../../act';
import { jsonRows, type RowOf } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { documentLine, item, itemSite, party, salesLine, salesOrder, salesTerms, site, unit } from '../../db/schema/index';
import { prepared } from '../../db/prepared';
import { plain } from '../../db/text';
import { changesOf, toldTo } from '../../documents/changes';
import { comingOf } from '../../documents/coming';
import { movementsOf } from '../../documents/movements';
import { isDraft, isStanding, lineFields, lineUnit, orderFields, taxRateOn } from '../../documents/orderFields';
import { saleAt } from '../../documents/seen';
import { onOrderStraight, suppliesOfSale } from '../../documents/supplies';

/** What the lines of an order come to. */
const sums = new QueryBuilder()
  .select({
    ordered: sql<string>`coalesce(trim_scale(sum(${salesLine.baseQuantity})), 0)`.as('sum_ordered'),
    picked: sql<string>`coalesce(trim_scale(sum(${salesLine.picked})), 0)`.as('sum_picked'),
    dispatched: sql<string>`coalesce(trim_scale(sum(${salesLine.dispatched})), 0)`.as('sum_dispatched'),
    short: sql<string>`coalesce(trim_scale(sum(${salesLine.short})), 0)`.as('sum_short'),
    /** Of lines that are not kept in stock. */
    unkept: sql<string>`coalesce(sum(${salesLine.baseQuantity}) filter (where not ${salesLine.stocked}), 0)`.as('unkept'),
    unkeptGone: sql<string>`coalesce(sum(${salesLine.dispatched}) filter (where not ${salesLine.stocked}), 0)`.as('unkept_gone'),
    /** Decided to come straight from a supplier, and sent. */
    direct: sql<string>`coalesce(sum(${salesLine.direct}), 0)`.as('sum_direct'),
    sent: sql<string>`coalesce(sum(${salesLine.sent}), 0)`.as('sum_sent'),
    /** Can be picked; is with the customer and on no invoice. */
    reserved: sql<string>`coalesce(sum(${salesLine.reserved}), 0)`.as('sum_reserved'),
    toInvoice: sql<string>`coalesce(sum(greatest(${salesLine.dispatched} - ${salesLine.returned} - ${salesLine.invoiced}, 0)), 0)`.as('sum_to_invoice'),
    lines: sql<number>`count(*) filter (where ${salesLine.baseQuantity} > 0)`.as('line_count'),
    amount: sql<string>`coalesce(sum(${salesLine.amount}), 0)`.as('sum_amount'),
  })
  .from(salesLine)
  .where(eq(salesLine.orderId, salesOrder.id))
  .as('sums');

const rowFields = {
  ...orderFields(salesOrder),
  customerId: salesOrder.customerId,
  customer: party.name,
  shipBy: salesOrder.shipBy,
  validUntil: salesOrder.validUntil,
  reference: salesOrder.reference,
  currency: salesOrder.currency,
  confirmedAt: salesOrder.confirmedAt,
  ordered: sums.ordered,
  picked: sums.picked,
  dispatched: sums.dispatched,
  short: sums.short,
  unkept: sums.unkept,
  unkeptGone: sums.unkeptGone,
  direct: sums.direct,
  sent: sums.sent,
  reserved: sums.reserved,
  toInvoice: sums.toInvoice,
  whole: salesOrder.whole,
  lines: sums.lines,
  amount: sums.amount,
};
type OrderRow = RowOf<typeof rowFields>;

type ListQuery = QueryOf<typeof contract.listSales>;
const standing = isStanding(salesOrder, salesOrder.confirmedAt);
/** Orders with a line of which this holds; said of document lines, of which there are indexes for each. */
const withLine = (which: SQL): SQL =>
  inArray(
    salesOrder.id,
    new QueryBuilder()
      .select({ id: salesTerms.orderId })
      .from(documentLine)
      .innerJoin(salesTerms, eq(salesTerms.id, documentLine.id))
      .where(and(sql`${documentLine.kind} = 'sales'`, which)),
  );
const open = and(standing, withLine(sql`${documentLine.active} and ${documentLine.finished} < ${documentLine.baseQuantity} - ${documentLine.cancelled}`));
const short = withLine(sql`${documentLine.wanted} > 0 and ${documentLine.short} > 0`);
const shows: Record<Exclude<ListQuery['show'], 'late'>, SQL | undefined> = {
  open,
  short: and(standing, short),
  ready: and(standing, withLine(sql`${documentLine.wanted} > 0 and ${documentLine.reserved} > 0`), sql`not (${salesOrder.whole} and ${short})`),
  bench: and(standing, withLine(sql`${documentLine.drawn} > ${documentLine.finished}`)),
  supplier: and(standing, withLine(sql`${documentLine.direct} > 0 and ${documentLine.direct} > ${documentLine.sent}`)),
  'to-invoice': withLine(
    sql`${documentLine.finished} > ${documentLine.billed} and ${documentLine.finished} - ${documentLine.returned} > ${documentLine.billed}`,
  ),
  quotes: isDraft(salesOrder, salesOrder.confirmedAt),
  direct: and(isNotNull(salesOrder.confirmedAt), withLine(sql`${documentLine.direct} > 0`)),
  all: undefined,
};

/** Conditions of a list of sales orders; their customer is joined. */
const listed = (act: Act, query: ListQuery): SQL | undefined =>
  and(
    query.show === 'late' ? and(open, lt(salesOrder.shipBy, act.today)) : shows[query.show],
    everyWord(sql`lower(${salesOrder.number} || ' ' || ${party.name} || ' ' || ${salesOrder.reference})`, query.q),
    saleAt(act.sites('look', query.siteId)),
    query.customerId === undefined ? undefined : eq(salesOrder.customerId, query.customerId),
  );

/** How many sales orders the list has in all, and what they come to in each currency. */
export async function salesInAll(act: Act, query: ListQuery): Promise<ResponseOf<typeof contract.salesInAll>> {
  const amount = new QueryBuilder()
    .select({ sum: sql`sum(${salesTerms.amount})` })
    .from(salesTerms)
    .where(eq(salesTerms.orderId, salesOrder.id));
  const rows = await act.tx.db
    .select({ currency: salesOrder.currency, count: sql<number>`count(*)::int`, amount: sql<string>`coalesce(sum((${amount})), 0)` })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .where(listed(act, query))
    .groupBy(salesOrder.currency)
    .orderBy(salesOrder.currency);
  return { count: rows.reduce((all, { count }) => all + count, 0), amounts: rows.map(({ currency, amount: sum }) => ({ currency, amount: sum })) };
}

export async function sales(act: Act, query: ListQuery): Promise<ResponseOf<typeof contract.listSales>> {
  const sort: Sort = query.show === 'open' ? { sql: salesOrder.shipBy, type: 'date' } : { sql: salesOrder.createdAt, type: 'timestamptz' };
  const page = pageOf(sort, salesOrder.id, { ...query, direction: query.show === 'open' ? 'up' : 'down' });
  const { db } = act.tx;
  // The page is found first: only its orders are added up.
  const found = db
    .select({ id: sql<number>`${salesOrder.id}`.as('found_id') })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .where(and(listed(act, query), page.after))
    .orderBy(...page.order)
    .limit(page.limit as number)
    .as('found');
  const rows = await db
    .select({ ...rowFields, ...cursorOf(sort, salesOrder.id) })
    .from(found)
    .innerJoin(salesOrder, eq(salesOrder.id, found.id))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(site, eq(site.id, salesOrder.siteId))
    .innerJoinLateral(sums, sql`true`)
    .orderBy(...page.order);
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
  straight: { ordered: decimal(row.direct), sent: decimal(row.sent) },
  unkept: { ordered: decimal(row.unkept), dispatched: decimal(row.unkeptGone) },
});
const isOpen = (row: OrderRow): boolean => row.confirmedAt !== null && !row.closed && !row.cancelled && decimal(row.dispatched).lt(row.ordered);

function salesRow(
  { confirmedAt, closed, cancelled, unkept, unkeptGone, direct, sent, reserved, toInvoice, whole, ...row }: OrderRow,
  today: string,
): contract.SalesRow {
  const full = { confirmedAt, closed, cancelled, unkept, unkeptGone, direct, sent, reserved, toInvoice, whole, ...row };
  return {
    ...row,
    ready: isOpen(full) && decimal(reserved).gt(0) && !(whole && decimal(row.short).gt(0)),
    canGoStraight: isOpen(full) && decimal(row.ordered).gt(decimal(row.picked)),
    toInvoice: decimal(toInvoice).gt(0),
    state: salesState(progress(full)),
    late: isOpen(full) && row.shipBy < today,
    expired: confirmedAt === null && !cancelled && row.validUntil !== null && row.validUntil < today,
  };
}

/** Where a line comes from. */
export const lineSite = alias(site, 'line_site');
/** Another site that is asked to send some of a line. */
const bringSite = alias(site, 'bring_site');
/** What the customer asked for, when something else is sold in its place. */
export const askedItem = alias(item, 'asked_item');

const linesOf = (today: Placeholder) =>
  jsonRows(
    {
      ...lineFields(salesLine),
      asked: sql<{
        itemId: number;
        sku: string;
        name: string;
      } | null>`case when ${askedItem.id} is not null then json_build_object('itemId', ${askedItem.id}, 'sku', ${askedItem.sku}, 'name', ${askedItem.name}) end`,
      siteId: salesLine.siteId,
      site: lineSite.name,
      stocked: salesLine.stocked,
      discount: plain(salesLine.discount),
      shipBy: sql<string>`coalesce(${salesLine.shipBy}, ${salesOrder.shipBy})`,
      promisedOn: salesLine.promisedOn,
      standsBack: salesLine.standsBack,
      picked: plain(salesLine.picked),
      dispatched: plain(salesLine.dispatched),
      returned: plain(salesLine.returned),
      invoiced: plain(salesLine.invoiced),
      direct: plain(salesLine.direct),
      onOrder: sql<string>`trim_scale(${onOrderStraight(salesLine.id)})::text`,
      sent: plain(salesLine.sent),
      bring: plain(salesLine.bring),
      bringFrom: sql<{
        id: number;
        name: string;
      } | null>`case when ${bringSite.id} is not null then json_build_object('id', ${bringSite.id}, 'name', ${bringSite.name}) end`,
      supplies: suppliesOfSale(salesLine.id),
      reserved: plain(salesLine.reserved),
      short: plain(salesLine.short),
      free: sql<string>`trim_scale(coalesce(${itemSite.free}, 0))::text`,
      cost: salesLine.dispatchedCost,
      coming: comingOf(salesLine.itemId, salesLine.siteId),
      rate: taxRateOn(salesLine.taxCodeId, today),
    },
    (select) =>
      select
        .from(salesLine)
        .innerJoin(item, eq(item.id, salesLine.itemId))
        .innerJoin(unit, eq(unit.id, item.unitId))
        .innerJoin(lineSite, eq(lineSite.id, salesLine.siteId))
        .leftJoin(askedItem, eq(askedItem.id, salesLine.askedItemId))
        .leftJoin(bringSite, eq(bringSite.id, salesLine.bringFromId))
        .leftJoin(lineUnit, eq(lineUnit.code, salesLine.unit))
        .leftJoin(itemSite, and(eq(itemSite.itemId, salesLine.itemId), eq(itemSite.siteId, salesLine.siteId)))
        .where(eq(salesLine.orderId, salesOrder.id)),
    { orderBy: salesLine.position },
  );

const readOrder = prepared(['id', 'today'], (db, { id, today }) =>
  db
    .select({
      ...rowFields,
      version: salesOrder.version,
      note: salesOrder.note,
      shipTo: salesOrder.shipTo,
      whole: salesOrder.whole,
      discount: plain(salesOrder.discount),
      rate: plain(salesOrder.rate),
      movements: movementsOf('sales', salesOrder.id),
      changes: changesOf('sales order', salesOrder.id),
      orderLines: linesOf(today),
    })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(site, eq(site.id, salesOrder.siteId))
    .innerJoinLateral(sums, sql`true`)
    .where(sql`${salesOrder.id} = ${id}`),
);

type PricedRow = { amount: string } & Record<'quantity' | 'price' | 'pricePer' | 'discount', string>;

/** What the discount of the whole order comes to: what its lines would come to without it, less what they come to. */
const discountedOf = (lines: readonly PricedRow[], ofOrder: string, places: number): Decimal =>
  decimal(ofOrder).isZero() ? zero : sum(lines.map((line) => lineAmount(pricedLine(line), places).minus(line.amount)));

/** An order that the person may look at: at its site, or at one that some of it comes from. */
export function seenSale<T extends { siteId: number; lines: readonly { siteId: number }[] }>(act: Act, order: T): T {
  const mine = act.sites('look');
  if (mine !== null && !order.lines.some(({ siteId }) => mine.includes(siteId))) act.allow('look', order.siteId);
  return order;
}

export async function sale(act: Act, id: number): Promise<contract.SalesOrder> {
  const { tx, today } = act;
  const [row] = await readOrder(tx, { id, today });
  if (!row) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  const { orderLines, version, note, shipTo, whole, discount, rate, movements, changes, ...order } = row;
  const places = currencyPlaces(order.currency) ?? 2;
  const text = (value: Decimal) => amountText(order.currency, value);
  const gone = sum(orderLines.map((line) => shareOf(decimal(line.amount), decimal(line.dispatched).minus(line.returned), decimal(line.baseQuantity), places)));
  const sold = sum(
    orderLines.map((line) => shareOf(decimal(line.amount).times(rate), decimal(line.dispatched).minus(line.returned), decimal(line.baseQuantity))),
  );
  const cost = sum(orderLines.map((line) => decimal(line.cost)));
  return {
    ...salesRow({ ...order, whole }, today),
    version,
    note,
    shipTo,
    whole,
    discount,
    discounted: text(discountedOf(orderLines, discount, places)),
    rate,
    movements,
    changes: toldTo(act, changes),
    confirmedAt: row.confirmedAt,
    stages: salesStages(progress(row)).map((stage) => ({ name: stage.name, done: quantityText(stage.done), of: quantityText(stage.of) })),
    open: isOpen(row),
    canEdit: row.confirmedAt === null && !row.cancelled,
    tax: taxOf(
      orderLines.map((line) => ({ amount: decimal(line.amount), rate: decimal(line.rate) })),
      places,
    ).toFixed(places),
    dispatchedAmount: text(gone),
    dispatchedCost: cost.toFixed(2),
    margin: sold.minus(cost).toFixed(2),
    lines: orderLines.map(({ rate: _rate, ...line }) => line),
  };
}
