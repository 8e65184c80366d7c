/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { pay, undoPayment, type Bill } from '@larder/contract/bills';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { PayCard, usePaying } from './PayCard';

const bill = (part: Partial<Bill> = {}) =>
  ({ id: 5, number: 'BILL-1005', kind: 'bill', currency: 'GBP', rate: '1', open: '289.78', payments: [], ...part }) as unknown as Bill;
const entry = { entry: [], words: [] };

function Page({ shown }: { shown: Bill }) {
  const paying = usePaying(shown, '2026-11-24');
  return (
    <>
      <PayCard bill={shown} today="2026-11-24" own="GBP" pay={paying} />
      <button type="button" onClick={() => void paying.record()}>
        Record
      </button>
    </>
  );
}

function open(shown: Bill, answer: (body: { over: boolean }) => unknown = () => ({ ...entry, paymentId: 31 })) {
  const server = standInServer();
  signedIn(server, ['look', 'costs.see', 'books.pay']);
  server.on(pay, answer);
  server.on(undoPayment, () => entry);
  const { Around } = around();
  const { rerender } = render(<Page shown={shown} />, { wrapper: Around });
  const record = () => screen.getByRole('button', { name: 'Record' });
  return { user: userEvent.setup(), server, record, changed: (next: Bill) => rerender(<Page shown={next} />) };
}
const amount = () => screen.getByLabelText<HTMLInputElement>('Amount, GBP');

test('all that is open is paid today unless something else is typed; it is said, and undone from there', async () => {
  const { user, server, record } = open(bill());
  expect(amount().value).toBe('289.78');
  expect(screen.queryByLabelText(/for one/)).toBeNull();
  await user.click(record());
  expect(await screen.findByText('289.78 GBP of BILL-1005 is recorded as paid.')).toBeTruthy();
  expect(server.sent(pay)).toEqual({ paidOn: '2026-11-24', amount: '289.78', rate: '1', over: false });
  await user.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(server.asked.some(({ endpoint }) => endpoint === `POST ${undoPayment.path}`)).toBe(true));
});

test('after part of it was paid the rest is proposed', async () => {
  const { user, record, changed } = open(bill());
  await user.clear(amount());
  await user.type(amount(), '100');
  await user.click(record());
  await screen.findByText('100 GBP of BILL-1005 is recorded as paid.');
  changed(bill({ open: '189.78', payments: [{ id: 31, undone: false }] as never }));
  await waitFor(() => expect(amount().value).toBe('189.78'));
});

test('what is no amount is said at the field and not sent; more than is open is asked about', async () => {
  const { user, server, record } = open(bill(), ({ over }) =>
    over ? { ...entry, paymentId: 31 } : refused(409, 'over-payment', 'Only 289.78 of BILL-1005 is open. Pay 300 all the same?', 'amount', ['over']),
  );
  await user.clear(amount());
  await user.type(amount(), 'lots');
  await user.click(record());
  await waitFor(() => expect(amount().getAttribute('aria-invalid')).toBe('true'));
  expect(server.sent(pay)).toBeUndefined();
  await user.clear(amount());
  await user.type(amount(), '300');
  await user.click(record());
  await user.click(await screen.findByRole('button', { name: 'Pay more than is open' }));
  expect(await screen.findByText('300 GBP of BILL-1005 is recorded as paid.')).toBeTruthy();
  expect(server.sent(pay)).toMatchObject({ amount: '300', over: true });
});

test('in another currency the rate of that day can be typed', async () => {
  const { user, server, record } = open(bill({ currency: 'EUR', rate: '0.85' }));
  const rate = screen.getByLabelText<HTMLInputElement>('GBP for one EUR that day');
  expect(rate.value).toBe('0.85');
  await user.clear(rate);
  await user.type(rate, '0.87');
  await user.click(record());
  await screen.findByText('289.78 EUR of BILL-1005 is recorded as paid.');
  expect(server.sent(pay)).toMatchObject({ rate: '0.87' });
});
