import { May, useMay } from '../../shared/may';
import Button from '@mui/material/Button';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { itemKinds } from '@larder/core/catalog/kind';
import { itemSorts, trackings, type ItemRow } from '@larder/contract/catalog';
import { useSite } from '../../shared/site';
import { useAddress, useSort } from '../../kit/address';
import { useIsRested } from '../../kit/delayed';
import { useGoing } from '../../kit/going';
import { useTitle } from '../../kit/title';
import { Report } from '../../shared/Report';
import { useMeQuery } from '../../shared/me';
import { StockInside } from '../../shared/StockInside';
import { StockPeek } from '../../shared/StockPeek';
import { useAttributesQuery, useItemListInfiniteQuery, useItemsInAllQuery } from '../../shared/items';
import { BulkEdit } from './BulkEdit';
import { CategoryFilter } from '../../shared/CategoryFilter';
import { ItemFilters } from './ItemFilters';
import { ItemTabs } from '../../shared/ItemTabs';
import { columns } from './itemColumns';

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
  const mayEdit = useMay('items.edit', null);
  const useList = () => useGoing(useItemListInfiniteQuery({ query: question }));
  const { rows } = useList();
  const { currentData: inAll } = useItemsInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  const shown = useMemo(() => {
    const own = (attributes?.rows ?? []).filter(({ id }) => asColumns.split(',').includes(String(id)));
    const toggle = (id: number) => setChosen((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id]));
    const ids = (rows ?? []).map(({ id }) => id);
    const all = {
      chosen: ids.length > 0 && ids.every((id) => chosen.includes(id)),
      toggle: () => setChosen((now) => (ids.every((id) => now.includes(id)) ? now.filter((id) => !ids.includes(id)) : [...new Set([...now, ...ids])])),
    };
    return columns({ chosen, toggle, all }, own, today);
  }, [attributes, asColumns, chosen, today, rows]);
  return (
    <Report
      laidOutAs="items"
      keptAs="items"
      out={{ list: 'items', only: { items: filter } }}
      title="Items"
      address={address}
      find={{ label: 'Find items', placeholder: 'Words in any order, SKU or barcode' }}
      beside={<ItemTabs />}
      filters={
        <>
          <CategoryFilter address={address} />
          <ItemFilters address={address} />
        </>
      }
      choosing={{
        has: ({ id }) => chosen.includes(id),
        set: (rows, on) => {
          const ids = rows.map(({ id }) => id);
          setChosen((now) => (on ? [...new Set([...now, ...ids])] : now.filter((id) => !ids.includes(id))));
        },
      }}
      instead={chosen.length > 0 ? <BulkEdit ids={chosen} done={() => setChosen([])} /> : undefined}
      noun="item"
      columns={shown}
      count={inAll?.count}
      opening={{ Inside: ItemInside, holds: ({ kind }) => kind === 'stocked' }}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/items/${id}`}
      sort={sort}
      empty={
        <>
          No item yet: what you buy, sell or make will stand here. <Link to="/items/new">Set up the first one</Link>, or{' '}
          <Link to="/import?kind=items">import a file</Link>.
        </>
      }
      peek={({ id }) => <StockPeek itemId={id} siteId={siteId} />}
      next={(row) =>
        mayEdit
          ? { label: 'Set up an item', run: () => void navigate('/items/new') }
          : row && { label: `Open ${row.sku}`, run: () => void navigate(`/items/${row.id}`) }
      }
      actions={(row) => (
        <>
          <May to="items.edit" at={null}>
            <Button component={Link} to="/import?kind=items">
              Import
            </Button>
          </May>
          {chosen.length > 0 ? <Button onClick={() => setChosen([])}>Choose none</Button> : null}
          {row && mayEdit ? (
            <Button component={Link} to={`/items/${row.id}`}>
              Open {row.sku}
            </Button>
          ) : null}
        </>
      )}
    />
  );
}

const ItemInside = ({ row }: { row: ItemRow }) => <StockInside itemId={row.id} />;
