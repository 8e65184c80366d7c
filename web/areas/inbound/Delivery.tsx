import { type Tally, type TallyLine } from '@larder/core/inbound/tally';
import type { DeskLine } from '@larder/contract/receiving';
import { DeliveryDue, DeliveryLine } from './DeliveryLine';

export interface Put {
  lineId: number;
  put: Partial<TallyLine>;
}

interface DeliveryProps {
  lines: readonly DeskLine[];
  today: string;
  tally: Tally;
  put: (lines: Put[]) => void;
  held: boolean;
  hold: () => void;
}

/** One open order at the desk: what it wants, what was counted, and where that goes. */
export function Delivery({ lines, today, tally, put, held, hold }: DeliveryProps) {
  const first = lines[0] as DeskLine;
  const takeAll = () =>
    put(lines.map((line) => ({ lineId: line.lineId, put: { quantity: line.outstanding, binId: tally.lines[line.lineId]?.binId ?? line.binId } })));
  return (
    <section className="card" aria-label={`${first.orderNumber} ${first.supplier}`}>
      <h2 style={{ display: 'flex', alignItems: 'center', gap: 10 }}>
        <label style={{ display: 'flex', gap: 6, alignItems: 'center' }}>
          <input type="checkbox" checked={held} onChange={hold} aria-label={`Hold to ${first.orderNumber}`} />
          {first.orderNumber} {first.supplier}
        </label>
        <span style={{ margin: 0 }}>
          <DeliveryDue line={first} today={today} />
        </span>
        <button type="button" className="button small" style={{ marginLeft: 'auto' }} onClick={takeAll} aria-label={`Take all of ${first.orderNumber}`}>
          Take all
        </button>
      </h2>
      <table className="floor">
        <tbody>
          {lines.map((line) => (
            <DeliveryLine key={line.lineId} line={line} at={tally.lines[line.lineId]} put={(part) => put([{ lineId: line.lineId, put: part }])} />
          ))}
        </tbody>
      </table>
    </section>
  );
}
