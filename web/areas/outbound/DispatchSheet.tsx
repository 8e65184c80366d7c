import { useState } from 'react';
import type { SalesOrder } from '@larder/contract/outbound';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { count, quantity } from '../../kit/format';
import { Refused } from '../../kit/states';
import { goesOut } from './cover';
import { useDispatchMutation, useForeseeDispatchQuery } from './api';

/** What waits on the bench for an order, to be sent out whole or in part. */
export function DispatchSheet({ order, done }: { order: SalesOrder; done: () => void }) {
  const waiting = order.lines.filter((line) => Number(goesOut(line)) > 0);
  const [typed, setTyped] = useState<Record<number, string>>({});
  const [dispatch, { isLoading, error: refused }] = useDispatchMutation();
  const lines = waiting.flatMap((line) => {
    const many = typed[line.id] ?? goesOut(line);
    return Number(many) !== 0 ? [{ lineId: line.id, quantity: many.trim() }] : [];
  });
  const body = { orderId: order.id, lines };
  const asked = useDelayed(body, 250);
  const { currentData, error } = useForeseeDispatchQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const post = async () => {
    const result = await dispatch({ body });
    if (!result.error) done();
  };
  return (
    <div className="split">
      <div className="stack">
        <Refused error={refused} />
        <div className="card">
          <table aria-label="On the bench">
            <thead>
              <tr>
                <th>Item</th>
                <th className="number">On the bench</th>
                <th className="number">Goes out</th>
              </tr>
            </thead>
            <tbody>
              {waiting.map((line) => (
                <tr key={line.id}>
                  <td>
                    <span className="code">{line.sku}</span>
                    <span className="name">{line.name}</span>
                  </td>
                  <td className="number">
                    {line.stocked ? quantity(goesOut(line)) : <span className="quiet">{quantity(goesOut(line))}, not from stock</span>}
                  </td>
                  <td className="number">
                    <input
                      className="plain number"
                      style={{ width: 84 }}
                      inputMode="decimal"
                      aria-label={`Dispatch of ${line.sku}`}
                      value={typed[line.id] ?? goesOut(line)}
                      onChange={(event) => setTyped({ ...typed, [line.id]: event.target.value })}
                      onFocus={(event) => event.target.select()}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </div>
      <EffectPanel
        title="What dispatching will change"
        effects={asked.lines.length > 0 ? currentData?.effects : undefined}
        error={asked.lines.length > 0 ? error : undefined}
        idle="Nothing goes out yet."
      />
      <BottomBar
        hint="What stays on the bench can go with the next parcel"
        next={{ label: `Dispatch ${count(lines.length, 'line')} to ${order.customer}`, run: () => void post(), disabled: lines.length === 0 || isLoading }}
      >
        <button type="button" className="button" onClick={done}>
          Back to the order
        </button>
      </BottomBar>
    </div>
  );
}
