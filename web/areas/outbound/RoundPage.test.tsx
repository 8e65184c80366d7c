/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { readCode } from '@larder/contract/catalog';
import { endRound, getRound, pickQueue, pickRound, startRound } from '@larder/contract/picking';
import { act, render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { useScans } from '../../kit/scan';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { PickingPage } from './PickingPage';
import { RoundPage } from './RoundPage';

const row = (lineId: number, slot: number, take: string, part: object = {}) => ({
  lineId,
  orderId: slot,
  number: `SO-${slot}`,
  slot,
  itemId: 1,
  sku: 'VASE',
  name: 'Goods VASE',
  unit: 'each',
  step: '1',
  wanted: take,
  siteId: 1,
  site: 'Barn store',
  binId: 4,
  bin: 'A-4',
  inBin: '20',
  doubtful: false,
  take,
  lotId: null,
  lot: null,
  useBy: null,
  codes: [{ code: '4000000000011', factor: '1' }],
  ...part,
});
const round = (part: object = {}) => ({
  id: 3,
  siteId: 1,
  site: 'Barn store',
  pickerId: 1,
  picker: 'Somebody',
  startedAt: '2026-11-24T09:14:00Z',
  endedAt: null,
  orders: 2,
  slots: [
    { slot: 1, orderId: 1, number: 'SO-1', customer: 'Copse Lane School' },
    { slot: 2, orderId: 2, number: 'SO-2', customer: 'Ashby Club' },
  ],
  rows: [row(10, 1, '1'), row(20, 2, '2')],
  missing: [{ lineId: 21, sku: 'DISH', quantity: '4', number: 'SO-2' }],
  ...part,
});
const effects = { rows: [], notes: [], costNotes: [] };
const queue = (orderId: number, part: object = {}) => ({
  kind: 'sales' as const,
  orderId,
  number: `SO-${orderId}`,
  customer: 'Copse Lane School',
  siteId: 1,
  site: 'Barn store',
  shipBy: '2026-11-24',
  late: false,
  lines: 2,
  pieces: '7',
  waitsWhole: false,
  round: null,
  ...part,
});

function open(path: string, { now = round(), rows = [queue(1), queue(2)], rounds = [] as object[], answer = { movementId: 5, effects } as unknown } = {}) {
  const server = standInServer();
  signedIn(server, ['look', 'outbound.ship']);
  server.on(getRound, () => now);
  server.on(pickQueue, () => ({ rows, rounds }));
  server.on(startRound, () => answer);
  server.on(endRound, () => ({ id: 3 }));
  server.on(pickRound, (_, asked) => (asked.includes('preview=true') ? { movementId: null, effects } : answer));
  server.on(readCode, () => ({
    items: [{ itemId: 9, sku: 'BOWL', name: 'Salad bowl', tracking: 'none', unit: 'each', factor: '1', lotId: null }],
    lot: null,
    useBy: null,
    serial: null,
  }));
  let offer: (code: string) => boolean = () => false;
  const Listening = () => {
    offer = useScans().offer;
    return null;
  };
  const { Around, router } = around(path);
  render(
    <>
      <Listening />
      <Routes>
        <Route path="/outbound/picking" element={<PickingPage />} />
        <Route path="/outbound/rounds/:id" element={<RoundPage />} />
      </Routes>
    </>,
    { wrapper: Around },
  );
  return { user: userEvent.setup(), server, router, scan: (code: string) => act(() => void offer(code)) };
}
const picked = (slot: number) => screen.getByLabelText<HTMLInputElement>(`Picked of VASE from A-4 into slot ${slot}`);

test('each scan goes into the slot that still wants it; what is not asked for is told by its name; all taken, the round is over', async () => {
  const { scan, user, server, router } = open('/outbound/rounds/3');
  expect(await screen.findByText('4 of DISH for SO-2 cannot be picked yet; they stay on the order.')).toBeTruthy();
  expect(within(screen.getByRole('region', { name: 'Slots' })).getByText('Ashby Club')).toBeTruthy();
  scan('4000000000011');
  await screen.findByText('1 × VASE from A-4 into slot 1');
  expect([picked(1).value, picked(2).value]).toEqual(['1', '0']);
  scan('4000000000011');
  await screen.findByText('1 × VASE from A-4 into slot 2');
  scan('4000000000028');
  expect(await screen.findByText('4000000000028 is not on this pick list. It is BOWL, Salad bowl.')).toBeTruthy();
  expect([picked(1).value, picked(2).value]).toEqual(['1', '1']);
  scan('4000000000011');
  await waitFor(() => expect(picked(2).value).toBe('2'));
  await user.click(screen.getByRole('button', { name: /^Put 2 lines on the bench/ }));
  await waitFor(() => expect(router.state.location.pathname).toBe('/outbound/picking'));
  expect(server.sent(pickRound)).toEqual({
    lines: [
      { lineId: 10, binId: 4, lotId: null, quantity: '1' },
      { lineId: 20, binId: 4, lotId: null, quantity: '2' },
    ],
    short: [],
    shortReason: '',
    ends: true,
  });
});

test('less than asked is told with its bin and reason, and the round goes on; it may be ended', async () => {
  const { user, server, router } = open('/outbound/rounds/3');
  await screen.findByRole('table', { name: 'Pick list' });
  await user.clear(picked(2));
  await user.type(picked(2), '1');
  await user.type(screen.getByLabelText('Why fewer than asked'), 'one cracked');
  expect(screen.getByText('The bin is marked to be counted, and others are offered first.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: /^Put 2 lines on the bench/ }));
  await waitFor(() => expect(server.sent(pickRound)).toMatchObject({ short: [{ lineId: 20, binId: 4 }], shortReason: 'one cracked', ends: false }));
  expect(router.state.location.pathname).toBe('/outbound/rounds/3');
  await user.click(screen.getByRole('button', { name: 'End the round' }));
  await waitFor(() => expect(server.sent(endRound)).toEqual({}));
});

test('where less was found before, nothing is thought to be taken', async () => {
  open('/outbound/rounds/3', { now: round({ rows: [row(10, 1, '1', { doubtful: true })] }) });
  await screen.findByRole('table', { name: 'Pick list' });
  expect(picked(1).value).toBe('0');
  expect(screen.getByText('to be counted')).toBeTruthy();
});

test('a round of somebody else is looked at and may be ended, not picked by', async () => {
  open('/outbound/rounds/3', { now: round({ pickerId: 8, picker: 'Tom Aldous' }) });
  expect(await screen.findByText(/^Tom Aldous picks this round/)).toBeTruthy();
  expect(screen.queryByRole('table', { name: 'Pick list' })).toBeNull();
  expect(screen.getByRole('button', { name: 'End the round' })).toBeTruthy();
});

test('several orders and transfers are chosen for one round; those that somebody picks cannot be', async () => {
  const rows = [queue(1), queue(2), queue(4, { kind: 'transfer', number: 'TR-4' }), queue(5, { round: { id: 9, picker: 'Tom Aldous' } })];
  const rounds = [{ id: 9, siteId: 1, site: 'Barn store', pickerId: 8, picker: 'Tom Aldous', startedAt: '2026-11-24T09:14:00Z', orders: 1 }];
  const { user, server, router } = open('/outbound/picking', { rows, rounds, answer: { id: 3 } });
  expect(await screen.findByText(/Tom Aldous picks it/)).toBeTruthy();
  expect(screen.queryByLabelText('Choose SO-5')).toBeNull();
  expect(screen.getByRole('button', { name: /^Pick SO-1/ })).toBeTruthy();
  await user.click(screen.getByLabelText('Choose SO-1'));
  await user.click(screen.getByLabelText('Choose SO-2'));
  await user.click(screen.getByLabelText('Choose TR-4'));
  await user.click(screen.getByRole('button', { name: /^Pick 3 orders in one round/ }));
  await waitFor(() => expect(server.sent(startRound)).toEqual({ siteId: 1, orderIds: [1, 2], transferIds: [4], workOrderIds: [] }));
  await waitFor(() => expect(router.state.location.pathname).toBe('/outbound/rounds/3'));
});

test('what another was quicker to begin is said, and nothing is begun', async () => {
  const { user, router } = open('/outbound/picking', { answer: refused(409, 'in-a-round', 'Tom Aldous picks SO-1 in round 9.', 'orderIds') });
  await user.click(await screen.findByRole('button', { name: /^Pick SO-1/ }));
  expect(await screen.findByText('Tom Aldous picks SO-1 in round 9.')).toBeTruthy();
  expect(router.state.location.pathname).toBe('/outbound/picking');
});
