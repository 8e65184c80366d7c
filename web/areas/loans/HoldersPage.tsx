import Button from '@mui/material/Button';
import type { listHolders } from '@larder/contract/loans';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { useIsRested } from '../../kit/delayed';
import { Due } from '../../kit/Due';
import { count } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useHoldersInAllQuery, useHoldersInfiniteQuery } from './api';
import { sortWords } from './HolderPicker';

type Row = ResponseOf<typeof listHolders>['rows'][number];
const shows = [
  ['holding', 'Who has something'],
  ['all', 'All'],
] as const;
export const whatOf = ({ sort, isCustomer }: Pick<Row, 'sort' | 'isCustomer'>): string => (sort === null ? (isCustomer ? 'customer' : '') : sortWords[sort]);

/** Who holds what is lent: people, teams, places of work and customers. */
export function HoldersPage() {
  useTitle('Who holds what');
  const navigate = useNavigate();
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const question = { show: address.choice('show', shows), q: address.get('q') };
  const useList = () => useGoing(useHoldersInfiniteQuery({ query: question }));
  const { currentData: inAll } = useHoldersInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(me?.company.today ?? ''), [me?.company.today]);
  return (
    <ListPage
      title="Who holds what"
      beside={<Link to="/stock/loans">Loans</Link>}
      address={address}
      find={{ label: 'Find holders', placeholder: 'Name, item or serial' }}
      filters={<AddressTabs label="Which holders" address={address} name="show" options={shows} />}
      noun="holder"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/stock/holders/${id}`}
      empty="Nobody has anything of yours."
      peek={(row) => (
        <Card component="aside" aria-label={`About ${row.name}`}>
          <h2>
            {row.name}
            <span>{whatOf(row)}</span>
          </h2>
          <p className="pad">{row.items === '' ? 'Has nothing of yours.' : row.items}</p>
        </Card>
      )}
      next={(row) => row && { label: `Open ${row.name}`, run: () => void navigate(`/stock/holders/${row.id}`) }}
      actions={(row) =>
        row ? (
          <Button href={`/api/holders/${row.id}/paper`} target="_blank" rel="noreferrer">
            What they have as PDF
          </Button>
        ) : null
      }
    />
  );
}

const columns = (today: string): Column<Row>[] => [
  {
    name: 'Holder',
    text: (row) => row.name,
    cell: (row) => (
      <>
        <span className="strong">{row.name}</span>
        <span className="name">{whatOf(row)}</span>
      </>
    ),
  },
  { name: 'Has', cell: (row) => (row.lines === 0 ? <span className="quiet">nothing</span> : count(row.lines, 'thing')) },
  { name: 'Items', wide: true, cell: (row) => <span className="code">{row.items}</span> },
  { name: 'Next due', cell: (row) => <Due day={row.nextDue} today={today} late={row.overdue > 0} /> },
];
