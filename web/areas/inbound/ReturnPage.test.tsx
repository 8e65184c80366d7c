/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { returnable, returnGoods } from '@larder/contract/receiving';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { ReturnPage } from './ReturnPage';

const place = (binId: number, bin: string, quantity: string, part: object = {}) => ({ binId, bin, lotId: null, lot: null, quantity, sellable: true, ...part });
const row = (purchaseLineId: number, sku: string, received: string, ...places: ReturnType<typeof place>[]) => ({
  purchaseLineId,
  itemId: purchaseLineId * 10,
  sku,
  name: `Goods ${sku}`,
  received,
  places,
});
const effects = { rows: [], notes: [], costNotes: [] };

function open(address: string, answer: (body: { then: string | null }, preview: boolean) => unknown = () => ({ movementId: 12, effects })) {
  const server = standInServer();
  signedIn(server, ['look', 'inbound.receive', 'undo']);
  server.on(returnable, () => ({
    number: 'PO-1050',
    supplier: 'Hexley Joinery',
    rows: [row(1, 'VASE', '5', place(4, 'A-1', '3'), place(6, 'Q-1', '2', { sellable: false })), row(2, 'BOWL', '2', place(4, 'A-1', '9'))],
  }));
  server.on(returnGoods, (body, path) => answer(body, path.includes('preview=true')));
  const { Around, router } = around(address);
  render(
    <Routes>
      <Route path="/inbound/orders/:id/return" element={<ReturnPage />} />
      <Route path="*" element={<p>Elsewhere</p>} />
    </Routes>,
    { wrapper: Around },
  );
  return { user: userEvent.setup(), server, router };
}
const goesBack = (sku: string, bin: string) => screen.findByLabelText<HTMLInputElement>(`Goes back, ${sku} from ${bin}`);
const next = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Send back/ });

test('goods go back from where they lie with a reason; what is not typed is not sent', async () => {
  const { user, server, router } = open('/inbound/orders/50/return');
  const cracked = await goesBack('VASE', 'Q-1');
  expect(next().disabled).toBe(true);
  await user.type(cracked, '2');
  expect(next().disabled).toBe(true);
  await user.type(screen.getByLabelText('Why it goes back'), 'cracked');
  await user.click(screen.getByRole('button', { name: /^Send back 1 line/ }));
  expect(await screen.findByText('Sent back 1 line.')).toBeTruthy();
  expect(server.sent(returnGoods)).toEqual({
    orderId: 50,
    note: 'cracked',
    then: null,
    lines: [{ purchaseLineId: 1, binId: 6, lotId: null, quantity: '2' }],
  });
  await waitFor(() => expect(router.state.location.pathname).toBe('/inbound/orders/50'));
});

test('goods somebody came with are put in: as many as lie there, and no more than came on the order', async () => {
  open('/inbound/orders/50/return?item=20&bin=4');
  expect((await goesBack('BOWL', 'A-1')).value).toBe('2');
  expect((await goesBack('VASE', 'A-1')).value).toBe('');
});

test('where the order still waits for goods, it is asked what becomes of it before anything is sent', async () => {
  const asks = refused(409, 'asks', 'PO-1050 is still open. Will these be replaced?', undefined, ['replaced']);
  const { user, server } = open('/inbound/orders/50/return', ({ then }) => (then === null ? asks : { movementId: 12, effects }));
  await user.type(await goesBack('VASE', 'A-1'), '1');
  await user.click(await screen.findByRole('button', { name: 'They will be replaced' }));
  expect(screen.getByRole('note').textContent).toBe('The order waits for these goods again');
  await user.type(screen.getByLabelText('Why it goes back'), 'wrong colour');
  await user.click(next());
  await waitFor(() => expect(server.sent(returnGoods)).toMatchObject({ then: 'replaced', lines: [{ purchaseLineId: 1, binId: 4, quantity: '1' }] }));
});

test('what the preview finds wrong is said at its own line while it is typed, and what is refused as well', async () => {
  const { user } = open('/inbound/orders/50/return', () => refused(422, 'too-many', 'Only 9 lie there.', 'lines.0.quantity'));
  const bowl = await goesBack('BOWL', 'A-1');
  await user.type(bowl, '10');
  await waitFor(() => expect(bowl.getAttribute('aria-invalid')).toBe('true'));
  expect((await goesBack('VASE', 'A-1')).getAttribute('aria-invalid')).toBe('false');
  await user.type(screen.getByLabelText('Why it goes back'), 'cracked');
  await user.click(next());
  await waitFor(() => expect(document.activeElement).toBe(bowl));
});

test('whoever leaves with something typed is asked', async () => {
  const { user, router } = open('/inbound/orders/50/return');
  await user.type(await goesBack('VASE', 'A-1'), '1');
  await user.click(screen.getByRole('link', { name: 'PO-1050' }));
  await user.click(await screen.findByRole('button', { name: 'Stay here' }));
  expect(router.state.location.pathname).toBe('/inbound/orders/50/return');
  expect((await goesBack('VASE', 'A-1')).value).toBe('1');
});
