/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { SalesOrder } from '@larder/contract/outbound';
import { dispatch } from '@larder/contract/shipping';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { DispatchSheet } from './DispatchSheet';

const line = (id: number, sku: string, picked: string, dispatched = '0', stocked = true) => ({
  id,
  siteId: id === 9 ? 2 : 1,
  sku,
  name: `Goods ${sku}`,
  stocked,
  baseQuantity: '12',
  picked,
  dispatched,
});
const order = (...lines: ReturnType<typeof line>[]) =>
  ({ id: 7, number: 'SO-1007', customer: 'Copse Lane School', version: 3, lines }) as unknown as SalesOrder;
const effects = { rows: [], notes: [], costNotes: [] };

function open(lines: ReturnType<typeof line>[], answer: (preview: boolean) => unknown = () => ({ movementId: 9, effects })) {
  const server = standInServer();
  signedIn(server, ['look', 'outbound.ship']);
  server.on(dispatch, (_, path) => {
    const preview = path.includes('preview=true');
    return preview ? { movementId: null, effects } : answer(preview);
  });
  let isDone = false;
  const { Around } = around();
  const page = (shown: ReturnType<typeof line>[]) => (
    <DispatchSheet order={order(...shown)} packing={null} mayShipFrom={(siteId) => siteId === 1} done={() => (isDone = true)} />
  );
  const { rerender } = render(page(lines), { wrapper: Around });
  return { user: userEvent.setup(), server, isDone: () => isDone, changed: (shown: ReturnType<typeof line>[]) => rerender(page(shown)) };
}
const goesOut = (sku: string) => screen.getByLabelText<HTMLInputElement>(`Dispatch of ${sku}`);

test('all that waits on the bench goes out unless less is typed; what does not wait is not shown', async () => {
  const { user, server, isDone } = open([line(1, 'VASE', '4'), line(2, 'BOWL', '3', '3'), line(3, 'DISH', '6', '1'), line(9, 'TRAY', '2')]);
  expect([goesOut('VASE').value, goesOut('DISH').value]).toEqual(['4', '5']);
  expect(screen.queryByLabelText('Dispatch of BOWL')).toBeNull();
  // From a site at which the person sends nothing.
  expect(screen.queryByLabelText('Dispatch of TRAY')).toBeNull();
  await user.clear(goesOut('DISH'));
  await user.type(goesOut('DISH'), '2');
  await user.click(screen.getByRole('button', { name: /^Dispatch 2 lines to Copse Lane School/ }));
  expect(await screen.findByText('Dispatched 2 lines of SO-1007.')).toBeTruthy();
  expect(server.sent(dispatch)).toEqual({
    orderId: 7,
    lines: [
      { lineId: 1, quantity: '4' },
      { lineId: 3, quantity: '2' },
    ],
  });
  expect(isDone()).toBe(true);
});

test('a line of which nothing goes out is not sent, and what is refused is said at its own line', async () => {
  const { user, server, isDone } = open([line(1, 'VASE', '4'), line(3, 'DISH', '6')], () =>
    refused(422, 'too-many', 'Only 6 are on the bench.', 'lines.0.quantity'),
  );
  await user.clear(goesOut('VASE'));
  await user.type(goesOut('VASE'), '0');
  await user.clear(goesOut('DISH'));
  await user.type(goesOut('DISH'), '9');
  await user.click(screen.getByRole('button', { name: /^Dispatch 1 line / }));
  await screen.findAllByText('Only 6 are on the bench.');
  expect(server.sent(dispatch)).toEqual({ orderId: 7, lines: [{ lineId: 3, quantity: '9' }] });
  expect([goesOut('VASE').getAttribute('aria-invalid'), goesOut('DISH').getAttribute('aria-invalid')]).toEqual(['false', 'true']);
  expect(document.activeElement).toBe(goesOut('DISH'));
  expect(isDone()).toBe(false);
});

test('when more comes to the bench meanwhile, what was typed stays at its line and the rest follows', async () => {
  const { user, changed } = open([line(1, 'VASE', '4'), line(3, 'DISH', '6')]);
  await user.clear(goesOut('DISH'));
  await user.type(goesOut('DISH'), '5');
  changed([line(2, 'BOWL', '1'), line(1, 'VASE', '7'), line(3, 'DISH', '6')]);
  expect([goesOut('BOWL').value, goesOut('VASE').value, goesOut('DISH').value]).toEqual(['1', '7', '5']);
});

test('when nothing goes out it cannot be sent', async () => {
  const { user } = open([line(1, 'VASE', '4')]);
  await user.clear(goesOut('VASE'));
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Dispatch 0 lines/ }).disabled).toBe(true);
});

test('what is no number is said at its own line before it is sent, also when lines before it do not go', async () => {
  const { user, server } = open([line(1, 'VASE', '4'), line(3, 'DISH', '6')]);
  await user.clear(goesOut('VASE'));
  await user.clear(goesOut('DISH'));
  await user.type(goesOut('DISH'), 'two');
  await user.click(screen.getByRole('button', { name: /^Dispatch 1 line / }));
  await waitFor(() => expect(goesOut('DISH').getAttribute('aria-invalid')).toBe('true'));
  expect(goesOut('VASE').getAttribute('aria-invalid')).toBe('false');
  expect(document.activeElement).toBe(goesOut('DISH'));
  expect(server.sent(dispatch)).toBeUndefined();
});

test('an order that goes out whole asks before a part of it goes', async () => {
  let asked = 0;
  const { user, server, isDone } = open([line(1, 'VASE', '4')], () =>
    (asked += 1) === 1 ? refused(409, 'not-whole', 'SO-1007 is to go out whole. Send a part all the same?', undefined, ['part']) : { movementId: 9, effects },
  );
  await user.click(screen.getByRole('button', { name: /^Dispatch 1 line / }));
  await user.click(await screen.findByRole('button', { name: 'Send the part' }));
  await waitFor(() => expect(isDone()).toBe(true));
  expect(server.sent(dispatch)).toMatchObject({ orderId: 7, part: true });
});
