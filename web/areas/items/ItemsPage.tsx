import { Link, useNavigate } from 'react-router';
import { itemSorts, type ItemRow } from '@larder/contract/catalog';
import { useSite } from '../../app/site';
import { useAddress, useSort } from '../../kit/address';
import { useDelayed } from '../../kit/delayed';
import { price, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { usePages } from '../../kit/pages';
import { useTitle } from '../../kit/title';
import { StockPeek } from '../stock/StockPeek';
import { useItemsQuery } from './api';
import { CategoryFilter } from './CategoryFilter';

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
  const address = useAddress();
  const sort = useSort(address, itemSorts, 'sku');
  const question = {
    q: useDelayed(address.get('q'), 120),
    sort: sort.key,
    direction: sort.direction,
    categoryId: Number(address.get('category')) || undefined,
  };
  const pages = usePages(question);
  const { data, error } = useItemsQuery({ query: { ...question, cursor: pages.cursor, limit: 50 } });
  return (
    <ListPage
      title="Items"
      address={address}
      find={{ label: 'Find items', placeholder: 'Words in any order, SKU or barcode' }}
      filters={<CategoryFilter address={address} />}
      noun="item"
      columns={columns}
      data={data}
      error={error}
      pages={pages}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/items/${id}`}
      sort={sort}
      empty={
        <>
          Nothing fits. <Link to="/items/new">Set up an item</Link>
        </>
      }
      peek={({ id }) => <StockPeek itemId={id} siteId={siteId} />}
      next={() => ({ label: 'Set up an item', run: () => void navigate('/items/new') })}
      actions={(row) =>
        row ? (
          <Link className="button" to={`/items/${row.id}`}>
            Open {row.sku}
          </Link>
        ) : null
      }
    />
  );
}
