/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listItems } from '@larder/contract/catalog';
import { createPurchase, decidePurchase, editPurchase, supplierTerms, type PurchaseForm, type PurchaseOrder } from '@larder/contract/inbound';
import { lastChange, listParties, reference } from '@larder/contract/setup';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { DraftOrder } from './DraftOrder';

const vase = { id: 1, sku: 'VASE', name: 'Tall vase', unit: 'each', purchasePrice: '3', salesPrice: '6', free: '4', units: [] };
/** A draft as the server gives it. */
const saved = (version: number, part: Partial<PurchaseOrder> = {}): PurchaseOrder =>
  ({
    id: 7,
    version,
    number: 'PO-7',
    supplierId: 2,
    supplier: 'Hexley Joinery',
    siteId: 1,
    shipsToId: null,
    shipsTo: null,
    expectedOn: '2026-12-04',
    orderedOn: null,
    currency: 'GBP',
    rate: '1',
    note: '',
    charges: [],
    lines: [
      {
        itemId: 1,
        sku: 'VASE',
        name: 'Tall vase',
        unit: 'each',
        unitId: null,
        quantity: '24',
        baseQuantity: '24',
        price: '1.1',
        pricePer: '1',
        expectedOn: null,
      },
    ],
    ...part,
  }) as PurchaseOrder;

function open(order: PurchaseOrder | null) {
  const server = standInServer();
  signedIn(server, ['look', 'inbound.order', 'items.edit']);
  server.on(reference, () => ({ sites: [{ id: 1, name: 'Barn store' }], taxes: [{ id: 4, name: 'Standard', rate: '20' }], units: [], reasons: [] }));
  server.on(listParties, () => ({ rows: [{ id: 2, name: 'Hexley Joinery' }] }));
  server.on(listItems, () => ({ rows: [vase], next: null }));
  server.on(supplierTerms, () => ({
    taxCodeId: 4,
    leadDays: 10,
    rows: [{ itemId: 1, code: 'T-1', packSize: '12', minimum: '24', price: '1.10', leadDays: null, breaks: [{ from: '120', price: '0.95' }], taxCodeId: null }],
  }));
  const { Around } = around();
  const page = (now: PurchaseOrder | null) => <DraftOrder order={now} like={now ?? undefined} today="2026-11-24" currency="GBP" sites={[{ id: 1 }]} />;
  const shown = render(page(order), { wrapper: Around });
  const sent = (endpoint: { method: string; path: string }) =>
    server.asked.filter((one) => one.endpoint === `${endpoint.method} ${endpoint.path}`).map(({ body }) => body as PurchaseForm & { version: number });
  return { user: userEvent.setup(), server, sent, comes: (now: PurchaseOrder) => shown.rerender(page(now)) };
}
const value = (label: string) => screen.getByLabelText<HTMLInputElement>(label).value;

test('prices follow the supplier’s terms until somebody types another; the day is theirs until one is typed', async () => {
  const { user, server, sent } = open(null);
  server.on(createPurchase, () => saved(1));
  await user.type(screen.getByLabelText('Supplier'), 'hex');
  await screen.findByRole('option', { name: 'Hexley Joinery' });
  await user.keyboard('{Enter}');
  await user.type(screen.getByLabelText('New line'), '6 vase');
  await screen.findByRole('listbox', { name: 'Items that fit' });
  await user.keyboard('{Enter}');
  await waitFor(() => expect(value('Price of line 1')).toBe('1.10'));
  expect(value('Expected')).toContain('4 Dec');
  await user.click(await screen.findByRole('button', { name: 'Take 24' }));
  expect(value('Quantity of line 1')).toBe('24');
  await user.clear(screen.getByLabelText('Quantity of line 1'));
  await user.type(screen.getByLabelText('Quantity of line 1'), '120');
  await waitFor(() => expect(value('Price of line 1')).toBe('0.95'));
  expect(await screen.findByText('136.80 GBP')).toBeTruthy(); // 120 × 0.95 and a fifth of tax
  await user.clear(screen.getByLabelText('Price of line 1'));
  await user.type(screen.getByLabelText('Price of line 1'), '1');
  expect(screen.getByText('Agreed is 0.95.')).toBeTruthy();
  expect(screen.getByRole('table', { name: 'Lines' }).textContent).toContain('120.00');
  await user.click(screen.getByRole('button', { name: 'Save draft' }));
  await waitFor(() => expect(sent(createPurchase)).toHaveLength(1));
  expect(sent(createPurchase)[0]).toMatchObject({
    supplierId: 2,
    siteId: 1,
    expectedOn: '2026-12-04',
    currency: 'GBP',
    rate: '1',
    lines: [{ itemId: 1, quantity: '120', price: '1', pricePer: '1' }],
  });
});

test('placing saves what is typed first, and places what was saved', async () => {
  const { user, server, sent } = open(saved(3));
  server.on(editPurchase, () => saved(4, { note: 'tail lift' }));
  server.on(decidePurchase, () => saved(5));
  await user.type(screen.getByLabelText('Note'), 'tail lift');
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(sent(decidePurchase)).toEqual([{ decision: 'place', version: 4 }]));
  expect(sent(editPurchase)).toMatchObject([{ note: 'tail lift', version: 3 }]);
});

test('Ctrl Enter while it is being saved places it once it is', async () => {
  const { user, server, sent } = open(saved(3));
  const done: (() => void)[] = [];
  const later = <T,>(answer: T) => new Promise<T>((resolve) => void done.push(() => resolve(answer)));
  server.on(editPurchase, ({ version }: { version: number }) => (version === 3 ? later(saved(4, { note: 'tail lift' })) : saved(5)));
  server.on(decidePurchase, () => saved(6));
  await user.type(screen.getByLabelText('Note'), 'tail lift');
  await user.click(screen.getByRole('button', { name: 'Save draft' }));
  await waitFor(() => expect(sent(editPurchase)).toHaveLength(1));
  await user.keyboard('{Control>}{Enter}{Enter}{/Control}');
  expect(sent(decidePurchase)).toEqual([]);
  done[0]?.();
  await waitFor(() => expect(sent(decidePurchase)).toEqual([{ decision: 'place', version: 5 }]));
  expect(sent(editPurchase).map(({ version }) => version)).toEqual([3, 4]);
});

test('one that is new is made once, also when it is placed while it is being saved', async () => {
  const { user, server, sent } = open(null);
  const done: (() => void)[] = [];
  server.on(createPurchase, () => new Promise((resolve) => void done.push(() => resolve(saved(1)))));
  server.on(editPurchase, () => saved(2));
  server.on(decidePurchase, () => saved(3));
  await user.type(screen.getByLabelText('Supplier'), 'hex');
  await screen.findByRole('option', { name: 'Hexley Joinery' });
  await user.keyboard('{Enter}');
  await user.type(screen.getByLabelText('New line'), '24 vase');
  await screen.findByRole('listbox', { name: 'Items that fit' });
  await user.keyboard('{Enter}');
  await user.click(screen.getByRole('button', { name: 'Save draft' }));
  await waitFor(() => expect(sent(createPurchase)).toHaveLength(1));
  await user.keyboard('{Control>}{Enter}{/Control}');
  done[0]?.();
  await waitFor(() => expect(sent(decidePurchase)).toEqual([{ decision: 'place', version: 2 }]));
  expect(sent(createPurchase)).toHaveLength(1);
});

test('what somebody else saved meanwhile comes in beside what is typed; only what both changed is asked', async () => {
  const { user, server, sent, comes } = open(saved(3));
  server.on(editPurchase, ({ version }: { version: number }) => (version === 3 ? refused(409, 'stale', 'PO-7 was changed by somebody else.') : saved(5)));
  server.on(lastChange, () => ({ last: { person: 'Wim Achter', at: '2026-11-24T10:00:00Z' } }));
  await user.type(screen.getByLabelText('Note'), 'by the ramp');
  await user.click(screen.getByRole('button', { name: 'Save draft' }));
  await screen.findByText('PO-7 was changed by somebody else.');
  comes(saved(4, { note: 'call first', expectedOn: '2026-12-09' }));
  expect(await screen.findByText('Wim Achter changed the note to “call first” while you typed.')).toBeTruthy();
  expect(value('Note')).toBe('by the ramp');
  expect(value('Expected')).toContain('9 Dec');
  await user.click(screen.getByRole('button', { name: 'Keep mine' }));
  await user.click(screen.getByRole('button', { name: 'Save draft' }));
  await waitFor(() => expect(sent(editPurchase).at(-1)).toMatchObject({ version: 4, note: 'by the ramp', expectedOn: '2026-12-09' }));
});

test('what is refused stands at its field, also that nobody was chosen', async () => {
  const { user, server } = open(null);
  server.on(createPurchase, () => refused(404, 'no-such-supplier', 'There is no such supplier.', 'supplierId'));
  await user.click(screen.getByRole('button', { name: 'Save draft' }));
  expect(await screen.findByText('Choose the supplier.')).toBeTruthy();
});
