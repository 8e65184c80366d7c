import { amountFault, amountText, currencyPlaces } from '@larder/core/books/currency';
import type * as contract from '@larder/contract/invoices';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, quantityText, sum } from '@larder/core/decimal';
import { creditable, creditedTaxes, creditOf, uncovered, type CreditedLine, type TaxAtRate } from '@larder/core/outbound/invoicing';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, isNotNull, sql } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';

import { jsonRows } from '../../db/json';
import { invoice, invoiceCover, invoiceLine, invoiceTax, party, salesLine } from '../../db/schema/index';
import { plain } from '../../db/text';
import { refuseErrors } from '../../documents/lines';
import { Entry, refuseBookDay } from '../../ledger/entry';
import { lock } from '../../ledger/lock';
import { write } from './service';
import { creditedOf, creditLine } from './standing';
import { posted, told } from './told';
import { fill, type WorkedLine } from './work';

type Form = BodyOf<typeof contract.creditInvoice>;

const creditCover = alias(invoiceCover, 'credit_cover');

const readLines = ({ tx: { db } }: Act, invoiceId: number) =>
  db
    .select({
      id: invoiceLine.id,
      position: invoiceLine.position,
      kind: invoiceLine.kind,
      salesLineId: invoiceLine.salesLineId,
      shipmentId: invoiceLine.shipmentId,
      text: invoiceLine.text,
      quantity: plain(invoiceLine.quantity),
      amount: invoiceLine.amount,
      company: invoiceLine.company,
      accountId: invoiceLine.accountId,
      taxCodeId: invoiceLine.taxCodeId,
      taxRate: invoiceLine.taxRate,
      credited: creditedOf.quantity,
      byQuantity: creditedOf.byQuantity,
      allowed: creditedOf.allowed,
      creditedCompany: creditedOf.company,
      covers: jsonRows(
        {
          movementLineId: invoiceCover.lineId,
          quantity: sql<string>`(${invoiceCover.quantity} - coalesce((${new QueryBuilder()
            .select({ sum: sql`sum(${creditCover.quantity})` })
            .from(creditCover)
            .innerJoin(creditLine, eq(creditLine.id, creditCover.invoiceLineId))
            .where(and(eq(creditLine.creditsLineId, invoiceLine.id), eq(creditCover.lineId, invoiceCover.lineId)))}), 0))::text`,
        },
        (select) => select.from(invoiceCover).where(eq(invoiceCover.invoiceLineId, invoiceLine.id)),
        { orderBy: invoiceCover.lineId },
      ),
    })
    .from(invoiceLine)
    .where(eq(invoiceLine.invoiceId, invoiceId))
    .orderBy(invoiceLine.position);
type LineRow = Awaited<ReturnType<typeof readLines>>[number];

const asCredited = (row: Pick<LineRow, 'quantity' | 'amount' | 'company' | 'credited' | 'byQuantity' | 'allowed' | 'creditedCompany'>): CreditedLine => ({
  quantity: row.quantity === null ? null : decimal(row.quantity),
  amount: decimal(row.amount),
  company: decimal(row.company),
  credited: { quantity: decimal(row.credited), byQuantity: decimal(row.byQuantity), allowed: decimal(row.allowed), company: decimal(row.creditedCompany) },
});

/** Issues a credit note: so many of a line at what was asked for them, or an amount off it. What is credited by quantity can be invoiced again. */
export async function creditInvoice(act: Act, id: number, form: Form): Promise<contract.InvoicePosted> {
  await lock.salesOrdersOf(act, await salesLinesOf(act, id));
  await lock.invoices(act, [id]);
  const [of] = await act.tx.db
    .select({ paper: invoice, party: party.name })
    .from(invoice)
    .innerJoin(party, eq(party.id, invoice.partyId))
    .where(eq(invoice.id, id));
  if (!of) throw new Refusal(404, 'not-found', 'There is no such invoice.');
  const { paper } = of;
  if (paper.kind === 'credit') throw new Refusal(409, 'not-an-invoice', `${paper.number} is a credit note; what it took off is invoiced again by an invoice.`);
  await refuseBookDay(act, form.invoicedOn, 'invoicedOn');
  if (form.invoicedOn < paper.invoicedOn)
    throw refuseField(409, 'before-invoice', 'invoicedOn', `${paper.number} is of ${paper.invoicedOn}; it is not credited before.`);
  const places = currencyPlaces(paper.currency) ?? 2;
  const rows = await readLines(act, id);
  refuseErrors(creditFaults(form, rows, paper.currency));
  const lines = form.lines.map((asked): WorkedLine & { creditsLineId: number } => {
    const row = rows.find((one) => one.id === asked.lineId) as LineRow;
    const quantity = asked.quantity === null ? null : decimal(asked.quantity);
    const taken = creditOf(asCredited(row), quantity === null ? { amount: decimal(asked.amount ?? 0) } : { quantity }, places);
    const covers = row.covers.map((cover) => ({ movementLineId: cover.movementLineId, quantity: decimal(cover.quantity) }));
    return {
      kind: row.kind,
      salesLineId: row.salesLineId,
      shipmentId: row.shipmentId,
      creditsLineId: row.id,
      text: row.text,
      quantity,
      ...taken,
      accountId: row.accountId,
      taxCodeId: row.taxCodeId,
      taxRate: decimal(row.taxRate),
      covers: quantity === null ? [] : uncovered(covers, quantity),
    };
  });
  const { mine, before } = await taxesOfInvoice(act, id);
  const taxes = creditedTaxes(
    mine,
    before,
    lines.map(({ amount, taxRate: rate }) => ({ amount, rate })),
    places,
  );
  const owed = sum([...lines.map(({ company }) => company), ...taxes.map(({ company }) => company)]);
  const entry = await Entry.open(act);
  fill(entry, lines, taxes, owed, -1);
  const worked = {
    ...paper,
    kind: 'credit' as const,
    creditsId: id,
    party: of.party,
    invoicedOn: form.invoicedOn,
    dueOn: form.invoicedOn,
    opening: form.opening,
    closing: form.closing,
    lines,
    taxes,
    net: sum(lines.map(({ amount }) => amount)),
    tax: sum(taxes.map(({ tax }) => tax)),
    owed,
    entry,
  };
  const written = act.tx.readOnly ? null : await write(act, worked);
  return posted(written?.id ?? null, written?.number ?? null, worked, await told(act, lines, paper.currency));
}

async function salesLinesOf({ tx: { db } }: Act, invoiceId: number): Promise<number[]> {
  const rows = await db
    .select({ id: sql<number>`${invoiceLine.salesLineId}` })
    .from(invoiceLine)
    .innerJoin(salesLine, eq(salesLine.id, invoiceLine.salesLineId))
    .where(and(eq(invoiceLine.invoiceId, invoiceId), isNotNull(invoiceLine.salesLineId)));
  return rows.map(({ id }) => id);
}

/** What is wrong with what is to be credited, by field: of each line once, either a quantity or an amount, and no more than is left of it. */
function creditFaults({ lines }: Form, rows: readonly LineRow[], currency: string): FieldError[] {
  return lines.flatMap(({ lineId, quantity, amount }, index): FieldError[] => {
    const refuse = (field: string, sentence: string): FieldError[] => [{ field: `lines.${index}.${field}`, sentence }];
    const row = rows.find(({ id }) => id === lineId);
    if (!row) return refuse('lineId', 'This invoice has no such line.');
    if (lines.findIndex((one) => one.lineId === lineId) < index) return refuse('lineId', 'This line is credited twice; say it once.');
    if ((quantity === null) === (amount === null)) return refuse('quantity', 'Give either how many are credited, or an amount.');
    const line = asCredited(row);
    if (quantity !== null) {
      if (line.quantity === null) return refuse('quantity', 'This line has no quantity; give an amount.');
      const left = line.quantity.minus(line.credited.quantity);
      return left.lt(quantity) ? refuse('quantity', `Only ${quantityText(left)} of it are left to credit.`) : [];
    }
    const odd = amountFault(amount ?? '0', currency);
    if (odd) return refuse('amount', odd);
    const left = creditable(line);
    return left.lt(amount ?? 0) ? refuse('amount', `Only ${amountText(currency, left)} of it are left to credit.`) : [];
  });
}

/** The taxes of an invoice, and what credit notes took off them. */
async function taxesOfInvoice({ tx: { db } }: Act, id: number): Promise<{ mine: TaxAtRate[]; before: TaxAtRate[] }> {
  const notes = db.select({ id: invoice.id }).from(invoice).where(eq(invoice.creditsId, id));
  const rows = await db
    .select()
    .from(invoiceTax)
    .where(sql`${invoiceTax.invoiceId} = ${id} or ${invoiceTax.invoiceId} in (${notes})`);
  const read = ({ rate, base, tax, company }: (typeof rows)[number]): TaxAtRate => ({
    rate: decimal(rate).toFixed(),
    base: decimal(base),
    tax: decimal(tax),
    company: decimal(company),
  });
  return { mine: rows.filter(({ invoiceId }) => invoiceId === id).map(read), before: rows.filter(({ invoiceId }) => invoiceId !== id).map(read) };
}
