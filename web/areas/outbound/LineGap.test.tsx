/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { decideDirect } from '@larder/contract/direct';
import { holdStock, lineGap, promiseLine, standBack, swapLine } from '@larder/contract/gaps';
import type { SalesOrder } from '@larder/contract/outbound';
import type { Right } from '@larder/contract/rights';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { LineGap } from './LineGap';

const effects = { rows: [], notes: ['SO-3 line 1 becomes short of 2.'], costNotes: [] };
const gap = (part: object = {}) => ({
  orderId: 7,
  number: 'SO-7',
  position: 1,
  itemId: 1,
  sku: 'VASE',
  name: 'Vase',
  siteId: 1,
  site: 'Barn store',
  wanted: '5',
  reserved: '1',
  short: '4',
  promisedOn: null,
  standsBack: false,
  toOrder: '0',
  availableOn: '2026-12-03',
  coming: [{ orderNumber: 'PO-4', orderId: 4, quantity: '12', expectedOn: '2026-12-03' }],
  elsewhere: [],
  substitutes: [],
  holders: [3, 5].map((id) => ({
    lineId: id,
    orderId: id,
    number: `SO-${id}`,
    position: 1,
    customer: 'Brook Street Deli',
    shipBy: '2026-11-26',
    promisedOn: null,
    reserved: '6',
  })),
  ...part,
});

function open(
  rights: readonly Right[] = ['look', 'outbound.sell', 'outbound.hold'],
  answer: unknown = { movementId: null, effects },
  of: object = {},
  as: object = {},
) {
  const server = standInServer();
  signedIn(server, rights);
  server.on(lineGap, () => ({ ...gap(), ...as }));
  server.on(swapLine, () => answer);
  server.on(decideDirect, () => answer);
  server.on(holdStock, (_, path) => (path.includes('preview=true') ? { movementId: null, effects } : answer));
  server.on(standBack, () => ({ movementId: null, effects }));
  server.on(promiseLine, () => ({ movementId: null, effects }));
  const { Around } = around('/');
  render(
    <LineGap
      line={
        {
          id: 70,
          siteId: 1,
          sku: 'VASE',
          baseQuantity: '5',
          picked: '0',
          direct: '0',
          sent: '0',
          short: '4',
          coming: [],
          ...of,
        } as unknown as SalesOrder['lines'][number]
      }
      today="2026-11-24"
    />,
    { wrapper: Around },
  );
  return { user: userEvent.setup(), server };
}

test('why a line is short is told; what others hold is given to it once that was foreseen', async () => {
  const { user, server } = open();
  await user.click(await screen.findByRole('button', { name: 'Why VASE is short' }));
  expect(await screen.findByText(/All of it could be here on/)).toBeTruthy();
  await user.type(screen.getByLabelText('SO-3 gives'), '2');
  expect(await screen.findByText('SO-3 line 1 becomes short of 2.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Hold 2 for SO-7' }));
  await waitFor(() => expect(server.sent(holdStock)).toEqual({ from: [{ lineId: 3, quantity: '2' }] }));
  expect(await screen.findByText('SO-7 holds 2 more of VASE.')).toBeTruthy();
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

test('what is refused stands at the field of who gives it', async () => {
  const { user } = open(undefined, refused(422, 'not-valid', 'SO-5 line 1 holds only 6.', 'from.0.quantity'));
  await user.click(await screen.findByRole('button', { name: 'Why VASE is short' }));
  await user.type(await screen.findByLabelText('SO-5 gives'), '9');
  await user.click(screen.getByRole('button', { name: 'Hold 9 for SO-7' }));
  await waitFor(() => expect(screen.getByLabelText('SO-5 gives').getAttribute('aria-invalid')).toBe('true'));
  expect(document.activeElement).toBe(screen.getByLabelText('SO-5 gives'));
});

test('the day is promised by who sells; who may not give what is reserved is only told who holds it', async () => {
  const { user, server } = open(['look', 'outbound.sell']);
  await user.click(await screen.findByRole('button', { name: 'Why VASE is short' }));
  await user.click(await screen.findByRole('button', { name: /^Promise/ }));
  await waitFor(() => expect(server.sent(promiseLine)).toEqual({ promisedOn: '2026-12-03' }));
  expect(screen.getByRole('table', { name: 'Who holds VASE' })).toBeTruthy();
  expect(screen.queryByLabelText('SO-3 gives')).toBeNull();
  expect(screen.queryByRole('button', { name: 'Let others go first' })).toBeNull();
});

test('a line lets others go first on a word', async () => {
  const { user, server } = open();
  await user.click(await screen.findByRole('button', { name: 'Why VASE is short' }));
  await user.click(await screen.findByRole('button', { name: 'Let others go first' }));
  await waitFor(() => expect(server.sent(standBack)).toEqual({ back: true }));
  expect(await screen.findByText('SO-7 lets others go first with VASE.')).toBeTruthy();
});

test('of a line that is all on the shelf the words lead there, for those who may give it to others', async () => {
  const { user } = open(undefined, undefined, { short: '0' });
  await user.click(await screen.findByRole('button', { name: 'all on the shelf' }));
  expect(await screen.findByRole('dialog')).toBeTruthy();
});

test('something else is sold in its place as far as it is free and the line is short', async () => {
  const { user, server } = open(['look', 'outbound.sell'], undefined, {}, { substitutes: [{ itemId: 9, sku: 'URN', name: 'Urn', free: '3' }] });
  await user.click(await screen.findByRole('button', { name: 'Why VASE is short' }));
  await user.click(await screen.findByRole('button', { name: 'Swap 3 for URN' }));
  expect(await screen.findByText('3 of URN in the place of VASE.')).toBeTruthy();
  expect(server.sent(swapLine)).toEqual({ itemId: 9, quantity: '3' });
});

test('whoever buys orders it straight from a supplier; whoever only sells decides it for them', async () => {
  const { user } = open(['look', 'outbound.sell', 'inbound.order']);
  await user.click(await screen.findByRole('button', { name: 'Why VASE is short' }));
  expect((await screen.findByRole('link', { name: 'Order it straight' })).getAttribute('href')).toBe('/outbound/direct?lines=70');
});

test('what is decided to come straight is added to what was decided before', async () => {
  const { user, server } = open(['look', 'outbound.sell'], undefined, {}, { toOrder: '2' });
  await user.click(await screen.findByRole('button', { name: 'Why VASE is short' }));
  await user.click(await screen.findByRole('button', { name: 'Have 4 sent straight' }));
  await waitFor(() => expect(server.sent(decideDirect)).toEqual({ quantity: '6' }));
  expect(await screen.findByText('6 of VASE are to come straight from a supplier.')).toBeTruthy();
});
