import { Card, Choices } from '../../kit/layout';
import { Check } from '../../kit/Check';
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
    <Card pad aria-label="Orders on this bill">
      <Choices>
        <b>For</b>
        <Check label="all orders" checked={[...orders.keys()].every((id) => on.includes(id))} onChange={(checked) => setTicked(checked ? null : [])} />
        {[...orders].map(([id, number]) => (
          <Check
            key={id}
            label={<span className="code">{number}</span>}
            checked={on.includes(id)}
            onChange={() => setTicked(on.includes(id) ? on.filter((one) => one !== id) : [...on, id])}
          />
        ))}
      </Choices>
    </Card>
  );
}
