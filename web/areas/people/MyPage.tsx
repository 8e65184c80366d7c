import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
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
      <PageHead>
        <h1>Password and sessions</h1>
        <span className="quiet">
          {me.name}, {me.email}
        </span>
      </PageHead>
      <Split>
        <Card aria-label="Sessions">
          <h2>
            Where you are signed in <span className="quiet">a session ends after 14 days without use</span>
          </h2>
          <Refused error={ending.error} />
          <Table aria-label="Sessions">
            <TableHead>
              <TableRow>
                <TableCell>Browser</TableCell>
                <TableCell>Since</TableCell>
                <TableCell>Last used</TableCell>
                <TableCell />
              </TableRow>
            </TableHead>
            <TableBody>
              {data.rows.map(({ id, device, startedAt, lastSeenAt, current }) => (
                <TableRow key={id}>
                  <TableCell>{device === '' ? 'not known' : device}</TableCell>
                  <TableCell>{moment(startedAt)}</TableCell>
                  <TableCell>{moment(lastSeenAt)}</TableCell>
                  <TableCell align="right">
                    {current ? (
                      <span className="quiet">this one</span>
                    ) : (
                      <Button
                        size="small"
                        disabled={ending.isLoading}
                        aria-label={`End the session of ${moment(startedAt)}`}
                        onClick={() => void endSession({ params: { id } })}
                      >
                        End
                      </Button>
                    )}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
        <PasswordCard />
      </Split>
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
    <Card component="form" aria-label="Password" onSubmit={(event) => void submit(event)}>
      <h2>
        Password <Saved on={saved} />
      </h2>
      <Stack pad>
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
        <Button type="submit" variant="contained" disabled={busy || current === '' || password === ''}>
          Change the password
        </Button>
      </Stack>
    </Card>
  );
}
