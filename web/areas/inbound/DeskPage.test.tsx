/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { beforeEach, expect, test } from '@jest/globals';
import { changeDesk, receive, receivingDesk, type ReceiptForm } from '@larder/contract/receiving';
import { listBins } from '@larder/contract/setup';
import { afterChange, emptyTally, type DeskChange, type Tally } from '@larder/core/inbound/tally';
import { act, render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useScans } from '../../kit/scan';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { DeskPage } from './DeskPage';

const line = (lineId: number, sku: string, outstanding: string, code: string) => ({
  lineId,
  kind: 'purchase' as const,
  orderId: lineId < 10 ? 1 : 2,
  delivery: lineId < 10 ? '1' : '2',
  orderNumber: lineId < 10 ? 'PO-1' : 'PO-2',
  supplier: 'Hexley Joinery',
  siteId: 1,
  site: 'Barn store',
  expectedOn: lineId < 10 ? '2026-11-24' : '2026-11-30',
  position: 1,
  itemId: lineId,
  sku,
  name: `Goods ${sku}`,
  unit: 'each',
  step: '1',
  outstanding,
  tracking: 'none',
  stocked: true,
  binId: 3,
  bin: 'A-1',
  codes: [{ code, factor: '1' }],
  waiting: [],
  others: [],
});
const effects = { rows: [], notes: [], costNotes: [] };
beforeEach(() => localStorage.clear());

/** A desk with two orders; the server refuses what is counted on a line that is closed, and a receipt as the test says. */
function open({ closed = [] as number[], answer = { movementId: 5, effects } as unknown } = {}) {
  const server = standInServer();
  let kept: { tally: Tally; version: number } = { tally: emptyTally, version: 1 };
  signedIn(server, ['look', 'inbound.receive']);
  server.on(listBins, () => ({ rows: [{ id: 3, code: 'A-1', siteId: 1, siteName: 'Barn store', sellable: true }] }));
  server.on(receivingDesk, () => ({ rows: [line(1, 'VASE', '3', '4000000000011'), line(11, 'BOWL', '6', '4000000000028')], ...kept }));
  server.on(changeDesk, ({ changes }: { changes: DeskChange[] }) => {
    if (changes.some((change) => change.what === 'scan' && change.parts.some(({ lineId }) => closed.includes(lineId))))
      return refused(422, 'unfit', 'This order was closed.', 'changes.0');
    kept = { tally: changes.reduce(afterChange, kept.tally), version: kept.version + 1 };
    return kept;
  });
  server.on(receive, (_: ReceiptForm, path) => (path.includes('preview=true') ? { movementId: null, effects } : answer));
  let offer: (code: string) => boolean = () => false;
  const Listening = () => {
    offer = useScans().offer;
    return null;
  };
  const { Around } = around('/inbound/desk');
  render(
    <>
      <Listening />
      <DeskPage />
    </>,
    { wrapper: Around },
  );
  return {
    user: userEvent.setup(),
    server,
    scan: (code: string) => act(() => void offer(code)),
    posted: () => server.sent(receive) as ReceiptForm,
  };
}
const counted = (of: string) => screen.getByLabelText<HTMLInputElement>(`Quantity of ${of}`).value;

test('each scan counts one on the line that wants it, the last is said and can be taken back', async () => {
  const { user, scan } = open();
  await screen.findByText('2 open orders: scan, or type quantities');
  scan('4000000000011');
  scan('4000000000011');
  scan('4000000000028');
  expect([counted('VASE on PO-1'), counted('BOWL on PO-2')]).toEqual(['2', '1']);
  expect(screen.getByRole('status').textContent).toContain('1 × BOWL Goods BOWL');
  await user.click(screen.getByRole('button', { name: 'Take the scan back' }));
  expect(counted('BOWL on PO-2')).toBe('');
});

test('one too many is asked about: taken as extra for that line and that many, or put aside', async () => {
  const { user, scan, posted } = open();
  await screen.findByText('2 open orders: scan, or type quantities');
  for (let times = 0; times < 4; times += 1) scan('4000000000011');
  expect(counted('VASE on PO-1')).toBe('3');
  expect(screen.getByRole('alert').textContent).toContain('No open line wants more VASE.');
  await user.click(screen.getByRole('button', { name: 'Take it as extra' }));
  expect(counted('VASE on PO-1')).toBe('4');
  await user.click(screen.getByRole('button', { name: /^Receive 1 line/ }));
  await screen.findByText('Received 1 line.');
  expect(posted().lines).toMatchObject([{ lineId: 1, quantity: '4', extra: '1', binId: 3 }]);
});

test('starting over forgets what was counted, and what was agreed to with it', async () => {
  const { user, scan } = open();
  await screen.findByText('2 open orders: scan, or type quantities');
  for (let times = 0; times < 4; times += 1) scan('4000000000011');
  await user.click(screen.getByRole('button', { name: 'Take it as extra' }));
  await user.click(screen.getByRole('button', { name: 'Start over' }));
  expect(counted('VASE on PO-1')).toBe('');
  for (let times = 0; times < 4; times += 1) scan('4000000000011');
  expect(screen.getByRole('alert').textContent).toContain('No open line wants more VASE.');
});

test('what the server would not count is shown with its reason and can be dropped, and what was scanned after it counts', async () => {
  const { user, scan } = open({ closed: [11] });
  await screen.findByText('2 open orders: scan, or type quantities');
  scan('4000000000028');
  scan('4000000000011');
  const apart = await screen.findByRole('region', { name: 'Not counted' }, { timeout: 5000 });
  expect(apart.textContent).toContain('1 × BOWL Goods BOWL: This order was closed.');
  expect([counted('VASE on PO-1'), counted('BOWL on PO-2')]).toEqual(['1', '']);
  await user.click(screen.getByRole('button', { name: 'Drop it' }));
  expect(screen.queryByRole('region', { name: 'Not counted' })).toBeNull();
});

test('what no order wants is said, with the ways on', async () => {
  const { scan } = open();
  await screen.findByText('2 open orders: scan, or type quantities');
  scan('4999999999999');
  expect(screen.getByRole('alert').textContent).toContain('4999999999999 is on no open order.');
  expect(screen.getByRole('link', { name: 'Receive it without an order' })).toBeTruthy();
});

test('a question of the server is asked before anything is received, and the answer goes with it', async () => {
  const { user, server, scan, posted } = open();
  server.on(receive, (form: ReceiptForm, path) => {
    if (!form.countedSince) return refused(409, 'counted-since', 'The bin was counted after that day.', undefined, ['counted-since']);
    return path.includes('preview=true') ? { movementId: null, effects } : { movementId: 5, effects };
  });
  await screen.findByText('2 open orders: scan, or type quantities');
  scan('4000000000011');
  await user.click(await screen.findByRole('button', { name: 'Take it all the same' }));
  await user.click(screen.getByRole('button', { name: /^Receive 1 line/ }));
  await screen.findByText('Received 1 line.');
  expect(posted()).toMatchObject({ countedSince: true, pastUseBy: false, lines: [{ lineId: 1, quantity: '1' }] });
});
