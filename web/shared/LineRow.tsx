import Button from '@mui/material/Button';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { CellChoice, CellField } from '../kit/CellField';
import { isNumber } from '@larder/core/number';
import { decimal } from '@larder/core/decimal';
import type { ReactNode } from 'react';
import { amount, plainPrice, quantity as quantityText } from '../kit/format';
import { draftAmount, type DraftLine } from './draftLines';

interface LineRowProps {
  line: DraftLine;
  index: number;
  put: (part: Partial<DraftLine>) => void;
  remove: () => void;
  errorAt: (name: string) => string | undefined;
  places: number;
  aside: ReactNode;
}

/** What a price can be for. */
const pers = ['1', '100', '1000'];

/** One line of a document being written. */
export function LineRow({ line, index, put, remove, errorAt, places, aside }: LineRowProps) {
  /** Another unit keeps what one base unit costs. */
  const inUnit = (unitId: number | null) => {
    const unit = line.units.find((one) => one.unitId === unitId);
    const factor = unit?.factor ?? '1';
    const price = isNumber(line.price, 'price') ? plainPrice(decimal(line.price).div(line.factor).times(factor).toDecimalPlaces(6).toFixed()) : line.price;
    put({ unitId, unit: unit?.unit ?? '', factor, price });
  };
  return (
    <TableRow>
      <TableCell className="quiet">{index + 1}</TableCell>
      <TableCell>
        <span className="code">{line.sku}</span>
        <span className="name">{line.name}</span>
        {errorAt('itemId') ? <small className="late">{errorAt('itemId')}</small> : null}
      </TableCell>
      <TableCell align="right">
        <Cell label={`Quantity of line ${index + 1}`} value={line.quantity} error={errorAt('quantity')} change={(quantity) => put({ quantity })} />{' '}
        {line.units.length > 0 ? (
          <CellChoice label={`Unit of line ${index + 1}`} value={line.unitId ?? ''} onChange={(typed) => inUnit(Number(typed) || null)}>
            <option value="">{line.baseUnit}</option>
            {line.units.map((one) => (
              <option key={one.unitId} value={one.unitId}>
                {one.unit} of {one.factor}
              </option>
            ))}
          </CellChoice>
        ) : (
          <span className="quiet">{line.factor === '1' ? (line.unit === 'each' ? '' : line.unit) : `${line.unit} of ${line.factor}`}</span>
        )}
      </TableCell>
      <TableCell align="right">
        <Cell label={`Price of line ${index + 1}`} value={line.price} error={errorAt('price')} change={(value) => put({ price: value, ownPrice: true })} />{' '}
        <CellChoice label={`Line ${index + 1} is priced for`} value={line.pricePer} onChange={(typed) => put({ pricePer: typed })}>
          {[...new Set([...pers, line.pricePer])].map((per) => (
            <option key={per} value={per}>
              {per === '1' ? 'each' : `for ${quantityText(per)}`}
            </option>
          ))}
        </CellChoice>
      </TableCell>
      <TableCell align="right">{draftAmount(line, places) === null ? '' : amount(draftAmount(line, places) as string)}</TableCell>
      {aside === undefined ? null : <TableCell>{aside}</TableCell>}
      <TableCell>
        <Button size="small" aria-label={`Remove line ${index + 1}`} onClick={remove}>
          Remove
        </Button>
      </TableCell>
    </TableRow>
  );
}

function Cell({ label, value, error, change }: { label: string; value: string; error: string | undefined; change: (value: string) => void }) {
  return (
    <>
      <CellField number label={label} value={value} onChange={change} error={error} />
    </>
  );
}
