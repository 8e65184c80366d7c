/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { beforeEach, expect, test } from '@jest/globals';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Link } from 'react-router';
import { z } from 'zod';
import { around } from '../testing/server';
import { useForm, type Form } from './form';
import { fieldsOf } from './formFields';
import { FormFrame } from './FormFrame';

interface Draft {
  name: string;
  note: string;
}
const { Field } = fieldsOf<Draft>();
let form: Form<Draft>;

function Page({ came, version }: { came: Draft; version: number | null }) {
  form = useForm({ came, version, body: (typed: Draft) => typed, checkedBy: () => Promise.resolve(z.object({ name: z.string(), note: z.string() })) });
  const save = () =>
    void form.send((_, typed) => {
      form.kept(typed, 2);
      return Promise.resolve({ data: true });
    });
  return (
    <FormFrame form={form} save={save} keptAt="letter 1 new">
      <Field label="Name" name="name" />
      <Field label="Note" name="note" />
      <Link to="/elsewhere">Elsewhere</Link>
    </FormFrame>
  );
}
const empty = { name: '', note: '' };
function open(came: Draft = empty, version: number | null = null) {
  const { Around } = around('/letter');
  const shown = render(<Page came={came} version={version} />, { wrapper: Around });
  return { user: userEvent.setup(), shown };
}
const keptNow = () => localStorage.getItem('draft letter 1 new');
beforeEach(() => localStorage.clear());

test('what was typed and not saved is offered when the same is written again, and taken up or thrown away', async () => {
  const first = open();
  expect(screen.queryByLabelText('What was not saved')).toBeNull();
  await first.user.type(screen.getByLabelText('Name'), 'Brook');
  await waitFor(() => expect(keptNow()).toContain('Brook'));
  // The window is closed: nothing says goodbye.
  first.shown.unmount();
  expect(keptNow()).toContain('Brook');
  const again = open();
  expect(screen.getByLabelText('What was not saved').textContent).toMatch(/You were writing this .*, and it was not saved\./);
  await again.user.type(screen.getByLabelText('Note'), 'something else');
  expect(keptNow()).toContain('Brook');
  await again.user.click(screen.getByRole('button', { name: 'Go on with it' }));
  expect(form.getValues()).toEqual({ name: 'Brook', note: '' });
  expect(form.isTyped).toBe(true);
  again.shown.unmount();
  const third = open();
  await third.user.click(screen.getByRole('button', { name: 'Throw it away' }));
  expect([keptNow(), form.getValues('name')]).toEqual([null, '']);
});

test('what others changed in the meantime stays', async () => {
  localStorage.setItem('draft letter 1 new', JSON.stringify({ typed: { name: 'mine', note: '' }, came: empty, when: '2026-11-24T10:00:00Z' }));
  const { user } = open({ name: '', note: 'theirs' }, 3);
  await user.click(screen.getByRole('button', { name: 'Go on with it' }));
  expect(form.getValues()).toEqual({ name: 'mine', note: 'theirs' });
});

test('what was saved, or left on purpose, is forgotten', async () => {
  const { user } = open();
  await user.type(screen.getByLabelText('Name'), 'Brook');
  await waitFor(() => expect(keptNow()).toContain('Brook'));
  await user.keyboard('{Control>}s{/Control}');
  await waitFor(() => expect(keptNow()).toBeNull());
  await user.type(screen.getByLabelText('Note'), 'later');
  await waitFor(() => expect(keptNow()).toContain('later'));
  await user.click(screen.getByRole('link', { name: 'Elsewhere' }));
  await user.click(await screen.findByRole('button', { name: 'Leave without saving' }));
  await waitFor(() => expect(keptNow()).toBeNull());
});
