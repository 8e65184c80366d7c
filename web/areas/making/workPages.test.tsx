/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { readCode } from '@larder/contract/catalog';
import { listBins, reference } from '@larder/contract/setup';
import {
  createWorkOrder,
  getWorkOrder,
  listWorkOrders,
  pickWorkOrder,
  releaseWorkOrder,
  workOrdersInAll,
  workProposal,
  workTaking,
} from '@larder/contract/workOrders';
import { listUntaken, recordWork } from '@larder/contract/workRecords';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { RecordSheet } from './RecordSheet';
import { WorkNewPage } from './WorkNewPage';
import { WorkOrdersPage } from './WorkOrdersPage';

const line = (id: number, sku: string, needed: string, taken: string) => ({
  ...{ id, position: id, itemId: id * 10, sku, name: `Part ${sku}`, unit: 'each', step: '1', tracking: 'none', stocked: true, note: '' },
  ...{ needed, taken, used: '0', atWork: taken, reserved: '0', wanted: '0', short: '0', comesOn: null, untaken: '0' },
  lots: [{ lotId: null, lot: null, useBy: null, quantity: taken }],
});
const row = {
  ...{ id: 5, number: 'WO-7', state: 'picked', itemId: 90, sku: 'HIVE', name: 'A hive', unit: 'each', siteId: 1, site: 'Barn store' },
  ...{ startsOn: '2026-11-23', dueOn: '2026-11-25', late: false, quantity: '2', made: '0', scrapped: '0', components: 2 },
  ...{ needed: '10', taken: '9', used: '0', atWork: '9', short: '0', untaken: '0', released: true, ended: false, sale: null },
};
const order = {
  ...row,
  ...{ version: 3, bomId: 1, bill: '1', steps: '', note: '', cancelled: false, restOf: null, rests: [], stages: [], inProgress: '0.00', rolledUp: '18.00' },
  lines: [line(1, 'BOARD', '8', '8'), line(2, 'ROOF', '2', '1')],
  products: [
    {
      ...{ id: 9, position: 1, itemId: 90, sku: 'HIVE', name: 'A hive', unit: 'each', step: '1', tracking: 'none' },
      ...{ quantity: '2', made: '0', scrapped: '0', share: null, binId: 4, bin: 'C-01', inspected: false, nextLot: null },
    },
  ],
  costs: [{ position: 1, name: 'Joiner', per: 'hour', quantity: '1', charged: '0', rate: '20.00', accountId: 54 }],
  ...{ movements: [], records: [], changes: [] },
};
const outcome = { inProgress: '0.00', after: '0.00', variance: '0.00', charged: '20.00', outputs: [], back: [], ends: true };
const posted = { movementId: 77, effects: { rows: [], notes: [], costNotes: [] } };

function recorded(rights: string[], answer: (body: never) => unknown = () => ({ ...posted, outcome, restId: null, restNumber: null })) {
  const server = standInServer();
  signedIn(server, ['look', 'making.record', 'outbound.ship', 'stock.count', 'costs.see', ...rights] as never);
  server.on(listBins, () => ({ rows: [{ id: 4, code: 'C-01', retired: false, siteId: 1, siteName: 'Barn store', sellable: true, unplaced: false }] }));
  server.on(readCode, () => ({
    items: [{ itemId: 20, sku: 'ROOF', name: 'Roof', lotId: null, factor: '1' }],
    lot: null,
    useBy: null,
    serial: null,
    quantity: null,
  }));
  server.on(recordWork, answer);
  server.on(workTaking, () => ({ rows: [{ lineId: 2, binId: 6, bin: 'B-06', lotId: null, take: '1' }], missing: [] }));
  server.on(pickWorkOrder, () => posted);
  server.on(getWorkOrder, () => order);
  const { Around } = around('/making/orders/5?do=record');
  const sheet = (one: object) => <RecordSheet one={one as never} today="2026-11-23" done={() => undefined} />;
  const { rerender } = render(sheet(order), { wrapper: Around });
  return { user: userEvent.setup(), server, becomes: (one: object) => rerender(sheet(one)) };
}

test('what was used is proposed for what was made, and follows it; it is sent as it was corrected', async () => {
  const { user, server } = recorded([]);
  const used = await screen.findByLabelText<HTMLInputElement>('Really used of BOARD');
  expect([used.value, screen.getByLabelText<HTMLInputElement>('Good of HIVE').value]).toEqual(['8', '2']);
  await user.clear(screen.getByLabelText('Good of HIVE'));
  await user.type(screen.getByLabelText('Good of HIVE'), '1');
  await waitFor(() => expect(used.value).toBe('4'));
  await user.clear(used);
  await user.type(used, '5');
  await user.selectOptions(screen.getByLabelText(/^What is left/), 'given up');
  await user.click(screen.getByRole('button', { name: /^Complete 1/ }));
  await waitFor(() =>
    expect(server.sent(recordWork)).toMatchObject({
      version: 3,
      used: [
        { lineId: 1, quantity: '5' },
        { lineId: 2, quantity: '1' },
      ],
      made: [{ lineId: 9, quantity: '1', binId: 4 }],
      charges: [{ name: 'Joiner', quantity: '0.5', rate: null }],
      rest: 'given up',
    }),
  );
});

test('what was never taken from a shelf stands in the way, and is taken from there; whoever may not pass it is not asked why', async () => {
  const block = () => refused(409, 'not-taken', 'Something was used that nobody took from a shelf.', 'used.1.quantity');
  const { user, server } = recorded([], block);
  const card = await screen.findByRole('alert', { name: 'This cannot be completed yet' });
  expect(await screen.findByText('1 used, never taken from a shelf')).toBeTruthy();
  expect(within(card).queryByLabelText(/all the same/)).toBeNull();
  expect((await within(card).findByRole('link', { name: 'Count B-06 first' })).getAttribute('href')).toBe('/stock/counts/new?site=1&bin=6');
  await user.click(await within(card).findByRole('button', { name: 'Take it now: B-06' }));
  await waitFor(() => expect(server.sent(pickWorkOrder)).toEqual({ lines: [{ lineId: 2, binId: 6, lotId: null, quantity: '1' }] }));
});

test('what was typed stays when more is taken meanwhile, and stands in the way no more', async () => {
  let isTaken = false;
  const { user, becomes } = recorded([], ({ used }: { used: { quantity: string }[] }) =>
    isTaken ? { ...posted, outcome, restId: null, restNumber: null } : refused(409, 'not-taken', `Not all ${used[1]?.quantity} were taken.`, 'used.1.quantity'),
  );
  const used = await screen.findByLabelText<HTMLInputElement>('Really used of ROOF');
  await user.clear(used);
  await user.type(used, '3');
  expect(await screen.findByText('2 used, never taken from a shelf')).toBeTruthy();
  const block = await screen.findByRole('alert', { name: 'This cannot be completed yet' });
  await within(block).findByText('Not all 3 were taken.');
  isTaken = true;
  becomes({ ...order, taken: '11', lines: [line(1, 'BOARD', '8', '8'), line(2, 'ROOF', '2', '3')] });
  await waitFor(() => expect(screen.queryByText(/never taken from a shelf/)).toBeNull());
  await waitFor(() => expect(screen.queryByRole('alert', { name: 'This cannot be completed yet' })).toBeNull());
  expect(used.value).toBe('3');
});

test('the owner may complete it all the same, with a reason', async () => {
  const { user, server } = recorded(['making.unrecorded'], () => refused(409, 'not-taken', 'Something was used that nobody took.', 'used.1.quantity'));
  const card = await screen.findByRole('alert', { name: 'This cannot be completed yet' });
  await user.type(within(card).getByLabelText(/all the same/), 'found on the bench');
  await user.click(screen.getByRole('button', { name: /^Complete 2/ }));
  await waitFor(() => expect(server.sent(recordWork)).toMatchObject({ untakenReason: 'found on the bench' }));
});

test('several are released at once, each by itself: one that cannot be is told why and stays chosen', async () => {
  const server = standInServer();
  signedIn(server, ['look', 'making.plan'] as never);
  const planned = (id: number) => ({ ...row, id, number: `WO-${id}`, state: 'planned', released: false, taken: '0', atWork: '0' });
  server.on(listWorkOrders, () => ({ rows: [planned(1), planned(2)], next: null }));
  server.on(workOrdersInAll, () => ({ count: 2 }));
  server.on(listUntaken, () => ({ rows: [] }));
  server.on(getWorkOrder, (_body, path) => ({ ...order, id: Number(path.split('/').at(-1)), released: false }));
  server.on(releaseWorkOrder, (_body, path) => (path.includes('/2/') ? refused(409, 'stale', 'WO-2 was changed by somebody else in the meantime.') : posted));
  const { Around } = around('/making/orders');
  render(<WorkOrdersPage />, { wrapper: Around });
  const user = userEvent.setup();
  await user.click(await screen.findByLabelText('Choose WO-1'));
  await user.click(screen.getByLabelText('Choose WO-2'));
  await user.click(screen.getByRole('button', { name: 'Release 2 work orders' }));
  const left = await screen.findByRole('table', { name: 'Not released' });
  expect(left.textContent).toContain('WO-2 was changed by somebody else');
  expect(screen.getByRole('heading', { name: /^1 work order chosen/ })).toBeTruthy();
});

test('work is planned as the bill says, or with other parts for this order only', async () => {
  const server = standInServer();
  signedIn(server, ['look', 'making.plan', 'costs.see'] as never);
  server.on(reference, () => ({ sites: [{ id: 1, code: 'BARN', name: 'Barn store' }], units: [], reasons: [], taxes: [], categories: [], returnReasons: [] }));
  const part = { itemId: 10, sku: 'BOARD', name: 'Board', unit: 'each', step: '1', quantity: '4', free: '3', note: '' };
  server.on(workProposal, () => ({ bomId: 1, bill: '1', steps: '', components: [part], costs: [], byProducts: [] }));
  server.on(createWorkOrder, () => ({ ...posted, movementId: null, id: 8, number: 'WO-8' }));
  const { getItem, listItems } = await import('@larder/contract/catalog');
  server.on(getItem, () => ({ id: 90, sku: 'HIVE', name: 'A hive', units: [], policies: [], suppliers: [], barcodes: [], substitutes: [] }));
  server.on(listItems, () => ({ rows: [], next: null }));
  const { Around, router } = around('/making/orders/new?item=90&site=1&many=1');
  render(<WorkNewPage />, { wrapper: Around });
  const user = userEvent.setup();
  expect((await screen.findByRole('table', { name: 'What goes in, by the bill' })).textContent).toContain('BOARD');
  await user.click(screen.getByRole('button', { name: 'Change the parts for this order' }));
  const cell = await screen.findByLabelText<HTMLInputElement>('Quantity of BOARD');
  await user.clear(cell);
  await user.type(cell, '5');
  await user.click(screen.getByRole('button', { name: 'Plan only' }));
  await waitFor(() =>
    expect(server.sent(createWorkOrder)).toMatchObject({ itemId: 90, siteId: 1, quantity: '1', components: [{ itemId: 10, quantity: '5' }], release: false }),
  );
  await waitFor(() => expect(router.state.location.pathname).toBe('/making/orders/8'));
});
