import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { Pager } from '../../kit/Pager';
import { usePages } from '../../kit/pages';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../people/api';
import { useJournalQuery } from './api';
import { BookTabs } from './BookTabs';
import { JournalList } from './JournalList';
import { FindField } from '../../kit/FindField';

/** Every entry, newest first; found by document, party, amount or day, and taken out as a file. */
export function JournalPage() {
  useTitle('Journal');
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const question = { q: address.get('q') };
  const pages = usePages(question);
  const { data, error } = useJournalQuery({ query: { ...question, cursor: pages.cursor, limit: 30 } });
  if (!data || !me) return <Waiting error={error} />;
  return (
    <div className="stack">
      <div className="head" style={{ margin: 0 }}>
        <h1>Books</h1>
        <BookTabs />
        <span className="side">
          <FindField address={address} label="Find entries" placeholder="Document, party, amount, day" />
          <Pager pages={pages} next={data.next} />
        </span>
      </div>
      <JournalList rows={data.rows} today={me.company.today} label="Journal" />
      <BottomBar hint="Each entry balances; its document opens from here">
        <a className="button" href="/api/books/journal/file?format=csv" download="journal.csv">
          Take out as CSV
        </a>
        <a className="button" href="/api/books/journal/file?format=journal" download="journal.txt">
          Take out as plain text
        </a>
      </BottomBar>
    </div>
  );
}
