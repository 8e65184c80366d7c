import type { DirectLine, Offer } from '@larder/contract/direct';
import { addDays } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { lineAmount } from '@larder/core/inbound/amount';
import { priceOf } from '@larder/core/inbound/terms';
import { isNumber } from '@larder/core/number';
import { plainPrice } from '../../kit/format';

/** What a supplier is to send straight to the customer of a sales line, as it is typed. */
export interface DirectRow {
  lineId: number;
  /** Base units; empty: nothing. */
  quantity: string;
  supplierId: number | null;
  /** Null until somebody types one: what the supplier asks for so many. */
  price: string | null;
  /** Undefined until somebody types a day: when the supplier delivers as a rule. */
  expectedOn: string | null | undefined;
}
export interface DirectForm {
  lines: DirectRow[];
}

/** What each line begins with: what was decided and is not ordered, else what is short, from the preferred supplier. */
export const directForm = (lines: readonly DirectLine[]): DirectForm => ({
  lines: lines.map(({ lineId, toOrder, short, offers }) => ({
    lineId,
    quantity: Number(toOrder) > 0 ? toOrder : Number(short) > 0 ? short : '',
    supplierId: offers[0]?.supplierId ?? null,
    price: null,
    expectedOn: undefined,
  })),
});

export const isOrdered = ({ quantity }: DirectRow): boolean => quantity.trim() !== '' && Number(quantity) !== 0;

export const offerOf = (line: DirectLine, row: DirectRow): Offer | undefined => line.offers.find(({ supplierId }) => supplierId === row.supplierId);

/** What an offer asks for one base unit of so many; null where no price is known. */
export function askedPrice(offer: Offer, quantity: string): string | null {
  const price = priceOf(offer, isNumber(quantity, 'quantity') ? decimal(quantity) : decimal(1));
  return price === null ? null : plainPrice(price.toFixed());
}

export const priceIn = (line: DirectLine, row: DirectRow): string => {
  const offer = offerOf(line, row);
  return row.price ?? (offer ? (askedPrice(offer, row.quantity) ?? '') : '');
};

export const dayIn = (line: DirectLine, row: DirectRow, today: string): string | null => {
  if (row.expectedOn !== undefined) return row.expectedOn;
  const offer = offerOf(line, row);
  return offer ? addDays(today, offer.leadDays) : null;
};

/** What is sent of it: the lines of which a supplier is to send some. */
export const directBody = (lines: readonly DirectLine[], { lines: rows }: DirectForm, today: string) => ({
  lines: rows.filter(isOrdered).map((row) => {
    const line = lines.find(({ lineId }) => lineId === row.lineId) as DirectLine;
    return {
      lineId: row.lineId,
      quantity: row.quantity.trim(),
      supplierId: row.supplierId ?? 0,
      price: priceIn(line, row).trim(),
      expectedOn: dayIn(line, row, today),
    };
  }),
});

/** What each supplier gets for what it sends, the suppliers in the order of the lines: how many lines, and what they come to in cents; null where it cannot be reckoned. */
export function bySupplier(lines: readonly DirectLine[], { lines: rows }: DirectForm): { supplier: string; lines: number; amount: string | null }[] {
  const found = new Map<string, { supplier: string; lines: number; amount: string | null }>();
  for (const row of rows.filter(isOrdered)) {
    const line = lines.find(({ lineId }) => lineId === row.lineId) as DirectLine;
    const { supplier = 'No supplier' } = offerOf(line, row) ?? {};
    const price = priceIn(line, row);
    const amount =
      isNumber(row.quantity, 'quantity') && isNumber(price, 'price')
        ? lineAmount({ quantity: decimal(row.quantity), price: decimal(price), pricePer: decimal(1), discount: decimal(0) })
        : null;
    const was = found.get(supplier) ?? { supplier, lines: 0, amount: '0.00' };
    found.set(supplier, { supplier, lines: was.lines + 1, amount: was.amount === null || amount === null ? null : amount.plus(was.amount).toFixed(2) });
  }
  return [...found.values()];
}
