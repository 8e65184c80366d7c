import type { customerTerms } from '@larder/contract/prices';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useMemo } from 'react';
import { useReferenceQuery } from '../../shared/reference';
import { useCustomerTermsQuery } from './api';

export type ItemPrices = ResponseOf<typeof customerTerms>['rows'][number];

export interface CustomerTerms {
  /** The name of the price list they buy by. */
  list: string | null;
  /** What they pay for an item; undefined while nobody is chosen. */
  of: (itemId: number) => ItemPrices | undefined;
  /** Per cent: the customer's own tax, else the item's. */
  rateOf: (itemId: number) => string;
}

/** What a customer pays for the items on a quote, whose ids stand in `itemIds` apart by commas. */
export function useCustomerTerms(customerId: number | null, itemIds: string): CustomerTerms {
  const { data } = useCustomerTermsQuery({ params: { id: customerId ?? 0 }, query: { itemIds } }, { skip: customerId === null || itemIds === '' });
  const { data: reference } = useReferenceQuery({});
  return useMemo(() => {
    const rows = customerId === null ? [] : (data?.rows ?? []);
    const of = (itemId: number) => rows.find((row) => row.itemId === itemId);
    const rateOf = (itemId: number) => {
      const code = data?.taxCodeId ?? of(itemId)?.taxCodeId;
      return reference?.taxes.find(({ id }) => id === code)?.rate ?? '0';
    };
    return { list: customerId === null ? null : (data?.list ?? null), of, rateOf };
  }, [customerId, data, reference]);
}
