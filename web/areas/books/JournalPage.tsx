import Button from '@mui/material/Button';
import { PageHead, Side, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { Pager } from '../../kit/Pager';
import { usePages } from '../../kit/pages';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useJournalQuery } from './api';
import { BookTabs } from '../../shared/BookTabs';
import { JournalList } from './JournalList';
import { FindField } from '../../kit/FindField';
import { useFile, WorkProgress } from '../../shared/work';

/** Every entry, newest first; found by document, party, amount or day, and taken out as a file. */
export function JournalPage() {
  useTitle('Journal');
  const file = useFile();
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const question = { q: address.get('q') };
  const pages = usePages(question);
  const { data, error } = useJournalQuery({ query: { ...question, cursor: pages.cursor, limit: 30 } });
  if (!data || !me) return <Waiting error={error} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Books</h1>
        <BookTabs />
        <Side>
          <FindField address={address} label="Find entries" placeholder="Document, party, amount, day" />
          <Pager pages={pages} next={data.next} />
        </Side>
      </PageHead>
      {file.fault ? <Notice kind="refused">{file.fault}</Notice> : null}
      <WorkProgress of={file.key} what="entries" />
      <JournalList rows={data.rows} today={me.company.today} label="Journal" />
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
