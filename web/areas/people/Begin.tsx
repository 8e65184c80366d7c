import Button from '@mui/material/Button';
import { Card, Doorway } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useState } from 'react';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { useTitle } from '../../kit/title';
import { useBeginMutation } from './api';

interface BeginForm {
  business: string;
  name: string;
  email: string;
  password: string;
}
const { Field } = fieldsOf<BeginForm>();

/** The beginning of a business: its name and its first person. The link that the start printed carries what proves that one may. */
export function Begin() {
  useTitle('Begin');
  const [token] = useState(() => window.location.hash.slice(1));
  const [begin] = useBeginMutation();
  const form = useForm({
    came: { business: '', name: '', email: '', password: '' },
    body: (typed: BeginForm) => ({ token, ...typed }),
    checkedBy: async () => (await import('@larder/contract/people')).begin.body,
  });
  const found = async () => {
    if (await form.send((body) => begin({ body }))) window.location.replace('/');
  };
  const { refused } = form;
  return (
    <FormFrame form={form} save={() => void found()}>
      <Doorway>
        <Card
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            void found();
          }}
        >
          <h1>Tidy Larder</h1>
          <p className="quiet">Nobody works here yet. Say what the business is called, and who you are.</p>
          <Field label="Name of the business" name="business" autoFocus />
          <Field label="Your name" name="name" />
          <Field label="Mail address" name="email" type="email" />
          <Field label="Password, at least 12 characters" name="password" type="password" autoComplete="new-password" />
          {token === '' ? (
            <Notice kind="refused">Open the link that npm start printed: it shows that you may begin here.</Notice>
          ) : refused && (refused.errors.length === 0 || refused.errors.some(({ field }) => field === 'token')) ? (
            <Notice kind="refused">{refused.title}</Notice>
          ) : null}
          <Button type="submit" variant="contained" disabled={form.isBusy || token === ''}>
            Begin
          </Button>
        </Card>
      </Doorway>
    </FormFrame>
  );
}
