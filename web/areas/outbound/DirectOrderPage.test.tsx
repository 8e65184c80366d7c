/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { directLines, orderDirect } from '@larder/contract/direct';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { DirectOrderPage } from './DirectOrderPage';

const offer = (supplierId: number, supplier: string, price: string | null, leadDays: number, part: object = {}) => ({
  supplierId,
  supplier,
  code: '',
  packSize: '1',
  minimum: '0',
  price,
  breaks: [],
  leadDays,
  ...part,
});
const line = (lineId: number, sku: string, part: object = {}) => ({
  lineId,
  orderId: 7,
  number: 'SO-7',
  position: lineId,
  customer: 'Copse Lane School',
  address: 'Copse Lane',
  itemId: lineId,
  sku,
  name: `Goods ${sku}`,
  unit: 'each',
  step: '1',
  siteId: 1,
  site: 'Barn store',
  shipBy: '2026-11-27',
  open: '10',
  toOrder: '0',
  short: '6',
  offers: [offer(3, 'Hexley Joinery', '1.5', 5, { breaks: [{ from: '10', price: '1.25' }] }), offer(4, 'Ashgrove Metalworks', '1.4', 12)],
  ...part,
});

function open(
  rows: object[],
  answer: unknown = { movementId: null, effects: { rows: [], notes: [], costNotes: [] }, orders: [{ id: 31, number: 'PO-31', supplier: 'Hexley Joinery' }] },
) {
  const server = standInServer();
  signedIn(server, ['look', 'inbound.order', 'outbound.sell']);
  server.on(directLines, () => ({ rows }));
  server.on(orderDirect, () => answer);
  const { Around } = around('/outbound/direct?lines=1,2');
  render(<DirectOrderPage />, { wrapper: Around });
  return { user: userEvent.setup(), sent: () => server.sent(orderDirect) };
}
const many = (sku: string) => screen.findByLabelText<HTMLInputElement>(`The supplier sends of ${sku} for SO-7`);
const price = (sku: string) => screen.getByLabelText<HTMLInputElement>(`Price of ${sku} for SO-7`).value;

test('each line begins with what is to be ordered, else what is short, at the preferred supplier’s price and day; another supplier has others', async () => {
  const { user, sent } = open([line(1, 'VASE'), line(2, 'BOWL', { toOrder: '4', offers: [offer(3, 'Hexley Joinery', '2', 5)] })]);
  expect((await many('VASE')).value).toBe('6');
  expect((await many('BOWL')).value).toBe('4');
  expect(screen.getByText('Ashgrove Metalworks: 1.40, 12 days')).toBeTruthy();
  expect([price('VASE'), price('BOWL')]).toEqual(['1.50', '2.00']);
  const ordered = within(screen.getByRole('region', { name: 'What is ordered' }));
  expect(ordered.getByRole('row', { name: /Hexley Joinery 2 lines/ }).textContent).toContain('17.00');
  // From ten on it costs less.
  await user.clear(await many('VASE'));
  await user.type(await many('VASE'), '10');
  expect(price('VASE')).toBe('1.25');
  await user.selectOptions(screen.getByLabelText('Supplier of VASE for SO-7'), 'Ashgrove Metalworks');
  expect(price('VASE')).toBe('1.40');
  await user.click(screen.getByRole('button', { name: /^Order 2 lines/ }));
  await waitFor(() =>
    expect(sent()).toEqual({
      lines: [
        { lineId: 1, quantity: '10', supplierId: 4, price: '1.40', expectedOn: '2026-12-06' },
        { lineId: 2, quantity: '4', supplierId: 3, price: '2.00', expectedOn: '2026-11-29' },
      ],
    }),
  );
  expect(await screen.findByText(/Ordered straight from Hexley Joinery \(PO-31\)/)).toBeTruthy();
});

test('a price that was typed stays; lines of which nothing is sent are left out, and what is refused is said at the line it is about', async () => {
  const { user, sent } = open(
    [line(1, 'VASE'), line(2, 'BOWL')],
    refused(422, 'not-valid', 'Only 2 of BOWL for SO-7 were neither picked nor ordered straight from a supplier.', 'lines.0.quantity'),
  );
  await user.clear(await many('VASE'));
  const typed = screen.getByLabelText('Price of BOWL for SO-7');
  await user.clear(typed);
  await user.type(typed, '1.10');
  await user.clear(await many('BOWL'));
  await user.type(await many('BOWL'), '3');
  await user.click(screen.getByRole('button', { name: /^Order 1 line/ }));
  await waitFor(() => expect(sent()).toMatchObject({ lines: [{ lineId: 2, quantity: '3', price: '1.10' }] }));
  await waitFor(async () => expect((await many('BOWL')).getAttribute('aria-invalid')).toBe('true'));
  expect((await many('VASE')).getAttribute('aria-invalid')).not.toBe('true');
});

test('an item that nobody is known to sell leads to where that is said', async () => {
  open([line(1, 'VASE', { offers: [] })]);
  expect((await screen.findByRole('link', { name: 'Say who does' })).getAttribute('href')).toBe('/items/1?tab=suppliers');
});

test('lines that are picked, gone or on order are not offered', async () => {
  open([]);
  expect((await screen.findByRole('link', { name: 'See which lines wait' })).getAttribute('href')).toBe('/outbound/lines');
});
