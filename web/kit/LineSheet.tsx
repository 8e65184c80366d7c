import { decimal } from '@larder/core/decimal';
import { lineAmount } from '@larder/core/inbound/amount';
import type { ItemRow } from '@larder/contract/catalog';
import type { Problem } from '@larder/contract/values';
import type { ReactNode } from 'react';
import { money, plainPrice } from './format';
import { LineEntry } from './LineEntry';

/** A line while it is written. */
export interface DraftLine {
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  quantity: string;
  price: string;
}

interface LineSheetProps {
  lines: readonly DraftLine[];
  change: (lines: DraftLine[]) => void;
  priceOf: (item: ItemRow) => string;
  problem: Problem | null;
  /** A last column: what is said of a line as it is typed. */
  aside?: { name: string; cell: (line: DraftLine) => ReactNode };
}

/** Lines as they were saved, ready to be written on. */
export const writtenLines = (lines: readonly DraftLine[]): DraftLine[] =>
  lines.map(({ itemId, sku, name, unit, quantity, price }) => ({ itemId, sku, name, unit, quantity, price: plainPrice(price) }));

const isNumber = (text: string): boolean => /^\d{1,9}(\.\d{1,6})?$/.test(text.trim());

/** Amount of a line as it stands, or null while it cannot be reckoned. */
export const draftAmount = (line: DraftLine): string | null =>
  isNumber(line.quantity) && isNumber(line.price)
    ? lineAmount({ quantity: decimal(line.quantity), price: decimal(line.price), pricePer: decimal(1), discount: decimal(0) }).toFixed(2)
    : null;

/** The lines of a document being written: quantities and prices in place, the next line by words, code or scan. */
export function LineSheet({ lines, change, priceOf, problem, aside }: LineSheetProps) {
  const add = (item: ItemRow, quantity: string) => {
    const at = lines.findIndex((line) => line.itemId === item.id);
    if (at < 0) change([...lines, { itemId: item.id, sku: item.sku, name: item.name, unit: item.unit, quantity, price: priceOf(item) }]);
    else
      change(
        lines.map((line, index) => (index === at && isNumber(line.quantity) ? { ...line, quantity: decimal(line.quantity).plus(quantity).toFixed() } : line)),
      );
  };
  const put = (index: number, part: Partial<DraftLine>) => change(lines.map((line, at) => (at === index ? { ...line, ...part } : line)));
  const errorAt = (index: number, name: string) => problem?.errors.find(({ field }) => field === `lines.${index}.${name}`)?.sentence;
  return (
    <div className="card">
      <table aria-label="Lines">
        <thead>
          <tr>
            <th>Line</th>
            <th>Item</th>
            <th className="number">Quantity</th>
            <th className="number">Price</th>
            <th className="number">Amount</th>
            {aside ? <th>{aside.name}</th> : null}
            <th />
          </tr>
        </thead>
        <tbody>
          {lines.map((line, index) => (
            <tr key={line.itemId}>
              <td className="quiet">{index + 1}</td>
              <td>
                <span className="code">{line.sku}</span>
                <span className="name">{line.name}</span>
                {errorAt(index, 'itemId') ? <small className="late">{errorAt(index, 'itemId')}</small> : null}
              </td>
              <td className="number">
                <Cell
                  label={`Quantity of line ${index + 1}`}
                  value={line.quantity}
                  error={errorAt(index, 'quantity')}
                  change={(quantity) => put(index, { quantity })}
                />{' '}
                <span className="quiet">{line.unit === 'each' ? '' : line.unit}</span>
              </td>
              <td className="number">
                <Cell
                  label={`Price of line ${index + 1}`}
                  value={line.price}
                  error={errorAt(index, 'price')}
                  change={(value) => put(index, { price: value })}
                />
              </td>
              <td className="number">{draftAmount(line) === null ? '' : money(draftAmount(line) as string)}</td>
              {aside ? <td>{aside.cell(line)}</td> : null}
              <td>
                <button
                  type="button"
                  className="button small"
                  aria-label={`Take line ${index + 1} out`}
                  onClick={() => change(lines.filter((_, at) => at !== index))}
                >
                  Take out
                </button>
              </td>
            </tr>
          ))}
          <tr>
            <td className="quiet">{lines.length + 1}</td>
            <td colSpan={aside ? 6 : 5}>
              <LineEntry add={add} />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}

function Cell({ label, value, error, change }: { label: string; value: string; error: string | undefined; change: (value: string) => void }) {
  return (
    <>
      <input
        className="plain number"
        style={{ width: 84, height: 30 }}
        inputMode="decimal"
        aria-label={label}
        aria-invalid={error ? true : undefined}
        value={value}
        onChange={(event) => change(event.target.value)}
        onFocus={(event) => event.target.select()}
      />
      {error ? (
        <small className="late" role="alert" style={{ display: 'block', whiteSpace: 'normal', maxWidth: 180 }}>
          {error}
        </small>
      ) : null}
    </>
  );
}
