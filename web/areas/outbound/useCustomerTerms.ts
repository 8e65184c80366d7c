import { currencyPlaces } from '@larder/core/books/currency';
import { readNumber } from '@larder/core/number';
import { pricesAt } from '@larder/core/outbound/pricing';
import type { customerTerms } from '@larder/contract/prices';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useMemo } from 'react';
import { useMeQuery } from '../../shared/me';
import { useReferenceQuery } from '../../shared/reference';
import { useCustomerTermsQuery } from './api';

export type ItemPrices = ResponseOf<typeof customerTerms>['rows'][number];

/** What an order is written in: how much of the company's currency one of it is, as it is typed. */
interface Money {
  currency: string;
  rate: string;
}

export interface CustomerTerms {
  /** The name of the price list they buy by. */
  list: string | null;
  /** The rate at which the currency was used last; null when it never was, or is the company's. */
  rate: string | null;
  /** What they pay for an item, in the order's currency; undefined while nobody is chosen, or the rate is not known. */
  of: (itemId: number) => ItemPrices | undefined;
  /** Per cent: the customer's own tax, else the item's. */
  rateOf: (itemId: number) => string;
}

/** What a customer pays for the items on an order, whose ids stand in `itemIds` apart by commas. */
export function useCustomerTerms(customerId: number | null, itemIds: string, { currency, rate }: Money): CustomerTerms {
  const { data: me } = useMeQuery({});
  const isOwn = currency === me?.company.currency;
  const skip = customerId === null || (itemIds === '' && isOwn) || currencyPlaces(currency) === null;
  const { data, currentData } = useCustomerTermsQuery({ params: { id: customerId ?? 0 }, query: { itemIds, ...(isOwn ? {} : { currency }) } }, { skip });
  const { data: reference } = useReferenceQuery({});
  return useMemo(() => {
    const worth = isOwn ? '1' : (readNumber(rate, 'rate')?.toFixed() ?? null);
    const rows = customerId === null ? [] : (data?.rows ?? []);
    const row = (itemId: number) => rows.find((one) => one.itemId === itemId);
    const of = (itemId: number) => {
      const found = row(itemId);
      if (!found || worth === null || Number(worth) <= 0) return undefined;
      const { price, breaks } = pricesAt(found, worth, currencyPlaces(currency) ?? 2);
      return { ...found, price, breaks: [...breaks] };
    };
    const rateOf = (itemId: number) => {
      const code = data?.taxCodeId ?? row(itemId)?.taxCodeId;
      return reference?.taxes.find(({ id }) => id === code)?.rate ?? '0';
    };
    return { list: customerId === null ? null : (data?.list ?? null), rate: customerId === null || isOwn ? null : (currentData?.rate ?? null), of, rateOf };
  }, [customerId, data, currentData, reference, isOwn, rate, currency]);
}
