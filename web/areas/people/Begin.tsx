import Button from '@mui/material/Button';
import { Card, Doorway } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useState, type FormEvent } from 'react';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { useTitle } from '../../kit/title';
import { useBeginMutation } from './api';

/** The beginning of a business: its name and its first person. The link that the start printed carries what proves that one may. */
export function Begin() {
  useTitle('Begin');
  const [token] = useState(() => window.location.hash.slice(1));
  const [business, setBusiness] = useState('');
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [begin, beginning] = useBeginMutation();
  const { at, problem, busy } = refusalOf(beginning);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const { data } = await begin({ body: { token, business, name, email, password } });
    if (data) window.location.replace('/');
  };
  return (
    <Doorway>
      <Card component="form" onSubmit={(event) => void submit(event)}>
        <h1>Tidy Larder</h1>
        <p className="quiet">Nobody works here yet. Say what the business is called, and who you are.</p>
        <Field label="Name of the business" value={business} onChange={setBusiness} error={at('business')} autoFocus />
        <Field label="Your name" value={name} onChange={setName} error={at('name')} />
        <Field label="Mail address" value={email} onChange={setEmail} error={at('email')} type="email" />
        <Field
          label="Password, at least 12 characters"
          value={password}
          onChange={setPassword}
          error={at('password')}
          type="password"
          autoComplete="new-password"
        />
        {token === '' ? (
          <Notice kind="refused">Open the link that npm start printed: it shows that you may begin here.</Notice>
        ) : problem && (problem.errors.length === 0 || at('token')) ? (
          <Notice kind="refused">{problem.title}</Notice>
        ) : null}
        <Button type="submit" variant="contained" disabled={busy || token === ''}>
          Begin
        </Button>
      </Card>
    </Doorway>
  );
}
