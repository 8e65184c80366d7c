/** @jest-environment <rootDir>/web/testing/browser.mjs */
import 'fake-indexeddb/auto';
import { expect, test } from '@jest/globals';
import { whereItLies } from '@larder/contract/floor';
import { newRequestKey } from '@larder/contract/requestKey';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { waiting } from '../../shared/floor/waiting';
import { around, signedIn, standInServer } from '../../testing/server';
import { KeptPage } from './KeptPage';
import { LookUpPage } from './LookUpPage';

const one = { endpoint: 'POST /api/stock/moves', path: '/api/stock/moves', params: {}, body: {}, to: '/stock/move?from=4', moves: [], changes: [] };

test('what waits is told in its order and can be taken back; what was not taken says why, until it is sorted out; others’ is only counted', async () => {
  signedIn(standInServer(), ['look', 'stock.move' as never]);
  const keep = (words: string, personId = 1, refused: string | null = null) => waiting.add({ ...one, key: newRequestKey(), words, personId, refused });
  await keep('Move 2 of SM-STD');
  await keep('Receive 1 line of PO-1', 1, 'PO-1 was closed meanwhile.');
  await keep('Put 1 of QC-1 away');
  await keep('Pick 1 line of SO-1', 8);
  const { Around } = around('/kept');
  render(<KeptPage />, { wrapper: Around });
  const user = userEvent.setup();
  const waits = await screen.findByRole('table', { name: 'Waits' });
  expect(
    within(waits)
      .getAllByRole('link')
      .map(({ textContent }) => textContent),
  ).toEqual(['Move 2 of SM-STD', 'Put 1 of QC-1 away']);
  expect(within(waits).getByRole('link', { name: 'Move 2 of SM-STD' }).getAttribute('href')).toBe('/stock/move?from=4');
  expect(screen.getByRole('table', { name: 'Not taken' }).textContent).toContain('PO-1 was closed meanwhile.');
  expect(screen.getByText('1 thing of somebody else waits here until they sign in on this phone.')).toBeTruthy();
  await user.click(within(waits).getByRole('button', { name: 'Take it back: Put 1 of QC-1 away' }));
  await waitFor(() => expect(waiting.rows().map(({ words }) => words)).not.toContain('Put 1 of QC-1 away'));
  await user.click(screen.getByRole('button', { name: 'It is sorted out: Receive 1 line of PO-1' }));
  await waitFor(() => expect(screen.queryByRole('table', { name: 'Not taken' })).toBeNull());
  expect(screen.getByRole('button', { name: /^Send now/ })).toBeTruthy();
});

const row = { siteId: 1, site: 'Barn store', binId: 4, bin: 'B-1', sellable: true, lotId: null, lot: null, useBy: null, quantity: '4' };

test('where a thing lies is shown by bin, what may be sold added up, quarantine told apart, and a move begins from each', async () => {
  const server = standInServer();
  signedIn(server, ['look', 'stock.move' as never]);
  const rows = [row, { ...row, binId: 5, bin: 'QUA', sellable: false, quantity: '1' }, { ...row, binId: 6, bin: 'B-2', quantity: '2.5' }];
  server.on(whereItLies, () => ({ id: 7, sku: 'SM-STD', name: 'Smoker', unit: 'each', tracking: 'none', rows }));
  const { Around } = around('/stock/look-up?item=7');
  render(<LookUpPage />, { wrapper: Around });
  const lies = await screen.findByRole('table', { name: 'Where SM-STD lies' });
  expect(screen.getByText(/^6\.5/)).toBeTruthy();
  expect(within(lies).getByRole('row', { name: /QUA/ }).textContent).toContain('quarantine');
  expect(within(lies).getByRole('link', { name: 'Move from B-2' }).getAttribute('href')).toBe('/stock/move?from=6');
});

test('before anything is scanned it says what to scan', () => {
  signedIn(standInServer(), ['look']);
  const { Around } = around('/stock/look-up');
  render(<LookUpPage />, { wrapper: Around });
  expect(screen.getByText(/^Scan a thing, a lot or a unit/)).toBeTruthy();
});
