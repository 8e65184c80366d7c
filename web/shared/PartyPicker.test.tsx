/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { Right } from '@larder/contract/rights';
import { createParty, listParties } from '@larder/contract/setup';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { around, refused, signedIn, standInServer } from '../testing/server';
import { PartyPicker } from './PartyPicker';

const known = ['Hexley Joinery', 'Brightwick Glass', 'Hexham Tools'].map((name, index) => ({ id: index + 1, name }));

function open(rights: Right[] = ['look', 'items.edit']) {
  const server = standInServer();
  signedIn(server, rights);
  server.on(listParties, (_, path) => {
    const words = new URLSearchParams(path.split('?')[1]).get('q')?.toLowerCase() ?? '';
    return { rows: known.filter(({ name }) => words.split(/\s+/).every((word) => name.toLowerCase().includes(word))) };
  });
  server.on(createParty, ({ name }: { name: string }) =>
    name === 'Taken Ltd' ? refused(409, 'taken', 'Somebody has this name.', 'name') : { id: 9, name, version: 1 },
  );
  let chosen: { id: number; name: string } | null = null;
  function Page() {
    const [party, setParty] = useState(chosen);
    chosen = party;
    return <PartyPicker as="supplier" label="Supplier" value={party} onChange={setParty} />;
  }
  const { Around } = around();
  render(<Page />, { wrapper: Around });
  return { user: userEvent.setup(), server, chosen: () => chosen };
}
const field = () => screen.getByLabelText('Supplier');

test('a few letters and Enter choose whoever fits first', async () => {
  const { user, chosen } = open();
  await user.type(field(), 'hex join');
  await waitFor(() => expect(screen.getAllByRole('option').map(({ textContent }) => textContent)).toContain('Hexley Joinery'));
  await user.keyboard('{Enter}');
  expect(chosen()).toMatchObject({ id: 1, name: 'Hexley Joinery' });
});

test('who is not known is added only when that is chosen: Enter alone after a slip adds nobody', async () => {
  const { user, server, chosen } = open();
  await user.type(field(), 'Kestrel Textiles');
  await waitFor(() => expect(screen.getByText('Add “Kestrel Textiles” as a supplier')).toBeTruthy());
  await user.keyboard('{Enter}');
  expect(chosen()).toBeNull();
  await user.keyboard('{ArrowDown}{Enter}');
  await waitFor(() => expect(chosen()).toEqual({ id: 9, name: 'Kestrel Textiles' }));
  expect(server.asked.filter(({ endpoint }) => endpoint === 'POST /api/setup/parties').map(({ body }) => body)).toEqual([
    { name: 'Kestrel Textiles', isSupplier: true },
  ]);
});

test('why somebody cannot be added stands at the field', async () => {
  const { user, chosen } = open();
  await user.type(field(), 'Taken Ltd');
  await waitFor(() => expect(screen.getByText('Add “Taken Ltd” as a supplier')).toBeTruthy());
  await user.keyboard('{ArrowDown}{Enter}');
  await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('Somebody has this name.'));
  expect(chosen()).toBeNull();
});

test('who may not change the catalog is not offered to add anybody', async () => {
  const { user } = open(['look']);
  await user.type(field(), 'Kestrel Textiles');
  await waitFor(() => expect(screen.getByText('No supplier fits.')).toBeTruthy());
  expect(screen.queryByText(/^Add/)).toBeNull();
});
