/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { SalesOrder } from '@larder/contract/outbound';
import { packOrder } from '@larder/contract/shipping';
import { act, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useScans } from '../../kit/scan';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import type { Packing } from './packForm';
import { PackSheet } from './PackSheet';

const lies = (lineId: number, sku: string, quantity: string, part: object = {}) => ({
  lineId,
  itemId: lineId,
  sku,
  name: `Goods ${sku}`,
  unit: 'each',
  step: '1',
  lotId: null,
  lot: null,
  quantity,
  weight: '0.5',
  codes: [{ code: `20${lineId}`, factor: '1' }],
  siteId: 1,
  site: 'Barn',
  ...part,
});
const packingOf = (...loose: ReturnType<typeof lies>[]) => ({ loose, parcels: [], shipments: [] }) as unknown as Packing;
const order = { id: 7, number: 'SO-7' } as unknown as SalesOrder;

function open(packing: Packing, answer: () => unknown = () => ({ parcels: [{ id: 1, number: 'PC-1' }] })) {
  const server = standInServer();
  signedIn(server, ['look', 'outbound.ship']);
  server.on(packOrder, answer);
  let isDone = false;
  const { Around } = around();
  let offer: (code: string) => boolean = () => false;
  const Listening = () => {
    offer = useScans().offer;
    return null;
  };
  render(
    <>
      <Listening />
      <PackSheet order={order} packing={packing} mayShipFrom={(siteId) => siteId < 3} done={() => (isDone = true)} />
    </>,
    { wrapper: Around },
  );
  return { user: userEvent.setup(), server, isDone: () => isDone, scan: (code: string) => act(() => void offer(code)) };
}
const cell = (name: string) => screen.getByLabelText<HTMLInputElement>(name);

test('everything is packed into one parcel, whose weight is known, by one key', async () => {
  const { user, server, isDone } = open(packingOf(lies(1, 'VASE', '4'), lies(2, 'BOWL', '3')));
  expect([cell('VASE in Parcel 1').value, cell('BOWL in Parcel 1').value]).toEqual(['4', '3']);
  expect(screen.getByText('3.5 kg')).toBeTruthy();
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(isDone()).toBe(true));
  expect(server.sent(packOrder)).toEqual({
    siteId: 1,
    seen: [],
    parcels: [
      {
        id: null,
        weight: null,
        length: null,
        width: null,
        height: null,
        contents: [
          { lineId: 1, lotId: null, quantity: '4' },
          { lineId: 2, lotId: null, quantity: '3' },
        ],
      },
    ],
  });
  expect(await screen.findByText('Packed PC-1.')).toBeTruthy();
});

test('what is taken out of one parcel goes into another; each is weighed by itself', async () => {
  const { user, server } = open(packingOf(lies(1, 'VASE', '4')));
  await user.clear(cell('VASE in Parcel 1'));
  await user.type(cell('VASE in Parcel 1'), '1');
  await user.type(cell('Weight, kg'), '0.7');
  await user.click(screen.getByRole('button', { name: 'Another parcel' }));
  expect(cell('VASE in Parcel 2').value).toBe('3');
  expect(cell('Weight, kg').value).toBe('');
  await user.click(screen.getByRole('button', { name: /^Pack 2 parcels/ }));
  await waitFor(() => expect(server.sent(packOrder)).toBeTruthy());
  expect(server.sent(packOrder)).toMatchObject({
    parcels: [
      { weight: '0.7', contents: [{ quantity: '1' }] },
      { weight: null, contents: [{ quantity: '3' }] },
    ],
  });
});

test('from the first scan on only what is scanned is in the parcel that is open; what is not here is told', async () => {
  const { scan } = open(packingOf(lies(1, 'VASE', '2'), lies(2, 'BOWL', '3')));
  scan('201');
  expect(await screen.findByText('1 × VASE into Parcel 1')).toBeTruthy();
  expect([cell('VASE in Parcel 1').value, cell('BOWL in Parcel 1').value]).toEqual(['1', '']);
  scan('201');
  scan('201');
  expect(await screen.findByText('All of VASE is packed already.')).toBeTruthy();
  scan('999');
  expect(await screen.findByText('999 is not on this bench.')).toBeTruthy();
  expect(cell('VASE in Parcel 1').value).toBe('2');
});

test('what is refused is said at its field, in the parcel that it is in', async () => {
  const { user } = open(packingOf(lies(1, 'VASE', '2'), lies(2, 'BOWL', '3')), () =>
    refused(422, 'not-valid', 'Only 1 of BOWL lie on the bench.', 'parcels.0.contents.1.quantity'),
  );
  await user.click(screen.getByRole('button', { name: 'Another parcel' }));
  await user.type(cell('VASE in Parcel 2'), '1');
  await user.click(screen.getByRole('button', { name: /^Pack 2 parcels/ }));
  await waitFor(() => expect(cell('BOWL in Parcel 1').getAttribute('aria-invalid')).toBe('true'));
});

test('each site’s bench is packed by itself, where the person ships', async () => {
  const { user } = open(
    packingOf(lies(1, 'VASE', '2'), lies(2, 'BOWL', '3', { siteId: 2, site: 'Harbour' }), lies(3, 'TRAY', '1', { siteId: 3, site: 'Van' })),
  );
  expect(screen.queryByText('Van')).toBeNull();
  expect(screen.queryByLabelText('BOWL in Parcel 1')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Harbour' }));
  expect(cell('BOWL in Parcel 1').value).toBe('3');
});
