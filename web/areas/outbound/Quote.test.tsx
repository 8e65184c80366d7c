/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { itemsMeant, listItems } from '@larder/contract/catalog';
import { availability, confirmSale, createSale, editSale, splitSale, type SalesOrder } from '@larder/contract/outbound';
import { customerTerms } from '@larder/contract/prices';
import { getParty, lastChange, listParties, reference } from '@larder/contract/setup';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { Quote } from './Quote';
import { quoteForm } from './quoteForm';

const item = (id: number, sku: string, name: string, salesPrice: string) => ({
  id,
  sku,
  name,
  unit: 'each',
  purchasePrice: '1',
  salesPrice,
  free: '40',
  units: [],
});
const items = [item(1, 'JAR-340', 'Honey jar', '0.62'), item(2, 'JAR-454', 'Honey jar, large', '0.72'), item(3, 'SMOKER', 'Smoker', '24')];
const line = {
  itemId: 1,
  sku: 'JAR-340',
  name: 'Honey jar',
  unit: 'each',
  unitId: null,
  price: '0.62',
  pricePer: '1',
  discount: '0',
  shipBy: '2026-11-26',
  siteId: 1,
};
/** A quote as the server gives it. */
const saved = (version: number, part: Partial<SalesOrder> = {}): SalesOrder =>
  ({
    id: 7,
    version,
    number: 'SO-7',
    customerId: 2,
    customer: 'Brook Street Deli',
    siteId: 1,
    shipBy: '2026-11-26',
    validUntil: '2026-12-24',
    expired: false,
    reference: '',
    shipTo: '',
    currency: 'GBP',
    rate: '1',
    discount: '0',
    note: '',
    state: 'quote',
    lines: [{ ...line, id: 70, quantity: '24', baseQuantity: '24', direct: '0', asked: null }],
    ...part,
  }) as SalesOrder;

const plenty = { stocked: true, free: '40', short: '0', availableOn: '2026-11-24', coming: [], elsewhere: [], substitutes: [] };

function open(order: SalesOrder | null, found: (path: string) => object = () => plenty, salesCurrency: string | null = null) {
  const server = standInServer();
  signedIn(server, ['look', 'outbound.sell', 'items.edit']);
  server.on(reference, () => ({
    sites: [
      { id: 1, name: 'Barn store' },
      { id: 2, name: 'Harbour shop' },
    ],
    taxes: [{ id: 4, name: 'Standard', rate: '20' }],
    units: [],
    reasons: [],
  }));
  server.on(listParties, () => ({ rows: [{ id: 2, name: 'Brook Street Deli', salesCurrency }] }));
  server.on(getParty, () => ({ id: 2, name: 'Brook Street Deli', addresses: [{ label: 'Kitchen', address: 'Gate B' }] }));
  server.on(listItems, (_, path) => {
    const words = new URLSearchParams(path.split('?')[1]).get('q')?.toLowerCase() ?? '';
    const rows = items.filter(({ sku, name }) => words.split(' ').every((word) => `${sku} ${name}`.toLowerCase().includes(word)));
    return { rows: rows.map((row) => ({ ...row, byCode: row.sku.toLowerCase() === words })), next: null };
  });
  server.on(availability, (_, path) => found(path));
  server.on(customerTerms, () => ({
    taxCodeId: null,
    list: 'Shops and tearooms',
    rows: [
      { itemId: 1, code: 'TEA-1', price: '0.54', breaks: [{ from: '48', price: '0.50' }], taxCodeId: 4 },
      { itemId: 3, code: '', price: '24', breaks: [], taxCodeId: 4 },
    ],
  }));
  const { Around, router } = around();
  const page = (now: SalesOrder | null) => (
    <Quote order={now} like={now ?? undefined} today="2026-11-24" currency="GBP" sites={[{ id: 1, name: 'Barn store' }]} shipDays={2} quoteDays={30} />
  );
  const shown = render(page(order), { wrapper: Around });
  const sent = (endpoint: { method: string; path: string }) =>
    server.asked.filter((one) => one.endpoint === `${endpoint.method} ${endpoint.path}` && !one.preview).map(({ body }) => body as Record<string, unknown>);
  return { user: userEvent.setup(), server, sent, router, comes: (now: SalesOrder) => shown.rerender(page(now)) };
}
const value = (label: string) => screen.getByLabelText<HTMLInputElement>(label).value;
/** Chooses one of the ways to fill what a line is short of. */
const fill = async (user: ReturnType<typeof userEvent.setup>, way: string, menu: string | RegExp = 'Fill what JAR-340 is short of') => {
  await user.click(await screen.findByRole('button', { name: menu }));
  await user.click(await screen.findByRole('menuitem', { name: way }));
};
const chooseCustomer = async (user: ReturnType<typeof userEvent.setup>) => {
  await user.type(screen.getByLabelText('Customer'), 'brook');
  await screen.findByRole('option', { name: 'Brook Street Deli' });
  await user.keyboard('{Enter}');
};

test('an order is typed without the mouse and without Tab: prices are the customer’s, by quantity; the same words twice ask which item', async () => {
  const { user, server, sent } = open(null);
  server.on(createSale, () => saved(1));
  await chooseCustomer(user);
  expect(document.activeElement).toBe(screen.getByLabelText('New line'));
  // Faster than the list: one item only fits, and is taken at once.
  await user.keyboard('2 smoker{Enter}');
  await waitFor(() => expect(value('Quantity of line 1')).toBe('2'));
  // Two fit: nothing is taken that nobody has seen.
  await user.keyboard('24 jar{Enter}');
  expect(await screen.findByText('Several items fit: choose one.')).toBeTruthy();
  expect(screen.queryByLabelText('Quantity of line 2')).toBeNull();
  await screen.findByRole('listbox', { name: 'Items that fit' });
  await user.keyboard('{Enter}');
  await waitFor(() => expect(value('Price of line 2')).toBe('0.54'));
  // The exact code is no doubt, though another begins with it.
  await user.keyboard('30 jar-340{Enter}');
  await waitFor(() => expect(value('Quantity of line 2')).toBe('54'));
  await waitFor(() => expect(value('Price of line 2')).toBe('0.50'));
  expect(screen.getByText('prices: Shops and tearooms')).toBeTruthy();
  expect(await screen.findByText('90.00 GBP')).toBeTruthy(); // (48 + 27) and a fifth of tax
  await user.keyboard('{Control>}s{/Control}');
  await waitFor(() => expect(sent(createSale)).toHaveLength(1));
  expect(sent(createSale)[0]).toMatchObject({
    customerId: 2,
    shipBy: '2026-11-26',
    validUntil: '2026-12-24',
    discount: '0',
    lines: [
      { itemId: 3, quantity: '2', price: '24.00', discount: '0', shipBy: null, siteId: null },
      { itemId: 1, quantity: '54', price: '0.50' },
    ],
  });
});

test('per cent off a line and off all of it are in what it comes to', async () => {
  const { user } = open(saved(1));
  await user.type(screen.getByLabelText('Per cent off line 1'), '10');
  await user.type(screen.getByLabelText('Per cent off all of it'), '5');
  // 24 × 0.62 = 14.88; less 10 %: 13.39; less 5 %: 12.72; tax 2.54
  expect(await screen.findByText('15.26 GBP')).toBeTruthy();
  expect(screen.getByText('5 % off').closest('div')?.textContent).toContain('0.67');
});

test('many lines are pasted at once, by code and quantity in either order; what no code is found for is left to be looked up', async () => {
  const { user, server } = open(saved(1));
  server.on(itemsMeant, ({ codes }: { codes: string[] }) => ({ rows: codes.map((code) => ({ code, items: items.filter(({ sku }) => sku === code) })) }));
  await user.click(screen.getByLabelText('New line'));
  await user.paste('Code\tHow many\nSMOKER\t3\nJAR-454\t12\nold jar\t6');
  await waitFor(() => expect([value('Quantity of line 2'), value('Quantity of line 3')]).toEqual(['3', '12']));
  expect(screen.getByText('2 lines pasted.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Find “old jar”' }));
  expect(value('New line')).toBe('6 old jar');
  expect(screen.queryByLabelText('Pasted lines that are left')).toBeNull();
});

test('Alt with an arrow moves a line, and the focus with it', async () => {
  const { user } = open(
    saved(1, { lines: [70, 71].map((id, at) => ({ ...line, ...items[at], id, itemId: at + 1, quantity: String(at + 5), baseQuantity: '5' })) as never }),
  );
  await user.click(screen.getByLabelText('Quantity of line 1'));
  await user.keyboard('{Alt>}{ArrowDown}{/Alt}');
  expect([value('Quantity of line 1'), value('Quantity of line 2')]).toEqual(['6', '5']);
  expect(document.activeElement).toBe(screen.getByLabelText('Quantity of line 2'));
});

test('lines with days of their own may move along when the order’s day is changed', async () => {
  const { user, server, sent } = open(saved(1, { lines: [{ ...line, id: 70, quantity: '24', baseQuantity: '24', shipBy: '2026-12-01' }] as never }));
  server.on(editSale, () => saved(2));
  await screen.findByLabelText('Ship JAR-340 by');
  expect(value('Ship JAR-340 by')).toContain('1 Dec');
  await user.clear(screen.getByLabelText('Ship by'));
  await user.type(screen.getByLabelText('Ship by'), '4/12');
  await user.tab();
  await user.click(await screen.findByRole('button', { name: /^Ship it by Fri 4 Dec/ }));
  await user.keyboard('{Control>}s{/Control}');
  await waitFor(() => expect(sent(editSale)[0]).toMatchObject({ shipBy: '2026-12-04', lines: [{ shipBy: null }] }));
});

test('goods go to one of their addresses, or to one that is typed', async () => {
  const { user, server, sent } = open(saved(1));
  server.on(editSale, () => saved(2));
  await screen.findByRole('option', { name: 'Kitchen' });
  await user.selectOptions(screen.getByLabelText('Goes to'), 'Kitchen');
  await user.keyboard('{Control>}s{/Control}');
  await waitFor(() => expect(sent(editSale).at(-1)).toMatchObject({ shipTo: 'Gate B' }));
  await user.selectOptions(screen.getByLabelText('Goes to'), 'another address');
  await user.clear(screen.getByLabelText('Address it goes to'));
  await user.type(screen.getByLabelText('Address it goes to'), 'The mill');
  await user.keyboard('{Control>}s{/Control}');
  await waitFor(() => expect(sent(editSale).at(-1)).toMatchObject({ shipTo: 'The mill' }));
});

test('what is asked before it is confirmed is answered on the page, one after the other', async () => {
  const { user, server, sent } = open(saved(1));
  server.on(lastChange, () => ({ last: null }));
  server.on(editSale, () => saved(2));
  server.on(confirmSale, ({ free, expired, overLimit }: { free?: boolean; expired?: boolean; overLimit?: boolean }) =>
    !free
      ? refused(409, 'free', 'JAR-340 costs the customer nothing. Confirm it all the same?', 'lines.0.price', ['free'])
      : !expired
        ? refused(409, 'expired', 'The prices were offered until 20 November 2026.', 'validUntil', ['expired'])
        : !overLimit
          ? refused(409, 'over-limit', 'They would owe 8.00 GBP more than they may.', 'customerId', ['overLimit'])
          : { movementId: null, effects: { rows: [], notes: [], costNotes: [] } },
  );
  await user.keyboard('{Control>}{Enter}{/Control}');
  await user.click(await screen.findByRole('button', { name: 'Confirm it all the same' }));
  await waitFor(() => expect(screen.getAllByText('The prices were offered until 20 November 2026.').length).toBeGreaterThan(0));
  await user.click(screen.getByRole('button', { name: 'Confirm it all the same' }));
  // It is about the customer, and said there as well.
  await waitFor(() => expect(screen.getAllByText('They would owe 8.00 GBP more than they may.')).toHaveLength(2));
  await user.click(screen.getByRole('button', { name: 'Confirm it all the same' }));
  await waitFor(() => expect(sent(confirmSale).at(-1)).toMatchObject({ version: 2, free: true, expired: true, overLimit: true }));
});

test('in the currency the customer pays in, at the rate it was used at last, prices are theirs; another currency has another rate', async () => {
  const { user, server, sent } = open(null, undefined, 'EUR');
  server.on(createSale, () => saved(1));
  server.on(customerTerms, (_, path) => ({
    taxCodeId: null,
    list: null,
    rate: path.includes('currency=EUR') ? '0.8' : null,
    rows: [{ itemId: 3, code: '', price: '24', breaks: [], taxCodeId: 4 }],
  }));
  await chooseCustomer(user);
  await waitFor(() => expect([value('Currency'), value('GBP for one EUR')]).toEqual(['EUR', '0.8']));
  await user.type(screen.getByLabelText('New line'), '2 smoker{Enter}');
  await waitFor(() => expect(value('Price of line 1')).toBe('30.00'));
  await user.clear(screen.getByLabelText('GBP for one EUR'));
  await user.type(screen.getByLabelText('GBP for one EUR'), '0.75');
  await waitFor(() => expect(value('Price of line 1')).toBe('32.00'));
  await user.clear(screen.getByLabelText('Currency'));
  await user.type(screen.getByLabelText('Currency'), 'usd');
  expect(value('GBP for one USD')).toBe('');
  await user.type(screen.getByLabelText('GBP for one USD'), '0.6');
  await waitFor(() => expect(value('Price of line 1')).toBe('40.00'));
  await user.click(screen.getByRole('button', { name: 'Save quote' }));
  await waitFor(() => expect(sent(createSale)).toMatchObject([{ currency: 'USD', rate: '0.6', lines: [{ price: '40.00' }] }]));
});

test('what was typed and not saved comes back with the rate that was typed, also when it was kept before there were currencies', async () => {
  const came = { ...quoteForm(undefined, true, { siteId: 1, currency: 'GBP' }) };
  const keep = (typed: object) =>
    localStorage.setItem('draft quote 1 new', JSON.stringify({ came, typed: { ...came, ...typed }, when: '2026-11-23T10:00:00Z' }));
  keep({ currency: 'USD', rate: '0.61', note: 'ring first' });
  const { user } = open(null);
  await user.click(await screen.findByRole('button', { name: 'Go on with it' }));
  await waitFor(() => expect([value('Currency'), value('GBP for one USD'), value('Note')]).toEqual(['USD', '0.61', 'ring first']));
  cleanup();
  const { currency: _currency, rate: _rate, ...before } = came;
  localStorage.setItem('draft quote 1 new', JSON.stringify({ came: before, typed: { ...before, note: 'older' }, when: '2026-11-23T10:00:00Z' }));
  const older = open(null);
  await older.user.click(await screen.findByRole('button', { name: 'Go on with it' }));
  await waitFor(() => expect([value('Currency'), value('Note')]).toEqual(['GBP', 'older']));
  localStorage.clear();
});

test('a part is confirmed, and the rest is a quote of its own', async () => {
  const { user, server, sent } = open(saved(1));
  server.on(splitSale, () => ({ order: saved(2), rest: { id: 8, number: 'SO-8' } }));
  server.on(confirmSale, () => ({ movementId: null, effects: { rows: [], notes: [], costNotes: [] } }));
  await user.click(screen.getByRole('button', { name: 'Confirm a part' }));
  await user.clear(screen.getByLabelText('Of JAR-340 confirmed now'));
  await user.type(screen.getByLabelText('Of JAR-340 confirmed now'), '10');
  await user.click(screen.getByRole('button', { name: 'Confirm this part' }));
  await waitFor(() => expect(sent(confirmSale)).toMatchObject([{ version: 2 }]));
  expect(sent(splitSale)).toEqual([{ version: 1, lines: [{ lineId: 70, quantity: '10' }] }]);
  expect(await screen.findByText(/SO-7 is confirmed; the rest is SO-8/)).toBeTruthy();
});

test('what is asked of one that is new is asked at its own address, and the field it is about has the focus', async () => {
  const { user, server, router } = open(null);
  server.on(createSale, () => saved(1));
  server.on(confirmSale, () => refused(409, 'free', 'SMOKER costs the customer nothing. Confirm it all the same?', 'lines.0.price', ['free']));
  await chooseCustomer(user);
  await user.keyboard('2 smoker{Enter}');
  await waitFor(() => expect(value('Quantity of line 1')).toBe('2'));
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(router.state.location.pathname).toBe('/outbound/orders/7'));
  expect(await screen.findByRole('button', { name: 'Confirm it all the same' })).toBeTruthy();
  await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText('Price of line 1')));
  await waitFor(() => expect(router.state.location.state).toBeNull());
});

test('a line that is short is shipped from where there are enough, on a word; a line may be given a site of its own', async () => {
  const { user, server, sent } = open(saved(1), (path) =>
    path.includes('siteId=2')
      ? plenty
      : { ...plenty, free: '4', short: '20', availableOn: null, elsewhere: [{ siteId: 2, site: 'Harbour shop', free: '90' }], substitutes: [] },
  );
  server.on(editSale, () => saved(2));
  await fill(user, 'Ship from Harbour shop: 90 free');
  expect(screen.getByLabelText<HTMLSelectElement>('JAR-340 comes from').value).toBe('2');
  expect(await screen.findByText('all on the shelf')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Save quote' }));
  await waitFor(() => expect(sent(editSale)[0]).toMatchObject({ lines: [{ siteId: 2 }] }));
});

test('something else is sold in the place of what is short, at its own price, and that is taken back; what was asked for is kept', async () => {
  const short = { ...plenty, free: '4', short: '20', availableOn: null, substitutes: [{ itemId: 2, sku: 'JAR-454', name: 'Honey jar, large', free: '60' }] };
  const { user, server, sent } = open(saved(1), (path) => (path.includes('itemId=1') ? short : plenty));
  server.on(itemsMeant, ({ codes }: { codes: string[] }) => ({ rows: codes.map((code) => ({ code, items: items.filter(({ sku }) => sku === code) })) }));
  server.on(editSale, () => saved(2));
  await fill(user, 'Swap for JAR-454: 60 free');
  expect(await screen.findByText('instead of JAR-340')).toBeTruthy();
  await waitFor(() => expect(value('Price of line 1')).toBe('0.72'));
  expect(value('Quantity of line 1')).toBe('24');
  await fill(user, 'Back to JAR-340', 'More for JAR-454');
  await waitFor(() => expect(value('Price of line 1')).toBe('0.54'));
  expect(screen.queryByText('instead of JAR-340')).toBeNull();
  await fill(user, 'Swap for JAR-454: 60 free');
  await screen.findByText('instead of JAR-340');
  await user.click(screen.getByRole('button', { name: 'Save quote' }));
  await waitFor(() => expect(sent(editSale)[0]).toMatchObject({ lines: [{ itemId: 2, quantity: '24', price: '0.72', askedItemId: 1, direct: '0' }] }));
});

test('what is short is sent straight from a supplier on a word, no more of it than is ordered, and that is taken back', async () => {
  const { user, server, sent } = open(saved(1), () => ({ ...plenty, free: '4', short: '20', availableOn: null }));
  server.on(editSale, () => saved(2));
  // By keyboard, from where the next line is typed: the focus is back there afterwards.
  await screen.findByRole('button', { name: 'Fill what JAR-340 is short of' });
  screen.getByLabelText('New line').focus();
  await user.keyboard('{Control>}.{/Control}');
  await screen.findByRole('menu');
  await user.keyboard('{Enter}');
  expect(await screen.findByText('20 straight from a supplier')).toBeTruthy();
  await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText('New line')));
  await user.clear(screen.getByLabelText('Quantity of line 1'));
  await user.type(screen.getByLabelText('Quantity of line 1'), '12');
  await user.click(screen.getByRole('button', { name: 'Save quote' }));
  await waitFor(() => expect(sent(editSale)[0]).toMatchObject({ lines: [{ quantity: '12', direct: '12' }] }));
  await fill(user, 'Not from a supplier after all', /JAR-340$|JAR-340 is short of$/);
  await waitFor(() => expect(screen.queryByText(/straight from a supplier/)).toBeNull());
});
