/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { Problem } from '@larder/contract/values';
import { act, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Link } from 'react-router';
import { z } from 'zod';
import { around } from '../testing/server';
import { useForm, type Form } from './form';
import { fieldsOf, orNone, ReadOnly, upper, wholeOrNone } from './formFields';
import { FormFrame } from './FormFrame';

interface Draft {
  supplier: string;
  day: string | null;
  note: string | null;
  currency: string;
  days: number;
  kind: string;
  lines: { item: string; quantity: string }[];
}
const { Cell, Choice, Day, Field } = fieldsOf<Draft>();
const first: Draft = { supplier: '', day: null, note: null, currency: 'GBP', days: 7, kind: 'a', lines: [{ item: 'VASE', quantity: '3' }] };
const schema = z.object({
  supplierId: z.string().min(1, 'Choose the supplier.'),
  day: z.string().nullable(),
  note: z.string().nullable(),
  currency: z.string(),
  days: z.number(),
  lines: z.array(z.object({ item: z.string(), quantity: z.string().regex(/^\d+$/, 'Give a quantity.') })),
});
type Body = z.input<typeof schema>;

interface PageProps {
  came?: Draft;
  version?: number | null;
  answer?: (body: Body) => Promise<{ data?: { version: number }; error?: Problem }>;
  foreseen?: Problem | null;
  readOnly?: boolean;
  /** What the check of the contract waits for. */
  held?: Promise<unknown>;
}
let form: Form<Draft, Body>;
let sent: Body[] = [];
let sentOf: number[] = [];

function Page({ came = first, version = null, answer = () => Promise.resolve({ data: { version: 2 } }), foreseen = null, readOnly = false, held }: PageProps) {
  form = useForm({
    came,
    version,
    rowKeys: { lines: ({ item }) => item },
    body: ({ supplier, kind: _kind, ...typed }: Draft) => ({ ...typed, supplierId: supplier }),
    checkedBy: async () => {
      await held;
      return schema;
    },
    sentAs: { supplierId: 'supplier' },
  });
  const save = () =>
    void form.send(async (body, typed, of) => {
      sent.push(body);
      sentOf.push(of);
      const result = await answer(body);
      if (result.data) form.kept(typed, result.data.version);
      return result;
    });
  return (
    <ReadOnly value={readOnly}>
      <FormFrame form={form} save={save} foreseen={foreseen}>
        <Field label="Supplier" name="supplier" />
        <Field label="Note" name="note" read={orNone} />
        <Field label="Currency" name="currency" read={upper} />
        <Field label="Days" name="days" read={wholeOrNone} />
        <Day label="Day" name="day" today="2026-11-24" proposed="2026-12-04" />
        <Choice
          label="Kind"
          name="kind"
          options={[
            { value: 'a', label: 'first' },
            { value: 'b', label: 'second' },
          ]}
        />
        <Cell label="Quantity" name="lines.0.quantity" />
        <Link to="/elsewhere">Elsewhere</Link>
        {form.refused ? <p>{form.refused.title}</p> : null}
        {form.clashes.map(({ field }) => (
          <p key={field}>clash: {String(field)}</p>
        ))}
        <output>{form.isTyped ? 'typed' : form.isSaved ? 'saved' : 'as it came'}</output>
      </FormFrame>
    </ReadOnly>
  );
}

function open(props: PageProps = {}) {
  sent = [];
  sentOf = [];
  const { Around, router } = around('/order');
  const shown = render(<Page {...props} />, { wrapper: Around });
  return { user: userEvent.setup(), router, comes: (next: PageProps) => shown.rerender(<Page {...next} />) };
}
const problem = (field: string, sentence: string): Problem => ({ status: 409, type: 'unfit', title: sentence, asks: [], errors: [{ field, sentence }] });
const state = () => screen.getByRole('status').textContent;
const save = '{Control>}s{/Control}';

test('what the contract refuses is not sent: it is said at its field, also under another name, and the field has the focus', async () => {
  const { user } = open();
  await user.type(screen.getByLabelText('Note'), 'x');
  await user.keyboard(save);
  expect(await screen.findByText('Choose the supplier.')).toBeTruthy();
  expect(document.activeElement).toBe(screen.getByLabelText('Supplier'));
  expect(sent).toEqual([]);
  await user.keyboard('Hexley');
  await waitFor(() => expect(screen.queryByText('Choose the supplier.')).toBeNull());
});

test('texts are kept as they are read: nothing as none, capitals, whole numbers or what was typed instead', async () => {
  const { user } = open({ came: { ...first, supplier: 'H' } });
  await user.type(screen.getByLabelText('Note'), 'ramp');
  await user.clear(screen.getByLabelText('Note'));
  await user.clear(screen.getByLabelText('Currency'));
  await user.type(screen.getByLabelText('Currency'), 'eur');
  await user.clear(screen.getByLabelText('Days'));
  await user.type(screen.getByLabelText('Days'), '1x');
  await user.selectOptions(screen.getByLabelText('Kind'), 'b');
  await user.keyboard(save);
  expect(await screen.findByText('This should be a number.')).toBeTruthy();
  expect(form.getValues()).toMatchObject({ note: null, currency: 'EUR', days: '1x', kind: 'b' });
  await user.clear(screen.getByLabelText('Days'));
  await user.type(screen.getByLabelText('Days'), '12');
  await user.keyboard(save);
  await waitFor(() => expect(sent).toMatchObject([{ note: null, currency: 'EUR', days: 12, supplierId: 'H' }]));
});

test('what the server refuses stands at the field of a line, which has the focus; what belongs to no field is said of the whole', async () => {
  const refusals = [problem('lines.0.quantity', 'Only 2 are left.'), problem('version', 'Somebody was first.')];
  const { user } = open({ came: { ...first, supplier: 'H' }, answer: () => Promise.resolve({ error: refusals.shift() as Problem }) });
  await user.type(screen.getByLabelText('Note'), 'x');
  await user.keyboard(save);
  await waitFor(() => expect(screen.getByLabelText('Quantity').getAttribute('aria-invalid')).toBe('true'));
  expect(document.activeElement).toBe(screen.getByLabelText('Quantity'));
  await user.keyboard(save);
  expect(await screen.findByText('Somebody was first.')).toBeTruthy();
  expect(screen.queryByText('Only 2 are left.')).toBeNull();
  expect(state()).toBe('typed');
});

test('what a preview says stands at its field until something else is said there', () => {
  open({ foreseen: problem('supplierId', 'Retired.') });
  expect(screen.getByText('Retired.')).toBeTruthy();
  expect(screen.getByLabelText('Supplier').getAttribute('aria-invalid')).toBe('true');
});

test('what is typed stays when another version comes in; what both changed is asked, until somebody types on or says which', async () => {
  const came = { ...first, supplier: 'H' };
  const { user, comes } = open({ came, version: 1 });
  await user.type(screen.getByLabelText('Note'), 'mine');
  comes({ came: { ...came, note: 'theirs', days: 9, lines: [...came.lines, { item: 'JAR', quantity: '1' }] }, version: 2 });
  expect(await screen.findByText('clash: note')).toBeTruthy();
  expect(form.getValues()).toMatchObject({ note: 'mine', days: 9, lines: [{ item: 'VASE' }, { item: 'JAR' }] });
  act(() => form.decide({ field: 'note', theirs: 'theirs' }, true));
  await waitFor(() => expect(screen.queryByText('clash: note')).toBeNull());
  expect(screen.getByLabelText<HTMLInputElement>('Note').value).toBe('theirs');
  await waitFor(() => expect(state()).toBe('as it came'));
  await user.clear(screen.getByLabelText('Note'));
  await user.type(screen.getByLabelText('Note'), 'again');
  comes({ came: { ...came, note: 'others', days: 9 }, version: 3 });
  await screen.findByText('clash: note');
  await user.type(screen.getByLabelText('Note'), '!');
  await waitFor(() => expect(screen.queryByText('clash: note')).toBeNull());
  expect(form.getValues('note')).toBe('again!');
});

test('the same version coming in again changes nothing that is typed, and nothing else', async () => {
  const came = { ...first, supplier: 'H' };
  const { user, comes } = open({ came, version: 1 });
  await user.type(screen.getByLabelText('Note'), 'mine');
  comes({ came: { ...came, note: 'something else', days: 30 }, version: 1 });
  expect(form.getValues()).toMatchObject({ note: 'mine', days: 7 });
  expect(form.clashes).toEqual([]);
});

test('once it is saved nothing is typed any more, and it is told when the saved version is there', async () => {
  const came = { ...first, supplier: 'H' };
  const { user, comes } = open({ came, version: 1 });
  await user.type(screen.getByLabelText('Note'), 'kept');
  expect(state()).toBe('typed');
  await user.keyboard(save);
  await waitFor(() => expect(state()).not.toBe('typed'));
  comes({ came: { ...came, note: 'kept' }, version: 2 });
  await waitFor(() => expect(state()).toBe('saved'));
});

test('what others saved while it is checked or sent waits: what was typed goes on from what it was typed into', async () => {
  const came = { ...first, supplier: 'H' };
  let go: (value?: unknown) => void = () => undefined;
  const held = new Promise((resolve) => (go = resolve));
  const answer = () => Promise.resolve(sentOf.at(-1) === 1 ? { error: problem('', 'It was changed meanwhile.') } : { data: { version: 3 } });
  const { user, comes } = open({ came, version: 1, held, answer });
  await user.type(screen.getByLabelText('Note'), 'mine');
  await user.keyboard(save);
  comes({ came: { ...came, days: 9 }, version: 2, held, answer });
  expect([form.isBusy, form.getValues('days')]).toEqual([true, 7]);
  act(() => go());
  expect(await screen.findByText('It was changed meanwhile.')).toBeTruthy();
  expect([sentOf, sent[0]?.days]).toEqual([[1], 7]);
  await waitFor(() => expect(form.getValues()).toMatchObject({ note: 'mine', days: 9 }));
  await user.keyboard(save);
  await waitFor(() => expect(sentOf).toEqual([1, 2]));
});

test('saved again at once it goes on from the version that it was just saved as, and waits until it is', async () => {
  const done: ((answer: { data: { version: number } }) => void)[] = [];
  const { user } = open({ came: { ...first, supplier: 'H' }, version: 1, answer: () => new Promise((resolve) => void done.push(resolve)) });
  await user.type(screen.getByLabelText('Note'), 'one');
  await user.keyboard(save);
  await waitFor(() => expect(sent).toHaveLength(1));
  await user.type(screen.getByLabelText('Note'), ' two');
  await user.keyboard(save);
  expect([sentOf, form.isBusy]).toEqual([[1], true]);
  act(() => done[0]?.({ data: { version: 2 } }));
  await waitFor(() => expect(sentOf).toEqual([1, 2]));
  expect(sent.map(({ note }) => note)).toEqual(['one', 'one two']);
  act(() => done[1]?.({ data: { version: 3 } }));
  await waitFor(() => expect(form.isBusy).toBe(false));
});

test('a form that is put back while it is checked is checked and sent as it then is', async () => {
  let go: (value?: unknown) => void = () => undefined;
  const { user } = open({ came: { ...first, supplier: 'H' }, held: new Promise((resolve) => (go = resolve)) });
  await user.type(screen.getByLabelText('Note'), 'x');
  await user.keyboard(save);
  act(() => form.reset({ ...first, supplier: 'H', note: 'another' }));
  act(() => go());
  await waitFor(() => expect(sent.map(({ note }) => note)).toEqual(['another']));
});

test('whoever leaves with something typed is asked: they stay with all of it, or go without', async () => {
  const { user, router } = open({ came: { ...first, supplier: 'H' } });
  await user.click(screen.getByRole('link', { name: 'Elsewhere' }));
  expect(router.state.location.pathname).toBe('/elsewhere');
  await act(() => router.navigate('/order'));
  await user.type(screen.getByLabelText('Note'), 'not saved');
  await user.click(screen.getByRole('link', { name: 'Elsewhere' }));
  expect(await screen.findByRole('dialog', { name: 'Leave what you typed?' })).toBeTruthy();
  expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Stay here' }));
  await user.keyboard('{Enter}');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect([router.state.location.pathname, form.getValues('note')]).toEqual(['/order', 'not saved']);
  await user.click(screen.getByRole('link', { name: 'Elsewhere' }));
  await user.click(await screen.findByRole('button', { name: 'Leave without saving' }));
  await waitFor(() => expect(router.state.location.pathname).toBe('/elsewhere'));
});

test('whoever leaves while it is being saved goes on when it is', async () => {
  let done: (answer: { data: { version: number } }) => void = () => undefined;
  const { user, router } = open({ came: { ...first, supplier: 'H' }, answer: () => new Promise((resolve) => void (done = resolve)) });
  await user.type(screen.getByLabelText('Note'), 'x');
  await user.keyboard(save);
  await waitFor(() => expect(sent).toHaveLength(1));
  await user.click(screen.getByRole('link', { name: 'Elsewhere' }));
  expect(router.state.location.pathname).toBe('/order');
  expect(screen.queryByRole('dialog')).toBeNull();
  act(() => done({ data: { version: 2 } }));
  await waitFor(() => expect(router.state.location.pathname).toBe('/elsewhere'));
});

test('who may only look is told what the fields hold', () => {
  open({ came: { ...first, supplier: 'Hexley', day: '2026-12-01' }, readOnly: true });
  expect(screen.queryByRole('textbox')).toBeNull();
  expect(screen.queryByRole('combobox')).toBeNull();
  for (const told of ['Hexley', 'Tue 1 Dec', 'first', 'GBP', '7']) expect(screen.getByText(told)).toBeTruthy();
});
