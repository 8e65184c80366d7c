import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { decimal, sum } from '@larder/core/decimal';
import { BottomBar } from '../../kit/BottomBar';
import { count, money, shortDay } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useClearingQuery } from '../../shared/charges';
import { BookTabs } from '../../shared/BookTabs';

/** Estimates of charges that wait for a bill, by worksheet; what they add up to is what the account says. */
export function ClearingPage() {
  useTitle('Clearing');
  const navigate = useNavigate();
  const { data, error } = useClearingQuery({});
  const { data: me } = useMeQuery({});
  const [chosen, setChosen] = useState<number[]>([]);
  if (!data) return <Waiting error={error} />;
  const sheets = [...new Set(data.rows.map(({ sheetId }) => sheetId))];
  const rows = data.rows.filter(({ id }) => chosen.includes(id));
  const toggle = (id: number) => setChosen(chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id]);
  return (
    <div className="stack">
      <div className="head" style={{ margin: 0 }}>
        <h1>Books</h1>
        <BookTabs />
        <span className="side">
          <b>{money(data.balance)}</b> <span className="quiet">on landed cost clearing, the same as the open entries</span>
        </span>
      </div>
      {data.rows.length === 0 ? (
        <p className="card state">Nothing is open: every charge that was estimated has been billed, and the account stands at zero.</p>
      ) : null}
      {sheets.map((sheetId) => {
        const group = data.rows.filter((row) => row.sheetId === sheetId);
        const [first] = group;
        return (
          <section key={sheetId} className="card" aria-label={first?.sheet}>
            <h2>
              <Link className="code" to={`/books/landed/${sheetId}`}>
                {first?.sheet}
              </Link>{' '}
              {first?.deliveries}
              <span>since {first ? shortDay(first.since, me?.company.today ?? '') : ''}</span>
            </h2>
            <table aria-label={`Open charges of ${first?.sheet ?? ''}`}>
              <tbody>
                {group.map((row) => (
                  <tr key={row.id}>
                    <td style={{ width: 36 }}>
                      <input
                        type="checkbox"
                        aria-label={`Choose ${row.name} of ${row.sheet}`}
                        checked={chosen.includes(row.id)}
                        onChange={() => toggle(row.id)}
                      />
                    </td>
                    <td>{row.name}</td>
                    <td className="quiet">{row.party ?? 'not known yet who bills'}</td>
                    <td className="number quiet wide-only">estimated {money(row.estimate)}</td>
                    <td className="number quiet wide-only">{Number(row.cleared) === 0 ? '' : `billed ${money(row.cleared)}`}</td>
                    <td className="number strong">{money(row.open)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        );
      })}
      <BottomBar
        hint={
          rows.length > 0
            ? `${count(rows.length, 'charge')}, ${money(sum(rows.map(({ open }) => decimal(open))).toFixed(2))} open`
            : 'Choose what the bill in hand is for'
        }
        next={{ label: 'Enter the bill for these', run: () => void navigate(`/books/bills/new?charges=${chosen.join(',')}`), disabled: rows.length === 0 }}
      />
    </div>
  );
}
