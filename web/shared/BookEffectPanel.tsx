import { Link } from 'react-router';
import type { BookEffects } from '@larder/contract/bills';
import { problemOf } from '../kit/problem';
import { money } from '../kit/format';

interface BookEffectPanelProps {
  title: string;
  effects: BookEffects | undefined;
  error?: unknown;
  idle: string;
}

/** What a posting does to the accounts: in words first, then the figures. */
export function BookEffectPanel({ title, effects, error, idle }: BookEffectPanelProps) {
  const problem = problemOf(error);
  return (
    <section className="card" aria-label={title} aria-live="polite">
      <h2>{title}</h2>
      {problem ? <p className="pad late">{problem.title}</p> : null}
      {!problem && !effects ? <p className="pad quiet">{idle}</p> : null}
      {!problem && effects && effects.words.length + effects.entry.length === 0 ? <p className="pad quiet">Nothing changes in the accounts.</p> : null}
      {!problem && effects ? (
        <>
          {effects.words.map((sentence) => (
            <p key={sentence} className="pad" style={{ paddingBottom: 0 }}>
              {sentence}
            </p>
          ))}
          {effects.entry.length > 0 ? (
            <table className="compact" style={{ margin: '10px 0' }}>
              <thead>
                <tr>
                  <th>Account</th>
                  <th className="number">Debit</th>
                  <th className="number">Credit</th>
                </tr>
              </thead>
              <tbody>
                {effects.entry.map(({ accountId, code, name, amount }) => (
                  <tr key={accountId}>
                    <td>
                      <Link to={`/books/accounts/${accountId}`}>
                        <span className="code quiet">{code}</span> {name}
                      </Link>
                    </td>
                    <td className="number">{Number(amount) > 0 ? money(amount) : ''}</td>
                    <td className="number">{Number(amount) < 0 ? money(amount.slice(1)) : ''}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          ) : null}
        </>
      ) : null}
    </section>
  );
}
