/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { undo } from '@larder/contract/stock';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { around, signedIn, standInServer } from '../testing/server';
import type { Right } from '@larder/contract/rights';
import { useSay, type Message } from './say';

const correction: Message = { text: 'Corrected 2 lines.', undo: { movementId: 41, what: 'the correction of 2 lines' } };

function Says({ message }: { message: Message }) {
  const say = useSay();
  return (
    <button type="button" onClick={() => say(message)}>
      Do it
    </button>
  );
}

async function say(message: Message, rights: readonly Right[] = ['look', 'undo']) {
  const server = standInServer();
  signedIn(server, rights);
  server.on(undo, () => ({ movementId: 42, effects: { rows: [], notes: [], costNotes: [] } }));
  const { Around } = around();
  render(<Says message={message} />, { wrapper: Around });
  const user = userEvent.setup();
  const doIt = screen.getByRole('button', { name: 'Do it' });
  await user.click(doIt);
  const said = (await screen.findByText(message.text)).closest('[role=status]') as HTMLElement;
  return { user, server, said, doIt };
}

test('what was done is said once, to screen readers too, and takes the focus from nobody', async () => {
  const { said, doIt } = await say({ text: 'Received 3 lines.' });
  expect(said.getAttribute('role')).toBe('status');
  expect(document.activeElement).toBe(doIt);
  expect(within(said).queryByRole('button', { name: 'Undo' })).toBeNull();
  expect(within(said).queryByRole('link')).toBeNull();
});

test('what was made is a link away, and the message goes when one is there', async () => {
  const { user, said } = await say({ text: 'Received 3 lines.', made: { to: '/labels?items=3', name: 'Labels for what came in' } });
  const link = within(said).getByRole('link', { name: 'Labels for what came in' });
  expect(link.getAttribute('href')).toBe('/labels?items=3');
  await user.click(link);
  await waitFor(() => expect(screen.queryByText('Received 3 lines.')).toBeNull());
});

test('it is undone from there, after what that changes was shown', async () => {
  const { user, server, said } = await say(correction);
  await user.click(await within(said).findByRole('button', { name: 'Undo' }));
  const dialog = await screen.findByRole('dialog', { name: 'Undo the correction of 2 lines' });
  expect(server.sent(undo)).toBeUndefined();
  const go = within(dialog).getByRole('button', { name: 'Undo it' });
  await waitFor(() => expect(go.hasAttribute('disabled')).toBe(false));
  await user.click(go);
  await waitFor(() => expect(server.sent(undo)).toEqual({ movementId: 41, note: '', countedSince: false }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

test('who may not undo is not offered it, and of what posted nothing there is nothing to undo', async () => {
  const { said } = await say(correction, ['look']);
  expect(within(said).queryByRole('button', { name: 'Undo' })).toBeNull();
});

test('a message that posted nothing offers no undo', async () => {
  const { said } = await say({ text: '2 lines agreed.', undo: { movementId: null, what: 'the correction of 2 lines' } });
  expect(within(said).queryByRole('button', { name: 'Undo' })).toBeNull();
});

test('it is closed by hand', async () => {
  const { user, said } = await say(correction);
  await user.click(within(said).getByRole('button', { name: 'Close the message' }));
  await waitFor(() => expect(screen.queryByText('Corrected 2 lines.')).toBeNull());
});
