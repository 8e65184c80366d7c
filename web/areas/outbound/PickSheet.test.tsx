/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { SalesOrder } from '@larder/contract/outbound';
import { pick, pickList } from '@larder/contract/picking';
import { act, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useScans } from '../../kit/scan';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { PickSheet } from './PickSheet';

const row = (lineId: number, sku: string, take: string, code: string) => ({
  lineId,
  itemId: lineId,
  sku,
  name: `Goods ${sku}`,
  unit: 'each',
  step: '1',
  wanted: take,
  siteId: 1,
  site: 'Barn store',
  binId: lineId,
  bin: `A-${lineId}`,
  inBin: '20',
  doubtful: false,
  take,
  lotId: null,
  lot: null,
  useBy: null,
  codes: [{ code, factor: '1' }],
});
const effects = { rows: [], notes: [], costNotes: [] };

function open(answer: unknown = { movementId: 5, effects }) {
  const server = standInServer();
  signedIn(server, ['look', 'outbound.ship']);
  server.on(pickList, () => ({
    rows: [row(1, 'VASE', '2', '4000000000011'), row(2, 'BOWL', '1', '4000000000028')],
    missing: [{ lineId: 3, sku: 'DISH', quantity: '4' }],
    made: [{ id: 8, number: 'WO-8', sku: 'DISH', quantity: '4', toTake: true, atWork: false }],
  }));
  server.on(pick, (_, path) => (path.includes('preview=true') ? { movementId: null, effects } : answer));
  let offer: (code: string) => boolean = () => false;
  const Listening = () => {
    offer = useScans().offer;
    return null;
  };
  let isDone = false;
  const { Around } = around();
  render(
    <>
      <Listening />
      <PickSheet order={{ id: 7 } as SalesOrder} mayShipFrom={() => true} done={() => (isDone = true)} />
    </>,
    { wrapper: Around },
  );
  const posted = () => server.sent(pick);
  return { user: userEvent.setup(), scan: (code: string) => act(() => void offer(code)), posted, isDone: () => isDone };
}
const picked = (sku: string) => screen.getByLabelText<HTMLInputElement>(new RegExp(`^Picked of ${sku}`));

test('without a scan all that is asked for is meant; what cannot be picked is said', async () => {
  const { user, posted, isDone } = open();
  await screen.findByRole('table', { name: 'Pick list' });
  expect([picked('VASE').value, picked('BOWL').value]).toEqual(['2', '1']);
  expect(screen.getByText('4 of DISH cannot be picked yet; they stay on the order.')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Take the parts of WO-8' }).getAttribute('href')).toBe('/making/orders/8?do=take');
  expect(screen.queryByLabelText('Why fewer than asked')).toBeNull();
  await user.click(screen.getByRole('button', { name: /Put 2 lines on the bench/ }));
  await waitFor(() => expect(isDone()).toBe(true));
  expect(posted()).toEqual({
    orderId: 7,
    short: [],
    shortReason: '',
    lines: [
      { lineId: 1, binId: 1, lotId: null, quantity: '2' },
      { lineId: 2, binId: 2, lotId: null, quantity: '1' },
    ],
  });
});

test('with the first scan each piece counts; a code that is not asked for is refused, and why fewer go is asked', async () => {
  const { user, scan, posted } = open();
  await screen.findByRole('table', { name: 'Pick list' });
  scan('4000000000011');
  expect([picked('VASE').value, picked('BOWL').value]).toEqual(['1', '0']);
  expect(screen.getByRole('status').textContent).toBe('1 × VASE from A-1');
  scan('4000000000999');
  expect(screen.getByRole('status').textContent).toBe('4000000000999 is not on this pick list.');
  scan('4000000000011');
  scan('4000000000011');
  expect(screen.getByRole('status').textContent).toBe('VASE is all picked.');
  expect(picked('VASE').value).toBe('2');
  await user.type(screen.getByLabelText('Why fewer than asked'), 'one bowl was cracked');
  await user.click(screen.getByRole('button', { name: /Put 1 line on the bench/ }));
  await waitFor(() => expect(posted()).toMatchObject({ shortReason: 'one bowl was cracked', lines: [{ lineId: 1, quantity: '2' }] }));
});

test('what the server refuses stands at its row, and nothing that was typed is lost', async () => {
  const { user, isDone } = open(refused(422, 'unfit', 'Only 1 lies there.', 'lines.1.quantity'));
  await screen.findByRole('table', { name: 'Pick list' });
  await user.clear(picked('VASE'));
  await user.type(picked('VASE'), '1');
  await user.click(screen.getByRole('button', { name: /Put 2 lines on the bench/ }));
  await waitFor(() => expect(screen.getAllByText('Only 1 lies there.').length).toBeGreaterThan(0));
  expect(picked('BOWL').closest('tr')?.textContent).toContain('Only 1 lies there.');
  expect(picked('VASE').value).toBe('1');
  expect(isDone()).toBe(false);
});

test('the page’s own next step is the one that Ctrl Enter does', async () => {
  const { user, isDone } = open();
  await screen.findByRole('table', { name: 'Pick list' });
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(isDone()).toBe(true));
});
