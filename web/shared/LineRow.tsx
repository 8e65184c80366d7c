import Button from '@mui/material/Button';
import TableCell from '@mui/material/TableCell';
import { CellChoice } from '../kit/CellField';
import { isNumber } from '@larder/core/number';
import { decimal } from '@larder/core/decimal';
import { memo, type ComponentType } from 'react';
import { useOfRow, usePut } from '../kit/row';
import { Handle, SortableRow } from '../kit/Sortable';
import { useFormContext, useFormState } from 'react-hook-form';
import { sentenceIn } from '../kit/form';
import { fieldsOf } from '../kit/formFields';
import { amount, plainPrice, quantity as quantityText } from '../kit/format';
import { draftAmount, type DraftLine } from './draftLines';
import type { LinesName, WithLines } from './LineSheet';
import { ItemCell } from '../kit/ItemCell';

const { Cell } = fieldsOf<WithLines>();

interface LineRowProps {
  name: LinesName;
  /** Of the row in its list. */
  id: string;
  index: number;
  remove: (index: number) => void;
  places: number;
  /** A part may be taken off its price. */
  hasDiscount: boolean;
  Aside: ComponentType<{ index: number }> | undefined;
  /** Told the row, to know how high it is. */
  measure: (row: HTMLElement | null) => void;
}

/** What a price can be for. */
const pers = ['1', '100', '1000'];

/** One line of a document being written. */
export const LineRow = memo(function LineRow({ name, id, index, remove, places, hasDiscount, Aside, measure }: LineRowProps) {
  const { getValues } = useFormContext<WithLines>();
  const line = useOfRow(`${name}.${index}`, setOf);
  const put = usePut<DraftLine>(`${name}.${index}`);
  if (!line) return null;
  /** Another unit keeps what one base unit costs. */
  const inUnit = (unitId: number | null) => {
    const unit = line.units.find((one) => one.unitId === unitId);
    const factor = unit?.factor ?? '1';
    const typed = getValues(`${name}.${index}.price`);
    const price = isNumber(typed, 'price') ? plainPrice(decimal(typed).div(line.factor).times(factor).toDecimalPlaces(6).toFixed()) : typed;
    put({ unitId, unit: unit?.unit ?? '', factor, price });
  };
  return (
    <SortableRow id={id} measure={measure} data-index={index} aria-rowindex={index + 2}>
      <TableCell className="quiet nowrap">
        <Handle label={`Move line ${index + 1}`} />
        {index + 1}
      </TableCell>
      <ItemCell of={line}>
        {line.asked ? <small className="quiet name">instead of {line.asked.sku}</small> : null}
        <ItemFault name={name} index={index} />
      </ItemCell>
      <TableCell align="right">
        <Cell number label={`Quantity of line ${index + 1}`} name={`${name}.${index}.quantity`} />{' '}
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
        <Cell number label={`Price of line ${index + 1}`} name={`${name}.${index}.price`} typed={() => put({ ownPrice: true })} />{' '}
        <CellChoice label={`Line ${index + 1} is priced for`} value={line.pricePer} onChange={(typed) => put({ pricePer: typed })}>
          {[...new Set([...pers, line.pricePer])].map((per) => (
            <option key={per} value={per}>
              {per === '1' ? 'each' : `for ${quantityText(per)}`}
            </option>
          ))}
        </CellChoice>
      </TableCell>
      {hasDiscount ? (
        <TableCell align="right">
          <Cell number label={`Per cent off line ${index + 1}`} name={`${name}.${index}.discount`} />
        </TableCell>
      ) : null}
      <TableCell align="right">
        <Sum name={name} index={index} places={places} />
      </TableCell>
      {Aside ? (
        <TableCell>
          <Aside index={index} />
        </TableCell>
      ) : null}
      <TableCell>
        <Button size="small" aria-label={`Remove line ${index + 1}`} onClick={() => remove(index)}>
          Remove
        </Button>
      </TableCell>
    </SortableRow>
  );
});

/** What of a line stays as it is while somebody types quantities and prices: a key draws its own field anew, and the amount. */
const setOf = ({ sku, name, asked, unit, unitId, factor, units, baseUnit, pricePer }: DraftLine) => ({
  sku,
  name,
  asked,
  unit,
  unitId,
  factor,
  units,
  baseUnit,
  pricePer,
});

function Sum({ name, index, places }: Pick<LineRowProps, 'name' | 'index' | 'places'>) {
  const sum = useOfRow(`${name}.${index}`, (line: DraftLine) => draftAmount(line, places));
  return sum === null || sum === undefined ? '' : amount(sum);
}

/** What is wrong with the item of a line, or with the line as a whole. */
function ItemFault({ name, index }: Pick<LineRowProps, 'name' | 'index'>) {
  const { errors } = useFormState<WithLines>({ name: `${name}.${index}.itemId` });
  const error = errors[name]?.[index];
  const said = error?.itemId ?? (error && 'message' in error ? error : undefined);
  return said ? (
    <small className="late" role="alert">
      {sentenceIn(said)}
    </small>
  ) : null;
}
