/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listItems, readCode } from '@larder/contract/catalog';
import { becomeHolder, canBeLent, createHolder, lend } from '@larder/contract/loans';
import { listParties } from '@larder/contract/setup';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { LendPage } from './LendPage';

const place = { siteId: 1, site: 'Barn', binId: 4, bin: 'A-1', lotId: null as number | null, lot: null as string | null, quantity: '5', free: '3' };
const tool = { itemId: 7, sku: 'HT-J', name: 'Hive tool', unit: 'each', step: '1', tracking: 'none', places: [place] };
const smoker = { ...tool, itemId: 8, sku: 'SM-1', name: 'Smoker', places: [{ ...place, quantity: '2', free: '2' }] };

function open(address = '/stock/loans/new?items=7,8') {
  const server = standInServer();
  signedIn(server, ['look', 'stock.lend' as never]);
  server.on(canBeLent, (_, path) => {
    const asked = (new URL(path, 'http://larder.test').searchParams.get('items') ?? '').split(',');
    return { rows: [tool, smoker].filter(({ itemId }) => asked.includes(String(itemId))) };
  });
  server.on(listItems, () => ({ rows: [], next: null }));
  server.on(readCode, () => ({ items: [], lot: null, useBy: null, serial: null, quantity: null }));
  server.on(listParties, (_, path) => ({ rows: path.includes('q=ridge') ? [] : [{ id: 3, name: 'Copse Lane School' }] }));
  server.on(becomeHolder, () => ({ id: 3, name: 'Copse Lane School' }));
  server.on(createHolder, () => ({ id: 9, name: 'Ridge' }));
  const effects = { rows: [], notes: [], costNotes: [] };
  server.on(lend, () => ({ movementId: 12, effects, id: 5, number: 'LN-1005' }));
  const { Around, router } = around(address);
  render(<LendPage />, { wrapper: Around });
  return { user: userEvent.setup(), server, router };
}
const sent = (server: ReturnType<typeof standInServer>) => server.sent(lend) as { holderId: number; lines: { quantity: string }[] } | undefined;

test('chosen things are lent by one rule to a customer, who is a holder from then on', async () => {
  const { user, server, router } = open();
  await user.click(await screen.findByRole('button', { name: 'All there is' }));
  expect(screen.getByLabelText<HTMLInputElement>('Lend of HT-J, row 1').value).toBe('3');
  expect(screen.getByLabelText<HTMLInputElement>('Lend of SM-1, row 2').value).toBe('2');
  await user.type(screen.getByRole('combobox', { name: 'Lent to' }), 'copse');
  await user.click(await screen.findByRole('option', { name: 'Copse Lane School' }));
  await waitFor(() => expect(server.asked.some(({ endpoint }) => endpoint === 'POST /api/holders/:id')).toBe(true));
  await user.click(screen.getByRole('button', { name: 'Leave out SM-1, row 2' }));
  await user.click(screen.getByRole('button', { name: /^Lend 1 line/ }));
  await waitFor(() => expect(sent(server)).toEqual({ holderId: 3, dueOn: null, note: '', lines: [{ itemId: 7, lotId: null, binId: 4, quantity: '3' }] }));
  await waitFor(() => expect(router.state.location.pathname).toBe('/stock/loans/5'));
});

test('somebody nobody knew is added as what they are; what the server refuses of a line is said at its field', async () => {
  const { user, server } = open('/stock/loans/new?items=7');
  await user.type(await screen.findByRole('combobox', { name: 'Lent to' }), 'ridge');
  await user.click(await screen.findByRole('option', { name: 'Add “ridge” as a place of work' }));
  await waitFor(() => expect(server.sent(createHolder)).toEqual({ name: 'ridge', sort: 'place' }));
  server.on(lend, () => refused(409, 'promised-elsewhere', 'Only 2 of HT-J may be taken at Barn.', 'lines.0.quantity'));
  await user.click(screen.getByRole('button', { name: /^Lend 1 line/ }));
  expect((await screen.findAllByText('Only 2 of HT-J may be taken at Barn.')).length).toBeGreaterThan(0);
  expect(sent(server)?.holderId).toBe(9);
});

test('without a holder it is said at that field', async () => {
  const { user, server } = open('/stock/loans/new?items=7');
  await user.click(await screen.findByRole('button', { name: /^Lend 1 line/ }));
  await screen.findByText('Choose who gets it.');
  expect(sent(server)).toBeUndefined();
});
