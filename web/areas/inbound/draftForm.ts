import { currencyPlaces } from '@larder/core/books/currency';
import { readNumber } from '@larder/core/number';
import { orderTotals } from '@larder/core/inbound/totals';
import type { PurchaseForm, PurchaseOrder } from '@larder/contract/inbound';
import { draftAmount, lineKey, sentLines, writtenLines, type DraftLine } from '../../shared/draftLines';
import type { DraftCharge } from './OrderCharges';

/** A purchase order while it is written. */
export interface DraftForm {
  supplier: { id: number; name: string } | null;
  siteId: number;
  /** It goes straight to a customer, who may not be chosen yet. */
  toCustomer: boolean;
  shipsTo: { id: number; name: string } | null;
  /** Undefined until somebody types a day: then the terms say when it comes. */
  expectedOn: string | null | undefined;
  orderedOn: string | null;
  currency: string;
  rate: string;
  note: string;
  charges: DraftCharge[];
  lines: DraftLine[];
}

/** What a draft begins with: the order itself; or, for a new one, nothing but where it is for, or the order it is copied from without its days. */
export function draftForm(like: PurchaseOrder | undefined, isCopy: boolean, siteId: number, currency: string): DraftForm {
  const days = isCopy ? [] : (like?.lines.map((line) => line.expectedOn) ?? []);
  return {
    supplier: like ? { id: like.supplierId, name: like.supplier } : null,
    siteId: like?.siteId ?? siteId,
    toCustomer: (like?.shipsToId ?? null) !== null,
    shipsTo: like?.shipsToId ? { id: like.shipsToId, name: like.shipsTo ?? '' } : null,
    expectedOn: isCopy ? undefined : like?.expectedOn,
    orderedOn: isCopy ? null : (like?.orderedOn ?? null),
    currency: like?.currency ?? currency,
    rate: like?.rate ?? '1',
    note: like?.note ?? '',
    charges: (like?.charges ?? []).map(({ label, amount, taxCodeId }) => ({ label, amount, taxCodeId })),
    lines: writtenLines(like?.lines ?? []).map((line, index) => ({ ...line, ...(days[index] ? { expectedOn: days[index] } : {}) })),
  };
}

/** What tells the rows of a draft apart. */
export const draftRows = {
  lines: lineKey,
  charges: ({ label }: DraftCharge) => label,
};

/** What is sent of a draft: `byTerms` is the day it is expected on as long as nobody typed one. */
export const sentDraft = (form: DraftForm, byTerms: string | null, ownCurrency: string): PurchaseForm => ({
  supplierId: form.supplier?.id ?? 0,
  siteId: form.siteId,
  shipsToId: form.toCustomer ? (form.shipsTo?.id ?? 0) : null,
  expectedOn: form.expectedOn === undefined ? byTerms : form.expectedOn,
  orderedOn: form.orderedOn,
  currency: form.currency,
  rate: form.currency === ownCurrency ? '1' : form.rate.trim(),
  note: form.note,
  charges: form.charges.map((charge) => ({ ...charge, amount: charge.amount.trim() })),
  lines: sentLines(form.lines).map((line, index) => ({ ...line, expectedOn: form.lines[index]?.expectedOn ?? null })),
});

/** What a draft comes to, sum by sum, in its currency; what cannot be reckoned yet counts for nothing. */
export function draftSums(
  { charges, currency, lines }: Pick<DraftForm, 'charges' | 'currency' | 'lines'>,
  taxRate: (itemId: number) => string,
  chargeRate: (taxCodeId: number | null) => string,
): (readonly [string, string])[] {
  const places = currencyPlaces(currency) ?? 2;
  const sums = orderTotals(
    lines.map((line) => ({ amount: draftAmount(line, places) ?? '0', baseQuantity: '1', cancelled: '0', rate: taxRate(line.itemId) })),
    charges.map(({ amount, taxCodeId }) => ({ amount: readNumber(amount, 'amount')?.toFixed() ?? '0', rate: chargeRate(taxCodeId) })),
    places,
  );
  return [
    ['Goods', sums.goods.toFixed(places)],
    ...(charges.length > 0 ? [['Charges', sums.charges.toFixed(places)] as const] : []),
    ['Tax', sums.tax.toFixed(places)],
    ['In all', sums.total.toFixed(places)],
  ];
}
