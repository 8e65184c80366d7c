import { amountText, moneyIn as inCurrency } from '@larder/core/books/currency';
import type * as contract from '@larder/contract/invoices';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, gt, isNull, lt, ne, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { notNone } from '../../db/given';
import { jsonRows, jsonValues } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import {
  invoice,
  invoiceCover,
  invoiceLine,
  invoiceTax,
  journalEntry,
  journalLine,
  lot,
  moneyIn,
  moneyPart,
  movementLine,
  party,
  salesOrder,
  salesTerms,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { Entry } from '../../ledger/entry';
import { creditedNow, creditedOf, open, paidNow, total } from './standing';
import { orderedLines, saidAsOrdered } from './told';
import { openFreight, ordersOf, wentOut } from './wentOut';
import { mostTaxed } from './workLines';
import { writtenOf } from './work';

/** How many of an invoice's line credit notes took off. */
export const creditedQuantity = creditedOf.quantity;

const ordersIn = new QueryBuilder()
  .select({ all: sql`string_agg(distinct ${salesOrder.number}, ', ')` })
  .from(invoiceLine)
  .innerJoin(salesTerms, eq(salesTerms.id, invoiceLine.salesLineId))
  .innerJoin(salesOrder, eq(salesOrder.id, salesTerms.orderId))
  .where(eq(invoiceLine.invoiceId, invoice.id));

const fields = {
  id: invoice.id,
  number: invoice.number,
  kind: invoice.kind,
  partyId: invoice.partyId,
  party: party.name,
  orders: sql<string>`coalesce((${ordersIn}), '')`,
  reference: invoice.reference,
  invoicedOn: invoice.invoicedOn,
  dueOn: invoice.dueOn,
  currency: invoice.currency,
  total,
  credited: creditedNow.total,
  paid: paidNow.paid,
  open,
  state: sql<contract.InvoiceRow['state']>`case when ${invoice.kind} = 'credit' then 'credit note' when ${open} < 0 then 'to pay back'
    when ${open} = 0 and ${creditedNow.total} = ${total} then 'credited' when ${open} = 0 then 'paid' when ${paidNow.paid} = 0 then 'open' else 'part paid' end`,
  handedOver: sql<boolean>`${invoice.handedOverAt} is not null`,
};

type ListQuery = QueryOf<typeof contract.listInvoices>;
type Row = Omit<contract.InvoiceRow, 'late'>;
const isLate = ({ dueOn, open: left }: Row, today: string): boolean => dueOn < today && decimal(left).gt(0);

/** What invoices are found by: numbers, customer, orders, amounts and days. */
const words = sql`lower(concat_ws(' ', ${invoice.number}, ${invoice.reference}, ${party.name}, ${total}::text, ${invoice.invoicedOn}::text, to_char(${invoice.invoicedOn}, 'FMDD/FMMM'), (${ordersIn})))`;

const ofOrder = (orderId: number) =>
  exists(
    new QueryBuilder()
      .select({ one: sql`1` })
      .from(invoiceLine)
      .innerJoin(salesTerms, eq(salesTerms.id, invoiceLine.salesLineId))
      .where(and(eq(invoiceLine.invoiceId, invoice.id), eq(salesTerms.orderId, orderId))),
  );

const listed = ({ show, q, partyId, orderId }: ListQuery, today: string): SQL | undefined =>
  and(
    show === 'open' ? notNone(open) : show === 'late' ? and(lt(invoice.dueOn, today), gt(open, '0')) : undefined,
    everyWord(words, q),
    partyId === undefined ? undefined : eq(invoice.partyId, partyId),
    orderId === undefined ? undefined : ofOrder(orderId),
  );

/** How many invoices the list has in all, and what of them is open in each currency. */
export async function invoicesInAll({ tx, today }: Act, query: ListQuery): Promise<ResponseOf<typeof contract.invoicesInAll>> {
  const rows = await tx.db
    .select({ currency: invoice.currency, count: sql<number>`count(*)::int`, amount: sql<string>`sum(${open})` })
    .from(invoice)
    .innerJoin(party, eq(party.id, invoice.partyId))
    .innerJoinLateral(creditedNow, sql`true`)
    .innerJoinLateral(paidNow, sql`true`)
    .where(listed(query, today))
    .groupBy(invoice.currency)
    .orderBy(invoice.currency);
  return { count: rows.reduce((all, { count }) => all + count, 0), open: rows.map(({ currency, amount }) => ({ currency, amount })) };
}

/** Invoices: those that are open by the day they are due, all of them the last first. */
export async function invoices({ tx, today }: Act, query: ListQuery): Promise<ResponseOf<typeof contract.listInvoices>> {
  const isAll = query.show === 'all';
  const sort: Sort = { sql: isAll ? invoice.invoicedOn : invoice.dueOn, type: 'date' };
  const page = pageOf(sort, invoice.id, { ...query, direction: isAll ? 'down' : 'up' });
  const rows = await tx.db
    .select({ ...fields, ...cursorOf(sort, invoice.id) })
    .from(invoice)
    .innerJoin(party, eq(party.id, invoice.partyId))
    .innerJoinLateral(creditedNow, sql`true`)
    .innerJoinLateral(paidNow, sql`true`)
    .where(and(listed(query, today), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown.map((row) => ({ ...row, late: isLate(row, today) })), next };
}

const note = alias(invoice, 'credit_note');
const otherPart = alias(moneyPart, 'other_part');
const otherInvoice = alias(invoice, 'other_invoice');
const credits = alias(invoice, 'credits');

const readOne = ({ tx: { db } }: Act, id: number) =>
  db
    .select({
      ...fields,
      address: invoice.address,
      rate: plain(invoice.rate),
      opening: invoice.opening,
      closing: invoice.closing,
      handedOverAt: invoice.handedOverAt,
      email: party.email,
      net: invoice.net,
      tax: invoice.tax,
      creditsId: invoice.creditsId,
      creditsNumber: credits.number,
      taxes: jsonRows({ rate: plain(invoiceTax.rate), base: invoiceTax.base, tax: invoiceTax.tax }, (select) =>
        select.from(invoiceTax).where(eq(invoiceTax.invoiceId, invoice.id)),
      ),
      orderRefs: jsonRows(
        { id: salesOrder.id, number: salesOrder.number },
        (select) =>
          select.from(salesOrder).where(
            exists(
              new QueryBuilder()
                .select({ one: sql`1` })
                .from(invoiceLine)
                .innerJoin(salesTerms, eq(salesTerms.id, invoiceLine.salesLineId))
                .where(and(eq(invoiceLine.invoiceId, invoice.id), eq(salesTerms.orderId, salesOrder.id))),
            ),
          ),
        { orderBy: salesOrder.id },
      ),
      creditNotes: jsonRows(
        { id: note.id, number: note.number, invoicedOn: note.invoicedOn, total: sql<string>`(${note.net} + ${note.tax})::text` },
        (select) => select.from(note).where(eq(note.creditsId, invoice.id)),
        { orderBy: note.id },
      ),
      payments: jsonRows(
        {
          id: moneyIn.id,
          paidOn: moneyIn.paidOn,
          amount: moneyPart.amount,
          exchange: moneyPart.exchange,
          note: moneyIn.note,
          undone: sql<boolean>`${moneyIn.undoneAt} is not null`,
          others: sql<string[]>`(${new QueryBuilder()
            .select({ all: jsonValues(otherInvoice.number) })
            .from(otherPart)
            .innerJoin(otherInvoice, eq(otherInvoice.id, otherPart.invoiceId))
            .where(and(eq(otherPart.moneyId, moneyIn.id), ne(otherPart.invoiceId, invoice.id)))})`,
        },
        (select) => select.from(moneyPart).innerJoin(moneyIn, eq(moneyIn.id, moneyPart.moneyId)).where(eq(moneyPart.invoiceId, invoice.id)),
        { orderBy: moneyIn.id },
      ),
    })
    .from(invoice)
    .innerJoin(party, eq(party.id, invoice.partyId))
    .leftJoin(credits, eq(credits.id, invoice.creditsId))
    .innerJoinLateral(creditedNow, sql`true`)
    .innerJoinLateral(paidNow, sql`true`)
    .where(eq(invoice.id, id));

const readLines = ({ tx: { db } }: Act, id: number) =>
  db
    .select({
      id: invoiceLine.id,
      kind: invoiceLine.kind,
      salesLineId: invoiceLine.salesLineId,
      shipmentId: invoiceLine.shipmentId,
      text: invoiceLine.text,
      quantity: plain(invoiceLine.quantity),
      taxCodeId: invoiceLine.taxCodeId,
      taxRate: plain(invoiceLine.taxRate),
      amount: invoiceLine.amount,
      credited: creditedOf.quantity,
      byQuantity: creditedOf.byQuantity,
      allowed: creditedOf.allowed,
      lots: sql<string[]>`(${new QueryBuilder()
        .select({ all: jsonValues(lot.code, { distinct: true }) })
        .from(invoiceCover)
        .innerJoin(movementLine, eq(movementLine.id, invoiceCover.lineId))
        .innerJoin(lot, eq(lot.id, movementLine.lotId))
        .where(eq(invoiceCover.invoiceLineId, invoiceLine.id))})`,
    })
    .from(invoiceLine)
    .where(eq(invoiceLine.invoiceId, id))
    .orderBy(invoiceLine.position);

export async function oneInvoice(act: Act, id: number): Promise<contract.Invoice> {
  const { db } = act.tx;
  const [row] = await readOne(act, id);
  if (!row) throw new Refusal(404, 'not-found', 'There is no such invoice.');
  const lines = await readLines(act, id);
  const ordered = await orderedOf(act, { lines });
  const written = await db
    .select({ accountId: journalLine.accountId, itemId: journalLine.itemId, amount: journalLine.amount })
    .from(journalEntry)
    .innerJoin(journalLine, eq(journalLine.entryId, journalEntry.id))
    .where(and(eq(journalEntry.invoiceId, id), isNull(journalEntry.moneyId)));
  const entry = await Entry.open(act);
  written.forEach(({ accountId, itemId, amount }) => entry.add(accountId, decimal(amount), itemId));
  const { creditsId, creditsNumber, ...rest } = row;
  return {
    ...rest,
    late: isLate(row, act.today),
    credits: creditsId === null ? null : { id: creditsId, number: creditsNumber ?? '' },
    lines: lines.map(({ credited, byQuantity, allowed, ...line }) => ({
      ...line,
      left: {
        quantity: line.quantity === null ? null : quantityText(decimal(line.quantity).minus(credited)),
        amount: amountText(row.currency, decimal(line.amount).minus(byQuantity).minus(allowed)),
      },
      ...saidAsOrdered(
        ordered.find(({ id: of }) => of === line.salesLineId),
        line.quantity,
      ),
    })),
    ...entry.effects(),
  };
}

/** What an invoice for these orders would begin with. */
export async function proposeInvoice(act: Act, { orders: list }: QueryOf<typeof contract.proposeInvoice>): Promise<ResponseOf<typeof contract.proposeInvoice>> {
  const ids = list.split(',').filter(Boolean).map(Number);
  const orders = await ordersOf(act, ids);
  const [first] = orders;
  if (!first) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  const gone = (await wentOut(act, ids)).filter(({ open: left }) => left.gt(0));
  const freight = (await openFreight(act, ids)).filter(({ movementId }) => gone.some((one) => one.movementId === movementId));
  const lines = await taxedLines(
    act,
    gone.map(({ salesLineId }) => salesLineId),
  );
  const written = await writtenOf(act, first.partyId);
  const references = [...new Set(orders.map(({ reference }) => reference).filter((one) => one !== ''))];
  const isOne = orders.every(({ partyId, currency }) => partyId === first.partyId && currency === first.currency);
  return {
    partyId: isOne ? first.partyId : null,
    ...written,
    currency: first.currency,
    rate: first.rate,
    reference: references.join(', ').slice(0, 200),
    orders: orders.map(({ id, number }) => ({ id, number })),
    dispatches: dispatchesOf(gone).map((one) => ({ ...one, order: orders.find(({ id }) => id === one.orderId)?.number ?? '' })),
    freight: freight.map(({ shipmentId, number, movementId, charged }) => ({
      shipmentId,
      number,
      movementId,
      amount: amountText(first.currency, inCurrency(first.currency, decimal(charged).div(first.rate))),
    })),
    taxCodeId: mostTaxed(lines),
  };
}

async function taxedLines({ tx: { db } }: Act, ids: readonly number[]) {
  const rows = await db
    .select({ taxCodeId: salesTerms.taxCodeId, amount: salesTerms.amount })
    .from(salesTerms)
    .where(sql`${salesTerms.id} = any(${sql.param([...ids])})`);
  return rows.map(({ taxCodeId, amount }) => ({ taxCodeId, amount: decimal(amount) }));
}

/** What went out, dispatch by dispatch. */
export function dispatchesOf(gone: readonly { orderId: number; movementId: number; day: string; straight: boolean; salesLineId: number }[]) {
  const keys = [...new Set(gone.map(({ orderId, movementId }) => `${orderId} ${movementId}`))];
  return keys.flatMap((key) => {
    const mine = gone.filter(({ orderId, movementId }) => `${orderId} ${movementId}` === key);
    const [first] = mine;
    if (!first) return [];
    const { orderId, movementId, day, straight } = first;
    return [{ orderId, movementId, dispatchedOn: day, straight, lines: new Set(mine.map(({ salesLineId }) => salesLineId)).size }];
  });
}

/** Notes that an invoice came to its customer without mail, or that it did not. */
export async function handOver(act: Act, id: number, handedOver: boolean): Promise<Record<string, never>> {
  const [row] = await act.tx.db
    .update(invoice)
    .set({ handedOverAt: handedOver ? act.now.toISOString() : null })
    .where(eq(invoice.id, id))
    .returning({ id: invoice.id });
  if (!row) throw new Refusal(404, 'not-found', 'There is no such invoice.');
  return {};
}

/** The order lines that an invoice's lines are for. */
export const orderedOf = (act: Act, { lines }: { lines: readonly { salesLineId: number | null }[] }) =>
  orderedLines(
    act,
    lines.flatMap(({ salesLineId }) => (salesLineId === null ? [] : [salesLineId])),
  );

/** What a customer owes on invoices, and what of it is late, in company currency. */
export async function owedBy({ tx: { db }, today }: Act, partyId: number): Promise<{ owed: string; overdue: string }> {
  const left = sql`${invoice.owed} - ${creditedNow.owed} - ${paidNow.settled}`;
  const [row] = await db
    .select({
      owed: sql<string>`coalesce(sum(${left}), 0.00)::text`,
      overdue: sql<string>`coalesce(sum(${left}) filter (where ${invoice.dueOn} < ${today}), 0.00)::text`,
    })
    .from(invoice)
    .innerJoinLateral(creditedNow, sql`true`)
    .innerJoinLateral(paidNow, sql`true`)
    .where(and(eq(invoice.partyId, partyId), eq(invoice.kind, 'invoice')));
  return row ?? { owed: '0.00', overdue: '0.00' };
}
