import type * as contract from '@larder/contract/returns';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, least, quantityText, sum } from '@larder/core/decimal';
import { creditParts, overInvoiced } from '@larder/core/outbound/invoicing';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, gte, isNotNull, isNull, lte, ne, sql, type SQL } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import { seenAt, type Act } from '../../act';
import { among, atSites } from '../../db/given';
import { jsonRows } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import {
  customerReturn,
  customerReturnLine,
  invoice,
  invoiceLine,
  item,
  lot,
  movementLine,
  party,
  person,
  place,
  reason,
  salesLine,
  salesOrder,
  site,
  standingMovement,
  unit,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { creditedQuantity } from '../invoices/queries';

const line = customerReturnLine;
const query = () => new QueryBuilder();
const one = { one: sql`1` };
const ofReturn = eq(line.returnId, customerReturn.id);

const standing = exists(query().select(one).from(standingMovement).where(eq(standingMovement.id, customerReturn.movementId)));
export const stateOf = sql<
  contract.ReturnRow['state']
>`case when ${standing} then 'received' when ${customerReturn.discardedAt} is null then 'expected' else 'discarded' end`;

/** Something of it is invoiced beyond what the customer has kept. */
const toCredit = sql<boolean>`(${standing} and ${exists(
  query()
    .select(one)
    .from(line)
    .innerJoin(salesLine, eq(salesLine.id, line.salesLineId))
    .where(and(ofReturn, sql`${salesLine.invoiced} > ${salesLine.dispatched} - ${salesLine.returned}`)),
)})`;

/** At what the goods left for; nothing before they are received. */
const worth = sql<string>`coalesce((${query()
  .select({ sum: sql`sum(abs(${movementLine.value} + ${movementLine.variance}))` })
  .from(movementLine)
  .innerJoin(standingMovement, eq(standingMovement.id, movementLine.movementId))
  .where(eq(movementLine.movementId, customerReturn.movementId))}), 0.00)`;

const listOf = (text: SQL) =>
  sql<string>`coalesce((${query()
    .select({ all: sql`string_agg(distinct ${text}, ', ')` })
    .from(line)
    .innerJoin(item, eq(item.id, line.itemId))
    .leftJoin(salesLine, eq(salesLine.id, line.salesLineId))
    .leftJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .where(ofReturn)}), '')`;
const orders = listOf(sql`${salesOrder.number}`);
const items = listOf(sql`${item.sku}`);
const words = sql`lower(concat_ws(' ', ${customerReturn.number}, ${customerReturn.reference}, ${party.name}, (${orders}), (${listOf(sql`${item.sku} || ' ' || ${item.name}`)})))`;

type Asked = QueryOf<typeof contract.listReturns>;
const shows: Record<Asked['show'], SQL | undefined> = {
  expected: and(sql`not ${standing}`, isNull(customerReturn.discardedAt)),
  'to credit': toCredit,
  received: sql`${standing}`,
  all: undefined,
};

/** Returns of which a line is of an item, an order, or came back for a reason. */
const withLine = (which: SQL | undefined) =>
  which && exists(query().select(one).from(line).leftJoin(salesLine, eq(salesLine.id, line.salesLineId)).where(and(ofReturn, which)));

const listed = (act: Act, { q, show, customerId, itemId, reasonId, orderId, from, to, siteId }: Asked): SQL | undefined =>
  and(
    shows[show],
    atSites(customerReturn.siteId, act.sites('look', siteId)),
    everyWord(words, q),
    customerId === undefined ? undefined : eq(customerReturn.customerId, customerId),
    from === undefined ? undefined : gte(customerReturn.cameOn, from),
    to === undefined ? undefined : lte(customerReturn.cameOn, to),
    withLine(itemId === undefined ? undefined : eq(line.itemId, itemId)),
    withLine(reasonId === undefined ? undefined : eq(line.reasonId, reasonId)),
    withLine(orderId === undefined ? undefined : eq(salesLine.orderId, orderId)),
  );

/** How many returns the list has in all, and what they are worth. */
export async function returnsInAll(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.returnsInAll>> {
  const [row] = await act.tx.db
    .select({ count: sql<number>`count(*)::int`, worth: sql<string>`coalesce(sum(${worth}), 0.00)` })
    .from(customerReturn)
    .innerJoin(party, eq(party.id, customerReturn.customerId))
    .where(listed(act, asked));
  return row ?? { count: 0, worth: '0.00' };
}

/** What customers brought back, or will, the last first. */
export async function returns(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.listReturns>> {
  const sort: Sort = { sql: customerReturn.cameOn, type: 'date' };
  const page = pageOf(sort, customerReturn.id, { ...asked, direction: 'down' });
  const rows = await act.tx.db
    .select({
      id: customerReturn.id,
      number: customerReturn.number,
      customerId: party.id,
      customer: party.name,
      siteId: site.id,
      site: site.name,
      cameOn: customerReturn.cameOn,
      state: stateOf,
      reference: customerReturn.reference,
      orders,
      items,
      lines: sql<number>`(${query()
        .select({ count: sql`count(*)::int` })
        .from(line)
        .where(ofReturn)})`,
      toCredit,
      worth,
      ...cursorOf(sort, customerReturn.id),
    })
    .from(customerReturn)
    .innerJoin(party, eq(party.id, customerReturn.customerId))
    .innerJoin(site, eq(site.id, customerReturn.siteId))
    .where(and(listed(act, asked), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, asked.limit);
}

/** What each line of a received return is worth: the movement has a line for each, in the same places. */
const worthOfLine = sql<string>`coalesce((${query()
  .select({ worth: sql`abs(${movementLine.value} + ${movementLine.variance})::text` })
  .from(movementLine)
  .innerJoin(standingMovement, eq(standingMovement.id, movementLine.movementId))
  .where(and(eq(movementLine.movementId, customerReturn.movementId), eq(movementLine.position, line.position)))}), '')`;

export async function oneReturn(act: Act, id: number): Promise<contract.CustomerReturn> {
  const [row] = await act.tx.db
    .select({
      id: customerReturn.id,
      number: customerReturn.number,
      version: customerReturn.version,
      customerId: party.id,
      customer: party.name,
      siteId: site.id,
      site: site.name,
      cameOn: customerReturn.cameOn,
      reference: customerReturn.reference,
      note: customerReturn.note,
      state: stateOf,
      movementId: sql<number | null>`case when ${standing} then ${customerReturn.movementId} end`,
      person: person.name,
      createdAt: customerReturn.createdAt,
      lines: jsonRows(
        {
          id: line.id,
          salesLineId: line.salesLineId,
          orderId: salesOrder.id,
          order: sql<string>`coalesce(${salesOrder.number}, '')`,
          position: salesLine.position,
          itemId: item.id,
          sku: item.sku,
          name: item.name,
          unit: unit.code,
          tracking: item.tracking,
          lotId: line.lotId,
          lot: sql<string>`coalesce(${lot.code}, ${line.lotCode})`,
          unitValue: sql<string | null>`trim_scale(${line.unitValue})::text`,
          quantity: plain(line.quantity),
          condition: line.condition,
          binId: line.binId,
          bin: sql<string>`coalesce(${place.code}, '')`,
          reasonId: reason.id,
          reason: reason.name,
          note: line.note,
          worth: worthOfLine,
        },
        (select) =>
          select
            .from(line)
            .innerJoin(item, eq(item.id, line.itemId))
            .innerJoin(unit, eq(unit.id, item.unitId))
            .innerJoin(reason, eq(reason.id, line.reasonId))
            .leftJoin(salesLine, eq(salesLine.id, line.salesLineId))
            .leftJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
            .leftJoin(lot, eq(lot.id, line.lotId))
            .leftJoin(place, eq(place.id, line.binId))
            .where(ofReturn),
        { orderBy: line.position },
      ),
    })
    .from(customerReturn)
    .innerJoin(party, eq(party.id, customerReturn.customerId))
    .innerJoin(site, eq(site.id, customerReturn.siteId))
    .innerJoin(person, eq(person.id, customerReturn.createdBy))
    .where(eq(customerReturn.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such return.');
  const found = seenAt(act, row);
  return { ...found, toCredit: found.state === 'received' ? await toCreditOf(act, found.lines) : [] };
}

/** What of lines that came back is invoiced beyond what the customer has kept, invoice by invoice. */
async function toCreditOf({ tx: { db } }: Act, lines: contract.CustomerReturn['lines']): Promise<contract.CustomerReturn['toCredit']> {
  const ids = [...new Set(lines.flatMap(({ salesLineId }) => salesLineId ?? []))];
  const sold = await db
    .select({ id: salesLine.id, sku: item.sku, dispatched: salesLine.dispatched, returned: salesLine.returned, invoiced: salesLine.invoiced })
    .from(salesLine)
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .where(among(salesLine.id, ids));
  const invoiced = await db
    .select({
      lineId: invoiceLine.id,
      salesLineId: invoiceLine.salesLineId,
      invoiceId: invoice.id,
      number: invoice.number,
      left: sql<string>`(${invoiceLine.quantity} - ${creditedQuantity}::numeric)::text`,
    })
    .from(invoiceLine)
    .innerJoin(invoice, and(eq(invoice.id, invoiceLine.invoiceId), ne(invoice.kind, 'credit')))
    .where(and(among(invoiceLine.salesLineId, ids), isNotNull(invoiceLine.quantity)))
    .orderBy(invoiceLine.id);
  const parts = sold.flatMap((of) => {
    const came = sum(lines.filter(({ salesLineId }) => salesLineId === of.id).map(({ quantity }) => decimal(quantity)));
    const over = overInvoiced({ dispatched: decimal(of.dispatched), returned: decimal(of.returned), invoiced: decimal(of.invoiced) });
    const mine = invoiced.filter(({ salesLineId }) => salesLineId === of.id).map((row) => ({ ...row, quantity: decimal(row.left) }));
    return creditParts(mine, least(over, came)).map((part) => ({ ...part, sku: of.sku }));
  });
  const invoices = new Map(parts.map(({ invoiceId, number }) => [invoiceId, number]));
  return [...invoices].map(([invoiceId, number]) => ({
    invoiceId,
    number,
    lines: parts.flatMap((part) => (part.invoiceId === invoiceId ? [{ lineId: part.lineId, sku: part.sku, quantity: quantityText(part.quantity) }] : [])),
  }));
}
