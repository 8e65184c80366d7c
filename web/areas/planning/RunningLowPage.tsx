import Button from '@mui/material/Button';
import { lowSorts, type LowRow } from '@larder/contract/runningLow';
import { Link, useNavigate } from 'react-router';
import { useAddress, useSort } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { Check } from '../../kit/Check';
import { useIsRested } from '../../kit/delayed';
import { moment, quantity } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Jar } from '../../kit/Jar';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { Report } from '../../shared/Report';
import { useSite } from '../../shared/site';
import { heldTo, StockFilters } from '../../shared/StockFilters';
import { StockPeek } from '../../shared/StockPeek';
import { useLowInAllQuery, useLowInfiniteQuery } from './api';
import { PlanningWays } from './PlanningWays';

const states = [
  ['all', 'All'],
  ['low', 'Low'],
  ['short', 'Short'],
  ['out', 'Out'],
] as const;
const topUpOf = ({ itemId }: Pick<LowRow, 'itemId'>): string => `/planning?item=${itemId}`;

/** What runs low, is out or short, by how much, since when, and how long it lasts: a report that is kept, exported and acted on. */
export function RunningLowPage() {
  useTitle('Running low');
  const navigate = useNavigate();
  const address = useAddress();
  const { siteId } = useSite();
  const sort = useSort(address, lowSorts, 'days');
  const counts = address.get('counts') === 'everything' ? ('everything' as const) : ('sellable' as const);
  const filter = { ...heldTo(address), q: address.get('q'), siteId, state: address.choice('state', states), counts };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const useList = () => useGoing(useLowInfiniteQuery({ query: question }));
  const { currentData: inAll } = useLowInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  return (
    <Report
      laidOutAs="low"
      keptAs="low"
      out={{ list: 'low', called: 'running low', only: { low: filter } }}
      title="Running low"
      beside={<PlanningWays />}
      address={address}
      find={{ label: 'Find items', placeholder: 'SKU or name' }}
      filters={
        <>
          <AddressTabs label="Which of them" address={address} name="state" options={states} />
          <StockFilters address={address} />
          <Check label="Sellable bins only" checked={counts === 'sellable'} onChange={(checked) => address.put('counts', checked ? '' : 'everything')} />
        </>
      }
      noun="item"
      columns={columns}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ itemId, siteId: at }) => itemId * 100_000 + at}
      hrefOf={topUpOf}
      sort={sort}
      empty="Nothing runs low. Items stand here when what is free, with what comes and less what is short, is at or below their reorder point, when none is left, or when an order lacks some."
      peek={(row) => <StockPeek itemId={row.itemId} siteId={row.siteId} picture={false} />}
      next={(row) => row && { label: `Top up ${row.sku}`, run: () => void navigate(topUpOf(row)) }}
      actions={(row) =>
        row ? (
          <Button component={Link} to={`/planning/levels/${row.itemId}/${row.siteId}`}>
            Levels of {row.sku}
          </Button>
        ) : null
      }
    />
  );
}

const columns: Column<LowRow>[] = [
  { name: '', cell: (row) => <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} size={24} /> },
  {
    name: 'Item',
    sort: 'sku',
    text: (row) => row.sku,
    cell: (row) => (
      <>
        <span className="code strong">{row.sku}</span>
        <span className="name">{row.name}</span>
      </>
    ),
  },
  { name: 'At', cell: (row) => <span className="quiet">{row.site}</span> },
  { name: 'State', cell: (row) => <span className={row.state === 'low' ? '' : 'late'}>{row.state}</span> },
  { name: 'Free', number: true, cell: (row) => quantity(row.free, true) },
  { name: 'On order', number: true, wide: true, cell: (row) => quantity(row.onOrder, true) },
  { name: 'From other sites', number: true, wide: true, apart: true, cell: (row) => quantity(row.coming, true) },
  { name: 'Short', number: true, wide: true, cell: (row) => <span className="late">{quantity(row.short, true)}</span> },
  { name: 'Reorder at', number: true, wide: true, apart: true, cell: (row) => (row.reorderPoint === null ? '' : quantity(row.reorderPoint)) },
  { name: 'Below by', sort: 'below', number: true, wide: true, cell: (row) => quantity(row.below, true) },
  { name: 'To the level', sort: 'toLevel', number: true, cell: (row) => quantity(row.toLevel, true) },
  { name: 'Lasts', sort: 'days', number: true, cell: (row) => (row.days === null ? <span className="quiet">not known</span> : `${Math.floor(row.days)} days`) },
  { name: 'Since', sort: 'since', wide: true, cell: (row) => <span className="quiet">{row.since === null ? '' : moment(row.since)}</span> },
  { name: 'Supplier', wide: true, apart: true, cell: (row) => row.supplier },
  { name: 'Category', wide: true, apart: true, cell: (row) => row.category },
];
