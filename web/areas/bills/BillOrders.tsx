import type { BillableLine } from '@larder/contract/bills';

interface BillOrdersProps {
  lines: readonly BillableLine[];
  /** Orders that the bill is for; null for all of them. */
  ticked: readonly number[] | null;
  setTicked: (ticked: readonly number[] | null) => void;
}

/** Which of the supplier's orders a bill is for; nothing to choose where there is only one. */
export function BillOrders({ lines, ticked, setTicked }: BillOrdersProps) {
  const orders = new Map(lines.map(({ orderId, orderNumber }) => [orderId, orderNumber]));
  const on = ticked ?? [...orders.keys()];
  if (orders.size < 2) return null;
  return (
    <section className="card pad" aria-label="Orders on this bill">
      <div className="choices">
        <b>For</b>
        <label>
          <input
            type="checkbox"
            checked={[...orders.keys()].every((id) => on.includes(id))}
            onChange={(event) => setTicked(event.target.checked ? null : [])}
          />{' '}
          all orders
        </label>
        {[...orders].map(([id, number]) => (
          <label key={id}>
            <input type="checkbox" checked={on.includes(id)} onChange={() => setTicked(on.includes(id) ? on.filter((one) => one !== id) : [...on, id])} />{' '}
            <span className="code">{number}</span>
          </label>
        ))}
      </div>
    </section>
  );
}
