/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listAccounts } from '@larder/contract/books';
import { listItems, readCode } from '@larder/contract/catalog';
import { bomCost, canMakeItem, createBom } from '@larder/contract/making';
import { orderTopUp } from '@larder/contract/planning';
import { reference } from '@larder/contract/setup';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { bomDraft } from './bomForm';
import { BomSheet } from './BomSheet';
import { CanMakeItemPage } from './CanMakeItemPage';

const box = { id: 2, sku: 'BOX', name: 'Hive box', unit: 'each', purchasePrice: '3', salesPrice: '6', free: '4', units: [] };
const hive = { itemId: 1, sku: 'HIVE', name: 'A hive', unit: 'each' };

function write() {
  const server = standInServer();
  signedIn(server, ['look', 'items.edit', 'making.write', 'costs.see'] as never);
  server.on(listItems, () => ({ rows: [box], next: null }));
  server.on(readCode, () => ({ items: [], lot: null, useBy: null, serial: null, quantity: null }));
  server.on(listAccounts, () => ({ rows: [{ id: 7, code: '5400', name: 'Labour', type: 'expense', purpose: null, balance: '0' }] }));
  server.on(bomCost, () => ({ parts: '6.0000', work: '9.0000', made: '15.0000', own: '20.0000', share: '100.00', unknown: ['BOX'], rows: [] }));
  server.on(createBom, () => refused(422, 'not-valid', 'HIVE would contain itself.', 'parts.0.itemId'));
  const { Around } = around('/making/boms/new');
  render(<BomSheet bom={null} came={bomDraft(null, '2026-11-23', hive)} today="2026-11-23" />, { wrapper: Around });
  return { user: userEvent.setup(), server };
}

test('a bill is typed part by part and told what one costs by it; what is refused of a part stands at its quantity', async () => {
  const { user, server } = write();
  await user.type(await screen.findByRole('combobox', { name: 'New part' }), '2 box');
  await user.click(await screen.findByRole('option', { name: /BOX/ }));
  expect((await screen.findByLabelText<HTMLInputElement>('How many BOX')).value).toBe('2');
  await user.type(screen.getByLabelText('Waste of BOX, per cent on top'), '5');
  await user.click(screen.getByRole('button', { name: 'Add a cost' }));
  await user.type(screen.getByLabelText('Cost 1'), 'Joiner');
  await user.type(screen.getByLabelText('How many of cost 1'), '0.5');
  await user.type(screen.getByLabelText('Rate of cost 1'), '18');
  await user.selectOptions(screen.getByLabelText('Account of cost 1'), '7');
  const costs = screen.getByRole('region', { name: 'What one costs' });
  expect((await within(costs).findByRole('row', { name: /^Made costs less by/ })).textContent).toContain('5.00');
  expect(within(costs).getByText(/^Nothing says what BOX costs/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: /^Add the bill of materials/ }));
  await waitFor(() =>
    expect(server.sent(createBom)).toMatchObject({
      itemId: 1,
      startsOn: '2026-11-23',
      parts: [{ itemId: 2, unitId: null, quantity: '2', waste: '5' }],
      costs: [{ name: 'Joiner', per: 'hour', quantity: '0.5', rate: '18', accountId: 7 }],
    }),
  );
  await waitFor(() => expect(screen.getByLabelText('How many BOX').getAttribute('aria-invalid')).toBe('true'));
});

test('without a part it is said so, and nothing is sent', async () => {
  const { user, server } = write();
  await user.click(await screen.findByRole('button', { name: /^Add the bill of materials/ }));
  expect((await screen.findAllByText('Say what it is made of.')).length).toBeGreaterThan(0);
  expect(server.sent(createBom)).toBeUndefined();
});

const row = {
  level: 1,
  itemId: 2,
  sku: 'BOX',
  name: 'Hive box',
  unit: 'each',
  step: '1',
  stocked: true,
  coming: [],
  elsewhere: [],
  alternatives: [],
  supplierId: 9,
  supplier: 'Hexley',
};

test('what is missing for so many is ordered where it is bought, and sent for where another site has some', async () => {
  const server = standInServer();
  signedIn(server, ['look', 'planning.top-up', 'stock.transfer'] as never);
  server.on(reference, () => ({
    sites: [{ id: 3, name: 'Barn' }],
    reasons: [],
    units: [],
    taxes: [],
    categories: [],
    departments: [],
    freeSeenElsewhere: true,
  }));
  server.on(canMakeItem, (_, path) => {
    const asked = new URL(path, 'http://larder.test').searchParams.get('quantity');
    if (asked === '0.5') return refused(422, 'not-valid', 'This item is kept in steps of 1.', 'quantity');
    const short = { ...row, needed: '8', free: '3', taken: '3', made: '0', missing: '5', open: '5', elsewhere: [{ siteId: 4, site: 'Harbour', free: '2' }] };
    const enough = { ...row, itemId: 5, sku: 'ROOF', needed: '4', free: '9', taken: '4', made: '0', missing: '0', open: '0' };
    return {
      ...hive,
      step: '1',
      bomId: 6,
      free: '1',
      canMake: '1',
      limits: [{ itemId: 2, sku: 'BOX', name: 'Hive box' }],
      quantity: asked ?? '2',
      rows: [short, enough],
    };
  });
  server.on(orderTopUp, () => ({ orders: [{ id: 12, number: 'PO-12', supplier: 'Hexley' }], transfers: [], work: [] }));
  const { Around, router } = around('/making/items/1?at=3&many=4');
  render(<CanMakeItemPage />, { wrapper: Around });
  const user = userEvent.setup();
  expect(await screen.findByText(/^1 can be made now, beside 1 that are free\. BOX limits it\./)).toBeTruthy();
  const needed = screen.getByRole('table', { name: 'Needed' });
  expect(within(needed).getByRole('row', { name: /^BOX/ }).textContent).toContain('from Hexley');
  expect((await screen.findByRole('link', { name: 'Bring 1 part from Harbour' })).getAttribute('href')).toBe(
    '/stock/transfers/new?from=4&to=3&items=2&quantities=2',
  );
  await user.click(screen.getByRole('button', { name: /^Order 1 part/ }));
  await waitFor(() => expect(server.sent(orderTopUp)).toEqual({ rows: [{ itemId: 2, siteId: 3, supplierId: 9, quantity: '5' }], place: false }));
  expect((await screen.findByRole('link', { name: 'PO-12 Hexley' })).getAttribute('href')).toBe('/inbound/orders/12');
  const many = screen.getByLabelText('How many are wanted');
  await user.clear(many);
  await user.type(many, '0.5');
  expect(await screen.findByText('This item is kept in steps of 1.')).toBeTruthy();
  expect(router.state.location.search).toContain('many=0.5');
});
