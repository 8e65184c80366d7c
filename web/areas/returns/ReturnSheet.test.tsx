/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { getItem } from '@larder/contract/catalog';
import { createReturn, getReturn, listHeld } from '@larder/contract/returns';
import type { Right } from '@larder/contract/rights';
import { listBins, listParties, reference } from '@larder/contract/setup';
import { itemStock } from '@larder/contract/stock';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { ReturnPage } from './ReturnPage';

const held = (part: object = {}) => ({
  salesLineId: 7,
  orderId: 70,
  order: 'SO-1007',
  customerId: 3,
  customer: 'Copse Lane School',
  itemId: 9,
  sku: 'HT-J',
  name: 'Hive tool',
  unit: 'each',
  lotId: 21,
  lot: 'HT-S1',
  day: '2026-11-20',
  sent: '1',
  back: '0',
  held: '1',
  straight: '0',
  price: '9.5',
  currency: 'GBP',
  returnable: true,
  ...part,
});
const loose = held({ salesLineId: 8, order: 'SO-1008', itemId: 10, sku: 'JAR', lotId: null, lot: null, sent: '5', held: '4', back: '1' });
const effects = { rows: [], notes: ['9.50 that HT-J had cost is written off.'], costNotes: [] };

function open(
  address = '/outbound/returns/new',
  rights: Right[] = ['look', 'outbound.return'],
  answer: (body: { receive: boolean }) => unknown = () => ({ id: 5, number: 'RET-5', movementId: 77, effects }),
  straight = '0',
) {
  const server = standInServer();
  signedIn(server, rights);
  server.on(reference, () => ({ sites: [{ id: 1, name: 'Barn store' }], reasons: [], returnReasons: [{ id: 4, name: 'Faulty' }], units: [], taxes: [] }));
  server.on(listBins, () => ({
    rows: [
      { id: 1, siteId: 1, siteName: 'Barn store', code: 'A-1', sellable: true, unplaced: true, retired: false },
      { id: 2, siteId: 1, siteName: 'Barn store', code: 'Q-1', sellable: false, unplaced: false, retired: false },
    ],
  }));
  server.on(listParties, () => ({ rows: [] }));
  server.on(getItem, () => ({ id: 9, sku: 'HT-J', policies: [] }));
  server.on(itemStock, () => ({ sites: [] }));
  server.on(listHeld, (_, path) => {
    const asked = new URLSearchParams(path.split('?')[1]);
    const customer = asked.get('customerId');
    const code = asked.get('q');
    const all = [held(), { ...loose, straight }, held({ salesLineId: 9, customerId: 6, customer: 'Otter Boatyard', lotId: 22, lot: 'HT-S2' })];
    return {
      rows: all.filter((row) => (!customer || String(row.customerId) === customer) && (!code || [row.lot, row.sku, row.order].includes(code))),
      more: false,
    };
  });
  server.on(createReturn, (body) => answer(body));
  server.on(getReturn, () => refused(404, 'not-found', 'There is no such return.'));
  const { Around, router } = around(address);
  render(
    <Routes>
      <Route path="/outbound/returns/:id" element={<ReturnPage />} />
    </Routes>,
    { wrapper: Around },
  );
  return { user: userEvent.setup(), server, router };
}
const find = () => screen.findByLabelText('Find what comes back');
const coming = () => within(screen.getByRole('table', { name: 'What comes back' }));
const next = () => screen.getByRole('button', { name: /^Take back \d/ });

test('a code and Enter takes the goods with whose they are; the same again takes one more, as far as they have so many', async () => {
  const { user } = open();
  await user.type(await find(), 'JAR{Enter}');
  const many = await screen.findByLabelText<HTMLInputElement>('How many of JAR on SO-1008');
  await waitFor(() => expect(document.activeElement).toBe(many));
  expect(screen.getByLabelText<HTMLInputElement>('Customer').value).toBe('Copse Lane School');
  for (let n = 0; n < 5; n += 1) await user.type(await find(), 'JAR{Enter}');
  await waitFor(() => expect(many.value).toBe('4'));
  expect(coming().getAllByRole('row')).toHaveLength(2);
});

test('what another customer has is said with whose it is, and what nobody has as well', async () => {
  const { user } = open();
  await user.type(await find(), 'HT-S1{Enter}');
  await screen.findByLabelText('How many of HT-J HT-S1 on SO-1007');
  await user.type(await find(), 'HT-S2{Enter}');
  expect(await screen.findByText('HT-S2 is with Otter Boatyard, not with Copse Lane School.')).toBeTruthy();
  await user.clear(await find());
  await user.type(await find(), 'NOTHING{Enter}');
  expect(await screen.findByText(/^Nothing that NOTHING means is with a customer/)).toBeTruthy();
  expect(coming().getAllByRole('row')).toHaveLength(2);
});

test('why is asked at its field, which has the focus; the bin is proposed by the condition; what is thrown away goes into none', async () => {
  const { user, server } = open();
  await user.type(await find(), 'HT-S1{Enter}');
  const bin = await screen.findByLabelText<HTMLSelectElement>('Bin of HT-J HT-S1 on SO-1007');
  await waitFor(() => expect(bin.value).toBe('1'));
  await user.click(next());
  const why = screen.getByLabelText<HTMLSelectElement>('Why HT-J HT-S1 on SO-1007 comes back');
  await waitFor(() => expect(document.activeElement).toBe(why));
  expect(screen.getAllByText('Choose why it comes back.').length).toBeGreaterThan(0);
  expect(server.sent(createReturn)).toBeUndefined();
  await user.selectOptions(why, 'Faulty');
  await user.selectOptions(screen.getByLabelText('Condition of HT-J HT-S1 on SO-1007'), 'Into quarantine');
  await waitFor(() => expect(screen.getByLabelText<HTMLSelectElement>('Bin of HT-J HT-S1 on SO-1007').value).toBe('2'));
  await user.selectOptions(screen.getByLabelText('Condition of HT-J HT-S1 on SO-1007'), 'Thrown away');
  expect(screen.queryByLabelText('Bin of HT-J HT-S1 on SO-1007')).toBeNull();
  expect(await screen.findByText('9.50 that HT-J had cost is written off.')).toBeTruthy();
  await user.click(next());
  await waitFor(() =>
    expect(server.sent(createReturn)).toMatchObject({
      customerId: 3,
      siteId: 1,
      receive: true,
      lines: [{ salesLineId: 7, lotId: 21, quantity: '1', condition: 'scrap', binId: null, reasonId: 4 }],
    }),
  );
  expect(await screen.findByText('RET-5: 1 line came back.')).toBeTruthy();
});

test('it can be written down before the goods come; what is refused is said at its line', async () => {
  const { user, server } = open(undefined, undefined, ({ receive }) =>
    receive
      ? refused(409, 'not-held', 'Only 4 are with them.', 'lines.0.quantity')
      : { id: 6, number: 'RET-6', movementId: null, effects: { rows: [], notes: [], costNotes: [] } },
  );
  await user.type(await find(), 'JAR{Enter}');
  const many = await screen.findByLabelText('How many of JAR on SO-1008');
  await user.clear(many);
  await user.type(many, '9');
  await user.selectOptions(screen.getByLabelText('Why JAR on SO-1008 comes back'), 'Faulty');
  expect((await screen.findAllByText('Only 4 are with them.')).length).toBeGreaterThan(0);
  await user.click(screen.getByRole('button', { name: 'Expect it later' }));
  await waitFor(() => expect(server.sent(createReturn)).toMatchObject({ receive: false, lines: [{ quantity: '9' }] }));
  expect(await screen.findByText('RET-6 is written down; it waits for the goods.')).toBeTruthy();
});

test('what was sold before these records is for those with the right', async () => {
  open();
  await find();
  expect(screen.queryByRole('region', { name: 'Sold before these records' })).toBeNull();
});

test('what came straight from a supplier may go straight on to it, by whom may send goods there; it goes into no bin', async () => {
  const conditionsOf = async (rights: Right[], straight: string) => {
    const { user, server } = open('/outbound/returns/new', rights, undefined, straight);
    await user.type(await find(), 'JAR{Enter}');
    const condition = await screen.findByLabelText<HTMLSelectElement>('Condition of JAR on SO-1008');
    return { user, server, condition, options: [...condition.options].map(({ value }) => value) };
  };
  const may = await conditionsOf(['look', 'outbound.return', 'inbound.receive'], '2');
  expect(may.options).toEqual(['shelf', 'quarantine', 'scrap', 'supplier']);
  await may.user.selectOptions(may.condition, 'supplier');
  expect(screen.queryByLabelText('Bin of JAR on SO-1008')).toBeNull();
  await may.user.selectOptions(screen.getByLabelText('Why JAR on SO-1008 comes back'), '4');
  await may.user.click(next());
  await waitFor(() => expect(may.server.sent(createReturn)).toMatchObject({ lines: [{ condition: 'supplier', binId: null }] }));
  cleanup();
  expect((await conditionsOf(['look', 'outbound.return'], '2')).options).not.toContain('supplier');
  cleanup();
  expect((await conditionsOf(['look', 'outbound.return', 'inbound.receive'], '0')).options).not.toContain('supplier');
});
