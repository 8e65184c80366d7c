import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { InvoiceRow } from '@larder/contract/invoices';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { useIsRested } from '../../kit/delayed';
import { Due } from '../../kit/Due';
import { amount, shortDay, sums } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage, PeekWaiting } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { useTitle } from '../../kit/title';
import { BookTabs } from '../../shared/BookTabs';
import { useMeQuery } from '../../shared/me';
import { useInvoiceQuery, useInvoicesInAllQuery, useInvoicesInfiniteQuery } from './api';

const shows = [
  ['open', 'To be paid'],
  ['late', 'Late'],
  ['all', 'All'],
] as const;

/** Invoices and credit notes: what is to be paid of them, and when. */
export function InvoicesPage() {
  useTitle('Invoices');
  const navigate = useNavigate();
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const question = { show: address.choice('show', shows), q: address.get('q') };
  const useList = () => useGoing(useInvoicesInfiniteQuery({ query: question }));
  const { currentData: inAll } = useInvoicesInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(me?.company.today ?? '', inAll?.open), [me?.company.today, inAll?.open]);
  return (
    <ListPage
      title="Books"
      beside={<BookTabs />}
      address={address}
      find={{ label: 'Find invoices', placeholder: 'Number, customer, order, amount, day' }}
      filters={<AddressTabs label="Which invoices" address={address} name="show" options={shows} />}
      noun="invoice"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/books/invoices/${id}`}
      empty={
        question.show === 'all' ? (
          <>
            No invoice yet. What has gone out and is to be invoiced stands under <Link to="/outbound/to-invoice">To invoice</Link>.
          </>
        ) : (
          <>
            No customer owes anything{question.show === 'late' ? ' that is due' : ''}. <Link to="/outbound/to-invoice">What is to be invoiced</Link>
          </>
        )
      }
      peek={({ id }) => <InvoicePeek id={id} />}
      next={(row) => row && { label: `Open ${row.number}`, run: () => void navigate(`/books/invoices/${row.id}`) }}
      actions={() => null}
    />
  );
}

const columns = (today: string, inAll: Parameters<typeof sums>[0] | undefined): Column<InvoiceRow>[] => [
  { name: '', wide: true, cell: (row) => (row.kind === 'credit' ? null : <Moon done={String(Number(row.total) - Number(row.open))} of={row.total} />) },
  {
    name: 'Invoice',
    text: (row) => row.number,
    cell: (row) => (
      <>
        <span className="code strong">{row.number}</span>
        {row.kind === 'credit' ? <small className="here"> credit note</small> : null}
      </>
    ),
  },
  { name: 'To', cell: (row) => row.party },
  { name: 'Orders', wide: true, cell: (row) => <span className="code quiet">{row.orders}</span> },
  { name: 'Dated', wide: true, cell: (row) => shortDay(row.invoicedOn, today) },
  { name: 'State', wide: true, cell: (row) => row.state },
  { name: 'Due', cell: (row) => (row.kind === 'credit' ? '' : <Due day={row.dueOn} today={today} late={row.late} />) },
  { name: 'Open', number: true, cell: (row) => (Number(row.open) === 0 ? '' : `${amount(row.open)} ${row.currency}`), sum: inAll && sums(inAll) },
  { name: 'Total', number: true, wide: true, cell: (row) => amount(row.kind === 'credit' ? `-${row.total}` : row.total) },
];

function InvoicePeek({ id }: { id: number }) {
  const { data, error } = useInvoiceQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.number}`}>
      <h2>
        {data.number} {data.party}
        <span>{data.state}</span>
      </h2>
      <Table>
        <TableBody>
          {data.lines.map((line) => (
            <TableRow key={line.id}>
              <TableCell>
                {line.sku === '' ? null : <span className="code">{line.sku} </span>}
                {line.text}
              </TableCell>
              <TableCell align="right">{line.asOrdered}</TableCell>
              <TableCell align="right">{amount(line.amount)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <p className="pad quiet">
        {data.handedOver ? 'It has come to the customer.' : 'It has not gone to the customer yet.'}
        {data.reference === '' ? '' : ` Their order ${data.reference}.`}
      </p>
    </Card>
  );
}
