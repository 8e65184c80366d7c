import Button from '@mui/material/Button';
import { Card, Doorway } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useState, type FormEvent } from 'react';
import { problemOf } from '../../kit/problem';
import { Field } from '../../kit/Field';
import { useTitle } from '../../kit/title';
import { Begin } from './Begin';
import { useDoorQuery, useSignInMutation } from './api';

/** What whoever is not signed in sees: the way in, or, before there is a business, its beginning. */
export function SignIn() {
  useTitle('Sign in');
  const { data: door } = useDoorQuery({});
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [signIn, { isLoading, error }] = useSignInMutation();
  const problem = problemOf(error);
  const errorAt = (field: string) => problem?.errors.find((one) => one.field === field)?.sentence;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void signIn({ body: { email, password } });
  };
  if (door && !door.founded) return <Begin />;
  return (
    <Doorway>
      <Card component="form" onSubmit={submit}>
        <h1>Tidy Larder</h1>
        <Field label="Mail address" value={email} onChange={setEmail} error={errorAt('email')} type="email" autoFocus autoComplete="username" />
        <Field label="Password" value={password} onChange={setPassword} error={errorAt('password')} type="password" autoComplete="current-password" />
        {problem && problem.errors.length === 0 ? <Notice kind="refused">{problem.title}</Notice> : null}
        <Button type="submit" variant="contained" disabled={isLoading}>
          Sign in
        </Button>
        {door?.demo ? (
          <p className="quiet">
            This is the demo: its data is made up and its passwords are known to all. Sign in as <span className="code">ines@larkmoor.example</span> with{' '}
            <span className="code">larder-demo</span>, and keep nothing of your own here.
          </p>
        ) : null}
      </Card>
    </Doorway>
  );
}
