import { useMemo, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { pastSorts, type PastRow } from '@larder/contract/stock';
import { useAddress, useSort, type Address } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { useIsRested } from '../../kit/delayed';
import { shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { alsoAsOf, useAsOf } from '../../shared/AsOf';
import { useSeesCosts } from '../../shared/may';
import { PastPlaces } from '../../shared/PastPlaces';
import { Report } from '../../shared/Report';
import { useSite } from '../../shared/site';
import { usePastInAllQuery, usePastStockInfiniteQuery } from './api';
import { heldTo, StockFilters } from '../../shared/StockFilters';
import { costly, pastColumns } from './stockColumns';

const states = [
  ['all', 'All'],
  ['in-stock', 'In stock'],
  ['out', 'Out'],
] as const;

interface PastStockProps {
  address: Address;
  beside: ReactNode;
  asOf: string;
}

/** The stock table as it stood at the end of a day: what was there, and what it was worth. What is reserved or on order is of today only. */
export function PastStock({ address, beside, asOf }: PastStockProps) {
  const { siteId } = useSite();
  const navigate = useNavigate();
  const isWorthShown = useSeesCosts();
  const sort = useSort(address, pastSorts, 'sku');
  const state = address.choice('state', states);
  const filter = { q: address.get('q'), siteId, asOf, state, ...heldTo(address) };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const useList = () => useGoing(usePastStockInfiniteQuery({ query: question }));
  const { currentData: inAll } = usePastInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  const columns = useMemo(
    () => pastColumns({ siteId, asOf, worth: inAll?.value }).filter(({ sort: by }) => isWorthShown || !costly.includes(by ?? '')),
    [siteId, asOf, inAll?.value, isWorthShown],
  );
  return (
    <Report
      laidOutAs="stock"
      keptAs="stock"
      out={{ list: 'past', called: `stock as of ${asOf}`, only: { q: filter.q, past: { ...heldTo(address), state, asOf } } }}
      title="Stock"
      beside={beside}
      address={address}
      find={{ label: 'Find in stock', placeholder: 'Words, SKU or barcode' }}
      filters={
        <>
          <StockFilters address={address} />
          <AddressTabs label="Which stock" address={address} name="state" options={states} />
        </>
      }
      noun="item"
      columns={columns}
      count={inAll?.count}
      opening={{ Inside }}
      useList={useList}
      question={question}
      keyOf={({ itemId }) => itemId}
      hrefOf={({ itemId }) => `/items/${itemId}${alsoAsOf(asOf)}`}
      sort={sort}
      empty="No item yet."
      peek={(row) => (
        <Card stack component="aside" aria-label={`About ${row.sku}`}>
          <h2>
            {row.name}
            <span>as of {shortDay(asOf)}</span>
          </h2>
          <PastPlaces itemId={row.itemId} asOf={asOf} small />
        </Card>
      )}
      next={(row) => row && { label: `Open ${row.sku}`, run: () => void navigate(`/items/${row.itemId}${alsoAsOf(asOf)}`) }}
      actions={() => null}
    />
  );
}

/** The rows of a list are drawn by what is known of one; the day stands in the address. */
function Inside({ row }: { row: PastRow }) {
  const asOf = useAsOf(useAddress());
  return asOf === undefined ? null : <PastPlaces itemId={row.itemId} asOf={asOf} small />;
}
