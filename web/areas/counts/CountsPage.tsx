import Button from '@mui/material/Button';
import type { CountRow } from '@larder/contract/counts';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { useIsRested } from '../../kit/delayed';
import { count, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSite } from '../../shared/site';
import { StockWays } from '../../shared/StockWays';
import { useCountsInAllQuery, useCountsInfiniteQuery } from './api';
import { stateWords } from './countWords';

const shows = [
  ['open', 'Open'],
  ['planned', 'Not begun'],
  ['counting', 'Being counted'],
  ['review', 'To be looked at'],
  ['done', 'Done'],
  ['all', 'All'],
] as const;

/** Counts, by how far they are. */
export function CountsPage() {
  useTitle('Counts');
  const navigate = useNavigate();
  const address = useAddress();
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const may = useMay('stock.correct');
  const question = { show: address.choice('show', shows), q: address.get('q'), siteId };
  const useList = () => useGoing(useCountsInfiniteQuery({ query: question }));
  const { currentData: inAll } = useCountsInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(me?.company.today ?? ''), [me?.company.today]);
  return (
    <ListPage
      title="Counts"
      beside={<StockWays />}
      address={address}
      find={{ label: 'Find counts', placeholder: 'Number, site, person or note' }}
      filters={<AddressTabs label="Which counts" address={address} name="show" options={shows} />}
      noun="count"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/stock/counts/${id}`}
      empty={<>Nothing is being counted. {may ? <Link to="/stock/counts/new">Plan a count</Link> : null}</>}
      peek={(row) => (
        <Card component="aside" aria-label={`About ${row.number}`}>
          <h2>
            {row.number}
            <span>{row.site}</span>
          </h2>
          <p className="pad">
            {row.done} of {count(row.bins, 'bin')} counted, {count(row.lines, 'line')}, of which {row.differing} differ. {row.settled} settled.
          </p>
          {row.people === '' ? null : <p className="pad">Counting now: {row.people}.</p>}
          {row.note === '' ? null : <p className="pad quiet">{row.note}</p>}
        </Card>
      )}
      next={(row) =>
        may
          ? { label: 'Plan a count', run: () => void navigate('/stock/counts/new') }
          : row && { label: `Open ${row.number}`, run: () => void navigate(`/stock/counts/${row.id}`) }
      }
      actions={(row) => (
        <>
          <Button component={Link} to="/stock/counts/calendar">
            What is due
          </Button>
          {row ? (
            <Button component={Link} to={`/stock/counts/${row.id}`}>
              Open {row.number}
            </Button>
          ) : null}
        </>
      )}
    />
  );
}

const columns = (today: string): Column<CountRow>[] => [
  {
    name: 'Count',
    text: (row) => row.number,
    cell: (row) => (
      <>
        <span className="code strong">{row.number}</span>
        <span className="name">{row.site}</span>
      </>
    ),
  },
  { name: 'Planned', wide: true, cell: (row) => `${shortDay(row.day, today)}, ${row.person}` },
  { name: 'Bins', number: true, cell: (row) => `${row.done} of ${row.bins}` },
  { name: 'Lines', number: true, wide: true, cell: (row) => row.lines },
  { name: 'Differ', number: true, wide: true, cell: (row) => row.differing || '' },
  { name: 'State', cell: (row) => stateWords[row.state] },
];
