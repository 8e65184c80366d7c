/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { beforeEach, expect, test } from '@jest/globals';
import { listItems } from '@larder/contract/catalog';
import { listBins, reference } from '@larder/contract/setup';
import { correct, itemStock, type CorrectionForm } from '@larder/contract/stock';
import { act, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { CorrectionPage } from './CorrectionPage';

const effects = { rows: [], notes: [], costNotes: [] };
/** How many the bin holds, and the item's last movement. */
let there = { held: '33', seq: 7 };
beforeEach(() => void (there = { held: '33', seq: 7 }));

function open(answer: (form: CorrectionForm) => unknown = () => ({ movementId: 5, effects })) {
  const server = standInServer();
  signedIn(server, ['look', 'stock.correct' as never]);
  server.on(reference, () => ({ reasons: [{ id: 2, name: 'Counted wrong before' }], sites: [], taxes: [], units: [] }));
  server.on(listBins, () => ({ rows: [{ id: 4, code: 'B-1', siteId: 1, siteName: 'Barn store', sellable: true }] }));
  server.on(listItems, () => ({ rows: [], next: null }));
  server.on(itemStock, () => ({
    itemId: 1,
    sku: 'HIVE',
    name: 'Hive box',
    tracking: 'none',
    seq: there.seq,
    sites: [{ siteId: 1, site: 'Barn store', bins: [{ binId: 3, bin: 'A-1', quantity: there.held, lots: [] }] }],
  }));
  server.on(correct, (form: CorrectionForm, path) => (path.includes('preview=true') ? { movementId: null, effects } : answer(form)));
  const { Around, router } = around('/stock/correction?item=1');
  render(
    <>
      <CorrectionPage />
    </>,
    { wrapper: Around },
  );
  return { user: userEvent.setup(), server, router };
}
const field = () => screen.findByLabelText<HTMLInputElement>('There are now of HIVE');

test('there are now: the difference to what is held is shown, and the moment it was entered at goes with it', async () => {
  const { user, server, router } = open();
  await screen.findByRole('option', { name: 'Counted wrong before' });
  await user.selectOptions(screen.getByLabelText('Reason'), '2');
  await user.type(await field(), '30');
  expect(screen.getByText('-3')).toBeTruthy();
  const next = await screen.findByRole('button', { name: /^Correct 1 line/ });
  await waitFor(() => expect(next.hasAttribute('disabled')).toBe(false));
  await user.keyboard('{Control>}{Enter}{/Control}');
  await screen.findByText('Corrected 1 line.');
  expect(server.sent(correct)).toMatchObject({ way: 'there-are-now', reasonId: 2, lines: [{ itemId: 1, binId: 3, lotId: null, quantity: '30', seq: 7 }] });
  expect(screen.queryByLabelText('There are now of HIVE')).toBeNull();
  // What was posted is not lost: nobody is asked.
  await act(() => router.navigate('/stock'));
  expect(router.state.location.pathname).toBe('/stock');
});

test('what agrees is said to agree; plus or minus is typed with its sign', async () => {
  const { user } = open(() => ({ movementId: null, effects }));
  await screen.findByRole('option', { name: 'Counted wrong before' });
  await user.selectOptions(screen.getByLabelText('Reason'), '2');
  await user.type(await field(), '33');
  expect(screen.getByText('agrees')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Plus or minus' }));
  const typed = screen.getByLabelText<HTMLInputElement>('Plus or minus of HIVE');
  await user.clear(typed);
  await user.type(typed, '-2');
  expect(screen.getByText('-2')).toBeTruthy();
});

test('what is no number makes no line to be posted; what the server refuses stands at its line', async () => {
  const { user } = open(() => refused(422, 'unfit', 'The quantity is divided too finely.', 'lines.0.quantity'));
  await screen.findByRole('option', { name: 'Counted wrong before' });
  await user.selectOptions(screen.getByLabelText('Reason'), '2');
  await user.type(await field(), 'many');
  expect(screen.getByRole('button', { name: /^Correct 0 lines/ }).hasAttribute('disabled')).toBe(true);
  await user.clear(await field());
  await user.type(await field(), '30.5');
  const next = screen.getByRole('button', { name: /^Correct 1 line/ });
  await waitFor(() => expect(next.hasAttribute('disabled')).toBe(false));
  await user.click(next);
  await waitFor(() => expect(screen.getAllByText('The quantity is divided too finely.').length).toBeGreaterThan(0));
  expect((await field()).getAttribute('aria-invalid')).toBe('true');
  expect((await field()).value).toBe('30.5');
});
