import type * as contract from '@larder/contract/invoices';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, exists, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { placesOf } from '../../db/currency';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import {
  documentLine,
  invoice,
  invoiceLine,
  movement,
  movementLine,
  party,
  place,
  salesOrder,
  salesTerms,
  shipment,
  standingMovement,
} from '../../db/schema/index';
import { dispatchesOf } from './queries';
import { chargedOf, wentOut } from './wentOut';

/** Orders of which something went out that is on no invoice yet. */

const lineAmount = alias(invoiceLine, 'line_amount');
const onInvoice = alias(invoice, 'on_invoice');
/** What an order line came to on invoices by quantity, credit notes taken off, in its currency. */
const invoicedAmount = new QueryBuilder()
  .select({ sum: sql`coalesce(sum(case ${onInvoice.kind} when 'credit' then -1 else 1 end * ${lineAmount.amount}), 0)` })
  .from(lineAmount)
  .innerJoin(onInvoice, eq(onInvoice.id, lineAmount.invoiceId))
  .where(and(eq(lineAmount.salesLineId, documentLine.id), sql`${lineAmount.quantity} is not null`));

/** Of an order: its lines that are open, and what they come to: the cumulative share of each up to what went out, less what was invoiced. */
const openLines = new QueryBuilder()
  .select({
    lines: sql<number>`count(*)::int`.as('open_lines'),
    amount:
      sql<string>`coalesce(sum(round(${salesTerms.amount} * (${documentLine.finished} - ${documentLine.returned}) / (${documentLine.baseQuantity} - ${documentLine.cancelled}), ${placesOf(salesOrder.currency)}) - (${invoicedAmount})), 0)`.as(
        'open_amount',
      ),
  })
  .from(documentLine)
  .innerJoin(salesTerms, eq(salesTerms.id, documentLine.id))
  .where(and(eq(salesTerms.orderId, salesOrder.id), isOpen()))
  .as('open_lines');

/** Lines of which the customer has more than is invoiced: by the predicate of their index, and less what came back. */
function isOpen(): SQL {
  return sql`${documentLine.kind} = 'sales' and ${documentLine.finished} > ${documentLine.billed} and ${documentLine.finished} - ${documentLine.returned} > ${documentLine.billed}`;
}

const openFreight = new QueryBuilder()
  .select({ amount: sql<string>`coalesce(sum(${shipment.charged}), 0)`.as('open_freight') })
  .from(shipment)
  .where(and(eq(shipment.orderId, salesOrder.id), sql`${shipment.movementId} is not null and ${shipment.charged} > 0 and ${chargedOf} = 0`))
  .as('freight');

const to = alias(place, 'since_to');
/** The day on which the first went out of what is open. */
const since = sql<string>`(${new QueryBuilder()
  .select({ day: sql`min(${movement.effectiveOn})` })
  .from(documentLine)
  .innerJoin(salesTerms, eq(salesTerms.id, documentLine.id))
  .innerJoin(movementLine, eq(movementLine.demandLineId, documentLine.id))
  .innerJoin(standingMovement, eq(standingMovement.id, movementLine.movementId))
  .innerJoin(movement, eq(movement.id, movementLine.movementId))
  .innerJoin(to, and(eq(to.id, movementLine.toPlaceId), eq(to.kind, 'customer')))
  .where(and(eq(salesTerms.orderId, salesOrder.id), isOpen()))})`;

const isToInvoice = exists(
  new QueryBuilder()
    .select({ one: sql`1` })
    .from(documentLine)
    .innerJoin(salesTerms, eq(salesTerms.id, documentLine.id))
    .where(and(eq(salesTerms.orderId, salesOrder.id), isOpen())),
);
const words = sql`lower(concat_ws(' ', ${salesOrder.number}, ${salesOrder.reference}, ${party.name}))`;
type ListQuery = QueryOf<typeof contract.listToInvoice>;
const listed = ({ q, customerId }: ListQuery): SQL | undefined =>
  and(isToInvoice, everyWord(words, q), customerId === undefined ? undefined : eq(salesOrder.customerId, customerId));
/** Freight is kept in company currency. */
const amount = sql<string>`(${openLines.amount} + round(${openFreight.amount} / ${salesOrder.rate}, ${placesOf(salesOrder.currency)}))`;

export async function toInvoiceInAll({ tx }: Act, query: ListQuery): Promise<ResponseOf<typeof contract.toInvoiceInAll>> {
  const rows = await tx.db
    .select({ currency: salesOrder.currency, count: sql<number>`count(*)::int`, amount: sql<string>`sum(${amount})` })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoinLateral(openLines, sql`true`)
    .innerJoinLateral(openFreight, sql`true`)
    .where(listed(query))
    .groupBy(salesOrder.currency)
    .orderBy(salesOrder.currency);
  return { count: rows.reduce((all, { count }) => all + count, 0), amount: rows.map(({ currency, amount: sum }) => ({ currency, amount: sum })) };
}

/** Orders that are to be invoiced, the oldest first: by their ids, so that a page is found without looking at all of them. */
export async function toInvoice(act: Act, query: ListQuery): Promise<ResponseOf<typeof contract.listToInvoice>> {
  const sort: Sort = { sql: salesOrder.id, type: 'numeric' };
  const page = pageOf(sort, salesOrder.id, { ...query, direction: 'up' });
  const rows = await act.tx.db
    .select({
      orderId: salesOrder.id,
      number: salesOrder.number,
      customerId: salesOrder.customerId,
      customer: party.name,
      reference: salesOrder.reference,
      since,
      lines: openLines.lines,
      currency: salesOrder.currency,
      amount,
      ...cursorOf(sort, salesOrder.id),
    })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoinLateral(openLines, sql`true`)
    .innerJoinLateral(openFreight, sql`true`)
    .where(and(listed(query), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, query.limit);
  const gone = await wentOut(
    act,
    shown.map(({ orderId }) => orderId),
  );
  const open = gone.filter(({ open: left }) => left.gt(0));
  return { rows: shown.map((row) => ({ ...row, dispatches: dispatchesOf(open.filter(({ orderId }) => orderId === row.orderId)) })), next };
}
