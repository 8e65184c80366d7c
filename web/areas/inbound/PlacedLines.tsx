import type { PurchaseOrder } from '@larder/contract/inbound';
import { amount, price, quantity, shortDay } from '../../kit/format';

/** The lines of an order that was placed: what has come of each, and what is still to come. */
export function PlacedLines({ order, today }: { order: PurchaseOrder; today: string }) {
  return (
    <div className="card">
      <table aria-label="Lines">
        <thead>
          <tr>
            <th className="wide-only">Line</th>
            <th>Item</th>
            <th className="wide-only">Their code</th>
            <th className="number">Ordered</th>
            <th className="number">{order.shipsTo === null ? 'Received' : 'Delivered'}</th>
            <th className="number">Still to come</th>
            <th className="number wide-only">Price</th>
            <th className="number wide-only">Amount</th>
          </tr>
        </thead>
        <tbody>
          {order.lines.map((line) => (
            <tr key={line.id}>
              <td className="quiet wide-only">{line.position}</td>
              <td>
                <span className="code">{line.sku}</span>
                <span className="name">{line.name}</span>
              </td>
              <td className="code quiet wide-only">{line.supplierCode}</td>
              <td className="number">
                {quantity(line.baseQuantity)}
                {line.quantity === line.baseQuantity ? null : (
                  <small className="quiet" style={{ display: 'block' }}>
                    {quantity(line.quantity)} {line.unit}
                  </small>
                )}
                {Number(line.cancelled) > 0 ? (
                  <small className="low" style={{ display: 'block' }}>
                    {quantity(line.cancelled)} called off
                  </small>
                ) : null}
              </td>
              <td className="number">{quantity(line.received, true)}</td>
              <td className="number strong">
                {quantity(line.outstanding, true)}
                {line.expectedOn !== null && Number(line.outstanding) > 0 ? (
                  <small className="quiet" style={{ display: 'block' }}>
                    {shortDay(line.expectedOn, today)}
                  </small>
                ) : null}
              </td>
              <td className="number wide-only">
                {price(line.price)}
                {line.pricePer === '1' ? null : <small className="quiet name">for {quantity(line.pricePer)}</small>}
              </td>
              <td className="number wide-only">
                {amount(line.amount)}
                {line.currency === order.currency && line.rate === order.rate ? null : (
                  <small className="quiet name">
                    {line.currency} at {line.rate}
                  </small>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
