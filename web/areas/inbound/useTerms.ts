import { longestLead } from '@larder/core/inbound/terms';
import type { supplierTerms } from '@larder/contract/inbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useMemo } from 'react';
import { useReferenceQuery } from '../../shared/reference';
import { useSupplierTermsQuery } from './api';

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
