/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { explained } from '@larder/contract/explain';
import { reference } from '@larder/contract/setup';
import { render, screen, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, signedIn, standInServer } from '../testing/server';
import { ExplainDialog } from './ExplainDialog';

const plus = (what: string, amount: string, document: object | null = null) => ({ what, amount, document, day: null, by: 'plus' });

const answer = {
  itemId: 5,
  sku: 'VASE',
  name: 'A vase',
  unit: 'each',
  quantities: [
    { figure: 'onHand', total: '7', parts: [plus('All before', '9'), plus('pick', '-2', { kind: 'sales order', id: 3, number: 'SO-3' })] },
    { figure: 'reserved', total: '2', parts: [plus('reserved for', '2', { kind: 'transfer', id: 4, number: 'TR-4' })] },
    { figure: 'free', total: '5', parts: [plus('On hand', '7'), plus('Reserved', '-2')] },
    { figure: 'short', total: '0', parts: [] },
  ],
  costs: [
    {
      figure: 'unitCost',
      total: '3.333333',
      parts: [
        { ...plus('Worth of all that is ours', '10.00'), isQuantity: false },
        { ...plus('How many are ours', '3'), by: 'over', isQuantity: true },
      ],
    },
  ],
};

function open(address: string) {
  const server = standInServer();
  signedIn(server, ['look', 'costs.see']);
  server.on(reference, () => ({ sites: [{ id: 2, name: 'Harbour shop' }] }));
  const paths: string[] = [];
  server.on(explained, (_, path) => {
    paths.push(path);
    return answer;
  });
  const { Around, router } = around(address);
  render(<ExplainDialog />, { wrapper: Around });
  return { user: userEvent.setup(), router, paths };
}
const lines = (table: HTMLElement) =>
  within(table)
    .getAllByRole('row')
    .map(({ textContent }) => textContent?.replace(/\s+/g, ' ').trim());

test('a figure is the lines that come to it, each with its document; what it is made of is one press away', async () => {
  const { user, router } = open('/stock?q=vase&explain=free.5');
  expect(lines(await screen.findByRole('table', { name: 'What free is made of' }))).toEqual(['On hand 7', 'Reserved -2', 'Free= 5 each']);
  await user.click(within(screen.getByRole('table')).getByRole('button', { name: 'On hand' }));
  expect(router.state.location.search).toBe('?q=vase&explain=onHand.5');
  expect(lines(await screen.findByRole('table', { name: 'What on hand is made of' }))).toEqual(['All before 9', 'pick SO-3 -2', 'On hand= 7 each']);
  expect(screen.getByRole('link', { name: 'SO-3' }).getAttribute('href')).toBe('/outbound/orders/3');
  await user.click(screen.getByRole('button', { name: 'Short' }));
  expect(lines(await screen.findByRole('table', { name: 'What short is made of' }))).toEqual(['None.', 'Short= 0 each']);
});

test('a cost says what is divided by what; a figure at a site is asked for that site, and closing leaves the page as it was', async () => {
  const { user, router, paths } = open('/stock?q=vase&explain=unitCost.5.2');
  expect(lines(await screen.findByRole('table', { name: 'What unit cost is made of' }))).toEqual([
    'Worth of all that is ours 10.00',
    'How many are ours ÷ 3',
    expect.stringMatching(/^Unit cost= 3\.33/),
  ]);
  expect(screen.getByText(/A vase, Harbour shop/)).toBeTruthy();
  expect(paths).toEqual(['/api/stock/items/5/explained?siteId=2']);
  await user.click(screen.getByRole('button', { name: 'Close' }));
  expect(router.state.location.search).toBe('?q=vase');
});

test('an address that asks for nothing that is explained shows nothing', () => {
  open('/stock?explain=weight.5');
  expect(screen.queryByRole('dialog')).toBeNull();
});
