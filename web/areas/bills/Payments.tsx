import type { Bill } from '@larder/contract/bills';
import { amount, money, shortDay } from '../../kit/format';

interface PaymentsProps {
  bill: Bill;
  today: string;
  busy: boolean;
  undo: (paymentId: number) => void;
}

/** What was paid of a bill; each can be undone. */
export function Payments({ bill, today, busy, undo }: PaymentsProps) {
  return (
    <>
      {bill.payments.length > 0 ? (
        <section className="card" aria-label="Payments">
          <h2>Payments</h2>
          <table>
            <tbody>
              {bill.payments.map((one) => (
                <tr key={one.id}>
                  <td>
                    {shortDay(one.paidOn, today)} {one.undone ? <small className="late">undone</small> : null}
                    {Number(one.exchange) === 0 ? null : <small className="quiet name">{money(one.exchange)} exchange difference</small>}
                  </td>
                  <td className="number">{amount(one.amount)}</td>
                  <td className="number">
                    {one.undone ? null : (
                      <button type="button" className="button small" disabled={busy} onClick={() => undo(one.id)}>
                        Undo
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ) : null}
    </>
  );
}
