/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { SalesOrder } from '@larder/contract/outbound';
import { askAgain, cancelShipment, noteTaken, printParcels } from '@larder/contract/shipping';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import type { Packing } from './packForm';
import { ParcelsCard } from './ParcelsCard';

const parcel = (id: number, part: object = {}) => ({
  id,
  number: `PC-${id}`,
  siteId: 1,
  shipmentId: null,
  weight: null,
  reckoned: '2.5',
  tracking: '',
  whereabouts: '',
  toldAt: null,
  delivered: false,
  contents: [{ lineId: 1, sku: 'VASE', lot: 'L7', quantity: '2' }],
  ...part,
});
const shipment = (part: object) => ({
  id: 3,
  number: 'SH-3',
  siteId: 1,
  way: 'carrier',
  carrier: 'Heronway',
  service: 'Steady',
  charged: '0.00',
  expected: '6.50',
  state: 'booked',
  fault: '',
  nextTryAt: null,
  ...part,
});

function open(packing: object, may = true) {
  const server = standInServer();
  signedIn(server, ['look', 'outbound.ship']);
  server.on(printParcels, () => ({ id: 12, pages: 1 }));
  server.on(askAgain, () => ({}));
  server.on(cancelShipment, () => refused(409, 'gone', 'SH-3 went out already. Undo its dispatch first.'));
  server.on(noteTaken, () => ({}));
  const { Around } = around();
  const whole = { loose: [], parcels: [], shipments: [], ...packing } as unknown as Packing;
  render(<ParcelsCard order={{ id: 7 } as SalesOrder} packing={whole} mayShipFrom={() => may} />, { wrapper: Around });
  return { user: userEvent.setup(), server };
}
const card = (name: string) => within(screen.getByRole('region', { name }));

test('what is packed tells its weight and what is in it, and its papers are printed', async () => {
  const { user, server } = open({ parcels: [parcel(1), parcel(2, { weight: '3.25' })] });
  expect(card('Packed').getAllByText('2 VASE (L7)')).toHaveLength(2);
  expect(card('Packed').getByText('3.25 kg')).toBeTruthy();
  await user.click(card('Packed').getByRole('button', { name: 'Print 2 packing slips' }));
  expect((await card('Packed').findByRole('link', { name: 'Open the PDF' })).getAttribute('href')).toBe('/api/printing/jobs/12/pdf');
  expect(server.sent(printParcels)).toEqual({ parcelIds: [1, 2], paper: 'slip' });
});

test('a carrier that does not answer is asked again, by itself at a time that is told, and when somebody says so', async () => {
  const fault = { state: 'unanswered', fault: 'Heronway did not answer.', nextTryAt: '2026-11-29T10:30:00Z' };
  const { user, server } = open({ parcels: [parcel(1, { shipmentId: 3 })], shipments: [shipment(fault)] });
  expect(card('SH-3').getByText(/Heronway did not answer. It is asked again at/)).toBeTruthy();
  await user.click(card('SH-3').getByRole('button', { name: 'Ask again' }));
  await waitFor(() => expect(server.sent(askAgain)).toEqual({}));
});

test('a booking is cancelled while its parcels are here; why it cannot be is said there', async () => {
  const { user } = open({ parcels: [parcel(1, { shipmentId: 3, tracking: 'HW12' })], shipments: [shipment({})] });
  expect(card('SH-3').getByText('HW12')).toBeTruthy();
  await user.click(card('SH-3').getByRole('button', { name: 'Cancel the booking' }));
  expect(await card('SH-3').findByText('SH-3 went out already. Undo its dispatch first.')).toBeTruthy();
});

test('what was dispatched may be noted as taken; on its way it says where it is, and nothing can be done any more', async () => {
  const { user, server } = open({ shipments: [shipment({ state: 'dispatched', way: 'collected', carrier: '', service: '' })] });
  await user.click(card('SH-3').getByRole('button', { name: 'It was collected' }));
  await waitFor(() => expect(server.sent(noteTaken)).toEqual({}));
});

test('who ships nothing sees where it is, and is offered nothing', () => {
  const gone = parcel(1, { shipmentId: 3, whereabouts: 'At the depot', toldAt: '2026-11-29T21:00:00Z' });
  open({ parcels: [gone], shipments: [shipment({ state: 'taken', charged: '4.50' })] }, false);
  expect(card('SH-3').getByText(/At the depot/)).toBeTruthy();
  expect(card('SH-3').getByText('the customer is charged 4.50')).toBeTruthy();
  expect(card('SH-3').queryByRole('button')).toBeNull();
});
