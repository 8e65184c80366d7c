/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { orderTopUp, putOffTopUp, topUpFill, topUpList, type TopUpRow } from '@larder/contract/planning';
import { itemStock } from '@larder/contract/stock';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { TopUpPage } from './TopUpPage';

const row = (itemId: number, sku: string, supplier: string | null, propose: string, price: string | null, part: Partial<TopUpRow> = {}): TopUpRow => ({
  ...{ itemId, sku, name: `Goods ${sku}`, unit: 'each', step: '1', siteId: 1, site: 'Barn store', by: 'buy', note: null, fromSiteId: null, fromSite: null },
  ...{ supplierId: supplier === null ? null : supplier.length, supplier, minimum: '0', packSize: '10', coverDays: null, weightKg: null, volumeM3: null },
  ...{ free: '2', onOrder: '0', coming: '0', drafted: '0', short: '0', position: '2', reorderPoint: '5', orderUpTo: '20', propose, price },
  ...{ amount: price === null ? null : (Number(price) * Number(propose)).toFixed(2), nextBreak: null, putOff: null, ...part },
});

function open(answer: unknown = { orders: [{ id: 9, number: 'PO-9', supplier: 'Hexley Joinery' }], transfers: [], work: [] }, rights: string[] = []) {
  const server = standInServer();
  signedIn(server, ['look', 'planning.top-up', ...rights] as never);
  server.on(topUpList, () => ({
    rows: [
      row(1, 'VASE', 'Hexley Joinery', '20', '2.5'),
      row(2, 'BOWL', 'Hexley Joinery', '20', '0.62'),
      row(3, 'DISH', null, '10', null),
      row(4, 'HIVE', null, '6', null, { by: 'make' }),
      row(5, 'FRAME', null, '4', null, { by: 'bring', fromSiteId: 2, fromSite: 'Harbour shop' }),
      row(6, 'LATER', 'Hexley Joinery', '8', '1', { putOff: { until: '2026-12-24', reason: 'after the fair', person: 'Wim' } }),
    ],
    minimums: [{ supplierId: 14, amount: '60.00' }],
  }));
  server.on(orderTopUp, () => answer);
  server.on(putOffTopUp, () => ({}));
  server.on(topUpFill, () => ({ rows: [{ ...row(7, 'JUG', 'Hexley Joinery', '5', '4'), position: '9', days: 12.2 }] }));
  server.on(itemStock, () => refused(404, 'not-found', 'not looked at here'));
  const { Around } = around();
  render(<TopUpPage />, { wrapper: Around });
  return { user: userEvent.setup(), server, asked: () => server.asked.find(({ endpoint }) => endpoint === 'POST /api/planning/top-up')?.body };
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
  expect(asked()).toEqual({ rows: [{ itemId: 1, siteId: 1, supplierId: 14, fromSiteId: null, quantity: '30', position: '2' }], place: false });
  expect(next().hasAttribute('disabled')).toBe(true);
});

test('what is made is planned by whoever may, and stands by itself', async () => {
  const { user, asked } = open({ orders: [], transfers: [], work: [{ id: 8, number: 'WO-8', sku: 'HIVE' }] }, ['making.plan']);
  const here = within(await screen.findByRole('region', { name: 'Made here' }));
  await user.click(here.getByLabelText('Choose HIVE for Barn store'));
  await user.click(next());
  const done = await screen.findByRole('status');
  expect(within(done).getByRole('link', { name: 'WO-8 HIVE' }).getAttribute('href')).toBe('/making/orders/8');
  expect(done.textContent).not.toContain('Drafts');
  expect(asked()).toEqual({ rows: [{ itemId: 4, siteId: 1, supplierId: null, fromSiteId: null, quantity: '6', position: '2' }], place: false });
});

test('whoever plans no work cannot choose what is made', async () => {
  open();
  expect((await screen.findByLabelText<HTMLInputElement>('Choose HIVE for Barn store')).disabled).toBe(true);
});

test('what is refused is said, and what was chosen stays', async () => {
  const { user } = open(refused(422, 'unfit', 'This goes in packs of 10.', 'rows.0.quantity'));
  await user.click(await screen.findByLabelText('Choose VASE for Barn store'));
  await user.click(next());
  await waitFor(() => expect(within(screen.getByRole('region', { name: 'Hexley Joinery' })).getByRole('alert').textContent).toBe('This goes in packs of 10.'));
  expect(screen.getByLabelText<HTMLInputElement>('Choose VASE for Barn store').checked).toBe(true);
});

test('a transfer is asked for by whoever may, from where it is', async () => {
  const { user, asked } = open({ orders: [], transfers: [{ id: 3, number: 'TR-3', from: 'Harbour shop', to: 'Barn store' }], work: [] }, ['stock.transfer']);
  const group = within(await screen.findByRole('region', { name: 'From Harbour shop to Barn store' }));
  await user.click(group.getByLabelText('Choose FRAME for Barn store'));
  await user.click(next());
  const done = await screen.findByRole('status');
  expect(within(done).getByRole('link', { name: 'TR-3 Harbour shop to Barn store' }).getAttribute('href')).toBe('/stock/transfers/3');
  expect(asked()).toMatchObject({ rows: [{ itemId: 5, supplierId: null, fromSiteId: 2, quantity: '4', position: '2' }] });
});

test('an order below what its supplier asks says so, and can be filled with what would run low soonest', async () => {
  const { user, asked } = open();
  await user.click(await screen.findByLabelText('Choose VASE for Barn store'));
  expect(screen.getByText(/For Barn store 50.00 of at least 60.00/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Show what would fill it' }));
  expect(await screen.findByText(/runs low in about 12 days/)).toBeTruthy();
  await user.click(screen.getByLabelText('Choose JUG for Barn store'));
  expect(screen.queryByText(/of at least/)).toBeNull();
  await user.click(next());
  await screen.findByRole('status');
  expect((asked() as { rows: { itemId: number; position?: string }[] }).rows.map(({ itemId, position }) => [itemId, position])).toEqual([
    [1, '2'],
    [7, undefined],
  ]);
});

test('what is put off stands apart, with why, and can be proposed again; another is put off from where it is looked at', async () => {
  const { user, server } = open();
  const away = within(await screen.findByRole('region', { name: 'Put off' }));
  expect(away.getByLabelText<HTMLInputElement>('Choose LATER for Barn store').disabled).toBe(true);
  await user.click(away.getByText('LATER'));
  expect(screen.getByText(/Put off by Wim until .*: after the fair/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Propose it again' }));
  await waitFor(() => expect(server.sent(putOffTopUp)).toEqual({ itemId: 6, siteId: 1, until: null }));
  await user.click(screen.getByText('BOWL'));
  const form = within(screen.getByRole('region', { name: 'Put off BOWL' }));
  await user.type(form.getByLabelText('Why'), 'new price list');
  await user.click(form.getByRole('button', { name: 'Put off' }));
  await waitFor(() => expect(server.sent(putOffTopUp)).toMatchObject({ itemId: 2, siteId: 1, reason: 'new price list' }));
});
