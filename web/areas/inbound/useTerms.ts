import { decimal } from '@larder/core/decimal';
import { longestLead, priceOf } from '@larder/core/inbound/terms';
import type { supplierTerms } from '@larder/contract/inbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { plainPrice } from '../../kit/format';
import { baseQuantity, type DraftLine } from '../../shared/draftLines';
import { useReferenceQuery } from '../../shared/reference';
import { useSupplierTermsQuery } from './api';

export type ItemTerms = ResponseOf<typeof supplierTerms>['rows'][number];

/** What the supplier of an order asks for what stands on it. */
export function useTerms(supplierId: number | null, lines: readonly DraftLine[]) {
  const itemIds = [...new Set(lines.map(({ itemId }) => itemId))].sort((a, b) => a - b).join(',');
  const { data } = useSupplierTermsQuery({ params: { id: supplierId ?? 0 }, query: { itemIds } }, { skip: supplierId === null || itemIds === '' });
  const { data: reference } = useReferenceQuery({});
  const of = (itemId: number): ItemTerms | undefined => (supplierId === null ? undefined : data?.rows.find((row) => row.itemId === itemId));
  return {
    of,
    /** Days until all of it is there, or null while no supplier is chosen. */
    leadDays:
      data && supplierId !== null
        ? longestLead(
            data.leadDays,
            data.rows.map((row) => row.leadDays),
          )
        : null,
    /** The line at the price of the terms, unless somebody typed one. */
    priced: (line: DraftLine): DraftLine => {
      const agreed = agreedPrice(line, of(line.itemId));
      return line.ownPrice || agreed === null ? line : { ...line, price: agreed };
    },
    /** Per cent: the supplier's own tax, else the item's. */
    taxRate: (itemId: number): string => {
      const code = data?.taxCodeId ?? of(itemId)?.taxCodeId;
      return reference?.taxes.find(({ id }) => id === code)?.rate ?? '0';
    },
  };
}

/** What the terms say as many of the line's unit cost as its price is for, or null when they say nothing. */
export function agreedPrice(line: DraftLine, terms: ItemTerms | undefined): string | null {
  const price = terms && priceOf(terms, decimal(baseQuantity(line) ?? 0));
  return price ? plainPrice(price.times(line.factor).times(line.pricePer).toDecimalPlaces(6).toFixed()) : null;
}
