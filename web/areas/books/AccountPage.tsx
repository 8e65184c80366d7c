import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { useParams } from 'react-router';
import { bookPurposes, purposeWords, type BookPurpose } from '@larder/core/books/purpose';
import { BottomBar } from '../../kit/BottomBar';
import { DocumentLink } from '../../kit/DocumentLink';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, money } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Onward } from '../../kit/Onward';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { May, useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useAccountQuery, useEditAccountMutation, useMapPurposeMutation, useJournalInfiniteQuery } from './api';
import { BookTabs } from '../../shared/BookTabs';
import { JournalList } from './JournalList';
import { useSay } from '../../shared/say';

/** One account: its balance, what is open on it, and its entries. */
export function AccountPage() {
  const { id = '' } = useParams();
  const accountId = Number(id);
  const { data, error } = useAccountQuery({ params: { id: accountId } });
  const { data: me } = useMeQuery({});
  const journal = useGoing(useJournalInfiniteQuery({ query: { accountId } }));
  useTitle(data?.name ?? 'Account');
  if (!data || !me || !journal.rows) return <Waiting error={error} />;
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>
            {data.code} {data.name}
          </h1>
          <BookTabs />
          <Side>
            <b>{money(data.balance.replace('-', ''))}</b> <span className="quiet">{Number(data.balance) < 0 ? 'credit' : 'debit'}</span>
          </Side>
        </PageHead>
        <JournalList rows={journal.rows} today={me.company.today} label="Entries" />
        <Onward list={journal} />
      </Stack>
      <Stack>
        {data.openItems ? (
          <Card aria-label="Open items">
            <h2>
              Open items<span>{count(data.openItems.length, 'item')}, the balance to the cent</span>
            </h2>
            <Table aria-label="Open items">
              <TableBody>
                {data.openItems.map((one, index) => (
                  <TableRow key={index}>
                    <TableCell>
                      <DocumentLink document={one.document} />
                      <span className="name quiet">{one.text}</span>
                    </TableCell>
                    <TableCell align="right">{money(one.amount)}</TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
        ) : null}
        <UsedFor account={data} />
        <May to="setup.edit">
          <Rename key={`${data.code} ${data.name}`} id={accountId} code={data.code} name={data.name} />
        </May>
      </Stack>
      <BottomBar hint="Every figure comes from an entry, every entry from its document" />
    </Split>
  );
}

/** What postings use the account for; an account that is used for nothing can take a purpose over from another. */
function UsedFor({ account }: { account: { id: number; purpose: string | null } }) {
  const mayTake = useMay('setup.edit');
  return (
    <Card aria-label="Used for">
      <h2>Used for</h2>
      <Stack pad>
        {account.purpose !== null ? (
          <p>{purposeWords[account.purpose as BookPurpose]}</p>
        ) : mayTake ? (
          <TakeOver accountId={account.id} />
        ) : (
          <p>No posting uses it by itself.</p>
        )}
      </Stack>
    </Card>
  );
}

interface PurposeForm {
  purpose: BookPurpose;
}
const { Choice } = fieldsOf<PurposeForm>();

function TakeOver({ accountId }: { accountId: number }) {
  const [map] = useMapPurposeMutation();
  const form = useForm({
    came: { purpose: 'price-variance' as const },
    body: ({ purpose }: PurposeForm) => ({ purpose, accountId }),
    checkedBy: async () => (await import('@larder/contract/books')).mapPurpose.body,
  });
  const say = useSay();
  const keep = async () => {
    if (await form.send((body) => map({ body }))) say({ text: `From now on it is used for: ${purposeWords[form.getValues('purpose')]}.` });
  };
  return (
    <FormFrame form={form} save={() => void keep()} fleeting>
      <Refused error={form.refused} />
      <Choice label="Let postings use it for" name="purpose" options={bookPurposes.map((value) => ({ value, label: purposeWords[value] }))} />
      <Button disabled={form.isBusy} onClick={() => void keep()}>
        Use it for this
      </Button>
    </FormFrame>
  );
}

interface NameForm {
  code: string;
  name: string;
}
const { Field } = fieldsOf<NameForm>();

function Rename({ id, code, name }: { id: number; code: string; name: string }) {
  const [edit] = useEditAccountMutation();
  const form = useForm({
    came: { code, name },
    body: (typed: NameForm) => typed,
    checkedBy: async () => (await import('@larder/contract/books')).editAccount.body,
  });
  const say = useSay();
  const keep = async () => {
    if (await form.send((body) => edit({ params: { id }, body }))) say({ text: 'Number and name are saved.' });
  };
  return (
    <FormFrame form={form} save={() => void keep()}>
      <Card aria-label="Number and name">
        <h2>Number and name</h2>
        <Stack pad>
          <Refused error={form.refused} />
          <Field label="Number" name="code" />
          <Field label="Name" name="name" />
          <Button disabled={form.isBusy || !form.isTyped} onClick={() => void keep()}>
            Save
          </Button>
        </Stack>
      </Card>
    </FormFrame>
  );
}
