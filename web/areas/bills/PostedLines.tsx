import type { Bill } from '@larder/contract/bills';
import { amount, money, quantity } from '../../kit/format';

/** The lines of a bill that was posted, and what differed of each. */
export function PostedLines({ bill, own }: { bill: Bill; own: string }) {
  const foreign = bill.currency !== own;
  return (
    <section className="card" aria-label="Lines">
      <table aria-label="Lines">
        <thead>
          <tr>
            <th>For</th>
            <th className="number">Quantity</th>
            <th className="number">Amount{foreign ? `, ${bill.currency}` : ''}</th>
            <th className="number">Expected{foreign ? `, ${own}` : ''}</th>
            <th className="number">Differs by</th>
            <th className="number">Of that to stock</th>
          </tr>
        </thead>
        <tbody>
          {bill.lines.map((line, index) => (
            <tr key={index}>
              <td>{line.text}</td>
              <td className="number">{line.quantity === null ? '' : quantity(line.quantity)}</td>
              <td className="number strong">{amount(line.amount)}</td>
              <td className="number quiet">{line.kind === 'other' ? '' : money(line.cleared)}</td>
              <td className="number">{Number(line.difference) === 0 ? '' : money(line.difference)}</td>
              <td className="number quiet">{Number(line.difference) === 0 || line.kind !== 'goods' ? '' : money(line.toStock)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
