import Button from '@mui/material/Button';
import type { canMakeAll } from '@larder/contract/making';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { quantity } from '../../kit/format';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { MakingWays } from '../../shared/MakingWays';
import { useMay } from '../../shared/may';
import { useCanMakeAllQuery } from './api';
import { NeededCard } from './NeededCard';
import { MakingSite, useMakingSite } from './MakingSite';

type Row = ResponseOf<typeof canMakeAll>['rows'][number];

/** Everything that is made, with how many can be made at a site of what is free there, and what limits each. */
export function CanMakePage() {
  useTitle('Can be made');
  const navigate = useNavigate();
  const address = useAddress();
  const may = useMay('making.write', null);
  const siteId = useMakingSite(address);
  const question = { siteId: siteId ?? 0, q: address.get('q') };
  const useList = () => {
    const { data, currentData, error, isFetching } = useCanMakeAllQuery({ query: question }, { skip: siteId === undefined });
    return { rows: (currentData ?? data)?.rows, error, isAsking: isFetching, hasMore: false, more: () => undefined };
  };
  const to = (row: Row) => `/making/items/${row.itemId}?at=${siteId ?? ''}`;
  return (
    <ListPage
      title="Can be made"
      beside={<MakingWays />}
      address={address}
      find={{ label: 'Find what is made', placeholder: 'SKU or name' }}
      filters={<MakingSite address={address} />}
      noun="item"
      columns={columns}
      useList={useList}
      question={question}
      keyOf={({ itemId }) => itemId}
      hrefOf={to}
      empty={<>Nothing is made yet: an item is once it has a bill of materials. {may ? <Link to="/making/boms/new">Write the first one</Link> : null}</>}
      peek={(row) => <NeededCard itemId={row.itemId} siteId={siteId ?? 0} />}
      next={(row) => row && { label: `Open ${row.sku}`, run: () => void navigate(to(row)) }}
      actions={(row) =>
        row ? (
          <Button component={Link} to={`/making/boms/${row.bomId}`}>
            Bill of materials
          </Button>
        ) : null
      }
    />
  );
}

const columns: Column<Row>[] = [
  {
    name: 'Item',
    text: (row) => row.sku,
    cell: (row) => (
      <>
        <span className="code strong">{row.sku}</span>
        <span className="name">{row.name}</span>
      </>
    ),
  },
  { name: 'Free', number: true, cell: (row) => quantity(row.free) },
  { name: 'Short', number: true, wide: true, cell: (row) => <span className="late">{quantity(row.short, true)}</span> },
  { name: 'Reorder at', number: true, wide: true, cell: (row) => (row.reorderPoint === null ? '' : quantity(row.reorderPoint)) },
  { name: 'Can be made', number: true, cell: (row) => (row.canMake === null ? 'any number' : <span className="strong">{quantity(row.canMake)}</span>) },
  {
    name: 'Limited by',
    cell: (row) => (
      <span className="code">
        {row.limits
          .slice(0, 3)
          .map(({ sku }) => sku)
          .join(', ')}
        {row.limits.length > 3 ? ` and ${row.limits.length - 3} more` : ''}
      </span>
    ),
  },
];
