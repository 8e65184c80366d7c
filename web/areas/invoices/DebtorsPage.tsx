import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { agesOfDebt } from '@larder/core/books/payment';
import type { Debtor } from '@larder/contract/invoices';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { useIsRested } from '../../kit/delayed';
import { Due } from '../../kit/Due';
import { amount, count, money, sums } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { BookTabs } from '../../shared/BookTabs';
import { useMeQuery } from '../../shared/me';
import { useDebtorsInAllQuery, useDebtorsInfiniteQuery } from './api';

export const accountOf = ({ partyId, currency }: Pick<Debtor, 'partyId' | 'currency'>): string => `/books/debtors/${partyId}?currency=${currency}`;

/** What each customer owes, and since when it is due. */
export function DebtorsPage() {
  useTitle('Who owes');
  const navigate = useNavigate();
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const question = { q: address.get('q') };
  const useList = () => useGoing(useDebtorsInfiniteQuery({ query: question }));
  const { currentData: inAll } = useDebtorsInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(me?.company.today ?? '', inAll?.open), [me?.company.today, inAll?.open]);
  return (
    <ListPage
      title="Books"
      beside={<BookTabs />}
      address={address}
      find={{ label: 'Find customers who owe', placeholder: 'Customer' }}
      noun="customer"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ partyId }) => partyId}
      hrefOf={accountOf}
      empty={
        <>
          No customer owes anything. <Link to="/outbound/to-invoice">What is to be invoiced</Link>
        </>
      }
      peek={(row) => <Ages row={row} />}
      next={(row) => row && { label: `Open the account of ${row.party}`, run: () => void navigate(accountOf(row)) }}
      actions={() => null}
    />
  );
}

const columns = (today: string, inAll: Parameters<typeof sums>[0] | undefined): Column<Debtor>[] => [
  { name: 'Customer', text: (row) => row.party, cell: (row) => <b>{row.party}</b> },
  { name: 'Invoices', number: true, wide: true, cell: (row) => row.invoices },
  { name: 'First due', cell: (row) => <Due day={row.firstDueOn} today={today} late={row.firstDueOn < today} /> },
  ...agesOfDebt.map((age): Column<Debtor> => ({
    name: age === 'not due' ? 'Not due' : age === 'longer' ? 'Late for longer' : `Late ${age}`,
    number: true,
    wide: true,
    cell: (row) => (Number(row.ages[age]) === 0 ? '' : amount(row.ages[age])),
  })),
  { name: 'Owes', number: true, cell: (row) => `${amount(row.open)} ${row.currency}`, sum: inAll && sums(inAll) },
];

const Ages = ({ row }: { row: Debtor }) => (
  <Card component="aside" aria-label={`About ${row.party}`}>
    <h2>
      {row.party}
      <span>{count(row.invoices, 'open invoice')}</span>
    </h2>
    <Table aria-label="How long it is due">
      <TableBody>
        {agesOfDebt.map((age) => (
          <TableRow key={age}>
            <TableCell>{age === 'not due' ? 'not due yet' : `late for ${age === 'longer' ? 'more than 60 days' : age}`}</TableCell>
            <TableCell align="right">{money(row.ages[age])}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);
