import type { HandedRow } from '@larder/contract/handover';
import { money, shortDay } from '../../kit/format';
import { Pager } from '../../kit/Pager';
import { usePages } from '../../kit/pages';
import { Waiting } from '../../kit/states';
import { useHandedQuery } from './api';

export function Gone({ q, today, back, busy }: { q: string; today: string; back: (id: number) => void; busy: boolean }) {
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
