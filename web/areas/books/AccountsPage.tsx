import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Link } from 'react-router';
import { accountTypes } from '@larder/contract/books';
import { purposeWords, type BookPurpose } from '@larder/core/books/purpose';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { money } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { May } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useAccountsQuery } from '../../shared/accounts';
import { useCreateAccountMutation } from './api';
import { BookTabs } from '../../shared/BookTabs';

/** The chart of accounts with what stands on each. */
export function AccountsPage() {
  useTitle('Accounts');
  const { data, error } = useAccountsQuery({});
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
                <TableCell sx={{ minWidth: { xs: 90, sm: 130 } }}>Name</TableCell>
                <TableCell className="wide-only">Kind</TableCell>
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
                  <TableCell className="quiet wide-only">{row.type}</TableCell>
                  <TableCell className="quiet wide-only">{row.purpose === null ? '' : purposeWords[row.purpose as BookPurpose]}</TableCell>
                  <TableCell align="right">{Number(row.balance) > 0 ? money(row.balance) : ''}</TableCell>
                  <TableCell align="right">{Number(row.balance) < 0 ? money(row.balance.slice(1)) : ''}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      </Stack>
      <May to="setup.edit">
        <NewAccount />
      </May>
      <BottomBar hint="Debits and credits are the same in all, always" />
    </Split>
  );
}

interface AccountForm {
  code: string;
  name: string;
  type: (typeof accountTypes)[number];
}
const { Choice, Field } = fieldsOf<AccountForm>();

function NewAccount() {
  const [create] = useCreateAccountMutation();
  const say = useSay();
  const form = useForm({
    came: { code: '', name: '', type: 'expense' },
    body: (typed: AccountForm) => typed,
    checkedBy: async () => (await import('@larder/contract/books')).createAccount.body,
  });
  const add = async () => {
    const made = await form.send((body) => create({ body }));
    if (!made) return;
    say({ text: `${form.getValues('code')} ${form.getValues('name')} is added.` });
    form.reset();
  };
  return (
    <FormFrame form={form} save={() => void add()}>
      <Card aria-label="New account">
        <h2>New account</h2>
        <Stack pad>
          <Refused error={form.refused} />
          <Field label="Number" name="code" />
          <Field label="Name" name="name" />
          <Choice label="Kind" name="type" options={accountTypes.map((value) => ({ value, label: value }))} />
          <Button disabled={form.isBusy} onClick={() => void add()}>
            Add the account
          </Button>
        </Stack>
      </Card>
    </FormFrame>
  );
}
