/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { keptLayouts } from '@larder/contract/lists';
import { getParty, partiesInAll, partyList } from '@larder/contract/setup';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, signedIn, standInServer } from '../testing/server';
import { PartyList } from './PartyList';

const parties = [
  {
    id: 1,
    name: 'Ashgrove Metalworks',
    email: 'sales@ashgrove.example',
    phone: '',
    leadDays: 9,
    retired: false,
    contact: 'Jo Ash',
    openOrders: 2,
    lastOn: '2026-11-20',
  },
  { id: 2, name: 'Hexley Joinery', email: '', phone: '01 234', leadDays: null, retired: false, contact: '', openOrders: 0, lastOn: null },
  { id: 3, name: 'Kestrel Textiles', email: '', phone: '', leadDays: 4, retired: true, contact: '', openOrders: 0, lastOn: '2025-01-02' },
];

async function open(rows = parties) {
  const server = standInServer();
  signedIn(server, ['look', 'items.edit']);
  const fitting = (path: string) => {
    const query = new URLSearchParams(path.split('?')[1]);
    const life = query.get('life');
    return rows.filter(
      ({ name, retired }) => name.toLowerCase().includes((query.get('q') ?? '').toLowerCase()) && (life === 'all' || retired === (life === 'retired')),
    );
  };
  server.on(partyList, (_, path) => ({ rows: fitting(path), next: null }));
  server.on(partiesInAll, (_, path) => ({ count: fitting(path).length }));
  server.on(keptLayouts, () => ({ rows: [] }));
  server.on(getParty, (_, path) => ({
    ...rows.find(({ id }) => path.endsWith(`/${id}`)),
    address: 'The Forge\nAshgrove',
    contacts: [],
    notes: '',
    isSupplier: true,
    isCustomer: false,
  }));
  const { Around, router } = around('/inbound/suppliers');
  render(<PartyList as="supplier" title="Suppliers" base="/inbound/suppliers" ways={<span>Orders, suppliers</span>} />, { wrapper: Around });
  await screen.findByRole('heading', { level: 1, name: 'Suppliers' });
  return { user: userEvent.setup(), router };
}
const names = () =>
  within(screen.getByRole('table', { name: 'Suppliers' }))
    .getAllByRole('row')
    .flatMap((row) => parties.filter(({ name }) => row.textContent?.includes(name)).map(({ name }) => name));

test('those in use are listed with what is open with them; the retired are a choice away', async () => {
  const { user } = await open();
  await waitFor(() => expect(names()).toEqual(['Ashgrove Metalworks', 'Hexley Joinery']));
  await waitFor(() => expect(screen.getByText('2 suppliers')).toBeTruthy());
  await user.click(screen.getByRole('button', { name: 'Retired' }));
  await waitFor(() => expect(names()).toEqual(['Kestrel Textiles']));
  await user.click(screen.getByRole('button', { name: 'All' }));
  await waitFor(() => expect(names()).toHaveLength(3));
});

test('first letters go to a name, Enter opens its page', async () => {
  const { user, router } = await open();
  await waitFor(() => expect(names()).toHaveLength(2));
  await user.keyboard('h{Enter}');
  await waitFor(() => expect(router.state.location.pathname).toBe('/inbound/suppliers/2'));
});

test('where there is none yet the list says what will be here, and where nothing fits that', async () => {
  const { user } = await open([]);
  expect(await screen.findByRole('link', { name: 'Add the first one' })).toBeTruthy();
  await user.type(screen.getByRole('searchbox', { name: /Find/ }), 'nobody');
  expect(await screen.findByRole('button', { name: 'Show everything' })).toBeTruthy();
});
