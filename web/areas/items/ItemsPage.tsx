import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { itemSorts, type ItemRow } from '@larder/contract/catalog';
import { useSite } from '../../app/site';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { count, price, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import { ListTable, type Column } from '../../kit/ListTable';
import { Pager } from '../../kit/Pager';
import { usePages } from '../../kit/pages';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useReferenceQuery } from '../setup/api';
import { StockPeek } from '../stock/StockPeek';
import { useItemsQuery } from './api';

const columns: Column<ItemRow>[] = [
  { name: '', cell: (row) => <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} /> },
  { name: 'SKU', sort: 'sku', cell: (row) => <span className="code">{row.sku}</span> },
  { name: 'Name', sort: 'name', cell: (row) => row.name },
  { name: 'Category', wide: true, cell: (row) => <span className="quiet">{row.category}</span> },
  { name: 'Sales price', sort: 'salesPrice', number: true, wide: true, cell: (row) => (row.salesPrice === null ? '' : price(row.salesPrice)) },
  { name: 'On hand', sort: 'onHand', number: true, cell: (row) => quantity(row.onHand, true) },
  { name: 'Free', sort: 'free', number: true, cell: (row) => <b>{quantity(row.free)}</b> },
];

export function ItemsPage() {
  useTitle('Items');
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
  const sort = itemSorts.find((one) => one === search.get('sort')) ?? 'sku';
  const direction = search.get('direction') === 'down' ? 'down' : 'up';
  const q = useDelayed(search.get('q') ?? '', 120);
  const filter = { q, sort, direction, categoryId: Number(search.get('category')) || undefined } as const;
  const pages = usePages(JSON.stringify(filter));
  const { data, error } = useItemsQuery({ query: { ...filter, cursor: pages.cursor, limit: 50 } });
  const row = data?.rows[selected];
  return (
    <div className="split fill">
      <div>
        <div className="head">
          <h1>Items</h1>
          <span className="side">
            <input
              className="plain"
              type="search"
              aria-label="Find items"
              placeholder="Words in any order, SKU or barcode"
              style={{ width: 260 }}
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
          </span>
        </div>
        {data ? (
          <ListTable
            label="Items"
            columns={columns}
            rows={data.rows}
            keyOf={({ id }) => id}
            selected={selected}
            select={setSelected}
            open={({ id }) => void navigate(`/items/${id}`)}
            sort={{ key: sort, direction, change: (key) => (key === sort ? put('direction', direction === 'up' ? 'down' : 'up') : put('sort', key)) }}
            empty={
              <>
                Nothing fits. <Link to="/items/new">Set up an item</Link>
              </>
            }
          />
        ) : (
          <Waiting error={error} />
        )}
        <p style={{ paddingTop: 10 }}>
          <Pager pages={pages} next={data?.next} />
        </p>
      </div>
      {row ? <StockPeek itemId={row.id} siteId={siteId} /> : <span />}
      <BottomBar
        hint={data ? `${count(data.rows.length, 'item')} shown; arrow keys move, Enter opens` : ''}
        next={{ label: 'Set up an item', run: () => void navigate('/items/new') }}
      >
        {row ? (
          <Link className="button" to={`/items/${row.id}`}>
            Open {row.sku}
          </Link>
        ) : null}
      </BottomBar>
    </div>
  );
}
