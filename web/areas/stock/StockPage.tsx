import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { stockSorts, type StockRow } from '@larder/contract/stock';
import { useSite } from '../../app/site';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { count, money, price, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import { ListTable, type Column } from '../../kit/ListTable';
import { Pager } from '../../kit/Pager';
import { usePages } from '../../kit/pages';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useReferenceQuery } from '../setup/api';
import { useStockTableQuery } from './api';
import { StockPeek } from './StockPeek';

type Sort = (typeof stockSorts)[number];
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
  const [search, setSearch] = useSearchParams();
  const [selected, setSelected] = useState(0);
  const { data: reference } = useReferenceQuery({});
  const put = (name: string, value: string) => {
    setSelected(0);
    setSearch(
      (now) => {
        if (value) now.set(name, value);
        else now.delete(name);
        return now;
      },
      { replace: true },
    );
  };
  const sort = (stockSorts.find((one) => one === search.get('sort')) ?? 'sku') as Sort;
  const direction = search.get('direction') === 'down' ? 'down' : 'up';
  const state = states.find(([key]) => key === search.get('state'))?.[0] ?? 'all';
  const q = useDelayed(search.get('q') ?? '', 150);
  const filter = { q, siteId, state, sort, direction, categoryId: Number(search.get('category')) || undefined } as const;
  const pages = usePages(JSON.stringify(filter));
  const { data, error, isFetching } = useStockTableQuery({ query: { ...filter, cursor: pages.cursor, limit: 50 } });
  const row = data?.rows[selected];
  const change = (key: string) => {
    if (key === sort) put('direction', direction === 'up' ? 'down' : 'up');
    else put('sort', key);
  };
  return (
    <div className="split fill">
      <div>
        <div className="head">
          <h1>Stock</h1>
          <span className="side">
            <input
              className="plain"
              type="search"
              aria-label="Find in stock"
              placeholder="Words, SKU or barcode"
              value={search.get('q') ?? ''}
              onChange={(event) => put('q', event.target.value)}
            />
            <select className="plain" aria-label="Category" value={search.get('category') ?? ''} onChange={(event) => put('category', event.target.value)}>
              <option value="">All categories</option>
              {reference?.categories.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
            <span className="tabs">
              {states.map(([key, label]) => (
                <button key={key} type="button" aria-pressed={state === key} onClick={() => put('state', key === 'all' ? '' : key)}>
                  {label}
                </button>
              ))}
            </span>
          </span>
        </div>
        {data ? (
          <ListTable
            label="Stock"
            columns={columns(siteId)}
            rows={data.rows}
            keyOf={({ itemId }) => itemId}
            selected={selected}
            select={setSelected}
            open={({ itemId }) => void navigate(`/items/${itemId}`)}
            sort={{ key: sort, direction, change }}
            empty={isFetching ? 'One moment…' : 'Nothing fits. Take a filter off, or set up the first item under Items.'}
          />
        ) : (
          <Waiting error={error} />
        )}
        <p style={{ paddingTop: 10 }}>
          <Pager pages={pages} next={data?.next} />
        </p>
      </div>
      {row ? <StockPeek itemId={row.itemId} siteId={siteId} /> : <span />}
      <BottomBar
        hint={data ? `${count(data.rows.length, 'item')} shown${state === 'all' && !q ? '' : ', filtered'}; arrow keys move, Enter opens` : ''}
        next={row ? { label: `Open ${row.sku}`, run: () => void navigate(`/items/${row.itemId}`) } : undefined}
      >
        <Link className="button" to={row ? `/stock/correction?item=${row.itemId}` : '/stock/correction'}>
          Correct
        </Link>
      </BottomBar>
    </div>
  );
}

const columns = (siteId: number | undefined): Column<StockRow>[] => {
  const trail = (row: StockRow, measure: string) => `/stock/trail?item=${row.itemId}${siteId === undefined ? '' : `&site=${siteId}`}${measure}`;
  return [
    { name: '', cell: (row) => <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} /> },
    {
      name: 'Item',
      sort: 'sku',
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
    { name: 'Reserved', sort: 'reserved', number: true, cell: (row) => <span className="quiet">{quantity(row.reserved, true)}</span> },
    { name: 'Free', sort: 'free', number: true, cell: (row) => <b>{quantity(row.free)}</b> },
    { name: 'On order', sort: 'onOrder', number: true, cell: (row) => <span className="quiet">{quantity(row.onOrder, true)}</span> },
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
    },
  ];
};
