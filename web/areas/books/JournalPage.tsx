import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { PageHead, Side, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useAddress, type Address } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { useGoing } from '../../kit/going';
import { Onward } from '../../kit/Onward';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useJournalInfiniteQuery } from './api';
import { BookTabs } from '../../shared/BookTabs';
import { JournalList } from './JournalList';
import { DayRange, daysOf } from '../../shared/DayRange';
import { useAccountsQuery } from '../../shared/accounts';
import { useReferenceQuery } from '../../shared/reference';
import { Choice } from '../../kit/Field';
import { FindField } from '../../kit/FindField';
import { useFile, WorkProgress } from '../../shared/work';

/** Every entry, newest first; found by document, party, amount or day, and taken out as a file. */
export function JournalPage() {
  useTitle('Journal');
  const file = useFile();
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const question = {
    q: address.get('q'),
    accountId: Number(address.get('account')) || undefined,
    departmentId: Number(address.get('department')) || undefined,
    ...daysOf(address),
  };
  const list = useGoing(useJournalInfiniteQuery({ query: question }));
  if (!list.rows || !me) return <Waiting error={list.error} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Books</h1>
        <BookTabs />
        <Side>
          <FindField address={address} label="Find entries" placeholder="Document, party, amount, day" />
          <JournalFilters address={address} />
        </Side>
      </PageHead>
      {file.fault ? <Notice kind="refused">{file.fault}</Notice> : null}
      <WorkProgress of={file.key} what="entries" />
      <JournalList rows={list.rows} today={me.company.today} label="Journal" />
      <Onward list={list} />
      <BottomBar hint="Each entry balances; its document opens from here">
        <Button disabled={file.key !== null} onClick={() => void file.take('/api/books/journal/file?format=csv', 'journal.csv')}>
          Export as CSV
        </Button>
        <Button disabled={file.key !== null} onClick={() => void file.take('/api/books/journal/file?format=journal', 'journal.txt')}>
          Export as plain text
        </Button>
      </BottomBar>
    </Stack>
  );
}

/** What the entries are held to: days, a line on an account, a line of a department. */
function JournalFilters({ address }: { address: Address }) {
  const { data: accounts } = useAccountsQuery({});
  const { data: reference } = useReferenceQuery({});
  const departments = reference?.departments ?? [];
  return (
    <>
      <Box sx={{ width: 190 }}>
        <Choice
          label="Account"
          none="Any"
          value={address.get('account')}
          onChange={(id) => address.put('account', id)}
          options={(accounts?.rows ?? []).map(({ id, code, name }) => ({ value: String(id), label: `${code} ${name}` }))}
        />
      </Box>
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
  );
}
