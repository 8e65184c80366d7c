/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { keptLayouts } from '@larder/contract/lists';
import { confirmSale, getSale, listSales, salesInAll } from '@larder/contract/outbound';
import { startRound } from '@larder/contract/picking';
import { saleLetter, sendSale } from '@larder/contract/post';
import type { Right } from '@larder/contract/rights';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { SalesPage } from './SalesPage';

const row = (id: number, state: string, part: object = {}) => ({
  id,
  number: `SO-${id}`,
  customerId: 1,
  customer: id === 3 ? 'Otter Boatyard' : 'Copse Lane School',
  siteId: 1,
  site: 'Barn store',
  shipBy: '2026-11-30',
  validUntil: null,
  expired: false,
  reference: '',
  state,
  ordered: '2',
  picked: '0',
  dispatched: '0',
  short: '0',
  lines: 1,
  amount: '10.00',
  late: false,
  ready: false,
  canGoStraight: false,
  toInvoice: false,
  createdAt: '2026-11-20T10:00:00Z',
  ...part,
});

function open(rows: ReturnType<typeof row>[], rights: Right[] = ['look', 'outbound.sell', 'outbound.ship', 'inbound.order', 'books.invoice']) {
  const server = standInServer();
  signedIn(server, rights);
  server.on(listSales, () => ({ rows, next: null }));
  server.on(salesInAll, () => ({ count: rows.length, amount: '20.00' }));
  server.on(keptLayouts, () => ({ rows: [] }));
  server.on(getSale, (_, path) => ({ id: Number(path.split('/').at(-1)), version: 4, number: 'SO', lines: [] }));
  server.on(confirmSale, (_, path) =>
    path.includes('/2/') ? refused(409, 'no-lines', 'SO-2 has no lines yet.') : { movementId: null, effects: { rows: [], notes: [], costNotes: [] } },
  );
  server.on(saleLetter, (_, path) => ({
    kind: 'quote',
    number: 'SO',
    party: 'x',
    to: path.endsWith('/3') ? '' : 'buyer@copse.example',
    subject: 'Quote',
    text: 'Dear',
    template: {},
  }));
  server.on(sendSale, () => ({ id: 1 }));
  server.on(startRound, () => ({ id: 9 }));
  const { Around, router } = around('/outbound?show=all');
  render(
    <Routes>
      <Route path="/outbound" element={<SalesPage />} />
      <Route path="*" element={<p>Elsewhere</p>} />
    </Routes>,
    { wrapper: Around },
  );
  const choose = async (...ids: number[]) => {
    for (const id of ids) await user.click(await screen.findByRole('checkbox', { name: `Choose SO-${id}` }));
    return within(await screen.findByRole('complementary', { name: 'Chosen orders' }));
  };
  const user = userEvent.setup();
  return { user, server, router, choose };
}

test('quotes are confirmed one after the other; one that cannot be says why, stays chosen, and holds up no other', async () => {
  const { user, server, choose } = open([row(1, 'quote'), row(2, 'quote'), row(3, 'quote'), row(4, 'confirmed')]);
  const panel = await choose(1, 2, 3, 4);
  await user.click(panel.getByRole('button', { name: 'Confirm 3 quotes' }));
  expect(await screen.findByText('Confirmed 2 quotes. 1 order could not be: the list says why.')).toBeTruthy();
  expect(server.asked.filter(({ endpoint }) => endpoint === `POST ${confirmSale.path}`)).toHaveLength(3);
  expect(
    within(screen.getByRole('table', { name: 'Not done' }))
      .getAllByRole('row')
      .map(({ textContent }) => textContent),
  ).toEqual(['SO-2SO-2 has no lines yet.']);
  expect(screen.getByRole('heading', { name: /^1 order chosen/ })).toBeTruthy();
});

test('letters go out as their template says; of whom no address is known is said', async () => {
  const { user, server, choose } = open([row(1, 'quote'), row(3, 'confirmed')]);
  const panel = await choose(1, 3);
  await user.click(panel.getByRole('button', { name: 'Send 2 letters by mail' }));
  expect(await screen.findByText('No mail address of Otter Boatyard is known.')).toBeTruthy();
  expect(server.sent(sendSale)).toEqual({ to: 'buyer@copse.example', subject: 'Quote', text: 'Dear' });
});

test('what is ready is picked in one round, what is left goes straight, what is gone is invoiced: each step takes the orders it fits', async () => {
  const { user, server, router, choose } = open([
    row(1, 'confirmed', { ready: true, canGoStraight: true }),
    row(2, 'confirmed', { ready: true }),
    row(3, 'dispatched', { toInvoice: true }),
  ]);
  const panel = await choose(1, 2, 3);
  expect(panel.getByRole('link', { name: 'Ship 1 order straight from suppliers' }).getAttribute('href')).toBe('/outbound/direct?orders=1');
  expect(panel.getByRole('link', { name: 'Invoice 1 order' }).getAttribute('href')).toBe('/books/invoices/new?orders=3');
  await user.click(panel.getByRole('button', { name: 'Pick 2 orders in one round' }));
  await waitFor(() => expect(router.state.location.pathname).toBe('/outbound/rounds/9'));
  expect(server.sent(startRound)).toEqual({ siteId: 1, orderIds: [1, 2] });
});

test('whoever may do nothing with them is told so; a round is at one site', async () => {
  const { choose } = open([row(1, 'confirmed', { ready: true })], ['look']);
  expect((await choose(1)).getByText('Nothing can be done with these at once.')).toBeTruthy();
});

test('orders of two sites are not picked in one round', async () => {
  const { choose } = open([row(1, 'confirmed', { ready: true }), row(2, 'confirmed', { ready: true, siteId: 2 })]);
  const panel = await choose(1, 2);
  expect(panel.queryByRole('button', { name: /in one round/ })).toBeNull();
  expect(panel.getByText('A round is at one site: choose orders of one.')).toBeTruthy();
});
