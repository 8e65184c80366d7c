import type { BillableLine, BillForm, OpenCharge } from '@larder/contract/bills';
import type { ParcelToBill } from '@larder/contract/carriers';
import { decimal, priceText } from '@larder/core/decimal';

/** Goods that can be billed, as they stand on a bill: figures are texts as they stand in their fields. */
export interface GoodsDraft {
  /** Their place among all that can be billed, which is that of their row in the form. */
  at: number;
  line: BillableLine;
  /** In base units; empty leaves the line off the bill. */
  quantity: string;
  price: string;
}
export interface ChargeDraft {
  at: number;
  charge: OpenCharge;
  amount: string;
  final: boolean;
  /** Null: no tax on it. */
  taxCodeId: number | null;
}
export interface ParcelDraft {
  at: number;
  parcel: ParcelToBill;
  /** Empty leaves it for another bill. */
  amount: string;
  taxCodeId: number | null;
}
export interface ParcelRow {
  parcelId: number;
  amount: string;
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
  lines.map((line, at) => {
    if (line.currency !== currency) return { at, line, quantity: '', price: '' };
    const open = decimal(line.received).minus(line.billed);
    return { at, line, quantity: kind === 'credit' ? sentBack(line) : open.gt(0) ? open.toFixed() : '', price: priceText(line.price) };
  });

/** What is typed over what is proposed; null as long as nobody has. */
export interface GoodsRow {
  purchaseLineId: number;
  quantity: string | null;
  price: string | null;
}
export interface ChargeRow {
  chargeId: number;
  amount: string | null;
  final: boolean;
  taxCodeId: number | null;
}
export const untyped = ({ purchaseLineId }: Pick<GoodsRow, 'purchaseLineId'>): GoodsRow => ({ purchaseLineId, quantity: null, price: null });

/** A line as it is sent, and the row of the form that it was typed in. */
export interface SentLine {
  line: BillForm['lines'][number];
  row: `${'goods' | 'charges' | 'parcels' | 'others'}.${number}`;
}

export interface Typed {
  kind: 'bill' | 'credit';
  goods: readonly GoodsDraft[];
  charges: readonly ChargeDraft[];
  parcels: readonly ParcelDraft[];
  others: readonly OtherDraft[];
  /** Puts the items' tax on goods. */
  withTax: boolean;
}

/**
 * The lines of a bill in the order they are sent: goods, charges, parcels, others. A credit has no charges or parcels; goods that went back are on it by quantity and price,
 * all others by the amount that is taken off what they cost.
 */
export function sentLines({ kind, goods, charges, parcels, others, withTax }: Typed): SentLine[] {
  const onGoods = goods
    .filter(({ quantity }) => given(quantity))
    .map(({ at, line, quantity, price }): SentLine => {
      const [purchaseLineId, taxCodeId, typed] = [line.purchaseLineId, withTax ? line.taxCodeId : null, quantity.trim()];
      const isAmount = kind === 'credit' && sentBack(line) === '';
      return {
        row: `goods.${at}`,
        line: isAmount
          ? { kind: 'credit', purchaseLineId, amount: typed, taxCodeId }
          : { kind: 'goods', purchaseLineId, quantity: typed, price: price.trim(), taxCodeId },
      };
    });
  const onCharges = charges
    .filter(({ amount }) => kind === 'bill' && given(amount))
    .map(({ at, charge, amount, final, taxCodeId }): SentLine => ({
      row: `charges.${at}`,
      line: { kind: 'charge', chargeId: charge.id, amount: amount.trim(), final, taxCodeId },
    }));
  const onParcels = parcels
    .filter(({ amount }) => kind === 'bill' && given(amount))
    .map(({ at, parcel, amount, taxCodeId }): SentLine => ({
      row: `parcels.${at}`,
      line: { kind: 'parcel', parcelId: parcel.id, amount: amount.trim(), taxCodeId },
    }));
  const onOthers = others.flatMap(({ text, accountId, amount, taxCodeId }, at): SentLine[] =>
    given(text) || given(amount)
      ? [{ row: `others.${at}`, line: { kind: 'other', text, accountId: Number(accountId), amount: amount.trim(), taxCodeId } }]
      : [],
  );
  return [...onGoods, ...onCharges, ...onParcels, ...onOthers];
}

const fieldsOfRow = {
  goods: ['quantity', 'price'],
  charges: ['amount', 'taxCodeId', 'final'],
  parcels: ['amount', 'taxCodeId'],
  others: ['text', 'accountId', 'amount', 'taxCodeId'],
};

/** The field that something sent stands in: `lines.3.price` is that of the row which was sent as the fourth line. */
export function billField(path: string, lines: readonly SentLine[]): string {
  const [list, nth, name = ''] = path.split('.');
  const row = list === 'lines' ? lines[Number(nth)]?.row : undefined;
  if (row === undefined) return path;
  const fields = fieldsOfRow[row.split('.')[0] as keyof typeof fieldsOfRow];
  return `${row}.${fields.includes(name) ? name : fields[0]}`;
}
