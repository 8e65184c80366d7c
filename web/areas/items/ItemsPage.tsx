import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { itemKinds } from '@larder/core/catalog/kind';
import type { Attribute } from '@larder/contract/attributes';
import { itemSorts, trackings, type ItemRow } from '@larder/contract/catalog';
import { useSite } from '../../shared/site';
import { useAddress, useSort } from '../../kit/address';
import { price, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import { KeptViews } from '../../shared/KeptViews';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { usePages } from '../../kit/pages';
import { useTitle } from '../../kit/title';
import { ExportButton } from '../../shared/ExportButton';
import { useMeQuery } from '../../shared/me';
import { StockPeek } from '../../shared/StockPeek';
import { useAttributesQuery, useItemsQuery } from '../../shared/items';
import { AttributeCell } from '../../shared/AttributeCell';
import { BulkEdit } from './BulkEdit';
import { CategoryFilter } from '../../shared/CategoryFilter';
import { ItemFilters } from './ItemFilters';
import { kindNames } from './kindNames';
import { ItemTabs } from '../../shared/ItemTabs';

interface Choosing {
  chosen: readonly number[];
  toggle: (id: number) => void;
  /** All rows shown: chosen, or none of them when they all were. */
  all: { chosen: boolean; toggle: () => void };
}

const columns = ({ chosen, toggle, all }: Choosing, own: readonly Attribute[], today: string): Column<ItemRow>[] => [
  {
    name: 'Chosen',
    head: <input type="checkbox" aria-label="Choose all shown" checked={all.chosen} onChange={all.toggle} />,
    wide: true,
    cell: (row) => (
      <input
        type="checkbox"
        aria-label={`Choose ${row.sku}`}
        checked={chosen.includes(row.id)}
        onClick={(event) => event.stopPropagation()}
        onChange={() => toggle(row.id)}
      />
    ),
  },
  {
    name: '',
    cell: (row) =>
      row.pictureId === null && row.kind !== 'stocked' ? null : row.pictureId === null ? (
        <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} />
      ) : (
        <img className="thumb" src={`/api/catalog/pictures/${row.pictureId}/small`} alt="" loading="lazy" />
      ),
  },
  { name: 'SKU', sort: 'sku', cell: (row) => <span className="code">{row.sku}</span> },
  {
    name: 'Name',
    sort: 'name',
    cell: (row) => (
      <>
        {row.name}
        {row.retired ? <small className="late"> retired</small> : null}
        {row.kind === 'stocked' ? null : <small className="quiet"> {kindNames[row.kind].toLowerCase()}</small>}
        {row.tracking === 'none' ? null : <small className="quiet"> by {row.tracking}</small>}
      </>
    ),
  },
  { name: 'Category', wide: true, cell: (row) => <span className="quiet">{row.category}</span> },
  ...own.map((attribute): Column<ItemRow> => ({
    name: attribute.name,
    wide: true,
    cell: (row) => <AttributeCell attribute={attribute} value={row.attributes[String(attribute.id)]} today={today} />,
  })),
  { name: 'Sales price', sort: 'salesPrice', number: true, wide: true, cell: (row) => (row.salesPrice === null ? '' : price(row.salesPrice)) },
  { name: 'On hand', sort: 'onHand', number: true, cell: (row) => quantity(row.onHand, true) },
  { name: 'Free', sort: 'free', number: true, cell: (row) => (row.kind === 'stocked' ? <b>{quantity(row.free)}</b> : '') },
];

const states = [['all'], ['in-stock'], ['low'], ['short'], ['out']] as const;
const lives = [['active'], ['retired'], ['all']] as const;

export function ItemsPage() {
  useTitle('Items');
  const { siteId } = useSite();
  const navigate = useNavigate();
  const address = useAddress();
  const sort = useSort(address, itemSorts, 'sku');
  const filter = {
    q: address.get('q'),
    categoryId: Number(address.get('category')) || undefined,
    supplierId: Number(address.get('supplier')) || undefined,
    familyId: address.get('family') === '' ? undefined : Number(address.get('family')),
    tracking: trackings.find((one) => one === address.get('tracking')),
    kind: itemKinds.find((one) => one === address.get('kind')),
    state: address.choice('state', states),
    life: address.choice('life', lives),
    attributeId: Number(address.get('attribute')) || undefined,
    attributeValue: address.get('value') || undefined,
  };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const [chosen, setChosen] = useState<number[]>([]);
  const { data: attributes } = useAttributesQuery({});
  const { data: me } = useMeQuery({});
  const today = me?.company.today ?? '';
  const asColumns = `${address.get('columns')},${address.get('attribute')}`;
  const pages = usePages(question);
  const { data, error } = useItemsQuery({ query: { ...question, cursor: pages.cursor, limit: 50 } });
  const shown = useMemo(() => {
    const own = (attributes?.rows ?? []).filter(({ id }) => asColumns.split(',').includes(String(id)));
    const toggle = (id: number) => setChosen((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id]));
    const ids = (data?.rows ?? []).map(({ id }) => id);
    const all = {
      chosen: ids.length > 0 && ids.every((id) => chosen.includes(id)),
      toggle: () => setChosen((now) => (ids.every((id) => now.includes(id)) ? now.filter((id) => !ids.includes(id)) : [...new Set([...now, ...ids])])),
    };
    return columns({ chosen, toggle, all }, own, today);
  }, [attributes, asColumns, chosen, today, data]);
  return (
    <ListPage
      title="Items"
      address={address}
      find={{ label: 'Find items', placeholder: 'Words in any order, SKU or barcode' }}
      beside={<ItemTabs />}
      filters={
        <>
          <CategoryFilter address={address} />
          <ItemFilters address={address} />
          <KeptViews list="items" />
        </>
      }
      instead={chosen.length > 0 ? <BulkEdit ids={chosen} done={() => setChosen([])} /> : undefined}
      noun="item"
      columns={shown}
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
      actions={(row) => (
        <>
          <Link className="button" to="/import?kind=items">
            Bring in
          </Link>
          <ExportButton list="items" only={{ items: filter }} />
          {chosen.length > 0 ? (
            <button type="button" className="button" onClick={() => setChosen([])}>
              Choose none
            </button>
          ) : null}
          {row ? (
            <Link className="button" to={`/items/${row.id}`}>
              Open {row.sku}
            </Link>
          ) : null}
        </>
      )}
    />
  );
}
