import { useMemo } from 'react';
import { useMay } from '../../shared/may';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { Link, useNavigate } from 'react-router';
import type { BillRow } from '@larder/contract/bills';
import { useAddress } from '../../kit/address';
import { Due } from '../../kit/Due';
import { amountsIn, amount, money, shortDay, sums } from '../../kit/format';
import { PeekWaiting } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { useIsRested } from '../../kit/delayed';
import { useGoing } from '../../kit/going';
import { AddressTabs } from '../../kit/AddressTabs';
import { useTitle } from '../../kit/title';
import { Report } from '../../shared/Report';
import { useMeQuery } from '../../shared/me';
import { useBillQuery, useBillsInAllQuery, useBillsInfiniteQuery } from './api';
import { BookTabs } from '../../shared/BookTabs';

const shows = [
  ['open', 'To pay'],
  ['waiting', 'Waiting for goods'],
  ['all', 'All'],
] as const;

export function BillsPage() {
  useTitle('Bills');
  const navigate = useNavigate();
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const show = address.choice('show', shows);
  const question = { show, q: address.get('q') };
  const mayBill = useMay('books.bill', null);
  const useList = () => useGoing(useBillsInfiniteQuery({ query: question }));
  const { currentData: inAll } = useBillsInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(me?.company.today ?? '', inAll?.open), [me?.company.today, inAll?.open]);
  return (
    <Report
      laidOutAs="bills"
      out={{ list: 'bills', only: question }}
      title="Books"
      beside={<BookTabs />}
      address={address}
      find={{ label: 'Find bills', placeholder: 'Number, party, amount, day' }}
      filters={<AddressTabs label="Which bills" address={address} name="show" options={shows} />}
      noun="bill"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/books/bills/${id}`}
      empty={
        <>
          Nothing is to be paid. <Link to="/books/bills/new">Enter a bill</Link>
        </>
      }
      peek={({ id }) => <BillPeek id={id} />}
      next={(row) =>
        mayBill
          ? { label: 'Enter a bill', run: () => void navigate('/books/bills/new') }
          : row && { label: `Open ${row.number}`, run: () => void navigate(`/books/bills/${row.id}`) }
      }
      actions={(row) => (
        <>
          {row && mayBill ? (
            <Button component={Link} to={`/books/bills/${row.id}`}>
              Open {row.number}
            </Button>
          ) : null}
        </>
      )}
    />
  );
}

const columns = (today: string, inAll: Parameters<typeof sums>[0] | undefined): Column<BillRow>[] => [
  { name: '', wide: true, cell: (row) => <Moon done={String(Number(row.total) - Number(row.open))} of={row.total} /> },
  {
    name: 'Bill',
    text: (row) => row.number,
    cell: (row) => (
      <>
        <span className="code strong">{row.number}</span>
        {row.kind === 'credit' ? <small className="here"> credit</small> : null}
      </>
    ),
  },
  { name: 'From', cell: (row) => row.party },
  { name: 'Their number', wide: true, cell: (row) => <span className="code quiet">{row.reference}</span> },
  { name: 'Dated', wide: true, cell: (row) => shortDay(row.billedOn, today) },
  { name: 'State', wide: true, cell: (row) => row.state },
  { name: 'Due', cell: (row) => <Due day={row.dueOn} today={today} late={row.late} /> },
  {
    name: 'Open',
    number: true,
    cell: (row) => (Number(row.open) === 0 ? '' : `${amount(row.open)} ${row.currency}`),
    sum: inAll && sums(inAll),
  },
  { name: 'Total', number: true, wide: true, cell: (row) => amount(row.total) },
];

function BillPeek({ id }: { id: number }) {
  const { data, error } = useBillQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.number}`}>
      <h2>
        {data.number} {data.party}
        <span>{data.state}</span>
      </h2>
      <Table>
        <TableBody>
          {data.lines.map((line, index) => (
            <TableRow key={index}>
              <TableCell>
                {line.text}
                {Number(line.difference) === 0 ? null : <small className="quiet name">{money(line.difference)} other than expected</small>}
              </TableCell>
              <TableCell align="right">{amount(line.amount)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {data.words.map((sentence) => (
        <Box component="p" key={sentence} className="pad quiet" sx={{ paddingBottom: 4 }}>
          {amountsIn(sentence)}
        </Box>
      ))}
    </Card>
  );
}
