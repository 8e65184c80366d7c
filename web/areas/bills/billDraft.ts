import type { BillableLine, BillForm, OpenCharge } from '@larder/contract/bills';
import { decimal, priceText } from '@larder/core/decimal';

/** A bill while it is typed: figures are texts as they stand in their fields. */
export interface GoodsDraft {
  line: BillableLine;
  /** In base units; empty leaves the line off the bill. */
  quantity: string;
  price: string;
}
export interface ChargeDraft {
  charge: OpenCharge;
  amount: string;
  final: boolean;
  /** Null: no tax on it. */
  taxCodeId: number | null;
}
export interface OtherDraft {
  text: string;
  accountId: string;
  amount: string;
  taxCodeId: number | null;
}

const given = (text: string): boolean => text.trim() !== '';

/** Billed goods that have gone back and no credit was entered for. */
export const sentBack = ({ received, billed }: BillableLine): string => {
  const back = decimal(billed).minus(received);
  return back.gt(0) ? back.toFixed() : '';
};

/** The currency a bill is expected in, and its rate: that of the first order with something to bill, else of the first order. */
export function expectedMoney(lines: readonly BillableLine[], company: string): { currency: string; rate: string } {
  const line = lines.find(({ received, billed }) => !decimal(received).eq(billed)) ?? lines[0];
  return line ? { currency: line.currency, rate: line.rate } : { currency: company, rate: '1' };
}

/**
 * What can be billed in a currency, with all that has come and is not billed yet put in; for a credit, all that went back after it was billed.
 * What was ordered in another currency is left empty, its price too: it is given when it is on this bill.
 */
export const proposed = (lines: readonly BillableLine[], kind: 'bill' | 'credit', currency: string): GoodsDraft[] =>
  lines.map((line) => {
    if (line.currency !== currency) return { line, quantity: '', price: '' };
    const open = decimal(line.received).minus(line.billed);
    return { line, quantity: kind === 'credit' ? sentBack(line) : open.gt(0) ? open.toFixed() : '', price: priceText(line.price) };
  });

/** The lines as they are sent, in the order they stand; `withTax` puts the items' tax on goods. */
export function sentLines(goods: readonly GoodsDraft[], charges: readonly ChargeDraft[], others: readonly OtherDraft[], withTax: boolean): BillForm['lines'] {
  return [
    ...goods
      .filter(({ quantity }) => given(quantity))
      .map(({ line, quantity, price }) => ({
        kind: 'goods' as const,
        purchaseLineId: line.purchaseLineId,
        quantity: quantity.trim(),
        price: price.trim(),
        taxCodeId: withTax ? line.taxCodeId : null,
      })),
    ...charges
      .filter(({ amount }) => given(amount))
      .map(({ charge, amount, final, taxCodeId }) => ({ kind: 'charge' as const, chargeId: charge.id, amount: amount.trim(), final, taxCodeId })),
    ...others
      .filter(({ text, amount }) => given(text) || given(amount))
      .map(({ text, accountId, amount, taxCodeId }) => ({ kind: 'other' as const, text, accountId: Number(accountId), amount: amount.trim(), taxCodeId })),
  ];
}

/** The lines of a credit: goods that went back by quantity and price, for others the amount that is taken off what they cost. */
export function creditLines(goods: readonly GoodsDraft[], others: readonly OtherDraft[], withTax: boolean): BillForm['lines'] {
  return [
    ...goods
      .filter(({ quantity }) => given(quantity))
      .flatMap((one): BillForm['lines'] =>
        sentBack(one.line) === ''
          ? [{ kind: 'credit', purchaseLineId: one.line.purchaseLineId, amount: one.quantity.trim(), taxCodeId: withTax ? one.line.taxCodeId : null }]
          : sentLines([one], [], [], withTax),
      ),
    ...sentLines([], [], others, withTax),
  ];
}
