import { Link } from 'react-router';
import type { JournalRow } from '@larder/contract/books';
import { DocumentLink } from '../../kit/DocumentLink';
import { money, shortDay } from '../../kit/format';

/** What an entry says beside its document's number. */
const saidOf = ({ document, text }: JournalRow): string => (document ? text.replace(`${document.number}: `, '') : text);

/** Journal entries with their lines, debit and credit. */
export function JournalList({ rows, today, label }: { rows: readonly JournalRow[]; today: string; label: string }) {
  return (
    <div className="card">
      <table aria-label={label} className="compact">
        <thead>
          <tr>
            <th>Account</th>
            <th className="number">Debit</th>
            <th className="number">Credit</th>
          </tr>
        </thead>
        {rows.map((row) => (
          <tbody key={row.id}>
            <tr className="group">
              <th scope="rowgroup" colSpan={3}>
                {shortDay(row.day, today)} <DocumentLink document={row.document} /> <span className="quiet">{saidOf(row)}</span>
              </th>
            </tr>
            {row.lines.map((line, index) => (
              <tr key={index}>
                <td className="inset">
                  <Link to={`/books/accounts/${line.accountId}`}>
                    <span className="code quiet">{line.code}</span> {line.name}
                  </Link>
                  {line.sku ? <span className="code quiet"> {line.sku}</span> : null}
                </td>
                <td className="number">{Number(line.amount) > 0 ? money(line.amount) : ''}</td>
                <td className="number">{Number(line.amount) < 0 ? money(line.amount.slice(1)) : ''}</td>
              </tr>
            ))}
          </tbody>
        ))}
      </table>
      {rows.length === 0 ? <p className="state">No entry fits.</p> : null}
    </div>
  );
}
