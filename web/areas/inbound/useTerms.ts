import { decimal } from '@larder/core/decimal';
import { longestLead, priceOf } from '@larder/core/inbound/terms';
import type { supplierTerms } from '@larder/contract/inbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useEffect, useMemo } from 'react';
import type { UseFormReturn } from 'react-hook-form';
import { plainPrice } from '../../kit/format';
import { baseQuantity, type DraftLine } from '../../shared/draftLines';
import { useReferenceQuery } from '../../shared/reference';
import { useSupplierTermsQuery } from './api';
import type { DraftForm } from './draftForm';

export type ItemTerms = ResponseOf<typeof supplierTerms>['rows'][number];

export interface OrderTerms {
  of: (itemId: number) => ItemTerms | undefined;
  /** Days until all of it is there, or null while no supplier is chosen. */
  leadDays: number | null;
  /** Per cent: the supplier's own tax, else the item's. */
  taxRate: (itemId: number) => string;
}

/** What the supplier of an order asks for the items that stand on it, whose ids stand in `itemIds` apart by commas. */
export function useTerms(supplierId: number | null, itemIds: string): OrderTerms {
  const { data } = useSupplierTermsQuery({ params: { id: supplierId ?? 0 }, query: { itemIds } }, { skip: supplierId === null || itemIds === '' });
  const { data: reference } = useReferenceQuery({});
  return useMemo(() => {
    const rows = supplierId === null ? [] : (data?.rows ?? []);
    const of = (itemId: number) => rows.find((row) => row.itemId === itemId);
    return {
      of,
      leadDays:
        data && supplierId !== null
          ? longestLead(
              data.leadDays,
              rows.map((row) => row.leadDays),
            )
          : null,
      taxRate: (itemId) => {
        const code = data?.taxCodeId ?? of(itemId)?.taxCodeId;
        return reference?.taxes.find(({ id }) => id === code)?.rate ?? '0';
      },
    };
  }, [supplierId, data, reference]);
}

/** The ids of the items on lines, once each, apart by commas. */
export const itemsOn = (lines: readonly DraftLine[]): string => [...new Set(lines.map(({ itemId }) => itemId))].sort((a, b) => a - b).join(',');

/** Keeps the prices that nobody typed at what the terms say, also as quantities reach another break. */
export function useAgreedPrices({ control, getValues, setValue, watch }: UseFormReturn<DraftForm>, { of }: OrderTerms, own: string): void {
  useEffect(() => {
    const follow = () => {
      // What was agreed with a supplier is in our own currency.
      if (getValues('currency') !== own) return;
      for (const [index, line] of getValues('lines').entries()) {
        const agreed = line.ownPrice ? null : agreedPrice(line, of(line.itemId));
        if (agreed !== null && agreed !== line.price) setValue(`lines.${index}.price`, agreed);
      }
    };
    follow();
    const { unsubscribe } = watch((_, { name }) => {
      // After all who watch were told of this: what is set while they are being told, those told later would not keep.
      if (name?.startsWith('lines') && !name.endsWith('.price')) queueMicrotask(follow);
    });
    return unsubscribe;
  }, [control, getValues, setValue, watch, of, own]);
}

/** What the terms say as many of the line's unit cost as its price is for, or null when they say nothing. */
export function agreedPrice(line: DraftLine, terms: ItemTerms | undefined): string | null {
  const price = terms && priceOf(terms, decimal(baseQuantity(line) ?? 0));
  return price ? plainPrice(price.times(line.factor).times(line.pricePer).toDecimalPlaces(6).toFixed()) : null;
}
