/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listMargin, marginInAll } from '@larder/contract/margin';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, signedIn, standInServer } from '../../testing/server';
import { MarginPage } from './MarginPage';

const row = (key: number, name: string, part: object = {}) => ({
  key,
  name,
  detail: 'Brook Street Deli',
  orderId: key,
  orders: 1,
  quantity: '',
  sold: '1200.00',
  cost: '900.00',
  margin: '300.00',
  percent: '25.0',
  ...part,
});

function open(at = '/outbound/margin') {
  const asked: string[] = [];
  const server = standInServer();
  signedIn(server, ['look', 'costs.see']);
  server.on(listMargin, (_, path) => {
    asked.push(path);
    const by = new URLSearchParams(path.split('?')[1]).get('by');
    if (by === 'item') return { rows: [row(3, 'VASE', { orderId: null, orders: 4, quantity: '12' })], next: null };
    if (by === 'month') return { rows: [row(202602, '2026-02', { orderId: null, orders: 9, detail: '' })], next: null };
    return { rows: [row(7, 'SO-7'), row(8, 'SO-8', { sold: '10.00', cost: '12.00', margin: '-2.00', percent: '-20.0' })], next: null };
  });
  server.on(marginInAll, () => ({ count: 2, sold: '1210.00', cost: '912.00', margin: '298.00', percent: '24.6' }));
  const { Around } = around(at);
  render(<MarginPage />, { wrapper: Around });
  return { user: userEvent.setup(), last: () => new URLSearchParams(asked.at(-1)?.split('?')[1]) };
}

test('orders by what they were sold for, with what all of them come to', async () => {
  const { last } = open();
  expect(await screen.findByText('SO-8')).toBeTruthy();
  expect(Object.fromEntries(last())).toMatchObject({ by: 'order', sort: 'sold', direction: 'down' });
  expect(await screen.findByText('298.00')).toBeTruthy();
  expect(screen.getByText('24.6')).toBeTruthy();
  expect(screen.getByRole('button', { name: /^Open SO-7/ })).toBeTruthy();
});

test('an item opens into its orders, which say whose they are; a month into those of its days', async () => {
  const { user, last } = open('/outbound/margin?by=item');
  await user.click(await screen.findByRole('button', { name: /^Orders of VASE/ }));
  await waitFor(() => expect(Object.fromEntries(last())).toMatchObject({ by: 'order', itemId: '3' }));
  await user.click(screen.getByTestId('CancelIcon'));
  await waitFor(() => expect(last().get('itemId')).toBeNull());
  await user.selectOptions(screen.getByLabelText('Added up'), 'By month');
  await user.click(await screen.findByRole('button', { name: /^Orders of February 2026/ }));
  await waitFor(() => expect(Object.fromEntries(last())).toMatchObject({ by: 'order', from: '2026-02-01', to: '2026-02-28' }));
});
