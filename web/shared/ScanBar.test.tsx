/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { find } from '@larder/contract/catalog';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useScan } from '../kit/scan';
import type { Right } from '@larder/contract/rights';
import { around, signedIn, standInServer } from '../testing/server';
import { ScanBar } from './ScanBar';

const things = [
  { kind: 'item', id: 3, code: 'VASE', name: 'Tall vase' },
  { kind: 'item', id: 4, code: 'VASE-S', name: 'Small vase' },
  { kind: 'bin', id: 9, code: 'A-01-1', name: 'Barn store' },
];

function open({ takes = () => false, rights = ['look', 'stock.correct'] }: { takes?: (code: string) => boolean; rights?: Right[] } = {}) {
  const server = standInServer();
  signedIn(server, rights);
  server.on(find, (_, path) => {
    const q = (new URLSearchParams(path.split('?')[1]).get('q') ?? '').toLowerCase();
    return {
      rows: things.filter(({ code, name }) => `${code} ${name}`.toLowerCase().includes(q)).map((one) => ({ ...one, exact: one.code.toLowerCase() === q })),
    };
  });
  const Page = () => {
    useScan(takes);
    return (
      <>
        <input aria-label="Note" />
        <ScanBar />
      </>
    );
  };
  const { Around, router } = around('/');
  render(<Page />, { wrapper: Around });
  const at = () => router.state.location.pathname;
  return { user: userEvent.setup(), at };
}
const bar = () => screen.getByRole<HTMLInputElement>('combobox', { name: 'Scan bar' });

test('what words find is listed, arrows go through it, and Enter opens it', async () => {
  const { user, at } = open();
  await user.type(bar(), 'vase');
  expect(await screen.findByRole('option', { name: /Small vase/ })).toBeTruthy();
  await user.keyboard('{ArrowDown}{Enter}');
  await waitFor(() => expect(at()).toBe('/items/4'));
  expect(bar().value).toBe('');
});

test('a code opens what has it, also when Enter comes before anything was listed', async () => {
  const { user, at } = open();
  await user.type(bar(), 'a-01-1{Enter}');
  await waitFor(() => expect(at()).toBe('/stock/bins/9'));
});

test('what somebody may never do is not offered to them', async () => {
  const { user } = open({ rights: ['look'] });
  await user.type(bar(), 'tr');
  expect(await screen.findByRole('option', { name: /Trail of all movements/ })).toBeTruthy();
  await user.clear(bar());
  await user.type(bar(), 'correct');
  expect(screen.queryByRole('option', { name: /Correct stock/ })).toBeNull();
});

test('words of an action open it, also when Enter comes before anything was looked up', async () => {
  const { user, at } = open();
  await user.type(bar(), 'correct stock{Enter}');
  await waitFor(() => expect(at()).toBe('/stock/correction'));
});

test('what nothing has is said, and Escape takes it away', async () => {
  const { user, at } = open();
  await user.type(bar(), 'NONE-77{Enter}');
  expect(await screen.findByText('Nothing has the code NONE-77.')).toBeTruthy();
  expect([at(), bar().value]).toEqual(['/', 'NONE-77']);
  await user.keyboard('{Escape}');
  expect([bar().value, screen.queryByText(/Nothing has the code/)]).toEqual(['', null]);
});

test('a page that takes scans is given the code first, but not the words of an action', async () => {
  const taken: string[] = [];
  const { user, at } = open({ takes: (code) => taken.push(code) > 0 });
  await user.type(bar(), 'VASE');
  await screen.findByRole('option', { name: /Tall vase/ });
  await user.keyboard('{Enter}');
  expect([taken, at(), bar().value]).toEqual([['VASE'], '/', '']);
  await user.type(bar(), 'correct stock');
  await screen.findByRole('option', { name: /Correct/ });
  await user.keyboard('{Enter}');
  await waitFor(() => expect(at()).toBe('/stock/correction'));
  expect(taken).toEqual(['VASE']);
});

test('a slash goes to it from outside of fields, with Ctrl from anywhere', async () => {
  const { user } = open();
  await user.keyboard('/');
  expect(document.activeElement).toBe(bar());
  const note = screen.getByLabelText('Note');
  await user.click(note);
  await user.keyboard('/');
  expect(document.activeElement).toBe(note);
  await user.keyboard('{Control>}/{/Control}');
  expect(document.activeElement).toBe(bar());
});
