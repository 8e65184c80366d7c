import type { SalesOrder } from '@larder/contract/outbound';
import { BottomBar } from '../../kit/BottomBar';
import { CoverBar } from '../../kit/CoverBar';
import { EffectPanel } from '../../kit/EffectPanel';
import { count, money, price, quantity } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useMay } from '../../shared/may';
import { Movements } from '../../shared/Movements';
import { useEndSaleMutation, useForeseePickQuery, usePickListQuery } from './api';
import { coverParts, coverWords, goesOut } from './cover';

export type Mode = 'look' | 'pick' | 'dispatch';

/** A confirmed order as it stands: lines, what is short, what comes next. */
export function Look({ order, today, go }: { order: SalesOrder; today: string; go: (mode: Mode) => void }) {
  const { data: list } = usePickListQuery({ params: { id: order.id } }, { skip: !order.open });
  const rows = list?.rows ?? [];
  const mayShip = useMay('outbound.ship', order.siteId);
  const { currentData, error } = useForeseePickQuery(
    { body: { orderId: order.id, lines: rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take })), shortReason: '' } },
    { skip: rows.length === 0 || !mayShip },
  );
  const [end, ending] = useEndSaleMutation();
  const waiting = order.open ? order.lines.filter((line) => Number(goesOut(line)) > 0) : [];
  const onBench = waiting.filter(({ stocked }) => stocked).length;
  const short = order.lines.filter((line) => Number(line.short) > 0).length;
  const decision = Number(order.picked) > 0 ? ('close' as const) : ('cancel' as const);
  const pickable = new Set(rows.map(({ lineId }) => lineId)).size;
  const next =
    waiting.length > 0 && pickable === 0 && (onBench > 0 || short === 0)
      ? { label: `Dispatch ${count(waiting.length, 'line')}`, run: () => go('dispatch') }
      : pickable > 0
        ? { label: `Pick ${count(pickable, 'line')}`, run: () => go('pick') }
        : undefined;
  return (
    <div className="split">
      <div>
        <Refused error={ending.error} />
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
        <p className="totals">
          <span>
            Goods <b>{money(order.amount)}</b>
          </span>
          <span>
            Tax <b>{money(order.tax)}</b>
          </span>
          <span>
            Total{' '}
            <b>
              {money((Number(order.amount) + Number(order.tax)).toFixed(2))} {order.currency}
            </b>
          </span>
        </p>
        {Number(order.dispatched) > 0 ? (
          <p className="totals" style={{ paddingTop: 0 }}>
            <span>
              Gone for <b>{money(order.dispatchedAmount)}</b>
            </span>
            {order.margin === '' ? null : (
              <>
                <span>
                  Cost of sales <b>{money(order.dispatchedCost)}</b>
                </span>
                <span>
                  Margin <b>{money(order.margin)}</b>
                </span>
              </>
            )}
          </p>
        ) : null}
      </div>
      <div className="stack">
        {mayShip && rows.length > 0 ? <EffectPanel title="What picking will change" effects={currentData?.effects} error={error} idle="One moment…" /> : null}
        <Movements movements={order.movements} />
      </div>
      <BottomBar hint={`${count(order.lines.length, 'line')}${short > 0 ? `, ${short} of them short` : ''}`} next={next}>
        {order.open && onBench === 0 ? (
          <button
            type="button"
            className="button"
            disabled={ending.isLoading}
            onClick={() => void end({ params: { id: order.id }, body: { decision, version: order.version } })}
          >
            {decision === 'close' ? 'Close short' : `Cancel ${order.number}`}
          </button>
        ) : null}
        {waiting.length > 0 && next?.label.startsWith('Dispatch') !== true ? (
          <button type="button" className="button" onClick={() => go('dispatch')}>
            Dispatch {count(waiting.length, 'line')}
          </button>
        ) : null}
      </BottomBar>
    </div>
  );
}
