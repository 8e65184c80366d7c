/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { lastChange } from '@larder/contract/setup';
import { act, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { FormProvider } from 'react-hook-form';
import { z } from 'zod';
import { useForm } from '../kit/form';
import { fieldsOf } from '../kit/formFields';
import { around, standInServer } from '../testing/server';
import { Clashes } from './Clashes';

const first = { day: '2026-12-01' as string | null, note: '' };

const { Field } = fieldsOf<typeof first>();

function Page({ came, version }: { came: typeof first; version: number }) {
  const form = useForm({
    came,
    version,
    body: (typed: typeof first) => typed,
    checkedBy: () => Promise.resolve(z.object({ day: z.string().nullable(), note: z.string() })),
  });
  return (
    <>
      <Clashes of={{ kind: 'purchase order', id: 7 }} writing={form} names={{ day: 'the day', note: 'the note' }} />
      <FormProvider {...form}>
        <Field label="Day" name="day" />
      </FormProvider>
    </>
  );
}

test('who changed what to what is said while it was typed, and each way ends it', async () => {
  const server = standInServer();
  server.on(lastChange, (_, path) => ({ last: { person: path.includes('id=7') ? 'Ines' : 'nobody', at: '2026-11-24T10:00:00Z' } }));
  const { Around } = around();
  const user = userEvent.setup();
  const { rerender } = render(<Page came={first} version={1} />, { wrapper: Around });
  expect(screen.queryByRole('alert')).toBeNull();
  expect(server.asked).toEqual([]);
  await user.clear(screen.getByLabelText('Day'));
  await user.type(screen.getByLabelText('Day'), '2026-12-02');
  rerender(<Page came={{ ...first, day: '2026-12-04' }} version={2} />);
  await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('Ines changed the day to Fri 4 Dec while you typed.'));
  await user.click(screen.getByRole('button', { name: 'Take theirs' }));
  expect(screen.getByLabelText<HTMLInputElement>('Day').value).toBe('2026-12-04');
  expect(screen.queryByRole('alert')).toBeNull();
  await user.clear(screen.getByLabelText('Day'));
  await user.type(screen.getByLabelText('Day'), '2026-12-09');
  rerender(<Page came={{ ...first, day: null }} version={3} />);
  await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('Ines changed the day to nothing while you typed.'));
  await user.click(screen.getByRole('button', { name: 'Keep mine' }));
  expect(screen.getByLabelText<HTMLInputElement>('Day').value).toBe('2026-12-09');
  await act(async () => undefined);
});
