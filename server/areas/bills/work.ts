import type { BookPurpose } from '@larder/core/books/purpose';
import { currencyFaults, currencyPlaces } from '@larder/core/books/currency';
import { clearEstimate } from '@larder/core/books/clearEstimate';
import { planDifferences, type Difference, type PlannedCost } from '@larder/core/costing/adjust';
import { decimal, money, sum, zero, type Decimal, type Had } from '@larder/core/decimal';
import { billedAmount, clearedBy, inCompany, type BilledPart, type CostedLine } from '@larder/core/inbound/amount';
import { differenceInWords } from '@larder/core/inbound/billing';
import { coveredBy } from '@larder/core/inbound/cover';
import { goodsOpen } from '@larder/core/ledger/goodsOpen';
import { taxParts } from '@larder/core/outbound/tax';
import type * as contract from '@larder/contract/bills';
import type { BodyOf } from '@larder/contract/endpoint';
import { and, desc, lte } from 'drizzle-orm';
import type { Act } from '../../act';
import { refuseErrors } from '../../documents/lines';
import { companyCurrency } from '../../ledger/company';
import { Entry } from '../../ledger/entry';
import { poolsOf, receiptLines, type ReceiptLine } from '../../ledger/receipts';
import { openCharges, orderedLines, sentParcels, type Charge, type OrderedLine, type SentParcel } from './ordered';
import { among } from '../../db/given';
import { taxRate } from '../../db/schema/index';
import { refuseTooMuch, refuseLines } from './workFaults';

export type Form = BodyOf<typeof contract.createBill>;
type Line = Form['lines'][number];

export interface WorkedLine {
  line: Line;
  text: string;
  /** In the bill's currency, before tax. */
  amount: Decimal;
  /** The same in company currency, above zero for a bill and for a credit. */
  company: Decimal;
  /** In company currency. */
  cleared: Decimal;
  difference: Decimal;
  /** Which receipts it covers; of a credit that only takes cost off, none of any quantity. */
  covers: { receipt: ReceiptLine; quantity: Decimal }[];
  costs: PlannedCost[];
  words: string;
}

export interface Worked {
  currency: string;
  /** The day it is booked on: the bill's own, or that of what it rests on when that came later. */
  bookedOn: string;
  lines: WorkedLine[];
  net: Decimal;
  tax: Decimal;
  /** In company currency, above zero for a bill and for a credit. */
  owed: Decimal;
  entry: Entry;
  /** Goods that are billed before they have come; or that came and went back. */
  ahead: { text: string; sentBack: string | null }[];
}

/** What is known while the lines of a bill are worked out one after the other. */
interface Desk {
  form: Form;
  currency: string;
  ordered: ReadonlyMap<number, OrderedLine>;
  charges: ReadonlyMap<number, Charge>;
  parcels: ReadonlyMap<number, SentParcel>;
  receipts: readonly ReceiptLine[];
  /** What each order line has been billed with the lines before. */
  billed: Map<number, Had>;
  parts: Map<number, (BilledPart & { rate: Decimal; company: Decimal })[]>;
  covered: Map<number, Decimal>;
  openCharges: Map<number, Decimal>;
  ahead: Worked['ahead'];
}

export type Draft = Omit<WorkedLine, 'costs' | 'covers'> & { covers: WorkedLine['covers']; spreads: Decimal };

/** Works out what a bill or credit comes to and what it does to stock and accounts. Nothing is written. */
export async function workOut(act: Act, form: Form): Promise<Worked> {
  const company = await companyCurrency(act);
  const currency = form.currency ?? company;
  const ordered = await orderedLines(act, form, currency);
  const charges = await openCharges(act, form);
  const parcels = await sentParcels(act, form);
  const entry = await Entry.open(act);
  refuseErrors(currencyFaults(currency, form.rate, company));
  refuseLines(form, currency, { ordered, charges, parcels }, entry);
  const receipts = await receiptLines(act, { purchaseLineIds: [...ordered.keys()] });
  const desk: Desk = {
    form,
    currency,
    ordered,
    charges,
    parcels,
    receipts,
    billed: new Map([...ordered].map(([id, line]) => [id, { quantity: decimal(line.billed), amount: decimal(line.billedValue) }])),
    parts: new Map([...ordered].map(([id, line]) => [id, line.parts.map(partOf)])),
    covered: new Map(),
    openCharges: new Map([...charges].map(([id, charge]) => [id, decimal(charge.estimate).minus(charge.cleared)])),
    ahead: [],
  };
  const drafts = form.lines.map((line) => draftOf(desk, line));
  refuseTooMuch(form, drafts);
  const planned = planDifferences(drafts.map(differenceOf), poolsOf(receipts));
  const lines = drafts.map(({ spreads: _spreads, ...draft }, index): WorkedLine => ({ ...draft, costs: planned[index] ?? [] }));
  const taxes = await taxesOf(act, form, currency, lines);
  fill(entry, form, lines, receipts, taxes, new Map([...ordered].map(([lineId, at]) => [lineId, decimal(at.receivedValue).minus(at.billedValue)])));
  return {
    currency,
    bookedOn: bookedOn(form, lines, desk),
    lines,
    net: sum(lines.map(({ amount }) => amount)),
    tax: sum(taxes.map((one) => one.tax)),
    owed: owedOf(form, lines, taxes),
    entry,
    ahead: desk.ahead,
  };
}

const partOf = ({ quantity, price, amount, rate, company }: OrderedLine['parts'][number]) => ({
  quantity: decimal(quantity),
  price: decimal(price),
  amount: decimal(amount),
  rate: decimal(rate),
  company: decimal(company),
});

const costed = (at: OrderedLine): CostedLine => ({ amount: decimal(at.amount), baseQuantity: decimal(at.baseQuantity), rate: decimal(at.rate) });

function draftOf(desk: Desk, line: Line): Draft {
  const rate = decimal(desk.form.rate);
  if (line.kind === 'goods') return goodsDraft(desk, line);
  const amount = decimal(line.amount);
  const company = money(amount.times(rate));
  const base = { line, amount, company, cleared: zero, difference: zero, covers: [], spreads: zero, words: '' };
  if (line.kind === 'other') return { ...base, text: line.text };
  if (line.kind === 'parcel') {
    const at = desk.parcels.get(line.parcelId);
    const { cleared, variance } = clearEstimate(decimal(at?.expected ?? 0), company, true);
    return { ...base, text: parcelText(at), cleared, difference: variance, words: carriageWords(variance) };
  }
  if (line.kind === 'charge') {
    const open = desk.openCharges.get(line.chargeId) ?? zero;
    const settled = clearEstimate(open, company, line.final);
    desk.openCharges.set(line.chargeId, open.minus(settled.cleared));
    const text = desk.charges.get(line.chargeId)?.label ?? '';
    return { ...base, text, cleared: settled.cleared, difference: settled.variance, words: chargeWords(settled.variance) };
  }
  const at = desk.ordered.get(line.purchaseLineId) as OrderedLine;
  const covers = desk.receipts
    .filter(({ purchaseLineId, net }) => purchaseLineId === at.id && net.gt(zero))
    .map((receipt) => ({ receipt, quantity: receipt.net }));
  const spreads = sum(covers.map(({ quantity }) => quantity));
  return { ...base, text: `${at.label}, ${at.sku}`, difference: company.neg(), covers, spreads, words: 'comes off what these goods cost' };
}

/** Goods that are billed, or that went back and are credited, at a price. */
function goodsDraft(desk: Desk, line: Extract<Line, { kind: 'goods' }>): Draft {
  const { form, ordered, receipts } = desk;
  const at = ordered.get(line.purchaseLineId) as OrderedLine;
  const quantity = decimal(line.quantity);
  const parts = desk.parts.get(at.id) ?? [];
  const perUnit = { numerator: decimal(at.quantity), denominator: decimal(at.baseQuantity).times(at.pricePer) };
  const amount = billedAmount(parts, quantity, decimal(line.price), perUnit, currencyPlaces(desk.currency) ?? 2);
  const company = inCompany(parts, amount, decimal(form.rate));
  desk.parts.set(at.id, [...parts, { quantity, price: decimal(line.price), amount, rate: decimal(form.rate), company }]);
  const before = desk.billed.get(at.id) ?? { quantity: zero, amount: zero };
  const signed = form.kind === 'credit' ? quantity.neg() : quantity;
  const cleared = clearedBy(costed(at), { quantity: decimal(at.received), amount: decimal(at.receivedValue) }, before, signed);
  const after = before.quantity.plus(signed);
  desk.billed.set(at.id, { quantity: after, amount: before.amount.plus(cleared) });
  const text = `${at.label}, ${at.sku}`;
  if (form.kind === 'credit')
    return {
      line,
      text,
      amount,
      company,
      cleared,
      difference: company.neg().minus(cleared),
      covers: [],
      spreads: zero,
      words: `for ${quantity.toFixed()} sent back`,
    };
  noteAhead(desk, at, after);
  const mine = receipts
    .filter(({ purchaseLineId }) => purchaseLineId === at.id)
    .map((receipt) => ({ ...receipt, covered: receipt.covered.plus(desk.covered.get(receipt.lineId) ?? zero) }));
  const covers = coveredBy(mine, quantity).map((part) => ({
    receipt: mine.find(({ lineId }) => lineId === part.lineId) as ReceiptLine,
    quantity: part.quantity,
  }));
  covers.forEach(({ receipt, quantity: so }) => desk.covered.set(receipt.lineId, (desk.covered.get(receipt.lineId) ?? zero).plus(so)));
  const inUnit = (base: Decimal) => base.times(at.quantity).div(at.baseQuantity);
  const words = differenceInWords({
    ordered: decimal(at.price).div(at.pricePer),
    billed: decimal(line.price).div(at.pricePer),
    quantity: inUnit(quantity),
    open: inUnit(decimal(at.received).minus(before.quantity)),
  });
  return { line, text, amount, company, cleared, difference: company.minus(cleared), covers, spreads: quantity, words };
}

/** More billed than is here: it came and went back, which the person may bill all the same, or it has not come. */
function noteAhead({ form, ahead }: Desk, at: OrderedLine, after: Decimal): void {
  if (after.lte(at.received)) return;
  const sentBack = after.lte(decimal(at.received).plus(at.returned));
  if (sentBack && form.sentBack) return;
  const back = after.minus(at.received);
  ahead.push({ text: `${at.sku} on ${at.label}`, sentBack: sentBack ? `${back.toFixed()} of ${at.sku} on ${at.label} went back` : null });
}

const differenceOf = ({ difference, covers, spreads }: Draft): Difference => ({
  amount: difference,
  quantity: spreads,
  covers: covers.map(({ receipt, quantity }) => ({ bearer: receipt, quantity })),
});

const chargeWords = (variance: Decimal): string =>
  variance.isZero() ? '' : `${variance.abs().toFixed(2)} ${variance.gt(zero) ? 'above' : 'below'} the estimate: landed cost variance`;

const parcelText = (at: SentParcel | undefined): string => (at ? `${at.number} for ${at.order}${at.tracking === '' ? '' : `, ${at.tracking}`}` : '');
const carriageWords = (variance: Decimal): string =>
  variance.isZero() ? '' : `${variance.abs().toFixed(2)} ${variance.gt(zero) ? 'above' : 'below'} what it was booked at`;

/** No earlier than what it rests on: the receipts it covers, the goods that went back, the estimate it clears, the day a parcel went out. */
function bookedOn(form: Form, lines: readonly WorkedLine[], { ordered, charges, parcels }: Desk): string {
  const days = lines.flatMap(({ line, covers }): (string | null | undefined)[] => {
    if (line.kind === 'charge') return [charges.get(line.chargeId)?.postedOn];
    if (line.kind === 'parcel') return [parcels.get(line.parcelId)?.since];
    if (line.kind === 'goods' && form.kind === 'credit') return [ordered.get(line.purchaseLineId)?.returnedOn];
    return covers.map(({ receipt }) => receipt.day);
  });
  return days.reduce<string>((latest, day) => (day && day > latest ? day : latest), form.billedOn);
}

interface TaxPart {
  tax: Decimal;
  recoverable: Decimal;
}

async function taxesOf(act: Act, form: Form, currency: string, lines: readonly WorkedLine[]): Promise<TaxPart[]> {
  const ids = [...new Set(form.lines.flatMap(({ taxCodeId }) => (taxCodeId === null ? [] : [taxCodeId])))];
  const rates = await act.tx.db
    .selectDistinctOn([taxRate.taxCodeId], { id: taxRate.taxCodeId, rate: taxRate.rate, recoverable: taxRate.recoverable })
    .from(taxRate)
    .where(and(among(taxRate.taxCodeId, ids), lte(taxRate.fromDay, form.billedOn)))
    .orderBy(taxRate.taxCodeId, desc(taxRate.fromDay));
  return taxParts(
    lines.flatMap(({ line, amount }) => {
      const rate = rates.find(({ id }) => id === line.taxCodeId);
      return rate ? [{ amount, rate: decimal(rate.rate), recoverable: decimal(rate.recoverable) }] : [];
    }),
    currencyPlaces(currency) ?? 2,
  );
}

const owedOf = (form: Form, lines: readonly WorkedLine[], taxes: readonly TaxPart[]): Decimal =>
  sum([...lines.map(({ company }) => company), ...taxes.map(({ tax }) => money(tax.times(form.rate)))]);

function fill(
  entry: Entry,
  form: Form,
  lines: readonly WorkedLine[],
  receipts: readonly ReceiptLine[],
  taxes: readonly TaxPart[],
  open: Map<number, Decimal>,
): void {
  const sign = form.kind === 'credit' ? -1 : 1;
  const add = (account: BookPurpose | number, amount: Decimal, itemId: number | null = null) => entry.add(account, amount, itemId);
  for (const { line, company, cleared, difference, costs } of lines) {
    if (line.kind === 'charge') {
      add('landed-clearing', cleared);
      add('landed-variance', difference);
    } else if (line.kind === 'parcel') {
      add('carriage-clearing', cleared);
      add('carriage-variance', difference);
    } else if (line.kind === 'other') add(line.accountId, company.times(sign));
    else {
      clearGoods(entry, open, line.purchaseLineId, cleared);
      for (const { itemId, lineId, toStock, toGone, variance } of costs) {
        const receipt = receipts.find((one) => one.lineId === lineId) as ReceiptLine;
        add(receipt.inventoryAccount, toStock, itemId);
        add(receipt.ours ? 'price-variance' : receipt.costAccount, toGone);
        add('cost-variance', variance);
      }
      add('price-variance', difference.minus(sum(costs.map((cost) => cost.amount))));
    }
  }
  for (const { tax, recoverable } of taxes) {
    const company = money(tax.times(form.rate));
    const back = money(recoverable.times(form.rate));
    add('purchase-tax', back.times(sign));
    add('other-costs', company.minus(back).times(sign));
  }
  add('payable', owedOf(form, lines, taxes).times(-sign));
}

/** Takes so much of an order line off what waits for a bill, or off the credit that is expected for it. */
export function clearGoods(entry: Entry, open: Map<number, Decimal>, purchaseLineId: number, cleared: Decimal): void {
  const before = open.get(purchaseLineId) ?? zero;
  const { grni, creditsExpected } = goodsOpen(before, before.minus(cleared));
  open.set(purchaseLineId, before.minus(cleared));
  entry.add('grni', grni);
  entry.add('credits-expected', creditsExpected);
}
