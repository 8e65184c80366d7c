import type { ResponseOf } from '@larder/contract/endpoint';
import type { receipts } from '@larder/contract/landed';
import { Link } from 'react-router';
import { count, money, shortDay } from '../../kit/format';

interface ReceiptChoiceProps {
  rows: ResponseOf<typeof receipts>['rows'];
  chosen: readonly number[];
  toggle: (movementId: number) => void;
  today: string;
}

/** Receipts, to choose those that one freight or duty falls on. */
export function ReceiptChoice({ rows, chosen, toggle, today }: ReceiptChoiceProps) {
  return (
    <section className="card" aria-label="Receipts">
      <h2>
        Receipts<span>choose those one freight or duty falls on</span>
      </h2>
      <table aria-label="Receipts">
        <tbody>
          {rows.map((row) => (
            <tr key={row.movementId}>
              <td style={{ width: 36 }}>
                <input
                  type="checkbox"
                  aria-label={`Choose the receipt of ${row.orders || row.supplier}, ${row.day}`}
                  checked={chosen.includes(row.movementId)}
                  onChange={() => toggle(row.movementId)}
                />
              </td>
              <td>{shortDay(row.day, today)}</td>
              <td>
                {row.supplier} <span className="code quiet">{row.orders}</span>
                <small className="quiet name">{row.note}</small>
              </td>
              <td className="number quiet">{count(row.lines, 'line')}</td>
              <td className="number">{money(row.value)}</td>
              <td>
                {row.sheets.map(({ id, number }) => (
                  <Link key={id} className="code" to={`/books/landed/${id}`}>
                    {number}{' '}
                  </Link>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 ? <p className="state">Nothing has been received that fits.</p> : null}
    </section>
  );
}
