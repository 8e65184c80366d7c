/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { createBins } from '@larder/contract/setup';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, standInServer } from '../../testing/server';
import { MakeBins } from './MakeBins';

function open(taken: readonly string[] = [], answer: unknown = { rows: [] }) {
  const server = standInServer();
  server.on(createBins, () => answer);
  const { Around } = around();
  render(<MakeBins siteId={3} taken={taken} />, { wrapper: Around });
  // Braces mean keys to the stand-in for fingers, unless there are two.
  const user = userEvent.setup();
  const pattern = () => screen.getByLabelText<HTMLInputElement>('Pattern');
  return { user, server, pattern, type: (text: string) => user.type(pattern(), text.replaceAll('{', '{{')) };
}

test('a pattern says which bins it makes, and those that are there already are left', async () => {
  const { user, server, pattern, type } = open(['z-01-1']);
  await type('Z-{01..02}-{1..2}');
  expect(screen.getByText('Z-01-1, Z-01-2, Z-02-1, Z-02-2')).toBeTruthy();
  expect(screen.getByText(/1 of them is there already/)).toBeTruthy();
  await user.type(screen.getByLabelText('Zone'), 'Cold');
  await user.selectOptions(screen.getByLabelText('For'), 'quarantine');
  await user.click(screen.getByRole('button', { name: 'Make 3 bins' }));
  expect(await screen.findByText('3 bins made.')).toBeTruthy();
  expect(server.sent(createBins)).toEqual({ siteId: 3, codes: ['Z-01-2', 'Z-02-1', 'Z-02-2'], sellable: false, zone: 'Cold' });
  expect([pattern().value, screen.getByLabelText<HTMLInputElement>('Zone').value]).toEqual(['', 'Cold']);
});

test('what is no pattern is said while it is typed, and makes nothing', async () => {
  const { pattern, type } = open();
  await type('Z-{9..1}');
  expect(pattern().getAttribute('aria-invalid')).toBe('true');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Make 0 bins' }).disabled).toBe(true);
});

test('what the server refuses of the codes is said at the pattern', async () => {
  const { user, pattern, type } = open([], refused(409, 'taken', 'Z-1 is a bin of Harbour shop.', 'codes.0'));
  await type('Z-1');
  await user.click(screen.getByRole('button', { name: 'Make 1 bin' }));
  await waitFor(() => expect(pattern().getAttribute('aria-invalid')).toBe('true'));
  expect(screen.getByText('Z-1 is a bin of Harbour shop.')).toBeTruthy();
  expect(document.activeElement).toBe(pattern());
});
