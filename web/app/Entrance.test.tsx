/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { createBill } from '@larder/contract/bills';
import { createItem } from '@larder/contract/catalog';
import { checkImport } from '@larder/contract/exchange';
import { createFamily } from '@larder/contract/families';
import { amendPurchase, createPurchase, recordDirect } from '@larder/contract/inbound';
import { createSheet } from '@larder/contract/landed';
import { amendSale, createSale } from '@larder/contract/outbound';
import { createBom } from '@larder/contract/making';
import { takeApart } from '@larder/contract/takingApart';
import { createWorkOrder } from '@larder/contract/workOrders';
import { createPriceList } from '@larder/contract/prices';
import { me } from '@larder/contract/people';
import { sendOrder } from '@larder/contract/post';
import { receive, receiveUnordered, returnGoods } from '@larder/contract/receiving';
import type { Grant, Right } from '@larder/contract/rights';
import { createParty } from '@larder/contract/setup';
import { correct, openStock } from '@larder/contract/stock';
import { render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import { createMemoryRouter } from 'react-router';
import { Routed } from '../kit/Routed';
import { around, standInServer } from '../testing/server';
import { Entrance, type Purpose } from './Entrance';
import { router } from './routes';

/** Opens an address of the real table of pages, each of which only says its path, with these grants. */
function open(address: string, grants: readonly Grant[]) {
  standInServer().on(me, () => ({ id: 1, name: 'Nell', email: 'nell@test.example', grants, company: { today: '2026-11-24', currency: 'GBP' } }));
  const pages = (router.routes[0]?.children ?? []).map(({ path, handle }) => ({
    path: path ?? '',
    handle: handle as unknown,
    element: <p>{`page ${path ?? ''}`}</p>,
  }));
  const there = createMemoryRouter([{ path: '/', element: <Entrance />, children: pages }], { initialEntries: [address] });
  render(
    <Provider store={around().store}>
      <Routed router={there} />
    </Provider>,
  );
}
const everywhere = (...rights: Right[]): Grant[] => [{ siteId: null, rights }];

test('a page that is only for doing something asks for the right that doing it takes', () => {
  const needs = Object.fromEntries((router.routes[0]?.children ?? []).map(({ path, handle }) => [path, (handle as Purpose | undefined)?.needs]));
  expect(needs).toMatchObject({
    'items/new': createItem.right,
    'items/families/new': createFamily.right,
    'inbound/orders/new': createPurchase.right,
    'inbound/orders/:id/change': amendPurchase.right,
    'inbound/orders/:id/delivered': recordDirect.right,
    'inbound/orders/:id/send': sendOrder.right,
    'inbound/orders/:id/return': returnGoods.right,
    'inbound/return': returnGoods.right,
    'inbound/unordered': receiveUnordered.right,
    'inbound/desk': receive.right,
    'inbound/suppliers/new': createParty.right,
    'outbound/customers/new': createParty.right,
    'outbound/prices/new': createPriceList.right,
    'making/boms/new': createBom.right,
    'making/orders/new': createWorkOrder.right,
    'making/apart/new': takeApart.right,
    'outbound/orders/new': createSale.right,
    'outbound/orders/:id/change': amendSale.right,
    'stock/correction': correct.right,
    'stock/opening': openStock.right,
    'books/bills/new': createBill.right,
    'books/landed/new': createSheet.right,
    import: checkImport.right,
    'inbound/orders/:id': undefined,
    stock: undefined,
  });
});

test('whoever may do it at some site sees the page', async () => {
  open('/inbound/desk', [{ siteId: 2, rights: ['look', 'inbound.receive'] }]);
  expect(await screen.findByText('page inbound/desk')).toBeTruthy();
});

test('whoever may never do it is told what the role lacks, and where to go on', async () => {
  open('/stock/correction', everywhere('look', 'outbound.sell'));
  expect((await screen.findByRole('status')).textContent).toContain('Your role does not let you correct stock.');
  expect(screen.getByRole('link', { name: 'Back to Today' }).getAttribute('href')).toBe('/');
  expect(screen.queryByText('page stock/correction')).toBeNull();
});

test('the books are for those who see cost everywhere, not at one site', async () => {
  open('/books/journal', [{ siteId: 2, rights: ['look', 'costs.see'] }]);
  expect((await screen.findByRole('status')).textContent).toContain('Your role does not let you see cost and margin.');
});
