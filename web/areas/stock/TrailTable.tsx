import type { TrailRow } from '@larder/contract/stock';
import { Link } from 'react-router';
import { DocumentLink } from '../../kit/DocumentLink';
import { backdated, money, moment, quantity } from '../../kit/format';
import { UndoButton } from '../../shared/UndoButton';

/** Movements line by line; of one item, without naming it on each. */
export function TrailTable({ rows, ofOneItem }: { rows: readonly TrailRow[]; ofOneItem: boolean }) {
  return (
    <div className="card">
      <table aria-label="Movements">
        <thead>
          <tr>
            <th>When</th>
            <th>Who</th>
            <th>What and why</th>
            {ofOneItem ? null : <th>Item</th>}
            <th>From</th>
            <th>To</th>
            <th className="number">Quantity</th>
            <th className="number">Change</th>
            <th className="number">Value</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.lineId}>
              <td style={{ whiteSpace: 'nowrap' }}>
                {moment(row.postedAt)}
                {backdated(row.effectiveOn, row.postedAt) === '' ? null : <small className="quiet name">for {backdated(row.effectiveOn, row.postedAt)}</small>}
              </td>
              <td>{row.person}</td>
              <td>
                {row.kind.replace('-', ' ')} <DocumentLink document={row.document} />
                {row.lot ? (
                  <Link className="code quiet" style={{ marginLeft: 6 }} to={`/stock/lots/${row.lotId}`}>
                    {row.lot}
                  </Link>
                ) : null}
                {row.why ? (
                  <small className="quiet" style={{ display: 'block' }}>
                    {row.why}
                  </small>
                ) : null}
              </td>
              {ofOneItem ? null : (
                <td>
                  <Link className="code" to={`/items/${row.itemId}`}>
                    {row.sku}
                  </Link>
                </td>
              )}
              <td>{row.from}</td>
              <td>{row.to}</td>
              <td className="number">{quantity(row.quantity)}</td>
              <td className="number strong">{Number(row.change) > 0 ? `+${quantity(row.change)}` : quantity(row.change, true)}</td>
              <td className="number">{Number(row.value) === 0 ? '' : money(row.value)}</td>
              <td>
                {row.undone ? (
                  <span className="quiet">undone</span>
                ) : row.undoes ? null : (
                  <UndoButton movementId={row.movementId} what={`the ${row.kind.replace('-', ' ')} of ${moment(row.postedAt)}`} />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
