import { Link } from 'react-router';
import type { TraceRow } from '@larder/contract/lots';
import { decimal, sum } from '@larder/core/decimal';
import { DocumentLink } from '../../kit/DocumentLink';
import { count, quantity, shortDay } from '../../kit/format';
import { useTraceQuery } from './api';

/** Where a lot or serial came from, and who got it, in both directions, with what of it is still here. `sendBack` is what a return of it is asked with, null when none lies in a bin. */
export function TraceCards({ lotId, today, sendBack }: { lotId: number; today: string; sendBack: string | null }) {
  const { data } = useTraceQuery({ params: { id: lotId } });
  if (!data) return null;
  const net = (rows: readonly TraceRow[]) => sum(rows.map(({ quantity: many, back }) => decimal(many).minus(back))).toFixed();
  const customers = new Set(data.went.filter(({ kind }) => kind === 'customer').map(({ partyId }) => partyId)).size;
  return (
    <>
      <section className="card" aria-label="Where it came from">
        <h2>
          Where it came from<span>{quantity(net(data.came))} in all</span>
        </h2>
        <Rows rows={data.came} today={today} back="sent back" sendBack={sendBack} />
      </section>
      <section className="card" aria-label="Where it went">
        <h2>
          Where it went
          <span>
            {data.went.length === 0
              ? 'nowhere: all of it is here'
              : `${quantity(net(data.went))} ${customers > 0 ? `to ${count(customers, 'customer')}` : 'gone'}, ${quantity(data.here)} here`}
          </span>
        </h2>
        <Rows rows={data.went} today={today} back="came back" sendBack={null} />
      </section>
    </>
  );
}

function Rows({ rows, today, back, sendBack }: { rows: readonly TraceRow[]; today: string; back: string; sendBack: string | null }) {
  return (
    <table>
      <tbody>
        {rows.map((row, index) => (
          <tr key={index}>
            <td>
              {row.kind === 'supplier' && row.partyId !== null ? <Link to={`/inbound/suppliers/${row.partyId}`}>{row.who}</Link> : row.who}
              {row.note ? (
                <small className="quiet" style={{ display: 'block' }}>
                  {row.note}
                </small>
              ) : null}
            </td>
            <td>
              <DocumentLink document={row.document} />
              {row.bills.map((bill) => (
                <Link key={bill.id} className="code" style={{ marginLeft: 8 }} to={`/books/bills/${bill.id}`}>
                  {bill.number}
                </Link>
              ))}
            </td>
            <td className="quiet">
              {shortDay(row.from, today)}
              {row.to === row.from ? '' : ` to ${shortDay(row.to, today)}`}
            </td>
            <td className="number">
              <b>{quantity(row.quantity)}</b>
              {Number(row.back) > 0 ? (
                <small className="low" style={{ display: 'block' }}>
                  {quantity(row.back)} {back}
                </small>
              ) : null}
            </td>
            <td className="number">
              {row.kind === 'supplier' && row.document && sendBack !== null ? (
                <Link className="button small" to={`/inbound/orders/${row.document.id}/return?${sendBack}`}>
                  Send back
                </Link>
              ) : null}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
