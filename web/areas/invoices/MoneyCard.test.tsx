/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { recordMoney, undoMoney } from '@larder/contract/invoices';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { MoneyCard, useMoney } from './MoneyCard';

const entry = { entry: [], words: [] };
interface Open {
  id: number;
  number: string;
  open: string;
  currency: string;
}
const invoice = (id: number, open: string, currency = 'GBP'): Open => ({ id, number: `INV-${id}`, open, currency });

function Page({ invoices }: { invoices: Open[] }) {
  const money = useMoney({ invoices, today: '2026-11-24' });
  return (
    <>
      <MoneyCard money={money} today="2026-11-24" own="GBP" title="Payment" />
      <button type="button" onClick={() => void money.record()}>
        Record
      </button>
    </>
  );
}

function open(invoices: Open[], answer: (body: { over: boolean }) => unknown = () => ({ ...entry, moneyId: 31 })) {
  const server = standInServer();
  signedIn(server, ['look', 'books.invoice', 'books.pay']);
  server.on(recordMoney, answer);
  server.on(undoMoney, () => entry);
  const { Around } = around();
  render(<Page invoices={invoices} />, { wrapper: Around });
  return { user: userEvent.setup(), server, record: () => screen.getByRole('button', { name: 'Record' }) };
}
const amount = () => screen.getByLabelText<HTMLInputElement>('Amount, GBP');

test('all that is open is paid today unless something else is typed; it is said, and undone from there', async () => {
  const { user, server, record } = open([invoice(7, '55.68')]);
  expect(amount().value).toBe('55.68');
  await user.click(record());
  expect(await screen.findByText('55.68 GBP is recorded.')).toBeTruthy();
  expect(server.sent(recordMoney)).toEqual({ paidOn: '2026-11-24', rate: null, note: '', parts: [{ invoiceId: 7, amount: '55.68' }], over: false });
  await user.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(server.asked.some(({ endpoint }) => endpoint === `POST ${undoMoney.path}`)).toBe(true));
});

test('money pays the invoices that are due first, and it is seen what is for which', async () => {
  const { user, server, record } = open([invoice(7, '10.00'), invoice(8, '20.00')]);
  expect(amount().value).toBe('30.00');
  await user.clear(amount());
  await user.type(amount(), '12.5');
  const parts = screen.getByRole('table', { name: 'What it is for' });
  await waitFor(() => expect(parts.textContent).toBe('INV-710.00INV-82.50'));
  await user.click(record());
  await waitFor(() =>
    expect(server.sent(recordMoney)).toMatchObject({
      parts: [
        { invoiceId: 7, amount: '10.00' },
        { invoiceId: 8, amount: '2.50' },
      ],
    }),
  );
});

test('what was paid too much goes back', async () => {
  const back = open([invoice(9, '-6.00')]);
  expect(amount().value).toBe('6.00');
  await back.user.click(back.record());
  await waitFor(() => expect(back.server.sent(recordMoney)).toMatchObject({ parts: [{ invoiceId: 9, amount: '-6.00' }] }));
});

test('more than is open is asked about', async () => {
  const { user, server, record } = open([invoice(7, '10.00')], ({ over }) =>
    over ? { ...entry, moneyId: 4 } : refused(409, 'over-payment', 'Only 10.00 of INV-7 is open. Record 12.00 all the same?', 'parts.0.amount', ['over']),
  );
  await user.clear(amount());
  await user.type(amount(), '12');
  await user.click(record());
  await user.click(await screen.findByRole('button', { name: 'Record more than is open' }));
  await waitFor(() => expect(server.sent(recordMoney)).toMatchObject({ over: true }));
});
