/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { keepLayout, keptViews, keepView } from '@larder/contract/lists';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useAddress } from '../kit/address';
import { asMade, type ColumnLayout } from '../kit/columnLayout';
import { around, standInServer } from '../testing/server';
import { Report } from './Report';

interface Row {
  id: number;
  sku: string;
}
const rows: Row[] = [
  { id: 1, sku: 'VASE' },
  { id: 2, sku: 'BOWL' },
];

function Page({ keeps }: { keeps: boolean }) {
  const address = useAddress();
  return (
    <Report<Row>
      title="Stock"
      laidOutAs="stock"
      out={{ list: 'stock' }}
      {...(keeps ? { keptAs: 'stock' as const } : {})}
      address={address}
      find={{ label: 'Find in stock', placeholder: 'Words' }}
      filters={<span>Only what is low</span>}
      noun="item"
      columns={[{ name: 'SKU', cell: ({ sku }: Row) => sku }] as never}
      useList={() => ({ rows, error: undefined, isAsking: false, hasMore: false, more: () => undefined })}
      question={{ q: address.get('q') }}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/items/${id}`}
      empty="Nothing fits."
      peek={({ sku }) => <aside>About {sku}</aside>}
      next={(row) => row && { label: `Open ${row.sku}`, run: () => undefined }}
      actions={(row) => <button type="button">Correct {row?.sku}</button>}
    />
  );
}

function open(keeps: boolean, layout: ColumnLayout | null = null) {
  const server = standInServer();
  server.on(keptViews, () => ({
    rows: [{ id: 1, list: 'stock', name: 'Low ones', search: '?state=low', pinned: true, shared: false, mine: true, person: 'Ines', layout }],
  }));
  server.on(keepView, () => ({ id: 2, list: 'stock', name: 'New', search: '', pinned: true, shared: false, mine: true, person: 'Ines', layout: null }));
  const { Around } = around('/stock');
  render(
    <>
      <Page keeps={keeps} />
    </>,
    { wrapper: Around },
  );
  return { user: userEvent.setup(), server };
}

test('settings, rows, kept settings and the way out as a file stand together; the selected row is what one looks at', async () => {
  const { user } = open(true);
  expect(await screen.findByRole('link', { name: 'Low ones' })).toBeTruthy();
  expect(screen.getByText('Only what is low')).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Export' })).toBeTruthy();
  expect(screen.getByRole('note').textContent).toBe('2 items; arrow keys move, Enter opens');
  expect(screen.getByText('About VASE')).toBeTruthy();
  await user.click(screen.getByText('BOWL'));
  expect(screen.getByText('About BOWL')).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Correct BOWL' })).toBeTruthy();
});

test('settings are kept under a name', async () => {
  const { user, server } = open(true);
  await user.click(await screen.findByRole('button', { name: /Kept filters/ }));
  await user.type(screen.getByLabelText('Keep these filters and columns as'), 'Mine{Enter}');
  await waitFor(() =>
    expect(server.asked.find(({ endpoint }) => endpoint === `${keepView.method} ${keepView.path}`)?.body).toEqual({
      list: 'stock',
      name: 'Mine',
      search: '',
      pinned: true,
      shared: false,
      layout: asMade,
    }),
  );
});

test('what is looked at by its name has the columns kept under it, and a change of them is kept there', async () => {
  const { user, server } = open(true, { ...asMade, widths: { SKU: 300 } });
  await user.click(await screen.findByRole('link', { name: 'Low ones' }));
  await user.click(screen.getByRole('button', { name: 'Columns' }));
  await user.click(screen.getByRole('button', { name: 'As they were' }));
  await waitFor(() =>
    expect(server.asked.find(({ endpoint }) => endpoint === `${keepView.method} ${keepView.path}`)?.body).toEqual({
      list: 'stock',
      name: 'Low ones',
      search: '?state=low',
      pinned: true,
      shared: false,
      layout: asMade,
    }),
  );
  expect(server.asked.some(({ endpoint }) => endpoint === `${keepLayout.method} ${keepLayout.path}`)).toBe(false);
});

test('a list whose settings are not kept does not offer it', () => {
  open(false);
  expect(screen.queryByRole('button', { name: /Kept filters/ })).toBeNull();
  expect(screen.getByRole('button', { name: 'Export' })).toBeTruthy();
});
