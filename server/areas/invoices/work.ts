import { currencyPlaces } from '@larder/core/books/currency';
import { addDays } from '@larder/core/day';
import { decimal, money, moneyLimit, sum, zero, type Decimal } from '@larder/core/decimal';
import { taxesOf, type TaxAtRate } from '@larder/core/outbound/invoicing';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type * as contract from '@larder/contract/invoices';
import type { BodyOf } from '@larder/contract/endpoint';
import { eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { party } from '../../db/schema/index';
import { paperWordsOf } from '../../documents/letterhead';
import { ratesOn } from '../../documents/taxRates';
import { companyCurrency } from '../../ledger/company';
import { Entry } from '../../ledger/entry';
import { ordersOf, wentOut, type WentOut } from './wentOut';
import { freightLines, goodsLines, mostTaxed, otherLines } from './workLines';

export type Form = BodyOf<typeof contract.createInvoice>;

/** A line of an invoice as it is worked out. */
export interface WorkedLine {
  kind: 'goods' | 'freight' | 'other';
  salesLineId: number | null;
  shipmentId: number | null;
  text: string;
  quantity: Decimal | null;
  amount: Decimal;
  company: Decimal;
  accountId: number;
  taxCodeId: number | null;
  taxRate: Decimal;
  covers: { movementLineId: number; quantity: Decimal }[];
}

/** An invoice as it is worked out, before anything of it is written. */
export interface Worked {
  partyId: number;
  party: string;
  address: string;
  currency: string;
  rate: string;
  reference: string;
  dueOn: string;
  opening: string;
  closing: string;
  lines: WorkedLine[];
  taxes: TaxAtRate[];
  net: Decimal;
  tax: Decimal;
  owed: Decimal;
  entry: Entry;
}

/** Works an invoice out of what its form names, as that stands. The orders are locked. */
export async function workOut(act: Act, form: Form): Promise<Worked> {
  const orderIds = [...new Set(form.dispatches.map(({ orderId }) => orderId))];
  const orders = await ordersOf(act, orderIds);
  const head = headOf(form, orders);
  const gone = goneOf(form, await wentOut(act, orderIds));
  refuseBefore(form.invoicedOn, gone);
  const rates = await ratesOn(act, form.invoicedOn);
  const entry = await Entry.open(act);
  const rate = await rateOf(act, form, head);
  const goods = await goodsLines(act, form, head.currency, gone);
  const usualTax = mostTaxed(goods);
  const bare = [
    ...goods,
    ...(await freightLines(act, form, { currency: head.currency, rate, gone, entry, usualTax })),
    ...(await otherLines(act, form, head.currency, entry)),
  ];
  const lines = bare.map((line): WorkedLine => ({ ...line, company: money(line.amount.times(rate)), taxRate: rates(line.taxCodeId) }));
  const places = currencyPlaces(head.currency) ?? 2;
  const taxes = taxesOf(
    lines.map(({ amount, taxRate: of }) => ({ amount, rate: of })),
    decimal(rate),
    places,
  );
  const owed = sum([...lines.map(({ company: worth }) => worth), ...taxes.map((one) => one.company)]);
  if (owed.gte(moneyLimit)) throw refuseField(422, 'too-large', 'dispatches', 'This comes to more than any account can hold.');
  fill(entry, lines, taxes, owed, 1);
  const written = await writtenOf(act, head.partyId);
  return {
    ...head,
    rate,
    ...written,
    reference: form.reference || head.reference,
    dueOn: form.dueOn ?? addDays(form.invoicedOn, written.payDays),
    opening: form.opening ?? written.opening,
    closing: form.closing ?? written.closing,
    lines,
    taxes,
    net: sum(lines.map(({ amount }) => amount)),
    tax: sum(taxes.map(({ tax }) => tax)),
    owed,
    entry,
  };
}

type OrderRow = Awaited<ReturnType<typeof ordersOf>>[number];

/** Whom an invoice is for and in which currency: all its orders agree on both. */
function headOf({ dispatches }: Form, orders: readonly OrderRow[]): { partyId: number; currency: string; ordered: string; reference: string } {
  const [first] = orders;
  const missing = dispatches.findIndex(({ orderId }) => !orders.some(({ id }) => id === orderId));
  if (!first || missing >= 0) throw refuseField(404, 'not-found', `dispatches.${Math.max(missing, 0)}`, 'There is no such sales order.');
  const other = orders.find(({ partyId, currency }) => partyId !== first.partyId || currency !== first.currency);
  if (other) {
    const what =
      other.partyId === first.partyId ? `is in ${other.currency}, ${first.number} in ${first.currency}` : `and ${first.number} are of different customers`;
    throw refuseField(
      409,
      'not-together',
      `dispatches.${dispatches.findIndex(({ orderId }) => orderId === other.id)}`,
      `${other.number} ${what}: give each an invoice of its own.`,
    );
  }
  const references = [...new Set(orders.map(({ reference }) => reference).filter((one) => one !== ''))];
  return { partyId: first.partyId, currency: first.currency, ordered: first.rate, reference: references.join(', ').slice(0, 200) };
}

/** What went out with the dispatches that are named, and of which something is open. Refuses one of which nothing is. */
function goneOf({ dispatches }: Form, gone: readonly WentOut[]): WentOut[] {
  const isOf = (one: WentOut) => (named: Form['dispatches'][number]) => named.orderId === one.orderId && named.movementId === one.movementId;
  const open = gone.filter((one) => one.open.gt(zero) && dispatches.some(isOf(one)));
  const sentence = 'Nothing of this dispatch is left to invoice: it was invoiced already, or undone.';
  const errors = dispatches.flatMap((named, index): FieldError[] => (open.some((one) => isOf(one)(named)) ? [] : [{ field: `dispatches.${index}`, sentence }]));
  if (errors.length > 0) throw new Refusal(409, 'nothing-open', sentence, errors);
  return open;
}

function refuseBefore(invoicedOn: string, gone: readonly WentOut[]): void {
  const last = gone.reduce((day, one) => (one.day > day ? one.day : day), '');
  if (invoicedOn < last) throw refuseField(409, 'before-dispatch', 'invoicedOn', `Some of it went out on ${last}; it is not invoiced before.`);
}

/** The exchange rate of the invoice: as it was ordered, or as it is said. */
async function rateOf(act: Act, form: Form, { currency, ordered }: { currency: string; ordered: string }): Promise<string> {
  const rate = form.rate ?? ordered;
  if (!decimal(rate).eq(1) && currency === (await companyCurrency(act)))
    throw refuseField(422, 'not-valid', 'rate', `${currency} is the business's own currency: its rate is 1.`);
  return rate;
}

/** What stands on a customer's invoices beside what is on them. */
export async function writtenOf(act: Act, partyId: number) {
  const [row] = await act.tx.db.select({ party: party.name, address: party.address, payDays: party.payDays }).from(party).where(eq(party.id, partyId));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such customer.');
  return { ...row, ...(await paperWordsOf(act, 'invoice')) };
}

/** What an invoice (1) or a credit note (-1) posts: receivable against sales and tax. */
export function fill(
  entry: Entry,
  lines: readonly Pick<WorkedLine, 'accountId' | 'company'>[],
  taxes: readonly TaxAtRate[],
  owed: Decimal,
  sign: 1 | -1,
): void {
  entry.add('receivable', owed.times(sign));
  for (const { accountId, company: worth } of lines) entry.add(accountId, worth.times(-sign));
  for (const one of taxes) entry.add('sales-tax', one.company.times(-sign));
}
