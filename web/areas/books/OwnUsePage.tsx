import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { OwnUse } from '@larder/contract/bearers';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { useIsRested } from '../../kit/delayed';
import { Choice } from '../../kit/Field';
import { money, quantity, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { BookTabs } from '../../shared/BookTabs';
import { DayRange, daysOf } from '../../shared/DayRange';
import { useMeQuery } from '../../shared/me';
import { useReferenceQuery } from '../../shared/reference';
import { useOwnUseInAllQuery, useOwnUseInfiniteQuery } from './api';

/** What the business used itself and owes tax on; the tax adds up to what stands on its account. */
export function OwnUsePage() {
  useTitle('Own use');
  const navigate = useNavigate();
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const { data: reference } = useReferenceQuery({});
  const question = { q: address.get('q'), departmentId: Number(address.get('department')) || undefined, ...daysOf(address) };
  const useList = () => useGoing(useOwnUseInfiniteQuery({ query: question }));
  const { currentData: inAll } = useOwnUseInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const today = me?.company.today ?? '';
  const columns = useMemo(() => columnsOf(today, inAll), [today, inAll]);
  const departments = reference?.departments ?? [];
  const isWhole = question.q === '' && question.departmentId === undefined;
  return (
    <ListPage
      title="Books"
      beside={<BookTabs />}
      address={address}
      find={{ label: 'Find in own use', placeholder: 'Item, person, note' }}
      filters={
        <>
          {departments.length > 0 ? (
            <Box sx={{ width: 150 }}>
              <Choice
                label="Department"
                none="Any"
                value={address.get('department')}
                onChange={(id) => address.put('department', id)}
                options={departments.map(({ id, name }) => ({ value: String(id), label: name }))}
              />
            </Box>
          ) : null}
          <DayRange address={address} />
        </>
      }
      noun="posting"
      columns={columns}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ movementId }) => movementId}
      hrefOf={entryOf}
      empty={
        <>
          The business used nothing that tax is due on. Which tax is due is said with the <Link to="/setup?section=reasons">reason</Link>, or on the{' '}
          <Link to="/stock/correction">sheet</Link>.
        </>
      }
      peek={(row) => (
        <Card component="aside" aria-label={`About ${row.used}`}>
          <h2>
            {row.used}
            <span>{row.person}</span>
          </h2>
          <p className="pad">
            {money(row.tax)} is {quantity(row.rate)} % of {money(row.base)}, which the goods {row.undo ? 'had been taken out at' : 'had cost'}.
          </p>
          {row.note === '' ? null : <p className="pad quiet">{row.note}</p>}
          {inAll && isWhole ? (
            <p className="pad quiet">
              In these days <Link to={`/books/accounts/${inAll.account.id}`}>{`${inAll.account.code} ${inAll.account.name}`}</Link> took{' '}
              {money(inAll.account.booked)}
              {inAll.account.booked === inAll.tax ? ', the same as all of these together.' : `; these together are ${money(inAll.tax)}.`}
            </p>
          ) : null}
        </Card>
      )}
      next={(row) => row && { label: 'Show its entry', run: () => void navigate(entryOf(row)) }}
      actions={() => (
        <Button component={Link} to={`/books/accounts/${inAll?.account.id ?? ''}`} disabled={!inAll}>
          Its account
        </Button>
      )}
    />
  );
}

/** The entry of a posting, among those of its day on the account that bears it. */
const entryOf = (row: OwnUse): string => `/books/journal?account=${row.accountId}&from=${row.day}&to=${row.day}`;

const columnsOf = (today: string, inAll: { base: string; tax: string } | undefined): Column<OwnUse>[] => [
  { name: 'Day', cell: (row) => shortDay(row.day, today) },
  {
    name: 'Used',
    text: (row) => row.used,
    cell: (row) => (
      <>
        <span className="code strong">{row.used}</span>
        {row.undo ? <span className="name">undone</span> : row.undone ? <span className="name">undone since</span> : null}
      </>
    ),
  },
  { name: 'By', wide: true, cell: (row) => row.person },
  { name: 'Department', wide: true, cell: (row) => row.department ?? '' },
  { name: 'Had cost', number: true, wide: true, cell: (row) => money(row.base), sum: inAll && money(inAll.base) },
  { name: 'Rate', number: true, wide: true, cell: (row) => `${quantity(row.rate)} %` },
  { name: 'Tax', number: true, cell: (row) => <b>{money(row.tax)}</b>, sum: inAll && money(inAll.tax) },
];
