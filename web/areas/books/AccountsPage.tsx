import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { useState } from 'react';
import { Link } from 'react-router';
import { accountTypes } from '@larder/contract/books';
import { purposeWords, type BookPurpose } from '@larder/core/books/purpose';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { money } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useAccountsQuery } from '../../shared/accounts';
import { useCreateAccountMutation } from './api';
import { BookTabs } from '../../shared/BookTabs';

/** The chart of accounts with what stands on each. */
export function AccountsPage() {
  useTitle('Accounts');
  const { data, error } = useAccountsQuery({});
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const [type, setType] = useState<(typeof accountTypes)[number]>('expense');
  const [create, creating] = useCreateAccountMutation();
  const { refused, busy, at } = refusalOf(creating);
  const add = async () => {
    if ((await create({ body: { code, name, type } })).error) return;
    setCode('');
    setName('');
  };
  if (!data) return <Waiting error={error} />;
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Books</h1>
          <BookTabs />
        </PageHead>
        <Card component="div">
          <Table aria-label="Accounts">
            <TableHead>
              <TableRow>
                <TableCell>Account</TableCell>
                <TableCell>Name</TableCell>
                <TableCell>Kind</TableCell>
                <TableCell className="wide-only">Used for</TableCell>
                <TableCell align="right">Debit</TableCell>
                <TableCell align="right">Credit</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {data.rows.map((row) => (
                <TableRow key={row.id}>
                  <TableCell className="code">{row.code}</TableCell>
                  <TableCell>
                    <Link to={`/books/accounts/${row.id}`}>{row.name}</Link>
                  </TableCell>
                  <TableCell className="quiet">{row.type}</TableCell>
                  <TableCell className="quiet wide-only">{row.purpose === null ? '' : purposeWords[row.purpose as BookPurpose]}</TableCell>
                  <TableCell align="right">{Number(row.balance) > 0 ? money(row.balance) : ''}</TableCell>
                  <TableCell align="right">{Number(row.balance) < 0 ? money(row.balance.slice(1)) : ''}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      </Stack>
      <Card aria-label="New account">
        <h2>New account</h2>
        <Stack pad>
          <Refused error={refused} />
          <Field label="Number" value={code} onChange={setCode} error={at('code')} />
          <Field label="Name" value={name} onChange={setName} error={at('name')} />
          <Choice
            label="Kind"
            value={type}
            onChange={(value) => setType(value as typeof type)}
            options={accountTypes.map((value) => ({ value, label: value }))}
          />
          <Button disabled={busy || code === '' || name === ''} onClick={() => void add()}>
            Add the account
          </Button>
        </Stack>
      </Card>
      <BottomBar hint="Debits and credits are the same in all, always" />
    </Split>
  );
}
