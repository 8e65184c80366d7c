import { useMemo, useState } from 'react';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Link, useNavigate } from 'react-router';
import { stockSorts, type StockRow } from '@larder/contract/stock';
import { May, useSeesCosts } from '../../shared/may';
import { useSite } from '../../shared/site';
import { useAddress, useSort } from '../../kit/address';
import { CellCheck } from '../../kit/Check';
import { count, money, price, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import type { Column } from '../../kit/ListTable';
import { useIsRested } from '../../kit/delayed';
import { useGoing } from '../../kit/going';
import { AddressTabs } from '../../kit/AddressTabs';
import { useTitle } from '../../kit/title';
import { Report } from '../../shared/Report';
import { CategoryFilter } from '../../shared/CategoryFilter';
import { useStockInAllQuery, useStockTableInfiniteQuery } from './api';
import { StockInside } from '../../shared/StockInside';
import { StockWays } from '../../shared/StockWays';
import { StockPeek } from '../../shared/StockPeek';

const states = [
  ['all', 'All'],
  ['in-stock', 'In stock'],
  ['low', 'Low'],
  ['short', 'Short'],
  ['out', 'Out'],
] as const;

export function StockPage() {
  useTitle('Stock');
  const { siteId } = useSite();
  const navigate = useNavigate();
  const isShown = useSeesCosts();
  const address = useAddress();
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const sort = useSort(address, stockSorts, 'sku');
  const state = address.choice('state', states);
  const filter = {
    q: address.get('q'),
    siteId,
    state,
    categoryId: Number(address.get('category')) || undefined,
    supplierId: Number(address.get('supplier')) || undefined,
  };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const useList = () => useGoing(useStockTableInfiniteQuery({ query: question }));
  const { currentData: inAll } = useStockInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  const shown = useMemo(() => {
    const toggle = (id: number) => setChosen((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id]));
    return columns(siteId, inAll?.value, chosen, toggle).filter(({ sort: by }) => isShown || !costly.includes(by ?? ''));
  }, [siteId, inAll?.value, chosen, isShown]);
  return (
    <Report
      laidOutAs="stock"
      keptAs="stock"
      out={{ list: 'stock', only: { q: filter.q, stock: { state, categoryId: filter.categoryId, supplierId: filter.supplierId } } }}
      title="Stock"
      beside={<StockWays />}
      address={address}
      find={{ label: 'Find in stock', placeholder: 'Words, SKU or barcode' }}
      filters={
        <>
          <CategoryFilter address={address} />
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

/** Columns that tell what stock costs. */
const costly = ['unitCost', 'value'];

const columns = (siteId: number | undefined, worth: string | undefined, chosen: readonly number[], toggle: (itemId: number) => void): Column<StockRow>[] => {
  const trail = (row: StockRow, measure: string) => `/stock/trail?item=${row.itemId}${siteId === undefined ? '' : `&site=${siteId}`}${measure}`;
  return [
    {
      name: '',
      cell: (row) => (
        <Box component="span" sx={{ display: 'flex', alignItems: 'center' }}>
          <CellCheck label={`Choose ${row.sku}`} checked={chosen.includes(row.itemId)} onChange={() => toggle(row.itemId)} />
          <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} />
        </Box>
      ),
    },
    {
      name: 'Item',
      sort: 'sku',
      text: (row) => row.sku,
      cell: (row) => (
        <>
          <span className="code">{row.sku}</span>
          <span className="name">{row.name}</span>
        </>
      ),
    },
    {
      name: 'On hand',
      sort: 'onHand',
      number: true,
      cell: (row) => (
        <Link className="figure" to={trail(row, '&measure=on-hand')}>
          {quantity(row.onHand, true)}
        </Link>
      ),
    },
    { name: 'Reserved', sort: 'reserved', number: true, wide: true, cell: (row) => <span className="quiet">{quantity(row.reserved, true)}</span> },
    { name: 'Free', sort: 'free', number: true, cell: (row) => <b>{quantity(row.free)}</b> },
    { name: 'On order', sort: 'onOrder', number: true, wide: true, cell: (row) => <span className="quiet">{quantity(row.onOrder, true)}</span> },
    {
      name: 'In transit',
      sort: 'inTransit',
      number: true,
      wide: true,
      cell: (row) =>
        Number(row.inTransit) > 0 ? (
          <Link className="figure" to={`/stock/transfers?show=in-transit&item=${row.itemId}&only=${encodeURIComponent(row.sku)}`}>
            {quantity(row.inTransit)}
          </Link>
        ) : (
          ''
        ),
    },
    { name: 'Unit cost', sort: 'unitCost', number: true, wide: true, cell: (row) => price(row.unitCost) },
    {
      name: 'Value',
      sort: 'value',
      number: true,
      wide: true,
      cell: (row) => (
        <Link className="figure" to={trail(row, '')}>
          {money(row.value)}
        </Link>
      ),
      sum: worth && money(worth),
    },
  ];
};
