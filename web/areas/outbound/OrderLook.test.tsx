/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listCarriers } from '@larder/contract/carriers';
import { endSale, type SalesOrder } from '@larder/contract/outbound';
import { pick, pickList } from '@larder/contract/picking';
import type { Right } from '@larder/contract/rights';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { Look, type Mode } from './OrderLook';

const line = (id: number, sku: string, part: object = {}) => ({
  id,
  position: id,
  itemId: id,
  sku,
  name: `Goods ${sku}`,
  unit: 'each',
  siteId: 1,
  site: 'Barn store',
  stocked: true,
  quantity: '4',
  baseQuantity: '4',
  picked: '0',
  dispatched: '0',
  reserved: '4',
  short: '0',
  price: '5.00',
  pricePer: '1',
  discount: '0',
  shipBy: '2026-11-25',
  amount: '20.00',
  coming: [],
  direct: '0',
  onOrder: '0',
  sent: '0',
  supplies: [],
  free: '10',
  cost: '',
  ...part,
});
const order = (part: object = {}) =>
  ({
    id: 7,
    number: 'SO-7',
    version: 3,
    siteId: 1,
    site: 'Barn store',
    open: true,
    shipBy: '2026-11-25',
    picked: '0',
    dispatched: '0',
    returned: '0',
    amount: '40.00',
    discount: '0',
    discounted: '0.00',
    shipTo: '',
    currency: 'GBP',
    rate: '1',
    tax: '8.00',
    movements: [],
    changes: [{ at: '2026-11-23T10:00:00Z', person: 'Ines Vale', field: 'changed', was: null, is: '4 of VASE instead of 6' }],
    lines: [line(1, 'VASE'), line(2, 'BOWL')],
    ...part,
  }) as unknown as SalesOrder;
const effects = { rows: [], notes: [], costNotes: [] };

function open(rights: readonly Right[], of: SalesOrder = order(), pickable = [1, 2], made: object[] = []) {
  const server = standInServer();
  signedIn(server, rights);
  server.on(pickList, () => ({ rows: pickable.map((lineId) => ({ lineId, siteId: 1, binId: 1, lotId: null, take: '4' })), missing: [], made }));
  server.on(pick, () => ({ movementId: null, effects }));
  server.on(endSale, () => of);
  server.on(listCarriers, () => ({ rows: [] }));
  const went: Mode[] = [];
  const { Around } = around();
  render(<Look order={of} packing={{ loose: [], parcels: [], shipments: [] }} today="2026-11-24" go={(mode) => went.push(mode)} />, { wrapper: Around });
  return { user: userEvent.setup(), server, went };
}

test('whoever picks is led to picking, and sees what that will change', async () => {
  const { user, went } = open(['look', 'outbound.ship']);
  await user.click(await screen.findByRole('button', { name: /^Pick 2 lines/ }));
  expect(went).toEqual(['pick']);
  expect(screen.getByRole('region', { name: 'What picking will change' })).toBeTruthy();
  expect(screen.queryByRole('region', { name: 'What happens now' })).toBeNull();
  expect(screen.queryByRole('button', { name: /^Cancel/ })).toBeNull();
});

test('what is put together for it is told, and is what comes next when nothing can be picked', async () => {
  const made = [
    { id: 8, number: 'WO-8', sku: 'KIT', quantity: '2', toTake: true, atWork: false },
    { id: 9, number: 'WO-9', sku: 'KIT', quantity: '1', toTake: false, atWork: true },
    { id: 10, number: 'WO-10', sku: 'KIT', quantity: '1', toTake: false, atWork: false },
  ];
  open(['look', 'outbound.ship'], order({ lines: [{ ...line(1, 'KIT'), short: '4' }] as never }), [], made);
  const card = await screen.findByRole('region', { name: 'Put together for this order' });
  expect(
    within(card)
      .getAllByRole('link')
      .map((link) => [link.textContent, link.getAttribute('href')]),
  ).toEqual([
    ['Take the parts of WO-8', '/making/orders/8?do=take'],
    ['Record WO-9', '/making/orders/9?do=record'],
    ['Look at WO-10', '/making/orders/10'],
  ]);
  expect(await screen.findByRole('button', { name: /^Take the parts of WO-8/ })).toBeTruthy();
});

test('at the sales desk it says what happens now, offers no pick that would be refused, and may be cancelled', async () => {
  const { user, server } = open(['look', 'outbound.sell']);
  const now = within(await screen.findByRole('region', { name: 'What happens now' }));
  await waitFor(() => expect(now.getByText('2 lines can be picked: whoever is on the floor at Barn store sees it on Today.')).toBeTruthy());
  expect(now.getByText('Ship by', { exact: false }).textContent).toBe('Ship by tomorrow.');
  expect(screen.queryByRole('button', { name: /^(Pick|Dispatch)/ })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Cancel SO-7' }));
  expect(await screen.findByText('SO-7 is cancelled.')).toBeTruthy();
  expect(server.sent(endSale)).toEqual({ decision: 'cancel', version: 3 });
  // the way back stands beside what was said, and needs no right but the one to cancel
  await user.click(screen.getByRole('button', { name: 'Undo' }));
  expect(await screen.findByText('SO-7 is open again.')).toBeTruthy();
  expect(server.sent(endSale)).toEqual({ decision: 'reopen', version: 4 });
});

test('of an order that went out in part the rest is cancelled, and that is said', async () => {
  const part = order({ picked: '4', dispatched: '4', dispatchedAmount: '20.00', dispatchedCost: '8.00', margin: '12.00' });
  const { user, server } = open(['look', 'outbound.sell'], part);
  await user.click(await screen.findByRole('button', { name: 'Cancel the rest' }));
  expect(await screen.findByText('The rest of SO-7 is cancelled.')).toBeTruthy();
  expect(server.sent(endSale)).toEqual({ decision: 'close', version: 3 });
});

test('while nothing of it is picked it may be a quote again, to be written on', async () => {
  const { user, server } = open(['look', 'outbound.sell'], order());
  await user.click(await screen.findByRole('button', { name: 'Back to a quote' }));
  expect(await screen.findByText('SO-7 is a quote again.')).toBeTruthy();
  expect(server.sent(endSale)).toEqual({ decision: 'withdraw', version: 3 });
});

test('an order whose rest was cancelled can be opened again, and what is in the way is told', async () => {
  const { user, server } = open(['look', 'outbound.sell'], order({ open: false, state: 'rest cancelled' }));
  server.on(endSale, () => refused(409, 'site-retired', 'Barn store is retired; take it back into use first.'));
  await user.click(await screen.findByRole('button', { name: 'Open again' }));
  expect((await screen.findAllByText('Barn store is retired; take it back into use first.')).length).toBeGreaterThan(0);
  expect(server.sent(endSale)).toEqual({ decision: 'reopen', version: 3 });
});

test('somebody who only looks is offered nothing', async () => {
  open(['look']);
  await screen.findByRole('region', { name: 'What happens now' });
  await waitFor(() => expect(screen.getByText(/can be picked/)).toBeTruthy());
  expect(screen.queryAllByRole('button')).toEqual([]);
});

test('what waits for goods says so, and an order that is done says nothing any more', async () => {
  open(['look'], order({ lines: [line(1, 'VASE', { reserved: '0', short: '4' })] }), []);
  expect((await screen.findByText(/waits for goods to come in/)).textContent).toContain('at Barn store');
});

test('an order that is done tells nobody what happens now', async () => {
  open(['look'], order({ open: false }), []);
  await screen.findByText('Goods VASE');
  expect(screen.queryByRole('region', { name: 'What happens now' })).toBeNull();
});

test('what comes straight from a supplier says on which order and by when; what nobody has ordered yet is the next step of those who buy', async () => {
  const supplies = [{ orderId: 31, orderNumber: 'PO-31', supplier: 'Hexley Joinery', quantity: '3', sent: '1', expectedOn: '2026-11-26' }];
  const straight = line(1, 'VASE', {
    quantity: '6',
    baseQuantity: '6',
    picked: '1',
    dispatched: '1',
    returned: '0',
    reserved: '0',
    direct: '5',
    onOrder: '2',
    sent: '1',
    supplies,
  });
  open(['look', 'outbound.sell', 'inbound.order'], order({ lines: [straight], dispatched: '1', dispatchedAmount: '5.00', margin: '' }), []);
  const row = within(await screen.findByRole('row', { name: /VASE/ }));
  expect(row.getByText(/^2 straight from Hexley Joinery on Thu 26 Nov/)).toBeTruthy();
  expect(row.getByRole('link', { name: 'PO-31' }).getAttribute('href')).toBe('/inbound/orders/31');
  expect(row.getByText(/^2 to be ordered straight from a supplier/)).toBeTruthy();
  // Who may order is known a moment after the order is.
  expect((await row.findByRole('link', { name: 'order' })).getAttribute('href')).toBe('/outbound/direct?lines=1');
  expect(await screen.findByRole('button', { name: /^Order 1 line straight/ })).toBeTruthy();
});
