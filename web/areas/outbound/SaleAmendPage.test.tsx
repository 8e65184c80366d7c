/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listItems } from '@larder/contract/catalog';
import { amendSale, getSale } from '@larder/contract/outbound';
import { customerTerms } from '@larder/contract/prices';
import { getParty, reference } from '@larder/contract/setup';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { SaleAmendPage } from './SaleAmendPage';

const line = {
  id: 70,
  itemId: 1,
  sku: 'JAR',
  name: 'Honey jar',
  unit: 'each',
  quantity: '24',
  picked: '6',
  price: '0.62',
  discount: '0',
  shipBy: '2026-11-26',
  siteId: 1,
};
const order = {
  id: 7,
  version: 3,
  number: 'SO-7',
  customerId: 2,
  customer: 'Brook Street Deli',
  siteId: 1,
  shipBy: '2026-11-26',
  reference: '',
  shipTo: '',
  currency: 'GBP',
  rate: '1',
  note: '',
  lines: [line],
};

function open() {
  const server = standInServer();
  signedIn(server, ['look', 'outbound.sell']);
  server.on(getSale, () => order);
  server.on(reference, () => ({ sites: [], taxes: [], units: [], reasons: [] }));
  server.on(getParty, () => ({ id: 2, name: 'Brook Street Deli', addresses: [] }));
  server.on(listItems, () => ({
    rows: [{ id: 3, sku: 'SMOKER', name: 'Smoker', unit: 'each', salesPrice: '24', purchasePrice: '9', free: '4', units: [], byCode: true }],
    next: null,
  }));
  server.on(customerTerms, () => ({ taxCodeId: null, list: null, rows: [{ itemId: 3, code: '', price: '21.5', breaks: [], taxCodeId: null }] }));
  server.on(amendSale, () => ({ movementId: null, effects: { rows: [], notes: ['SO-9 line 1 gets 4 it was short of.'], costNotes: [] } }));
  const { Around, router } = around('/outbound/orders/7/change');
  const pages = (
    <Routes>
      <Route path="/outbound/orders/:id/change" element={<SaleAmendPage />} />
      <Route path="*" element={<p>elsewhere</p>} />
    </Routes>
  );
  render(pages, { wrapper: Around });
  return { user: userEvent.setup(), server, router };
}

test('a line is changed and another one added at the customer’s price; what that does is foreseen, and it goes back to the order', async () => {
  const { user, server, router } = open();
  const many = await screen.findByLabelText('Quantity of JAR');
  await user.clear(many);
  await user.type(many, '20');
  expect(await screen.findByText('SO-9 line 1 gets 4 it was short of.')).toBeTruthy();
  await user.type(screen.getByLabelText('New line'), '2 smoker{Enter}');
  await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>('Price of line 1').value).toBe('21.50'));
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(router.state.location.pathname).toBe('/outbound/orders/7'));
  expect(server.sent(amendSale)).toMatchObject({
    version: 3,
    shipBy: '2026-11-26',
    lines: [{ lineId: 70, quantity: '20', price: '0.62', discount: '0', shipBy: null, siteId: 1 }],
    added: [{ itemId: 3, quantity: '2', price: '21.50', discount: '0' }],
  });
});

test('less than is picked is told at the line, which has the focus', async () => {
  const { user, server } = open();
  server.on(amendSale, () => refused(422, 'not-valid', '6 of JAR are picked already; it can be no less.', 'lines.0.quantity'));
  const many = await screen.findByLabelText('Quantity of JAR');
  await user.clear(many);
  await user.type(many, '5');
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(screen.getAllByText('6 of JAR are picked already; it can be no less.').length).toBeGreaterThan(0));
  expect(document.activeElement).toBe(screen.getByLabelText('Quantity of JAR'));
});

test('beyond what the customer may owe it is asked, and changed all the same', async () => {
  const { user, server, router } = open();
  server.on(amendSale, ({ overLimit }: { overLimit?: boolean }) =>
    overLimit
      ? { movementId: null, effects: { rows: [], notes: [], costNotes: [] } }
      : refused(409, 'over-limit', 'They would owe 8.00 GBP more than they may.', 'customerId', ['overLimit']),
  );
  await user.type(await screen.findByLabelText('Quantity of JAR'), '0');
  await user.keyboard('{Control>}{Enter}{/Control}');
  await user.click(await screen.findByRole('button', { name: 'Change it all the same' }));
  await waitFor(() => expect(router.state.location.pathname).toBe('/outbound/orders/7'));
  expect(server.sent(amendSale)).toMatchObject({ overLimit: true, version: 3 });
});
