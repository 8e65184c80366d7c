import { count, money } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useCompareQuery } from './api';

/** Both sides, account by account, and documents that only one of them has. */
export function Comparison() {
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
