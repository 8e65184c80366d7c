/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { customerItems, customerStanding } from '@larder/contract/customers';
import { listSales } from '@larder/contract/outbound';
import { listReturns } from '@larder/contract/returns';
import { getParty, reference } from '@larder/contract/setup';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { around, signedIn, standInServer } from '../../testing/server';
import { CustomerPage } from './CustomerPage';

const bought = {
  unit: 'each',
  quantity: '30',
  lastOn: '2026-11-20',
  lastPrice: '0.5',
  currency: 'GBP',
  times: 3,
  lastQuantity: '2',
  lastUnit: 'crate',
  lastUnitId: 4,
  factor: { numerator: 12, denominator: 1 },
  sold: true,
};

function open(rights = ['look', 'outbound.sell', 'books.invoice'], standing = {}) {
  const server = standInServer();
  signedIn(server, rights as never);
  server.on(reference, () => ({ sites: [], taxes: [], units: [], reasons: [] }));
  server.on(getParty, () => ({ id: 2, name: 'Brook Street Deli', version: 1, contacts: [], addresses: [], isCustomer: true }));
  server.on(listSales, () => ({ rows: [], next: null }));
  server.on(listReturns, () => ({
    rows: [{ id: 5, number: 'RET-5', cameOn: '2026-11-20', items: 'JAR-340', orders: 'SO-3', state: 'received', toCredit: true, worth: '3.00' }],
    next: null,
  }));
  server.on(customerStanding, () => ({ owed: '36.00', overdue: '12.00', ordered: '72.00', limit: '100.00', openOrders: 2, yearsOrders: 9, ...standing }));
  server.on(customerItems, () => ({
    rows: [
      { ...bought, itemId: 1, sku: 'JAR-340', name: 'Jar' },
      { ...bought, itemId: 2, sku: 'JAR-454', name: 'Larger jar' },
      { ...bought, itemId: 3, sku: 'OLD-1', name: 'No more of these', sold: false },
    ],
  }));
  const { Around, router } = around('/outbound/customers/2');
  const pages = (
    <Routes>
      <Route path="/outbound/customers/:id" element={<CustomerPage />} />
      <Route path="*" element={<p>elsewhere</p>} />
    </Routes>
  );
  render(pages, { wrapper: Around });
  return { user: userEvent.setup(), router };
}

test('how they stand is said first: what they owe, what of it is late, what is ordered, and by how much they are beyond their limit', async () => {
  open();
  expect(await screen.findByText('36.00 GBP')).toBeTruthy();
  expect(screen.getByText('12.00 of it late').className).toBe('late');
  expect(screen.getByText('72.00 GBP')).toBeTruthy();
  expect(screen.getByText('8.00 beyond it').className).toBe('late');
  expect(screen.getByRole('link', { name: 'Account' }).getAttribute('href')).toBe('/books/debtors/2');
});

test('within their limit it is said how much is left', async () => {
  open(undefined, { limit: '150.00', overdue: '0.00' });
  expect(await screen.findByText('42.00 left')).toBeTruthy();
  expect(screen.getByText('none of it late')).toBeTruthy();
});

test('who sees one site is told of its orders and of no money', async () => {
  open(['look'], { owed: null, overdue: null, ordered: null, limit: null });
  expect(await screen.findByText('9 orders in a year')).toBeTruthy();
  expect(screen.queryByText(/GBP/)).toBeNull();
  expect(screen.queryByRole('link', { name: 'Account' })).toBeNull();
});

test('what they buy is chosen with Space and Shift, and ordered again; what is sold no more cannot be', async () => {
  const { user, router } = open();
  await user.click(await screen.findByRole('button', { name: 'What they buy' }));
  const table = within(await screen.findByRole('table', { name: 'What they buy' }));
  expect(table.queryByLabelText('Order OLD-1 again')).toBeNull();
  expect(table.getAllByText('2 crate')).toHaveLength(3);
  await user.click(table.getByText('Jar'));
  await user.keyboard('{Shift>}{ArrowDown}{ArrowDown}{/Shift}');
  await user.click(await screen.findByRole('button', { name: /^New quote of 2 items/ }));
  await waitFor(() => expect(`${router.state.location.pathname}${router.state.location.search}`).toBe('/outbound/orders/new?customer=2&again=1,2'));
});

test('what they brought back is there, and what is to be credited of it', async () => {
  const { user } = open();
  await user.click(await screen.findByRole('button', { name: 'Returns' }));
  expect((await screen.findByRole('link', { name: 'RET-5' })).getAttribute('href')).toBe('/outbound/returns/5');
  expect(screen.getByText('to credit')).toBeTruthy();
});
