/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { orderTopUp, topUpList } from '@larder/contract/planning';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { TopUpPage } from './TopUpPage';

const row = (itemId: number, sku: string, supplier: string | null, propose: string, amount: string | null, made = false) => ({
  itemId,
  siteId: 1,
  site: 'Barn store',
  sku,
  name: `Goods ${sku}`,
  supplierId: supplier === null ? null : supplier.length,
  supplier,
  made,
  free: '2',
  onOrder: '0',
  coming: '0',
  short: '0',
  position: '2',
  reorderPoint: '5',
  orderUpTo: '20',
  packSize: '10',
  propose,
  amount,
});

function open(answer: unknown = { orders: [{ id: 9, number: 'PO-9', supplier: 'Hexley Joinery' }], work: [] }, rights: string[] = []) {
  const server = standInServer();
  signedIn(server, ['look', 'planning.top-up', ...rights] as never);
  server.on(topUpList, () => ({
    rows: [
      row(1, 'VASE', 'Hexley Joinery', '20', '50.00'),
      row(2, 'BOWL', 'Hexley Joinery', '20', '12.40'),
      row(3, 'DISH', null, '10', null),
      row(4, 'HIVE', null, '6', null, true),
    ],
  }));
  server.on(orderTopUp, () => answer);
  const { Around } = around();
  render(<TopUpPage />, { wrapper: Around });
  return { user: userEvent.setup(), asked: () => server.asked.find(({ endpoint }) => endpoint === 'POST /api/planning/top-up')?.body };
}
const next = () => screen.getByRole('button', { name: /^Order \d+ proposals?/ });

test('proposals stand by supplier with what they come to and how they were reckoned; what has no supplier cannot be chosen', async () => {
  const { user } = open();
  const hexley = within(await screen.findByRole('region', { name: 'Hexley Joinery' }));
  expect(hexley.getByText('62.40')).toBeTruthy();
  expect(hexley.getAllByText(/2 free \+ 0 on order − 0 short = 2, reorder at 5; up to 20 takes 18, 20 in packs of 10/)).toHaveLength(2);
  expect(screen.getByLabelText<HTMLInputElement>('Choose DISH for Barn store').disabled).toBe(true);
  expect(next().hasAttribute('disabled')).toBe(true);
  await user.click(hexley.getByLabelText(/Hexley Joinery/));
  expect(screen.getByLabelText<HTMLInputElement>('Choose VASE for Barn store').checked).toBe(true);
  expect(screen.getByLabelText<HTMLInputElement>('Choose BOWL for Barn store').checked).toBe(true);
  expect(next().textContent).toContain('Order 2 proposals');
});

test('chosen ones become drafts, with how many the person says', async () => {
  const { user, asked } = open();
  await user.click(await screen.findByLabelText('Choose VASE for Barn store'));
  const many = screen.getByLabelText('Order of VASE for Barn store');
  await user.clear(many);
  await user.type(many, '30');
  await user.click(next());
  const done = await screen.findByRole('status');
  expect(within(done).getByRole('link', { name: 'PO-9 Hexley Joinery' }).getAttribute('href')).toBe('/inbound/orders/9');
  expect(asked()).toEqual({ rows: [{ itemId: 1, siteId: 1, supplierId: 14, quantity: '30' }], place: false });
  expect(next().hasAttribute('disabled')).toBe(true);
});

test('what is made is planned by whoever may, and stands by itself', async () => {
  const { user, asked } = open({ orders: [], work: [{ id: 8, number: 'WO-8', sku: 'HIVE' }] }, ['making.plan']);
  const here = within(await screen.findByRole('region', { name: 'Made here' }));
  await user.click(here.getByLabelText('Choose HIVE for Barn store'));
  await user.click(next());
  const done = await screen.findByRole('status');
  expect(within(done).getByRole('link', { name: 'WO-8 HIVE' }).getAttribute('href')).toBe('/making/orders/8');
  expect(done.textContent).not.toContain('Drafts');
  expect(asked()).toEqual({ rows: [{ itemId: 4, siteId: 1, supplierId: null, quantity: '6' }], place: false });
});

test('whoever plans no work cannot choose what is made', async () => {
  open();
  expect((await screen.findByLabelText<HTMLInputElement>('Choose HIVE for Barn store')).disabled).toBe(true);
});

test('what is refused is said, and what was chosen stays', async () => {
  const { user } = open(refused(422, 'unfit', 'This goes in packs of 10.', 'rows.0.quantity'));
  await user.click(await screen.findByLabelText('Choose VASE for Barn store'));
  await user.click(next());
  await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('This goes in packs of 10.'));
  expect(screen.getByLabelText<HTMLInputElement>('Choose VASE for Barn store').checked).toBe(true);
});
