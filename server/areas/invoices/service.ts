import { amountText } from '@larder/core/books/currency';
import type * as contract from '@larder/contract/invoices';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, type Decimal } from '@larder/core/decimal';
import type { TaxAtRate } from '@larder/core/outbound/invoicing';
import { refuseField } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { given, insertRows } from '../../db/given';
import { documentLine, invoice, invoiceCover, invoiceLine, invoiceTax } from '../../db/schema/index';
import { takeNumber } from '../../documents/number';
import { Entry, refuseBookDay, writeEntry } from '../../ledger/entry';
import { lock } from '../../ledger/lock';
import { posted, told } from './told';
import { ordersOf, wentOut } from './wentOut';
import { workOut, type Form, type Worked, type WorkedLine } from './work';

/** Issues an invoice for what went out: what it is for is counted on its order lines, and the customer owes it. */
export async function createInvoice(act: Act, form: Form): Promise<contract.InvoicePosted> {
  await lock.salesOrders(
    act,
    form.dispatches.map(({ orderId }) => orderId),
  );
  const { worked, written } = await issue(act, form);
  return posted(written?.id ?? null, written?.number ?? null, worked, await told(act, worked.lines, worked.currency));
}

export { handOver } from './queries';
export { paperOfInvoice } from './paper';

/** Works an invoice out and writes it, unless it is only foreseen. Its orders are locked. */
async function issue(act: Act, form: Form): Promise<{ worked: Worked; written: Written | null }> {
  await refuseBookDay(act, form.invoicedOn, 'invoicedOn');
  const worked = await workOut(act, form);
  if (worked.dueOn < form.invoicedOn) throw refuseField(422, 'not-valid', 'dueOn', 'It is due no earlier than it is issued.');
  if (act.tx.readOnly) return { worked, written: null };
  const written = await write(act, { ...worked, kind: 'invoice', creditsId: null, invoicedOn: form.invoicedOn });
  return { worked, written };
}

interface Written {
  id: number;
  number: string;
}

/** What is written of an invoice or a credit note. */
export interface ToWrite {
  kind: 'invoice' | 'credit';
  creditsId: number | null;
  invoicedOn: string;
  dueOn: string;
  partyId: number;
  party: string;
  address: string;
  currency: string;
  rate: string;
  reference: string;
  opening: string;
  closing: string;
  net: Decimal;
  tax: Decimal;
  owed: Decimal;
  lines: readonly (WorkedLine & { creditsLineId?: number })[];
  taxes: readonly TaxAtRate[];
  entry: Entry;
}

/** Writes an invoice or a credit note with all that belongs to it; its number is taken last. */
export async function write(act: Act, paper: ToWrite): Promise<Written> {
  const { db } = act.tx;
  const { kind, creditsId, invoicedOn, dueOn, partyId, currency, rate, reference, opening, closing, lines, taxes } = paper;
  await count(act, lines, kind === 'invoice' ? 1 : -1);
  const { number, running } = await takeNumber(act, kind === 'invoice' ? 'invoice' : 'credit note');
  const [added] = await db
    .insert(invoice)
    .values({
      number,
      running,
      kind,
      creditsId,
      partyId,
      address: [paper.party, ...paper.address.split('\n').filter((line) => line.trim() !== '' && line.trim() !== paper.party)].join('\n'),
      invoicedOn,
      dueOn,
      currency,
      rate,
      reference,
      opening,
      closing,
      net: amountText(currency, paper.net),
      tax: amountText(currency, paper.tax),
      owed: paper.owed.toFixed(2),
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: invoice.id });
  const id = added?.id as number;
  await insertRows(
    act.tx,
    invoiceLine,
    lines.map((line, index) => ({
      invoiceId: id,
      position: index + 1,
      kind: line.kind,
      salesLineId: line.salesLineId,
      shipmentId: line.shipmentId,
      creditsLineId: line.creditsLineId ?? null,
      text: line.text,
      quantity: line.quantity?.toFixed() ?? null,
      amount: amountText(currency, line.amount),
      company: line.company.toFixed(2),
      accountId: line.accountId,
      taxCodeId: line.taxCodeId,
      taxRate: line.taxRate.toFixed(),
    })),
  );
  const rows = await db.select({ id: invoiceLine.id, position: invoiceLine.position }).from(invoiceLine).where(eq(invoiceLine.invoiceId, id));
  const lineAt = new Map(rows.map((row) => [row.position, row.id]));
  await insertRows(
    act.tx,
    invoiceCover,
    lines.flatMap(({ covers }, index) =>
      covers.map(({ movementLineId, quantity }) => ({ invoiceLineId: lineAt.get(index + 1) as number, lineId: movementLineId, quantity: quantity.toFixed() })),
    ),
  );
  await insertRows(
    act.tx,
    invoiceTax,
    taxes.map(({ rate: of, base, tax, company }) => ({
      invoiceId: id,
      rate: of,
      base: amountText(currency, base),
      tax: amountText(currency, tax),
      company: company.toFixed(2),
    })),
  );
  const what = kind === 'invoice' ? 'invoice' : 'credit note';
  await writeEntry(act, { effectiveOn: invoicedOn, text: `${number}: ${what} to ${paper.party}`, invoiceId: id }, paper.entry);
  return { id, number };
}

/** Counts on order lines what invoices cover of them, or (-1) takes it off again: by quantity, and what that comes to in company currency. */
async function count({ tx: { db } }: Act, lines: readonly WorkedLine[], sign: 1 | -1): Promise<void> {
  const { rows, row } = given(
    'counted',
    { id: documentLine.id, quantity: documentLine.billed, value: documentLine.billedValue },
    lines.flatMap(({ salesLineId, quantity, company }) =>
      salesLineId === null ? [] : [{ id: salesLineId, quantity: (quantity ?? decimal(0)).times(sign).toFixed(), value: company.times(sign).toFixed(2) }],
    ),
  );
  await db
    .update(documentLine)
    .set({ billed: sql`${documentLine.billed} + ${row.quantity}`, billedValue: sql`${documentLine.billedValue} + ${row.value}` })
    .from(rows)
    .where(eq(documentLine.id, row.id));
}

/** Issues invoices for all that went out of several orders, one for each customer and currency, order or dispatch; all of them or none. */
export async function createInvoices(
  act: Act,
  { orderIds, each, invoicedOn }: BodyOf<typeof contract.createInvoices>,
): Promise<ResponseOf<typeof contract.createInvoices>> {
  await lock.salesOrders(act, orderIds);
  const orders = await ordersOf(act, orderIds);
  const open = (await wentOut(act, orderIds)).filter(({ open }) => open.gt(0));
  const groups = new Map<string, Form['dispatches']>();
  for (const { orderId, movementId } of open) {
    const of = orders.find(({ id }) => id === orderId);
    const key = { customer: `${of?.partyId} ${of?.currency}`, order: String(orderId), dispatch: `${orderId} ${movementId}` }[each];
    const group = groups.get(key) ?? [];
    if (!group.some((one) => one.orderId === orderId && one.movementId === movementId)) groups.set(key, [...group, { orderId, movementId }]);
  }
  if (groups.size === 0) throw refuseField(409, 'nothing-open', 'orderIds', 'Nothing of these orders is left to invoice.');
  const invoices: ResponseOf<typeof contract.createInvoices>['invoices'] = [];
  const all = await Entry.open(act);
  for (const dispatches of groups.values()) {
    const form = { dispatches, invoicedOn, dueOn: null, rate: null, reference: '', opening: null, closing: null, texts: [], freight: null, others: [] };
    const { worked, written } = await issue(act, form);
    for (const { accountId, itemId, amount } of worked.entry.list()) all.add(accountId, amount, itemId);
    const total = amountText(worked.currency, worked.net.plus(worked.tax));
    invoices.push({ id: written?.id ?? null, number: written?.number ?? null, party: worked.party, currency: worked.currency, total });
  }
  return { invoices, ...all.effects() };
}
