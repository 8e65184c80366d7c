/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { dropReminder, remindersOf, setReminder } from '@larder/contract/reminders';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../testing/server';
import { Reminders } from './Reminders';

const row = {
  id: 5,
  about: 'loan',
  attributeId: null,
  called: 'due back',
  days: -3,
  day: '2026-03-20',
  on: '2026-03-17',
  people: [{ id: 2, name: 'Wim' }],
  roles: [{ id: 4, name: 'Floor' }],
  sent: [{ day: '2026-03-20', person: 'Wim' }],
};

function open(rows: object[] = [row]) {
  const server = standInServer();
  signedIn(server, ['look']);
  server.on(remindersOf, () => ({
    rows,
    days: [{ about: 'loan', attributeId: null, called: 'due back', day: '2026-03-20' }],
    people: [
      { id: 2, name: 'Wim', email: 'wim@x.example' },
      { id: 3, name: 'Tom', email: '' },
    ],
    roles: [{ id: 4, name: 'Floor' }],
  }));
  server.on(setReminder, () => ({ id: 6 }));
  server.on(dropReminder, () => ({}));
  const { Around } = around('/stock/loans/9');
  render(<Reminders of={{ loanId: 9 }} today="2026-03-10" />, { wrapper: Around });
  return { user: userEvent.setup(), server };
}

test('who is reminded stands there, when, and that it went out; it is ended by one press', async () => {
  const { user, server } = open();
  await screen.findByText('Wim, Floor');
  await screen.findByText(/^3 days before due back, on .*17 Mar.*; 1 letter sent$/);
  await user.click(screen.getByRole('button', { name: 'Remind Wim, Floor 3 days before due back no more' }));
  await waitFor(() => expect(server.asked.some(({ endpoint }) => endpoint === 'POST /api/reminders/:id/drop')).toBe(true));
});

test('several are chosen, people and roles; whoever has no address is named, and what is no day is said at its field', async () => {
  const { user, server } = open([]);
  await user.click(await screen.findByRole('button', { name: 'Remind somebody' }));
  const form = within(screen.getByRole('group', { name: 'A new reminder' }));
  const many = form.getByLabelText('How many');
  await user.clear(many);
  await user.type(many, 'two');
  await form.findByText('Whole days.');
  await user.clear(many);
  await user.type(many, '2');
  await user.selectOptions(form.getByLabelText('Before or after'), 'after');
  const who = form.getByRole('combobox', { name: 'Who is reminded' });
  await user.type(who, 'tom');
  await user.click(await screen.findByRole('option', { name: 'Tom' }));
  await form.findByText('Tom: no mail address, so nothing would arrive.');
  await user.type(who, 'floor');
  await user.click(await screen.findByRole('option', { name: 'whoever is Floor' }));
  server.on(setReminder, () => refused(422, 'not-valid', 'Choose somebody else.', 'personIds'));
  await user.click(form.getByRole('button', { name: 'Remind them' }));
  await form.findByText('Choose somebody else.');
  server.on(setReminder, () => ({ id: 6 }));
  await user.click(form.getByRole('button', { name: 'Remind them' }));
  await waitFor(() => expect(screen.queryByRole('group', { name: 'A new reminder' })).toBeNull());
  expect(server.sent(setReminder)).toEqual({ loanId: 9, about: 'loan', attributeId: null, days: 2, personIds: [3], roleIds: [4] });
});
