import { type ImportRow } from '@larder/contract/exchange';

/** The rows of a file: what becomes of each, or why not. */
export function ImportRows({ rows }: { rows: readonly ImportRow[] }) {
  return (
    <div className="card">
      <table aria-label="Rows">
        <thead>
          <tr>
            <th className="number">Line</th>
            <th>Row</th>
            <th>Is</th>
            <th>What, or why not</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <Line key={row.line} row={row} />
          ))}
          {rows.length === 0 ? (
            <tr>
              <td colSpan={4} className="quiet">
                No such rows.
              </td>
            </tr>
          ) : null}
        </tbody>
      </table>
    </div>
  );
}

function Line({ row }: { row: ImportRow }) {
  return (
    <tr>
      <td className="number quiet">{row.line}</td>
      <td className="code">{row.key}</td>
      <td className={row.status === 'refused' ? 'late' : row.status === 'same' ? 'quiet' : 'strong'}>{row.status}</td>
      <td>
        {row.reasons.map((reason) => (
          <span key={reason} className="late">
            {reason}{' '}
          </span>
        ))}
        {row.changes.map((change) => (
          <span key={change.field} style={{ marginRight: 14 }}>
            {change.field} <span className="quiet">{change.was === '' ? 'nothing' : change.was}</span> → {change.is === '' ? 'nothing' : change.is}
          </span>
        ))}
      </td>
    </tr>
  );
}
