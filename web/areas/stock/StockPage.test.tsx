/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { keepLayout, keptLayouts, keptViews } from '@larder/contract/lists';
import type { Right } from '@larder/contract/rights';
import { reference } from '@larder/contract/setup';
import { itemStock, pastInAll, pastItem, pastStock, stockInAll, stockTable } from '@larder/contract/stock';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, signedIn, standInServer } from '../../testing/server';
import { StockPage } from './StockPage';

const row = (id: number) => ({
  itemId: id,
  sku: `N-${String(id).padStart(3, '0')}`,
  name: `Item ${id}`,
  unit: 'each',
  onHand: '10',
  reserved: '0',
  free: '10',
  onOrder: '0',
  inTransit: '0',
  short: '0',
  onLoan: '0',
  quarantine: '2',
  daysOfCover: null,
  countedOn: null,
  unitCost: '1.5',
  value: '15.00',
  reorderPoint: null,
  orderUpTo: null,
});
const all = Array.from({ length: 250 }, (_, index) => row(index + 1));
const stockOf = (itemId: number) => ({
  itemId,
  sku: row(itemId).sku,
  name: `Item ${itemId}`,
  unit: 'each',
  tracking: 'none',
  pictureId: null,
  unitCost: '1.5',
  value: '15.00',
  reorderPoint: null,
  orderUpTo: null,
  today: '2026-11-24',
  daysOfCover: null,
  past: [],
  expected: [],
  reservedFor: [],
  seq: 1,
  sites: [
    {
      siteId: 1,
      site: 'Barn store',
      onHand: '10',
      reserved: '0',
      free: '10',
      onOrder: '0',
      inTransit: '0',
      short: '0',
      bins: [{ binId: 7, bin: 'A-01-1', quantity: '10', sellable: true, lots: [] }],
    },
  ],
});

async function open(rights: readonly Right[] = ['look', 'costs.see'], address = '/stock') {
  const server = standInServer();
  signedIn(server, rights);
  const asked: string[] = [];
  server.on(stockTable, (_, path) => {
    asked.push(path);
    const query = new URLSearchParams(path.split('?')[1]);
    const fitting = all.filter(({ name }) => name.toLowerCase().includes((query.get('q') ?? '').toLowerCase()));
    const from = Number(query.get('cursor') ?? 0);
    const to = from + Number(query.get('limit'));
    return { rows: fitting.slice(from, to), next: to < fitting.length ? String(to) : null };
  });
  server.on(stockInAll, (_, path) => {
    const q = (new URLSearchParams(path.split('?')[1]).get('q') ?? '').toLowerCase();
    const fitting = all.filter(({ name }) => name.toLowerCase().includes(q));
    return { count: fitting.length, value: rights.includes('costs.see') ? (fitting.length * 15).toFixed(2) : '' };
  });
  server.on(itemStock, (_, path) => stockOf(Number(/items\/(\d+)/.exec(path)?.[1])));
  server.on(reference, () => ({ sites: [{ id: 1, name: 'Barn store', retired: false }], categories: [], zones: ['Cold room'], suppliers: [] }));
  server.on(pastStock, (_, path) => {
    asked.push(path);
    return { rows: all.slice(0, 3).map((one) => ({ ...one, onHand: '4', bench: '0', value: '6.00' })), next: null };
  });
  server.on(pastInAll, () => ({ count: 3, value: '18.00' }));
  server.on(pastItem, () => ({
    itemId: 1,
    sku: 'N-001',
    name: 'Item 1',
    unit: 'each',
    tracking: 'none',
    unitCost: '1.5',
    value: '6.00',
    sites: [
      {
        siteId: 1,
        site: 'Barn store',
        onHand: '4',
        bench: '0',
        inTransit: '0',
        onLoan: '0',
        quarantine: '0',
        value: '6.00',
        bins: [{ binId: 7, bin: 'A-01-1', quantity: '4', sellable: true, lots: [] }],
      },
    ],
  }));
  server.on(keptViews, () => ({ rows: [] }));
  server.on(keptLayouts, () => ({ rows: [] }));
  server.on(keepLayout, () => ({}));
  const { Around, router } = around(address);
  render(<StockPage />, { wrapper: Around });
  const table = await screen.findByRole('table', { name: 'Stock' });
  return { user: userEvent.setup(), table, asked, router };
}
const foot = (table: HTMLElement) => [...table.querySelectorAll('tfoot td')].map(({ textContent }) => textContent).filter((text) => text !== '');

test('it says how many items there are in all and what they are worth, before all of them were read', async () => {
  const { table, asked } = await open();
  await waitFor(() => expect(foot(table)).toEqual(['250 items', '3\u2009750.00']));
  expect(screen.getByRole('note').textContent).toBe('250 items; arrow keys move, Enter opens');
  expect(asked.length).toBe(1);
  expect(table.getAttribute('aria-rowcount')).toBe('251');
});

test('it goes on as one comes near its end, without a page in between', async () => {
  const { user, asked } = await open();
  // As somebody does who wants the last: again until it is there.
  for (let n = 0; n < 40 && !screen.queryByText('N-250'); n += 1) await user.keyboard('{End}');
  expect(screen.getByText('N-250')).toBeTruthy();
  expect(asked.map((path) => new URLSearchParams(path.split('?')[1]).get('cursor'))).toEqual([null, '50', '150']);
});

test('held to words it begins again at the first row, and its sums follow', async () => {
  const { user, table } = await open();
  await user.keyboard('{ArrowDown}{ArrowDown}');
  await user.type(screen.getByLabelText('Find in stock'), '25');
  await waitFor(() => expect(foot(screen.getByRole('table', { name: 'Stock' }))).toEqual(['4 items', '60.00']));
  const rows = within(table).getAllByRole('row');
  expect(rows[1]?.getAttribute('aria-selected')).toBe('true');
  expect(rows[1]?.textContent).toContain('N-025');
});

test('a row opened in place shows where the item lies', async () => {
  const { user } = await open();
  await user.keyboard('{ArrowRight}');
  const inside = (await screen.findAllByRole('link', { name: 'A-01-1' }))[0];
  expect(inside?.getAttribute('href')).toBe('/stock/bins/7');
  expect(screen.getByRole('button', { name: 'What is in N-001' }).getAttribute('aria-expanded')).toBe('true');
});

test('who may not see cost is told how many, and no value', async () => {
  const { table } = await open(['look']);
  await waitFor(() => expect(foot(table)).toEqual(['250 items']));
  expect(screen.queryByRole('columnheader', { name: /Value/ })).toBeNull();
});

test('as of a day it shows what was there then, and leads on as of that day; what is of today only is left out', async () => {
  const { table, asked } = await open(['look', 'costs.see'], '/stock?asOf=2026-03-04');
  await waitFor(() => expect(foot(table)).toEqual(['3 items', '18.00']));
  expect(within(table).queryByRole('columnheader', { name: /Reserved|On order|Free/ })).toBeNull();
  expect(new URLSearchParams(asked[0]?.split('?')[1]).get('asOf')).toBe('2026-03-04');
  const there = await screen.findByRole('table', { name: 'Where it lay' });
  expect(within(there).getByRole('link', { name: 'A-01-1' }).getAttribute('href')).toBe('/stock/bins/7?asOf=2026-03-04');
  expect(
    within(there)
      .getAllByRole('columnheader')
      .map(({ textContent }) => textContent),
  ).toEqual(['Where', 'On hand', 'Value']);
  expect(within(table).getAllByRole('link', { name: '4' })[0]?.getAttribute('href')).toBe('/stock/trail?item=1&measure=on-hand&until=2026-03-04');
});

test('a figure leads to how it is explained, over the same page', async () => {
  const { table } = await open(['look', 'costs.see'], '/stock?sort=name');
  expect(within(table).getAllByRole('link', { name: '15.00' })[0]?.getAttribute('href')).toBe('/stock?sort=name&explain=value.1');
});
