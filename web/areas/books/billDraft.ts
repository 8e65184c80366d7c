import type { BillableLine, BillForm, OpenCharge } from '@larder/contract/bills';
import { decimal, money, priceText } from '@larder/core/decimal';

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

/** What can be billed, with all that has come and is not billed yet put in; for a credit, all that went back after it was billed. */
export const proposed = (lines: readonly BillableLine[], kind: 'bill' | 'credit' = 'bill'): GoodsDraft[] =>
  lines.map((line) => {
    const open = decimal(line.received).minus(line.billed);
    return { line, quantity: kind === 'credit' ? sentBack(line) : open.gt(0) ? open.toFixed() : '', price: priceText(line.price) };
  });

/** Amount of a line, or null while its fields are no figures. */
export function goodsAmount({ line, quantity, price }: GoodsDraft): string | null {
  if (!/^\d+(\.\d+)?$/.test(quantity.trim()) || !/^\d+(\.\d+)?$/.test(price.trim())) return null;
  return money(decimal(quantity.trim()).times(price.trim()).div(decimal(line.factor).times(line.pricePer))).toFixed(2);
}

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
