/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { createMemoryRouter, useLocation } from 'react-router';
import { useAddress } from './address';
import { AddressTabs } from './AddressTabs';
import { FindField } from './FindField';
import { ListPage } from './ListPage';
import { Routed } from './Routed';
import { ScanProvider } from './scan';

const shows = [
  ['open', 'Open'],
  ['all', 'All'],
] as const;

function Page() {
  const address = useAddress();
  const { search } = useLocation();
  return (
    <>
      <output aria-label="address">{search}</output>
      <FindField address={address} label="Find" placeholder="Words" />
      <ListPage
        title="Orders"
        address={address}
        find={{ label: 'Find orders', placeholder: 'Number' }}
        filters={<AddressTabs label="Which orders" address={address} name="show" options={shows} />}
        noun="order"
        columns={[]}
        useList={() => ({ rows: [] as { id: number }[], error: undefined, isAsking: false, hasMore: false, more: () => undefined })}
        question={{ show: address.get('show') }}
        keyOf={({ id }) => id}
        hrefOf={({ id }) => `/orders/${id}`}
        empty="No order yet. Write the first one."
        peek={() => null}
        next={() => undefined}
        actions={() => null}
      />
    </>
  );
}

function open(address: string) {
  const router = createMemoryRouter([{ path: '*', element: <Page /> }], { initialEntries: [address] });
  render(
    <ScanProvider>
      <Routed router={router} />
    </ScanProvider>,
  );
  return userEvent.setup();
}
const address = () => screen.getByLabelText('address').textContent;

test('an empty list says what will be here, also when it is sorted otherwise', () => {
  open('/orders?sort=number&direction=down');
  expect(screen.getByText('No order yet. Write the first one.')).toBeTruthy();
});

test('one that is held to something says that nothing fits, and shows everything again when asked; how it is sorted stays', async () => {
  const user = open('/orders?q=hive&show=all&sort=number');
  expect(screen.queryByText('No order yet. Write the first one.')).toBeNull();
  expect(screen.getByText('Nothing fits.', { exact: false })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Show everything' }));
  expect(address()).toBe('?sort=number');
  expect(screen.getByText('No order yet. Write the first one.')).toBeTruthy();
  expect((screen.getByLabelText('Find orders') as HTMLInputElement).value).toBe('');
});

test('a choice is pressed as the address says, and the first of them leaves nothing in it', async () => {
  const user = open('/orders');
  const pressed = () => screen.getAllByRole('button', { pressed: true }).map(({ textContent }) => textContent);
  expect(pressed()).toEqual(['Open']);
  await user.click(screen.getByRole('button', { name: 'All' }));
  expect([address(), pressed()]).toEqual(['?show=all', ['All']]);
  await user.click(screen.getByRole('button', { name: 'All' }));
  expect(pressed()).toEqual(['All']);
  await user.click(screen.getByRole('button', { name: 'Open' }));
  expect([address(), pressed()]).toEqual(['', ['Open']]);
});

test('a choice is made by the keyboard alone', async () => {
  const user = open('/orders');
  act(() => screen.getByRole('button', { name: 'All' }).focus());
  await user.keyboard(' ');
  expect(address()).toBe('?show=all');
});

test('two things asked one right after the other, before the page is drawn for the first, are both asked', async () => {
  open('/orders?q=hive');
  const widen = screen.getByRole('button', { name: 'Show everything' });
  await act(async () => {
    screen.getByRole('button', { name: 'All' }).click();
    await Promise.resolve();
    widen.click();
  });
  expect(address()).toBe('?show=all');
});
