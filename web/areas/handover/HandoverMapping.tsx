import type { Standing } from '@larder/contract/handover';
import { count } from '../../kit/format';

/** Our accounts, and to which of theirs each goes. */
export function Mapping({ standing, map, busy }: { standing: Standing; map: (accountId: number, code: string) => void; busy: boolean }) {
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
