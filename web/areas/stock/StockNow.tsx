import { useMemo, useState, type ReactNode } from 'react';
import Button from '@mui/material/Button';
import { Link, useNavigate } from 'react-router';
import { stockSorts, type StockRow } from '@larder/contract/stock';
import { May, useSeesCosts } from '../../shared/may';
import { useSite } from '../../shared/site';
import { useSort, type Address } from '../../kit/address';
import { count } from '../../kit/format';
import { useIsRested } from '../../kit/delayed';
import { useGoing } from '../../kit/going';
import { AddressTabs } from '../../kit/AddressTabs';
import { useMeQuery } from '../../shared/me';
import { Report } from '../../shared/Report';
import { heldTo, StockFilters } from '../../shared/StockFilters';
import { costly, stockColumns } from './stockColumns';
import { useStockInAllQuery, useStockTableInfiniteQuery } from './api';
import { StockInside } from '../../shared/StockInside';
import { StockPeek } from '../../shared/StockPeek';

const states = [
  ['all', 'All'],
  ['in-stock', 'In stock'],
  ['low', 'Low'],
  ['short', 'Short'],
  ['out', 'Out'],
] as const;

/** The stock table as it stands now. */
export function StockNow({ address, beside }: { address: Address; beside: ReactNode }) {
  const { siteId } = useSite();
  const navigate = useNavigate();
  const isWorthShown = useSeesCosts();
  const { data: me } = useMeQuery({});
  const today = me?.company.today ?? '';
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const sort = useSort(address, stockSorts, 'sku');
  const state = address.choice('state', states);
  const filter = {
    q: address.get('q'),
    siteId,
    state,
    ...heldTo(address),
  };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const useList = () => useGoing(useStockTableInfiniteQuery({ query: question }));
  const { currentData: inAll } = useStockInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  const shown = useMemo(() => {
    const toggle = (id: number) => setChosen((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id]));
    return stockColumns({ siteId, today, worth: inAll?.value, chosen, toggle }).filter(({ sort: by }) => isWorthShown || !costly.includes(by ?? ''));
  }, [siteId, today, inAll?.value, chosen, isWorthShown]);
  return (
    <Report
      laidOutAs="stock"
      keptAs="stock"
      out={{ list: 'stock', only: { q: filter.q, stock: { ...heldTo(address), state } } }}
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
      columns={shown}
      count={inAll?.count}
      opening={{ Inside: StockRowInside }}
      useList={useList}
      question={question}
      keyOf={({ itemId }) => itemId}
      hrefOf={({ itemId }) => `/items/${itemId}`}
      sort={sort}
      empty={
        <>
          No item yet: how many there are of each, what they are worth and where they lie will stand here. <Link to="/items/new">Set up the first one</Link>.
        </>
      }
      choosing={{
        has: ({ itemId }) => chosen.includes(itemId),
        set: (rows, on) => {
          const ids = rows.map(({ itemId }) => itemId);
          setChosen((now) => (on ? [...new Set([...now, ...ids])] : now.filter((id) => !ids.includes(id))));
        },
      }}
      peek={({ itemId }) => <StockPeek itemId={itemId} siteId={siteId} />}
      next={(row) => row && { label: `Open ${row.sku}`, run: () => void navigate(`/items/${row.itemId}`) }}
      actions={(row) => (
        <>
          {chosen.length > 0 ? <Button onClick={() => setChosen([])}>Choose none</Button> : null}
          <May to="stock.transfer">
            <Button component={Link} to={transferOf(chosen.length > 0 ? chosen : row ? [row.itemId] : [], siteId)}>
              {chosen.length > 0 ? `Transfer ${count(chosen.length, 'item')}` : 'Transfer'}
            </Button>
          </May>
          {chosen.length > 0 ? (
            <May to="stock.lend">
              <Button component={Link} to={`/stock/loans/new?items=${chosen.join(',')}`}>
                Lend {count(chosen.length, 'item')}
              </Button>
            </May>
          ) : null}
          {chosen.length > 0 ? (
            <May to="stock.correct">
              <Button component={Link} to={`/stock/counts/new?items=${chosen.join(',')}`}>
                Count {count(chosen.length, 'item')}
              </Button>
            </May>
          ) : null}
          <May to="stock.correct">
            <Button component={Link} to={row ? `/stock/correction?item=${row.itemId}` : '/stock/correction'}>
              Correct
            </Button>
          </May>
        </>
      )}
    />
  );
}

/** Where a transfer of items is begun, from the site that is looked at. */
const transferOf = (items: readonly number[], siteId: number | undefined): string =>
  `/stock/transfers/new?items=${items.join(',')}${siteId === undefined ? '' : `&from=${siteId}`}`;

const StockRowInside = ({ row }: { row: StockRow }) => <StockInside itemId={row.itemId} />;
