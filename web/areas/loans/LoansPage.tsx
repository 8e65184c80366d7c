import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import Chip from '@mui/material/Chip';
import type { LoanRow } from '@larder/contract/loans';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { useIsRested } from '../../kit/delayed';
import { Due } from '../../kit/Due';
import { quantity, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { ItemCell } from '../../kit/ItemCell';
import { Card } from '../../kit/layout';
import { ListPage, PeekWaiting } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { useLoansInAllQuery, useLoansInfiniteQuery } from '../../shared/loans';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { ReminderSign } from '../../shared/ReminderSign';
import { useSite } from '../../shared/site';
import { StockWays } from '../../shared/StockWays';
import { useLoanQuery } from './api';

const shows = [
  ['open', 'Out'],
  ['overdue', 'Overdue'],
  ['ended', 'Back'],
  ['all', 'All'],
] as const;

/** What is lent: to whom, until when, and what came back. */
export function LoansPage() {
  useTitle('Loans');
  const navigate = useNavigate();
  const address = useAddress();
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const may = useMay('stock.lend');
  const itemId = Number(address.get('item')) || undefined;
  const question = { show: address.choice('show', shows), q: address.get('q'), siteId, itemId };
  const useList = () => useGoing(useLoansInfiniteQuery({ query: question }));
  const { currentData: inAll } = useLoansInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(me?.company.today ?? ''), [me?.company.today]);
  const only = address.get('only');
  return (
    <ListPage
      title="Loans"
      beside={<StockWays />}
      address={address}
      find={{ label: 'Find loans', placeholder: 'Number, holder, item or serial' }}
      filters={
        <>
          <AddressTabs label="Which loans" address={address} name="show" options={shows} />
          <Link to="/stock/holders">Who holds what</Link>
          {only === '' ? null : (
            <Chip
              label={`only ${only}`}
              onDelete={() => {
                for (const name of ['only', 'item']) address.put(name, '');
              }}
            />
          )}
        </>
      }
      noun="loan"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/stock/loans/${id}`}
      empty={
        <>
          Nothing is lent. What somebody takes for a while, and brings back, stays yours: it is kept here who has it, and until when.{' '}
          {may ? <Link to="/stock/loans/new">Lend something</Link> : null}
        </>
      }
      peek={({ id }) => <LoanPeek id={id} />}
      next={(row) =>
        may
          ? { label: 'Lend things', run: () => void navigate('/stock/loans/new') }
          : row && { label: `Open ${row.number}`, run: () => void navigate(`/stock/loans/${row.id}`) }
      }
      actions={(row) =>
        row ? (
          <Button component={Link} to={`/stock/loans/${row.id}`}>
            Open {row.number}
          </Button>
        ) : null
      }
    />
  );
}

const columns = (today: string): Column<LoanRow>[] => [
  {
    name: 'Loan',
    text: (row) => row.number,
    cell: (row) => (
      <>
        <span className="code strong">{row.number}</span>
        <span className="name">{row.holder}</span>
      </>
    ),
  },
  { name: 'Items', wide: true, cell: (row) => <span className="code">{row.items}</span> },
  {
    name: 'Out',
    number: true,
    cell: (row) => (
      <>
        {quantity(row.out, true)}
        {Number(row.back) > 0 ? <small className="quiet name">{quantity(row.back)} back</small> : null}
      </>
    ),
  },
  { name: 'Since', wide: true, cell: (row) => <span className="quiet">{shortDay(row.lentOn, today)}</span> },
  {
    name: 'Due',
    cell: (row) => (
      <>
        <Due day={row.dueOn} today={today} late={row.overdue} none="no day said" />
        {row.reminds ? <ReminderSign /> : null}
      </>
    ),
  },
  { name: 'State', wide: true, cell: (row) => row.state },
];

function LoanPeek({ id }: { id: number }) {
  const { data, error } = useLoanQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.number}`}>
      <h2>
        {data.number}
        <span>{data.state}</span>
      </h2>
      <Table>
        <TableBody>
          {data.lineRows.map((line) => (
            <TableRow key={line.id}>
              <ItemCell of={line}>{line.lot ? <small className="quiet">{line.lot}</small> : null}</ItemCell>
              <TableCell align="right">{quantity(line.lent)}</TableCell>
              <TableCell className="quiet">{Number(line.out) > 0 ? `${quantity(line.out)} out` : 'back'}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
