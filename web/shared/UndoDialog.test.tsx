/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { undo } from '@larder/contract/stock';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../testing/server';
import { UndoDialog } from './UndoDialog';

const effects = {
  rows: [{ itemId: 1, sku: 'VASE', name: 'Tall vase', measure: 'on hand', where: 'Barn store', before: '5', after: '3' }],
  notes: [],
  costNotes: [],
  journal: [],
};

function open(answer: (body: { countedSince: boolean }, preview: boolean) => unknown = (_, preview) => ({ movementId: preview ? null : 9, effects })) {
  const server = standInServer();
  signedIn(server, ['look', 'undo']);
  server.on(undo, (body, path) => answer(body, path.includes('preview=true')));
  let isClosed = false;
  const { Around } = around();
  render(<UndoDialog movementId={8} what="the receipt of 1 line" close={() => (isClosed = true)} />, { wrapper: Around });
  return { user: userEvent.setup(), server, isClosed: () => isClosed };
}
const undoIt = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Undo it' });

test('what it changes is shown before it can be done, and the reason is kept with it', async () => {
  const { user, server, isClosed } = open();
  expect(screen.getByRole('dialog', { name: 'Undo the receipt of 1 line' })).toBeTruthy();
  expect(undoIt().disabled).toBe(true);
  expect(await screen.findByText('VASE')).toBeTruthy();
  await user.type(screen.getByLabelText('Why (may be left empty)'), 'counted twice');
  await user.click(undoIt());
  await waitFor(() => expect(isClosed()).toBe(true));
  expect(await screen.findByText('Undone: the receipt of 1 line.')).toBeTruthy();
  expect(server.sent(undo)).toEqual({ movementId: 8, note: 'counted twice', countedSince: false });
});

test('what a later count contains is undone only when somebody says so', async () => {
  const asks = refused(409, 'counted', 'A-1 was counted since.', undefined, ['counted-since']);
  const { user, server, isClosed } = open(({ countedSince }, preview) => (countedSince ? { movementId: preview ? null : 9, effects } : asks));
  expect(await screen.findByText('A-1 was counted since.')).toBeTruthy();
  expect(undoIt().disabled).toBe(true);
  await user.click(screen.getByRole('button', { name: 'Undo it all the same' }));
  await waitFor(() => expect(undoIt().disabled).toBe(false));
  await user.click(undoIt());
  await waitFor(() => expect(isClosed()).toBe(true));
  expect(server.sent(undo)).toMatchObject({ countedSince: true });
});

test('what is refused is said, and the dialog stays with what was typed', async () => {
  const { user, isClosed } = open((_, preview) => (preview ? { movementId: null, effects } : refused(409, 'moved-on', 'What came in has gone out since.')));
  await screen.findByText('VASE');
  await user.type(screen.getByLabelText('Why (may be left empty)'), 'wrong goods');
  await user.click(undoIt());
  expect(await screen.findByText('What came in has gone out since.')).toBeTruthy();
  expect([isClosed(), screen.getByLabelText<HTMLInputElement>('Why (may be left empty)').value]).toEqual([false, 'wrong goods']);
  await user.click(screen.getByRole('button', { name: 'Leave it' }));
  expect(isClosed()).toBe(true);
});
