/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { knownSerials } from '@larder/contract/lots';
import type { LotEntry } from '@larder/contract/values';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { around, signedIn, standInServer } from '../testing/server';
import { LotFields } from './LotFields';

let now: LotEntry[] = [];

function open(tracking: 'lot' | 'serial' | 'none', wanted: string) {
  const server = standInServer();
  signedIn(server, ['look']);
  server.on(knownSerials, ({ codes }: { codes: string[] }) => ({
    rows: codes.filter((code) => code === 'S-2').map((code) => ({ code, where: 'Barn store A-1', ours: true })),
  }));
  now = [];
  function Page() {
    const [lots, setLots] = useState<LotEntry[]>([]);
    now = lots;
    return <LotFields item={{ itemId: 1, sku: 'DRILL', tracking }} wanted={wanted} lots={lots} change={setLots} />;
  }
  const { Around } = around();
  return { ...render(<Page />, { wrapper: Around }), user: userEvent.setup() };
}

test('an item without lots or serials asks for none', () => {
  expect(open('none', '3').container.querySelector('input, textarea')).toBeNull();
});

test('serials are typed, pasted or given as a range; how many are missing is in view, and what is here already is said', async () => {
  const { user } = open('serial', '3');
  const field = screen.getByLabelText(/Serials/);
  await user.type(field, 'S-1');
  expect(screen.getByText('2 of 3 serials still missing.')).toBeTruthy();
  await user.clear(field);
  await user.click(field);
  await user.paste('S-1\nS-2\nS-3');
  expect(now.map(({ code }) => code)).toEqual(['S-1', 'S-2', 'S-3']);
  expect(screen.getByText('All 3 serials given.')).toBeTruthy();
  await waitFor(() => expect(screen.getByText(/S-2 is here already: Barn store A-1/)).toBeTruthy());
  await user.paste('\nS-4');
  expect(screen.getByText('1 too many.')).toBeTruthy();
});

test('lots each with how many and a use-by day', async () => {
  const { user } = open('lot', '12');
  await user.type(screen.getByLabelText(/^Lot/), 'L-7');
  expect(now[0]).toMatchObject({ code: 'L-7', quantity: '12' });
  expect(screen.getByText(/All 12/)).toBeTruthy();
  const many = screen.getAllByLabelText(/[Qq]uantity|How many/)[0] as HTMLInputElement;
  await user.clear(many);
  await user.type(many, '5');
  expect(screen.getByText(/7 of 12 .*still missing/)).toBeTruthy();
});
