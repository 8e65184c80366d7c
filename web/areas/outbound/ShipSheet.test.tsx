/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { SalesOrder } from '@larder/contract/outbound';
import { bookShipment, carrierOffers, dispatch } from '@larder/contract/shipping';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import type { Packing } from './packForm';
import { BookedSheet } from './SendParcels';
import { ShipSheet } from './ShipSheet';

const parcel = (id: number, part: object = {}) => ({
  id,
  version: 1,
  number: `PC-${id}`,
  siteId: 1,
  site: 'Barn',
  shipmentId: null,
  weight: null,
  reckoned: '2.5',
  tracking: '',
  whereabouts: '',
  toldAt: null,
  delivered: false,
  contents: [{ lineId: 1, sku: 'VASE', lot: null, quantity: '2' }],
  ...part,
});
const line = {
  id: 2,
  sku: 'FITTING',
  name: 'Fitting',
  stocked: false,
  siteId: 1,
  baseQuantity: '1',
  picked: '0',
  dispatched: '0',
  returned: '0',
  direct: '0',
  sent: '0',
};
const order = { id: 7, number: 'SO-7', customer: 'Copse Lane School', lines: [line] } as unknown as SalesOrder;
const offer = (part: object) => ({
  carrierId: 4,
  carrier: 'Heronway',
  connected: true,
  service: 'Steady',
  price: '6.50',
  arrivesOn: '2026-12-01',
  refusal: '',
  ...part,
});
const offers = [
  offer({ service: 'Next van', price: '9.90' }),
  offer({}),
  offer({ service: 'Night', price: null, refusal: 'It is too heavy.' }),
  offer({ carrierId: 5, carrier: 'Cobb', connected: false, service: '', price: null, arrivesOn: null }),
];
const effects = { rows: [], notes: [], costNotes: [] };

function open(packing: Packing, sheet: typeof ShipSheet | typeof BookedSheet = ShipSheet, answer: () => unknown = () => ({ movementId: 9, effects })) {
  const server = standInServer();
  signedIn(server, ['look', 'outbound.ship']);
  server.on(carrierOffers, () => ({ offers }));
  server.on(bookShipment, () => ({ id: 3, number: 'SH-3' }));
  server.on(dispatch, (_, path) => (path.includes('preview=true') ? { movementId: null, effects } : answer()));
  let isDone = false;
  const { Around } = around();
  const Sheet = sheet as typeof ShipSheet;
  render(<Sheet order={order} packing={packing} today="2026-11-29" mayShipFrom={() => true} done={() => (isDone = true)} />, { wrapper: Around });
  return { user: userEvent.setup(), server, isDone: () => isDone };
}
const packing = { loose: [], parcels: [parcel(1), parcel(2)], shipments: [] } as unknown as Packing;

test('the cheapest that takes them is proposed; who does not says why; booking sends what the customer is charged', async () => {
  const { user, server, isDone } = open(packing);
  expect((await screen.findByRole<HTMLInputElement>('radio', { name: /^Heronway, Steady/ })).checked).toBe(true);
  expect(screen.getByText('It is too heavy.')).toBeTruthy();
  expect(screen.getByRole<HTMLInputElement>('radio', { name: /Night/ }).disabled).toBe(true);
  await user.type(screen.getByLabelText('Charge the customer, before tax'), '4.50');
  await user.click(screen.getByRole('checkbox', { name: /PC-2/ }));
  await user.click(screen.getByRole('button', { name: /^Book 1 parcel with Heronway, 6.50/ }));
  await waitFor(() => expect(isDone()).toBe(true));
  expect(server.sent(bookShipment)).toEqual({ parcelIds: [1], carrierId: 4, service: 'Steady', charged: '4.50', typed: [] });
});

test('of a carrier that is not asked, price and tracking number are typed, and wrong ones said at their field', async () => {
  const { user, server } = open(packing);
  await user.click(await screen.findByRole('radio', { name: /^Cobb/ }));
  await user.type(screen.getByLabelText('Cobb bills for PC-1'), '6.25');
  await user.type(screen.getByLabelText('Tracking number of PC-1'), 'C 12');
  await user.type(screen.getByLabelText('Cobb bills for PC-2'), 'much');
  await user.click(screen.getByRole('button', { name: /^Book 2 parcels with Cobb/ }));
  await waitFor(() => expect(screen.getByLabelText('Cobb bills for PC-2').getAttribute('aria-invalid')).toBe('true'));
  await user.clear(screen.getByLabelText('Cobb bills for PC-2'));
  await user.type(screen.getByLabelText('Cobb bills for PC-2'), '0');
  await user.click(screen.getByRole('button', { name: /^Book 2 parcels with Cobb/ }));
  await waitFor(() => expect(server.sent(bookShipment)).toBeTruthy());
  expect(server.sent(bookShipment)).toMatchObject({
    carrierId: 5,
    typed: [
      { parcelId: 1, expected: '6.25', tracking: 'C 12' },
      { parcelId: 2, expected: '0', tracking: '' },
    ],
  });
});

test('by own van, or collected, it goes out at once, with what is not from stock', async () => {
  const { user, server, isDone } = open(packing);
  await user.click(await screen.findByRole('radio', { name: 'The customer collects' }));
  expect(screen.getByText(/With them, not from stock: 1 FITTING Fitting/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: /^Dispatch 2 parcels to the customer/ }));
  await waitFor(() => expect(isDone()).toBe(true));
  expect(server.sent(dispatch)).toEqual({ orderId: 7, parcelIds: [1, 2], way: 'collected', charged: '0', lines: [{ lineId: 2, quantity: '1' }] });
});

test('what is booked goes out as it was booked, and asks before a part goes of what is to go whole', async () => {
  const shipment = { id: 3, number: 'SH-3', siteId: 1, way: 'carrier', carrier: 'Heronway', service: 'Steady', state: 'booked' };
  const booked = { loose: [], parcels: [parcel(1, { shipmentId: 3 }), parcel(2)], shipments: [shipment] } as unknown as Packing;
  let asked = 0;
  const { user, server, isDone } = open(booked, BookedSheet as typeof ShipSheet, () =>
    (asked += 1) === 1 ? refused(409, 'not-whole', 'SO-7 is to go out whole. Send a part all the same?', undefined, ['part']) : { movementId: 9, effects },
  );
  await user.click(screen.getByRole('button', { name: /^Dispatch 1 parcel with Heronway/ }));
  await user.click(await screen.findByRole('button', { name: 'Send the part' }));
  await waitFor(() => expect(isDone()).toBe(true));
  expect(server.sent(dispatch)).toEqual({ orderId: 7, shipmentId: 3, lines: [{ lineId: 2, quantity: '1' }], part: true });
});
