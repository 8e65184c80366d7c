import type { SalesOrder } from '@larder/contract/outbound';
import { CoverBar } from '../../kit/CoverBar';
import { money, price, quantity } from '../../kit/format';
import { coverParts, coverWords } from './cover';

/** The lines of a confirmed order: what is picked and gone of each, and where the rest comes from. */
export function ConfirmedLines({ order, today }: { order: SalesOrder; today: string }) {
  return (
    <div className="card">
      <table aria-label="Lines">
        <thead>
          <tr>
            <th>Line</th>
            <th>Item</th>
            <th className="number">Quantity</th>
            <th className="number">Picked</th>
            <th className="number">Gone</th>
            <th className="number wide-only">Price</th>
            <th className="number wide-only">Amount</th>
            <th>Where it comes from</th>
          </tr>
        </thead>
        <tbody>
          {order.lines.map((line) => {
            const left = Number(line.baseQuantity) - Number(line.picked);
            const parts = coverParts(left, Number(line.short), line.coming);
            return (
              <tr key={line.id}>
                <td className="quiet">{line.position}</td>
                <td>
                  <span className="code">{line.sku}</span>
                  <span className="name">{line.name}</span>
                </td>
                <td className="number">
                  {quantity(line.baseQuantity)}
                  {line.quantity === line.baseQuantity ? null : (
                    <small className="quiet" style={{ display: 'block' }}>
                      {quantity(line.quantity)} {line.unit}
                    </small>
                  )}
                </td>
                <td className="number">{quantity(line.picked, true)}</td>
                <td className="number">{quantity(line.dispatched, true)}</td>
                <td className="number wide-only">{price(line.price)}</td>
                <td className="number wide-only">{money(line.amount)}</td>
                <td>
                  {left > 0 && order.open && !line.stocked ? (
                    <small className="quiet">not kept in stock</small>
                  ) : left > 0 && order.open ? (
                    <CoverBar {...parts} words={coverWords(parts, line.coming, null, today)} />
                  ) : (
                    <small className="quiet">{Number(line.dispatched) >= Number(line.baseQuantity) ? 'gone' : left === 0 ? 'on the bench' : ''}</small>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
