/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { askRecount, postCount, reviewCount } from '@larder/contract/counts';
import { reference } from '@larder/contract/setup';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { CountReview } from './CountReview';

const line = {
  id: 1,
  placeId: 4,
  bin: 'B-1',
  itemId: 7,
  sku: 'HT-J',
  name: 'Hive tool',
  unit: 'each',
  lot: null,
  expected: '20',
  counted: '18',
  difference: '-2',
  value: '-4.00',
  person: 'Tom',
  rounds: 1,
  recount: null as string | null,
  binDone: true,
  settled: false,
  posted: '0',
  movementId: null,
  reasonId: null,
  entries: [],
};
const effects = { rows: [], notes: ['Two are missing.'], costNotes: [] };

function open(rows = [line, { ...line, id: 2, sku: 'VEIL', bin: 'B-2', counted: '21', difference: '1', value: '2.00' }], closed = false) {
  const server = standInServer();
  signedIn(server, ['look', 'stock.correct', 'costs.see'] as never);
  server.on(reference, () => ({
    reasons: [
      { id: 2, name: 'Counted wrong before' },
      { id: 3, name: 'Found' },
    ],
    sites: [],
    taxes: [],
    units: [],
  }));
  server.on(reviewCount, () => ({ rows, agreed: 5, found: '2.00', lost: '-4.00' }));
  server.on(postCount, () => ({ movementId: 9, effects, posted: 2, agreed: 5 }));
  server.on(askRecount, () => ({}));
  const { Around } = around('/stock/counts/1');
  render(<CountReview sheet={{ id: 1, number: 'CT-1', siteId: 1, lines: 7, settled: 0, closed } as never} />, { wrapper: Around });
  return { user: userEvent.setup(), server };
}
const row = async (words: RegExp) => screen.findByRole('row', { name: words });

test('differences are shown with what they are worth and what posting them changes; all of them are posted for one reason', async () => {
  const { user, server } = open();
  expect((await row(/HT-J/)).textContent).toMatch(/20.*18.*-2/);
  expect(screen.getByText('5 lines agreed. Found 2.00, lost -4.00.')).toBeTruthy();
  await screen.findByText('Two are missing.');
  await user.click(screen.getByRole('button', { name: 'Post all that is counted' }));
  await screen.findByText('2 differences posted, 5 lines agreed.');
  expect(server.sent(postCount)).toEqual({ reasonId: 2, lines: [] });
});

test('a reason of its own chooses a line; only what is chosen is posted', async () => {
  const { user, server } = open();
  await user.selectOptions(within(await row(/VEIL/)).getByLabelText('Why VEIL in B-2 differs'), '3');
  await user.click(screen.getByRole('button', { name: 'Post 1 chosen line' }));
  await waitFor(() => expect(server.sent(postCount)).toEqual({ reasonId: 2, lines: [{ id: 2, reasonId: 3 }] }));
});

test('chosen lines are counted again; what the server refuses is said by its line', async () => {
  const { user, server } = open();
  server.on(postCount, (_, path) =>
    path.includes('preview=true')
      ? { movementId: null, effects, posted: 0, agreed: 0 }
      : refused(409, 'not-valid', 'HT-J in B-1 was counted again.', 'lines.1'),
  );
  await user.click(await screen.findByRole('button', { name: 'Post all that is counted' }));
  await screen.findByText(/HT-J in B-1 was counted again\./);
  await user.click(screen.getByLabelText('Choose HT-J in B-1'));
  await user.click(screen.getByRole('button', { name: 'Count these again' }));
  await waitFor(() => expect(server.sent(askRecount)).toEqual({ lineIds: [1] }));
});

test('a sheet that has ended shows what was posted, and asks for nothing more', async () => {
  open([{ ...line, settled: true, posted: '-2', reasonId: 2 as never }], true);
  await screen.findByText('posted, Counted wrong before');
  expect(screen.queryByRole('button', { name: /^Post/ })).toBeNull();
});
