import { and, eq, isNull, sql } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import { invoice, invoiceLine, moneyIn, moneyPart } from '../../db/schema/index';

/** How invoices stand: what credit notes took off each, and what was paid of it. To be joined with `invoice`. */

const note = alias(invoice, 'note');

export const creditedNow = new QueryBuilder()
  .select({
    total: sql<string>`coalesce(sum(${note.net} + ${note.tax}), 0)`.as('credited_total'),
    owed: sql<string>`coalesce(sum(${note.owed}), 0)`.as('credited_owed'),
  })
  .from(note)
  .where(eq(note.creditsId, invoice.id))
  .as('credited_now');

export const paidNow = new QueryBuilder()
  .select({
    paid: sql<string>`coalesce(sum(${moneyPart.amount}), 0)`.as('paid_amount'),
    settled: sql<string>`coalesce(sum(${moneyPart.settled}), 0)`.as('paid_settled'),
  })
  .from(moneyPart)
  .innerJoin(moneyIn, and(eq(moneyIn.id, moneyPart.moneyId), isNull(moneyIn.undoneAt)))
  .where(eq(moneyPart.invoiceId, invoice.id))
  .as('paid_now');

/** What an invoice comes to, and what is open of it; of a credit note nothing is. */
export const total = sql<string>`(${invoice.net} + ${invoice.tax})`;
export const open = sql<string>`(case ${invoice.kind} when 'credit' then 0 else ${invoice.net} + ${invoice.tax} - ${creditedNow.total} - ${paidNow.paid} end)`;

/** Lines of credit notes, as they take something off lines of invoices. */
export const creditLine = alias(invoiceLine, 'credit_line');
const off = (amount: ReturnType<typeof sql>) =>
  sql<string>`(${new QueryBuilder()
    .select({ sum: sql`coalesce(${amount}, 0)` })
    .from(creditLine)
    .where(eq(creditLine.creditsLineId, invoiceLine.id))})::text`;

/** What credit notes took off a line of an invoice. */
export const creditedOf = {
  quantity: off(sql`trim_scale(sum(${creditLine.quantity}))`),
  byQuantity: off(sql`sum(${creditLine.amount}) filter (where ${creditLine.quantity} is not null)`),
  allowed: off(sql`sum(${creditLine.amount}) filter (where ${creditLine.quantity} is null)`),
  company: off(sql`sum(${creditLine.company})`),
};
