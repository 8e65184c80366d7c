import { decimal } from '@larder/core/decimal';
import { lineAmount } from '@larder/core/inbound/amount';
import type { ItemRow } from '@larder/contract/catalog';
import type { Problem } from '@larder/contract/values';
import type { ReactNode } from 'react';
import { amount, plainPrice, quantity as quantityText } from '../kit/format';
import { LineEntry } from './LineEntry';

/** A line while it is written. */
export interface DraftLine {
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  /** Null: the base unit. */
  unitId: number | null;
  /** How many base units one of the line's unit is. */
  factor: string;
  units: ItemRow['units'];
  /** The name of the base unit, where the line may be counted in it too. */
  baseUnit?: string;
  quantity: string;
  price: string;
  /** The price is for so many of the line's unit. */
  pricePer: string;
  /** Typed by somebody, and not what was proposed. */
  ownPrice?: boolean;
  /** A day of its own, when it is bought for another than its order. */
  expectedOn?: string | null;
}

interface LineSheetProps {
  lines: readonly DraftLine[];
  change: (lines: DraftLine[]) => void;
  /** Whether lines are bought or sold: which unit they begin with. */
  way: 'buys' | 'sells';
  problem: Problem | null;
  /** A last column: what is said of a line as it is typed. */
  aside?: { name: string; cell: (line: DraftLine) => ReactNode };
  /** Decimals of the document's currency. */
  places?: number;
}

/** What a price can be for. */
const pers = ['1', '100', '1000'];

/** A saved line, as far as it is written on. */
interface SavedLine {
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  unitId: number | null;
  quantity: string;
  baseQuantity: string;
  price: string;
  pricePer: string;
}

/** Lines as they were saved, ready to be written on. */
export const writtenLines = (lines: readonly SavedLine[]): DraftLine[] =>
  lines.map(({ itemId, sku, name, unit, unitId, quantity, baseQuantity, price, pricePer }) => ({
    itemId,
    sku,
    name,
    unit,
    unitId,
    factor: decimal(baseQuantity).div(quantity).toFixed(),
    units: [],
    quantity,
    price: plainPrice(price),
    pricePer,
    ownPrice: true,
  }));

/** How many base units a line is, or null while it cannot be reckoned. */
export const baseQuantity = (line: DraftLine): string | null =>
  isNumber(line.quantity) ? decimal(line.quantity).times(line.factor).toDecimalPlaces(4).toFixed() : null;

/** What is sent of lines. */
export const sentLines = (lines: readonly DraftLine[]) =>
  lines.map(({ itemId, unitId, quantity, price, pricePer }) => ({ itemId, unitId, quantity: quantity.trim(), price: price.trim(), pricePer }));

const isNumber = (text: string): boolean => /^\d{1,9}(\.\d{1,6})?$/.test(text.trim());

/** Amount of a line as it stands, in a currency of so many `places`, or null while it cannot be reckoned. */
export const draftAmount = (line: DraftLine, places = 2): string | null =>
  isNumber(line.quantity) && isNumber(line.price)
    ? lineAmount({ quantity: decimal(line.quantity), price: decimal(line.price), pricePer: decimal(line.pricePer), discount: decimal(0) }, places).toFixed(
        places,
      )
    : null;

/** The lines of a document being written: quantities and prices in place, the next line by words, code or scan. */
export function LineSheet({ lines, change, way, problem, aside, places = 2 }: LineSheetProps) {
  const add = (item: ItemRow, quantity: string, scannedUnit: number | null) => {
    const chosen = item.units.find((one) => (scannedUnit === null ? one[way] : one.unitId === scannedUnit));
    const at = lines.findIndex((line) => line.itemId === item.id && line.unitId === (chosen?.unitId ?? null));
    const each = (way === 'buys' ? item.purchasePrice : item.salesPrice) ?? '0';
    if (at < 0) {
      const unit = { unit: chosen?.unit ?? item.unit, unitId: chosen?.unitId ?? null, factor: chosen?.factor ?? '1' };
      change([
        ...lines,
        {
          itemId: item.id,
          sku: item.sku,
          name: item.name,
          ...unit,
          units: item.units,
          baseUnit: item.unit,
          quantity,
          price: plainPrice(decimal(each).times(unit.factor).toFixed()),
          pricePer: '1',
        },
      ]);
    } else
      change(
        lines.map((line, index) => (index === at && isNumber(line.quantity) ? { ...line, quantity: decimal(line.quantity).plus(quantity).toFixed() } : line)),
      );
  };
  /** Another unit keeps what one base unit costs. */
  const inUnit = (index: number, unitId: number | null) => {
    const line = lines[index] as DraftLine;
    const unit = line.units.find((one) => one.unitId === unitId);
    const factor = unit?.factor ?? '1';
    const price = isNumber(line.price) ? plainPrice(decimal(line.price).div(line.factor).times(factor).toDecimalPlaces(6).toFixed()) : line.price;
    put(index, { unitId, unit: unit?.unit ?? '', factor, price });
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
            <tr key={`${line.itemId} ${line.unitId ?? ''}`}>
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
                {line.units.length > 0 ? (
                  <select
                    className="plain"
                    style={{ height: 30 }}
                    aria-label={`Unit of line ${index + 1}`}
                    value={line.unitId ?? ''}
                    onChange={(event) => inUnit(index, Number(event.target.value) || null)}
                  >
                    <option value="">{line.baseUnit}</option>
                    {line.units.map((one) => (
                      <option key={one.unitId} value={one.unitId}>
                        {one.unit} of {one.factor}
                      </option>
                    ))}
                  </select>
                ) : (
                  <span className="quiet">{line.factor === '1' ? (line.unit === 'each' ? '' : line.unit) : `${line.unit} of ${line.factor}`}</span>
                )}
              </td>
              <td className="number">
                <Cell
                  label={`Price of line ${index + 1}`}
                  value={line.price}
                  error={errorAt(index, 'price')}
                  change={(value) => put(index, { price: value, ownPrice: true })}
                />{' '}
                <select
                  className="plain"
                  style={{ height: 30 }}
                  aria-label={`Line ${index + 1} is priced for`}
                  value={line.pricePer}
                  onChange={(event) => put(index, { pricePer: event.target.value })}
                >
                  {[...new Set([...pers, line.pricePer])].map((per) => (
                    <option key={per} value={per}>
                      {per === '1' ? 'each' : `for ${quantityText(per)}`}
                    </option>
                  ))}
                </select>
              </td>
              <td className="number">{draftAmount(line, places) === null ? '' : amount(draftAmount(line, places) as string)}</td>
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
