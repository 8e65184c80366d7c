import type { PurchaseOrder } from '@larder/contract/inbound';
import { DayField } from '../../kit/DayField';
import { Field } from '../../kit/Field';
import { price, quantity } from '../../kit/format';

/** What is typed on the lines of an order, by line. */
export interface AmendTyped {
  days: Record<number, string | null>;
  off: Record<number, string>;
  prices: Record<number, string>;
}

interface AmendLinesProps {
  order: PurchaseOrder;
  today: string;
  typed: AmendTyped;
  put: (part: Partial<AmendTyped>) => void;
  at: (field: string) => string | undefined;
}

/** The lines of an order as placed: what is called off of each, at which other price and for which other day it comes. */
export function AmendLines({ order, today, typed, put, at }: AmendLinesProps) {
  return (
    <div className="card scroll">
      <table aria-label="Lines as placed">
        <thead>
          <tr>
            <th>Line</th>
            <th>Item</th>
            <th className="number">Still to come</th>
            <th>Call off</th>
            <th>Another price</th>
            <th>Expected on another day</th>
          </tr>
        </thead>
        <tbody>
          {order.lines.map((line, index) => (
            <tr key={line.id}>
              <td className="quiet">{line.position}</td>
              <td>
                <span className="code">{line.sku}</span>
                <span className="name">{line.name}</span>
              </td>
              <td className="number">
                {quantity(line.outstanding)} of {quantity(line.baseQuantity)}
              </td>
              <td style={{ width: 150 }}>
                <Field
                  label={`Call off of ${line.sku}`}
                  hideLabel
                  value={typed.off[line.id] ?? ''}
                  onChange={(value) => put({ off: { ...typed.off, [line.id]: value } })}
                  error={at(`lines.${index}.callOff`)}
                  disabled={Number(line.outstanding) === 0}
                />
              </td>
              <td style={{ width: 120 }}>
                <Field
                  label={`Another price of ${line.sku}`}
                  hideLabel
                  placeholder={`${price(line.price)}${line.pricePer === '1' ? '' : ` for ${quantity(line.pricePer)}`}`}
                  value={typed.prices[line.id] ?? ''}
                  onChange={(value) => put({ prices: { ...typed.prices, [line.id]: value } })}
                  error={at(`lines.${index}.price`)}
                  disabled={Number(line.outstanding) === 0}
                />
              </td>
              <td style={{ width: 190 }}>
                <DayField
                  label={`Expected day of ${line.sku}`}
                  hideLabel
                  value={typed.days[line.id] === undefined ? line.expectedOn : (typed.days[line.id] ?? null)}
                  today={today}
                  onChange={(day) => put({ days: { ...typed.days, [line.id]: day } })}
                  disabled={Number(line.outstanding) === 0}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
