import { useState } from 'react';
import type { HandedRow, Standing } from '@larder/contract/handover';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { refusalOf } from '../../kit/draft';
import { FindField } from '../../kit/FindField';
import { count, money, shortDay } from '../../kit/format';
import { Pager } from '../../kit/Pager';
import { usePages } from '../../kit/pages';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import {
  useBringInAccountsMutation,
  useCompareQuery,
  useHandedQuery,
  useHandOverMutation,
  useHandoverQuery,
  useMapAccountsMutation,
  useTakeBackMutation,
} from './api';
import { BookTabs } from './BookTabs';

/** How many go at once. */
const most = 1000;

/** Handing the journal over to the accounting service: accounts mapped, entries sent once each, taken back, both sides compared. */
export function HandoverPage() {
  useTitle('Hand-over');
  const { data: standing, error } = useHandoverQuery({});
  const { data: me } = useMeQuery({});
  const [through, setThrough] = useState<string | null>(null);
  const [comparing, setComparing] = useState(false);
  const [bringIn, bringing] = useBringInAccountsMutation();
  const [mapAccounts, mapping] = useMapAccountsMutation();
  const [handOver, handing] = useHandOverMutation();
  const [takeBack, taking] = useTakeBackMutation();
  const { refused, busy } = refusalOf(bringing, mapping, handing, taking);
  const address = useAddress();
  if (!standing || !me) return <Waiting error={error} />;
  const { waiting, ready, outside } = standing;
  const map = (accountId: number, code: string) => void mapAccounts({ body: { rows: [{ accountId, outsideCode: code || null }] } });
  const next =
    outside.length === 0
      ? { label: 'Bring in their accounts', run: () => void bringIn({}), disabled: busy }
      : {
          label: `Hand over ${count(Math.min(ready, most), 'entry', 'entries')}`,
          run: () => void handOver({ body: { through } }),
          disabled: busy || ready === 0,
        };
  return (
    <div className="stack">
      <div className="head" style={{ margin: 0 }}>
        <h1>Books</h1>
        <BookTabs />
        <span className="side">
          <FindField address={address} label="Find what has gone" placeholder="Their number, text, day" />
        </span>
      </div>
      <Refused error={refused} />
      <section className="card pad fields" aria-label="What waits" style={{ alignItems: 'end' }}>
        <p style={{ margin: 0 }}>
          <b>{count(waiting, 'entry waits', 'entries wait')}</b>
          <br />
          <span className={waiting > ready ? 'low' : 'quiet'}>
            {waiting === 0
              ? 'Everything has gone.'
              : waiting > ready
                ? `${count(waiting - ready, 'of them is', 'of them are')} on accounts that are not mapped yet.`
                : 'All of them can go.'}
          </span>
        </p>
        <DayField label="Only up to" lies="behind" value={through} today={me.company.today} onChange={setThrough} />
      </section>
      <div className="split even">
        <div className="stack">
          {comparing ? <Comparison /> : null}
          <Gone q={address.get('q')} today={me.company.today} back={(id) => void takeBack({ params: { id } })} busy={busy} />
        </div>
        <Mapping standing={standing} map={map} busy={busy} />
      </div>
      <BottomBar hint="Each entry goes once; taken back, it may go again" next={next}>
        <button type="button" className="button" aria-pressed={comparing} onClick={() => setComparing(!comparing)}>
          Compare both sides
        </button>
        {outside.length > 0 ? (
          <button type="button" className="button" disabled={busy} onClick={() => void bringIn({})}>
            Bring in their accounts again
          </button>
        ) : null}
      </BottomBar>
    </div>
  );
}

/** Our accounts, and to which of theirs each goes. */
function Mapping({ standing, map, busy }: { standing: Standing; map: (accountId: number, code: string) => void; busy: boolean }) {
  return (
    <section className="card" aria-label="Accounts">
      <h2>
        Accounts<span>ours, and theirs</span>
      </h2>
      {standing.outside.length === 0 ? (
        <p className="pad quiet">Bring in the accounts of the accounting service first; then each of ours is mapped to one of them.</p>
      ) : null}
      <table className="compact">
        <tbody>
          {standing.mapping.map((account) => (
            <tr key={account.accountId}>
              <td>
                <span className="code quiet">{account.code}</span> {account.name}
                {account.outsideCode === null && account.waiting > 0 ? (
                  <small className="low" style={{ display: 'block' }}>
                    {count(account.waiting, 'entry waits', 'entries wait')}
                  </small>
                ) : null}
                {standing.outside.length > 0 ? (
                  <select
                    className="plain"
                    style={{ width: '100%' }}
                    aria-label={`Theirs for ${account.code} ${account.name}`}
                    value={account.outsideCode ?? ''}
                    disabled={busy}
                    onChange={(event) => map(account.accountId, event.target.value)}
                  >
                    <option value="">not mapped</option>
                    {standing.outside.map(({ code, name }) => (
                      <option key={code} value={code}>
                        {code} {name}
                      </option>
                    ))}
                  </select>
                ) : null}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Both sides, account by account, and documents that only one of them has. */
function Comparison() {
  const { data, error } = useCompareQuery({}, { refetchOnMountOrArgChange: true });
  if (!data) return <Waiting error={error} />;
  const odd: [string, readonly string[]][] = [
    ['went out and is not there', data.missing],
    ['is there and never went out', data.unknown],
    ['is there with other amounts', data.different],
  ];
  const even = data.accounts.every(({ same }) => same) && odd.every(([, list]) => list.length === 0);
  return (
    <section className="card" aria-label="Both sides" aria-live="polite">
      <h2>
        Both sides<span>{even ? `agree on ${count(data.documents, 'document')}` : 'differ'}</span>
      </h2>
      {odd
        .filter(([, list]) => list.length > 0)
        .map(([words, list]) => (
          <p key={words} className="pad late">
            {list.join(', ')} {words}.
          </p>
        ))}
      <table className="compact">
        <thead>
          <tr>
            <th>Their account</th>
            <th className="number">Handed over</th>
            <th className="number">There</th>
          </tr>
        </thead>
        <tbody>
          {data.accounts.map((account) => (
            <tr key={account.code}>
              <td>
                <span className="code quiet">{account.code}</span> {account.name}
              </td>
              <td className="number">{money(account.ours)}</td>
              <td className={`number ${account.same ? '' : 'late'}`}>{money(account.theirs)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Gone({ q, today, back, busy }: { q: string; today: string; back: (id: number) => void; busy: boolean }) {
  const question = { q };
  const pages = usePages(question);
  const { data, error } = useHandedQuery({ query: { ...question, cursor: pages.cursor, limit: 30 } });
  if (!data) return <Waiting error={error} />;
  return (
    <section className="card" aria-label="Gone">
      <h2>
        Gone<span>the last first</span>
      </h2>
      {data.rows.length === 0 ? <p className="pad quiet">Nothing has gone that fits.</p> : null}
      <table className="compact">
        <tbody>
          {data.rows.map((row) => (
            <tr key={row.id}>
              <td>
                <span className="code strong">{row.outsideNumber}</span> {row.text}
                <small className="quiet" style={{ display: 'block' }}>
                  {gone(row, today)}
                </small>
              </td>
              <td className="number">{money(row.amount)}</td>
              <td className="number">
                {row.takenBackAt === null ? (
                  <button type="button" className="button small" disabled={busy} aria-label={`Take ${row.outsideNumber} back`} onClick={() => back(row.id)}>
                    Take back
                  </button>
                ) : (
                  <span className="quiet">taken back</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Pager pages={pages} next={data.next} />
    </section>
  );
}

const gone = (row: HandedRow, today: string): string => {
  const back = row.takenBackAt === null ? '' : `; taken back ${shortDay(row.takenBackAt.slice(0, 10), today)} by ${row.takenBackBy ?? ''}`;
  return `of ${shortDay(row.day, today)}, sent ${shortDay(row.sentAt.slice(0, 10), today)} by ${row.person}${back}`;
};
