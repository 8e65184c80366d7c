import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { moment } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { CalendarCard } from './CalendarCard';
import { useChangePasswordMutation, useEndSessionMutation, useSessionsQuery } from './api';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';

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
        <Stack>
          <PasswordCard />
          <CalendarCard />
        </Stack>
      </Split>
      <BottomBar hint="Changing the password ends all other sessions" />
    </>
  );
}

const { Field } = fieldsOf<PasswordForm>();
interface PasswordForm {
  current: string;
  password: string;
}

function PasswordCard() {
  const [change] = useChangePasswordMutation();
  const say = useSay();
  const form = useForm({
    came: { current: '', password: '' },
    body: (typed: PasswordForm) => typed,
    checkedBy: async () => (await import('@larder/contract/people')).changePassword.body,
  });
  const save = async () => {
    if (!(await form.send((body) => change({ body })))) return;
    form.reset();
    say({ text: 'The password is changed, and all other sessions have ended.' });
  };
  return (
    <FormFrame form={form} save={() => void save()}>
      <Card
        component="form"
        aria-label="Password"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <h2>Password</h2>
        <Stack pad>
          <Field label="Password you have now" name="current" type="password" autoComplete="current-password" />
          <Field label="New password, at least 12 characters" name="password" type="password" autoComplete="new-password" />
          {form.refused && form.refused.errors.length === 0 ? <Refused error={form.refused} /> : null}
          <Button type="submit" variant="contained" disabled={form.isBusy}>
            Change the password
          </Button>
        </Stack>
      </Card>
    </FormFrame>
  );
}
