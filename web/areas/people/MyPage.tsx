import { useState, type FormEvent } from 'react';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { moment } from '../../kit/format';
import { Refused, Saved, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useChangePasswordMutation, useEndSessionMutation, useSessionsQuery } from './api';
import { useMeQuery } from '../../shared/me';

/** One's own password, and where one is signed in. */
export function MyPage() {
  useTitle('Password and sessions');
  const { data: me } = useMeQuery({});
  const { data, error } = useSessionsQuery({});
  const [endSession, ending] = useEndSessionMutation();
  if (!data || !me) return <Waiting error={error} />;
  return (
    <>
      <div className="head">
        <h1>Password and sessions</h1>
        <span className="quiet">
          {me.name}, {me.email}
        </span>
      </div>
      <div className="split">
        <section className="card" aria-label="Sessions">
          <h2>
            Where you are signed in <span className="quiet">a session ends after 14 days without use</span>
          </h2>
          <Refused error={ending.error} />
          <table aria-label="Sessions">
            <thead>
              <tr>
                <th>Browser</th>
                <th>Since</th>
                <th>Last used</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {data.rows.map(({ id, device, startedAt, lastSeenAt, current }) => (
                <tr key={id}>
                  <td>{device === '' ? 'not known' : device}</td>
                  <td>{moment(startedAt)}</td>
                  <td>{moment(lastSeenAt)}</td>
                  <td className="number">
                    {current ? (
                      <span className="quiet">this one</span>
                    ) : (
                      <button
                        type="button"
                        className="button small"
                        disabled={ending.isLoading}
                        aria-label={`End the session of ${moment(startedAt)}`}
                        onClick={() => void endSession({ params: { id } })}
                      >
                        End
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <PasswordCard />
      </div>
      <BottomBar hint="Changing the password ends all other sessions" />
    </>
  );
}

function PasswordCard() {
  const [current, setCurrent] = useState('');
  const [password, setPassword] = useState('');
  const [saved, setSaved] = useState(false);
  const [change, changing] = useChangePasswordMutation();
  const { at, problem, busy } = refusalOf(changing);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setSaved(false);
    const { error } = await change({ body: { current, password } });
    if (error) return;
    setSaved(true);
    setCurrent('');
    setPassword('');
  };
  return (
    <form className="card" aria-label="Password" onSubmit={(event) => void submit(event)}>
      <h2>
        Password <Saved on={saved} />
      </h2>
      <div className="pad stack">
        <Field label="Password you have now" value={current} onChange={setCurrent} error={at('current')} type="password" autoComplete="current-password" />
        <Field
          label="New password, at least 12 characters"
          value={password}
          onChange={setPassword}
          error={at('password')}
          type="password"
          autoComplete="new-password"
        />
        {problem && problem.errors.length === 0 ? <Refused error={changing.error} /> : null}
        <button className="button next" disabled={busy || current === '' || password === ''}>
          Change the password
        </button>
      </div>
    </form>
  );
}
