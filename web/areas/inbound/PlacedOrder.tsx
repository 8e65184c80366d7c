import { Link, useNavigate } from 'react-router';
import { isDay } from '@larder/core/day';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { BottomBar } from '../../kit/BottomBar';
import { amount, dueDay, price, quantity, shortDay } from '../../kit/format';
import { StageTrack } from '../../kit/StageTrack';
import { Refused } from '../../kit/states';
import { useMay } from '../../shared/may';
import { Movements } from '../../shared/Movements';
import { useDecidePurchaseMutation } from './api';
import { OrderSums } from './OrderSums';

/** An order that was placed: what came of it, what it costs, and what may still be done with it. */
export function PlacedOrder({ order, today }: { order: PurchaseOrder; today: string }) {
  const navigate = useNavigate();
  const mayBill = useMay('books.bill', null);
  const mayOrder = useMay('inbound.order', order.siteId);
  const [decide, { error, isLoading }] = useDecidePurchaseMutation();
  const end = (decision: 'cancel' | 'close') => void decide({ params: { id: order.id }, body: { decision, version: order.version } });
  return (
    <div className="split">
      <div>
        <div className="head">
          <h1>{order.number}</h1>
          <Link to={`/inbound/suppliers/${order.supplierId}`} style={{ fontSize: 16 }}>
            {order.supplier}
          </Link>
          <span className="quiet">
            {order.shipsTo === null ? `to ${order.site}` : `straight to ${order.shipsTo}`}
            {order.orderedOn === null ? '' : `, ordered on ${shortDay(order.orderedOn, today)}`}
            {order.rate === '1' ? '' : `, in ${order.currency} at ${order.rate}`}
          </span>
          <span className="side">
            {order.open ? <span className={order.late ? 'late' : ''}>due {dueDay(order.expectedOn, today)}</span> : <span>{order.state}</span>}
          </span>
        </div>
        <StageTrack stages={order.stages} />
        <Refused error={error} />
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
        <OrderSums
          currency={order.currency}
          sums={[
            ['Goods', order.amount],
            ...order.charges.map((charge): [string, string] => [charge.label, charge.amount]),
            ['Tax', order.tax],
            ['In all', order.total],
          ]}
        />
        {order.note ? <p className="quiet">{order.note}</p> : null}
      </div>
      <div className="stack">
        <Movements movements={order.movements} />
        {order.changes.length > 0 ? (
          <section className="card" aria-label="Changes">
            <h2>
              Changes<span>the last first</span>
            </h2>
            <ol className="plain log">
              {order.changes.map((change, index) => (
                <li key={`${change.at} ${index}`}>
                  <span>
                    {change.field}: {change.was ? `${told(change.was, today)} to ` : ''}
                    {told(change.is, today) || 'none'}
                  </span>
                  <small className="quiet">
                    {change.person}, {shortDay(change.at.slice(0, 10), today)}
                  </small>
                </li>
              ))}
            </ol>
          </section>
        ) : null}
        {order.movements.length === 0 ? (
          <p className="card pad quiet">
            {order.shipsTo === null ? 'Nothing has been received on this order yet.' : `Nothing has been delivered to ${order.shipsTo} yet.`}
          </p>
        ) : null}
      </div>
      <BottomBar next={order.open ? nextStep(order, (address) => void navigate(address)) : undefined}>
        {mayBill && Number(order.received) > 0 ? (
          <Link className="button" to={`/books/bills/new?party=${order.supplierId}&name=${encodeURIComponent(order.supplier)}&order=${order.id}`}>
            Enter its bill
          </Link>
        ) : null}
        {mayBill && Number(order.received) > 0 && order.shipsTo === null ? (
          <Link className="button" to={`/books/landed?q=${order.number}&receipts=${receiptsOf(order).join(',')}`}>
            Landed cost
          </Link>
        ) : null}
        {Number(order.received) > 0 && order.shipsTo === null ? (
          <Link className="button" to={`/inbound/orders/${order.id}/return`}>
            Return goods
          </Link>
        ) : null}
        {mayOrder ? (
          <Link className="button" to={`/inbound/orders/${order.id}/send`}>
            Send
          </Link>
        ) : null}
        <Link className="button" to={`/inbound/orders/new?copy=${order.id}`}>
          Copy
        </Link>
        {order.open ? (
          <Link className="button" to={`/inbound/orders/${order.id}/change`}>
            Change
          </Link>
        ) : null}
        {order.open && Number(order.received) > 0 ? (
          <button type="button" className="button" disabled={isLoading} onClick={() => end('close')}>
            Close short
          </button>
        ) : null}
        {order.open && Number(order.received) === 0 ? (
          <button type="button" className="button" disabled={isLoading} onClick={() => end('cancel')}>
            Cancel {order.number}
          </button>
        ) : null}
      </BottomBar>
    </div>
  );
}

/** Receipts on this order that stand. */
const receiptsOf = (order: PurchaseOrder): number[] => order.movements.flatMap(({ id, kind, undone }) => (kind === 'receipt' && !undone ? [id] : []));

const nextStep = (order: PurchaseOrder, go: (address: string) => void) =>
  order.shipsTo === null
    ? { label: `Receive ${order.number}`, run: () => go(`/inbound/desk?order=${order.id}`) }
    : { label: `Record what ${order.shipsTo} got`, run: () => go(`/inbound/orders/${order.id}/delivered`) };

/** What was changed, a day in words. */
const told = (text: string, today: string): string => (isDay(text) ? shortDay(text, today) : text);
