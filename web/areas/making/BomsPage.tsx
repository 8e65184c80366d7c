import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import type { BomRow } from '@larder/contract/making';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { price, quantity, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { ExportButton } from '../../shared/ExportButton';
import { MakingWays } from '../../shared/MakingWays';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useBomsInfiniteQuery } from './api';
import { BomPeek } from './BomPeek';

const shows = [
  ['in use', 'In use'],
  ['all', 'All versions'],
] as const;

/** Bills of materials: what is made of what, and what it costs that way. */
export function BomsPage() {
  useTitle('Bills of materials');
  const navigate = useNavigate();
  const address = useAddress();
  const may = useMay('making.write', null);
  const seesCost = useMay('costs.see');
  const { data: me } = useMeQuery({});
  const partId = Number(address.get('part')) || undefined;
  const question = { show: address.choice('show', shows), q: address.get('q'), partId };
  const useList = () => useGoing(useBomsInfiniteQuery({ query: question }));
  const today = me?.company.today ?? '';
  const shown = useMemo(() => columns(today, seesCost), [today, seesCost]);
  const only = address.get('only');
  return (
    <ListPage
      title="Bills of materials"
      beside={<MakingWays />}
      address={address}
      find={{ label: 'Find bills of materials', placeholder: 'SKU, name or category' }}
      filters={
        <>
          <AddressTabs label="Which versions" address={address} name="show" options={shows} />
          {only === '' ? null : (
            <Chip
              label={`with ${only}`}
              onDelete={() => {
                for (const name of ['only', 'part']) address.put(name, '');
              }}
            />
          )}
        </>
      }
      noun="bill"
      columns={shown}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/making/boms/${id}`}
      empty={
        <>
          Nothing is made yet. A bill of materials says what an item is made of, and what it costs that way.{' '}
          {may ? <Link to="/making/boms/new">Write the first one</Link> : null}
        </>
      }
      peek={({ id }) => <BomPeek id={id} />}
      next={(row) =>
        may
          ? { label: 'New bill of materials', run: () => void navigate('/making/boms/new') }
          : row && { label: `Open ${row.sku}`, run: () => void navigate(`/making/boms/${row.id}`) }
      }
      actions={(row) => (
        <>
          <ExportButton list="boms" />
          {may ? (
            <Button component={Link} to="/import?kind=boms">
              Import
            </Button>
          ) : null}
          {row ? (
            <Button component={Link} to={`/making/boms/${row.id}`}>
              Open {row.sku}
            </Button>
          ) : null}
        </>
      )}
    />
  );
}

const columns = (today: string, seesCost: boolean): Column<BomRow>[] => [
  {
    name: 'Makes',
    text: (row) => row.sku,
    cell: (row) => (
      <>
        <span className="code strong">{row.sku}</span>
        <span className="name">
          {row.itemName}
          {row.name === '' ? null : <span className="quiet"> {row.name}</span>}
        </span>
      </>
    ),
  },
  { name: 'Category', wide: true, cell: (row) => row.category },
  { name: 'Parts', number: true, cell: (row) => row.parts },
  {
    name: 'For',
    number: true,
    wide: true,
    cell: (row) => `${quantity(row.makes)} ${row.unit === 'each' ? '' : row.unit}`,
  },
  ...(seesCost
    ? [
        {
          name: 'Made, one costs',
          number: true,
          cell: (row: BomRow) =>
            row.state !== 'in use' ? '' : row.made === null ? <span className="quiet">not known</span> : price(Number(row.made).toFixed(2)),
        },
        { name: 'In stock, one costs', number: true, wide: true, cell: (row: BomRow) => (row.own === null ? '' : price(Number(row.own).toFixed(2))) },
      ]
    : []),
  {
    name: 'Version',
    wide: true,
    cell: (row) => (row.state === 'in use' ? row.number : `${row.number}, ${row.state === 'later' ? `from ${shortDay(row.startsOn, today)}` : row.state}`),
  },
];
