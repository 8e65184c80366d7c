import Button from '@mui/material/Button';
import { useState } from 'react';
import { Card, Doorway } from '../../kit/layout';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { Begin } from './Begin';
import { useDoorQuery, useSignInMutation } from './api';

interface SignInForm {
  email: string;
  password: string;
}
const { Field } = fieldsOf<SignInForm>();

/** What whoever is not signed in sees: the way in, or, before there is a business, its beginning. */
export function SignIn() {
  useTitle('Sign in');
  const { data: door } = useDoorQuery({});
  const [signIn] = useSignInMutation();
  const form = useForm({
    came: { email: '', password: '' },
    body: (typed: SignInForm) => typed,
    checkedBy: async () => (await import('@larder/contract/people')).signIn.body,
  });
  const [wanted, setWanted] = useState(false);
  const enter = () => {
    const { email, password } = form.getValues();
    // Enter after the mail address goes on to the password; the second time it says that one is needed.
    if (email === '' || password !== '' || wanted) return void form.send((body) => signIn({ body }));
    setWanted(true);
    form.setFocus('password');
  };
  if (door && !door.founded) return <Begin />;
  return (
    <FormFrame form={form} save={enter}>
      <Doorway>
        <Card
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            enter();
          }}
        >
          <h1>Tidy Larder</h1>
          <Field label="Mail address" name="email" type="email" autoFocus autoComplete="username" />
          <Field label="Password" name="password" type="password" autoComplete="current-password" />
          {form.refused && form.refused.errors.length === 0 ? <Refused error={form.refused} /> : null}
          <Button type="submit" variant="contained" disabled={form.isBusy}>
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
    </FormFrame>
  );
}
