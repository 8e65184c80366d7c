/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { billable, createBill, type BillableLine, type BillForm } from '@larder/contract/bills';
import { listAccounts } from '@larder/contract/books';
import { listParties, reference } from '@larder/contract/setup';
import { act, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { api } from '../../shared/api';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { Entering } from './BillEntering';

const line = (purchaseLineId: number, sku: string, part: Partial<BillableLine> = {}) =>
  ({
    purchaseLineId,
    orderId: 1,
    orderNumber: 'PO-1',
    sku,
    name: sku,
    ordered: '10',
    received: '10',
    returned: '0',
    billed: '0',
    price: '2.5',
    pricePer: '1',
    factor: '1',
    unit: 'each',
    taxCodeId: null,
    currency: 'GBP',
    rate: '1',
    ...part,
  }) as BillableLine;
const hexley = { id: 2, name: 'Hexley Joinery' };
const brightwick = { id: 3, name: 'Brightwick Glass' };

function open() {
  const server = standInServer();
  signedIn(server, ['look', 'costs.see', 'books.bill']);
  server.on(reference, () => ({ sites: [], taxes: [], units: [], reasons: [] }));
  server.on(listAccounts, () => ({ rows: [] }));
  server.on(listParties, () => ({ rows: [hexley, brightwick], next: null }));
  const lines: Record<number, BillableLine[]> = { 2: [line(1, 'VASE'), line(2, 'BOWL')], 3: [line(9, 'JAR', { currency: 'EUR', rate: '0.86' })] };
  server.on(billable, (_, path) => ({ lines: lines[Number(/partyId=(\d+)/.exec(path)?.[1])], charges: [] }));
  server.on(createBill, (body: BillForm) =>
    body.reference === 'OLD-1'
      ? refused(422, 'not-valid', 'Only 10 of VASE have come.', 'lines.1.quantity')
      : { id: null, number: null, net: '1.00', tax: '0.00', owed: '1.00', bookedOn: '2026-11-24', lines: [], entry: [], words: [] },
  );
  const { Around, store } = around();
  render(<Entering party={hexley} today="2026-11-24" currency="GBP" chosen={[]} orderId={null} />, { wrapper: Around });
  const heldIn = (label: string) => screen.getByLabelText<HTMLInputElement>(label).value;
  /** Somebody else did something with bills. */
  const readAgain = () => act(() => void store.dispatch(api.util.invalidateTags(['bill'])));
  return { user: userEvent.setup(), server, lines, heldIn, readAgain, sent: () => server.sent(createBill) as BillForm };
}

test('what was typed stays with its line when somebody else bills some of it meanwhile; what was not typed is proposed anew', async () => {
  const { user, lines, heldIn, readAgain } = open();
  const bowl = await screen.findByLabelText('Billed now, PO-1 BOWL');
  await user.type(screen.getByLabelText('Their number'), 'HJ-81');
  await user.clear(bowl);
  await user.type(bowl, '7');
  lines[2] = [line(4, 'LAMP'), line(1, 'VASE', { billed: '4' }), line(2, 'BOWL')];
  readAgain();
  await waitFor(() => expect(heldIn('Billed now, PO-1 VASE')).toBe('6'));
  expect(['Billed now, PO-1 LAMP', 'Billed now, PO-1 BOWL', 'Their number'].map(heldIn)).toEqual(['10', '7', 'HJ-81']);
  await user.keyboard('5');
  expect(['Billed now, PO-1 LAMP', 'Billed now, PO-1 BOWL'].map(heldIn)).toEqual(['10', '75']);
});

test('who bills is chosen late: their number stays, and what can be billed and in which currency is that of who bills', async () => {
  const { user, heldIn, sent } = open();
  const vase = await screen.findByLabelText('Billed now, PO-1 VASE');
  await user.clear(vase);
  await user.type(vase, '3');
  await user.type(screen.getByLabelText('Their number'), 'BG-7');
  const from = screen.getByRole('combobox', { name: 'From' });
  await user.clear(from);
  await user.type(from, 'bright');
  await user.click(await screen.findByRole('option', { name: 'Brightwick Glass' }));
  await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText('Their number')));
  await screen.findByLabelText('Billed now, PO-1 JAR');
  expect(screen.queryByLabelText('Billed now, PO-1 VASE')).toBeNull();
  expect(['Their number', 'Currency', 'GBP for one EUR', 'Billed now, PO-1 JAR'].map(heldIn)).toEqual(['BG-7', 'EUR', '0.86', '10']);
  await user.click(screen.getByRole('button', { name: /^Post/ }));
  await waitFor(() => expect(sent()).toMatchObject({ partyId: 3, reference: 'BG-7', currency: 'EUR', rate: '0.86' }));
  expect(sent().lines).toEqual([{ kind: 'goods', purchaseLineId: 9, quantity: '10', price: '2.50', taxCodeId: null }]);
});

test('a line emptied stays off the bill, a credit begins from nothing, and what is refused of a line stands at its field', async () => {
  const { user, heldIn, sent } = open();
  await user.clear(await screen.findByLabelText('Billed now, PO-1 VASE'));
  await user.type(screen.getByLabelText('Their number'), 'OLD-0');
  await user.click(screen.getByRole('button', { name: /^Post/ }));
  await waitFor(() => expect(sent()?.lines).toHaveLength(1));
  await user.type(screen.getByLabelText('Billed now, PO-1 VASE'), '10');
  const number = screen.getByLabelText('Their number');
  await user.clear(number);
  await user.type(number, 'OLD-1');
  await user.click(screen.getByRole('button', { name: /^Post/ }));
  await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText('Billed now, PO-1 BOWL')));
  expect(screen.getByLabelText('Billed now, PO-1 BOWL').getAttribute('aria-invalid')).toBe('true');
  await user.selectOptions(screen.getByLabelText('Kind'), 'credit');
  expect(['Taken off, PO-1 VASE', 'Taken off, PO-1 BOWL'].map(heldIn)).toEqual(['', '']);
});
