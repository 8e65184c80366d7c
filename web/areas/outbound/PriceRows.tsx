import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Fragment, memo, useRef, useState } from 'react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { CellChoice } from '../../kit/CellField';
import { fieldsOf, useReadOnly } from '../../kit/formFields';
import { price } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';
import { Gap } from '../../kit/ListRows';
import { useRow } from '../../kit/row';
import { useVirtualRows } from '../../kit/virtualRows';
import { LineEntry } from '../../shared/LineEntry';
import { useMeQuery } from '../../shared/me';
import { inUse, useReferenceQuery } from '../../shared/reference';
import { newPriceRow, type PriceForm, type PriceRowForm } from './priceForm';

const { Cell, Day } = fieldsOf<PriceForm>();
const columns = 8;

/** The prices of a list, item by item and category by category; of many only those in sight are drawn. */
export function PriceRows() {
  const { control } = useFormContext<PriceForm>();
  const { fields, append, remove } = useFieldArray({ control, name: 'rows' });
  const table = useRef<HTMLTableElement>(null);
  const [typedIn, setTypedIn] = useState<number | null>(null);
  const rows = useVirtualRows({ table, count: fields.length, keyOf: (index) => fields[index]?.id ?? index, kept: typedIn, beyond: 5 });
  const isRead = useReadOnly();
  const { data: reference } = useReferenceQuery({});
  const add = (row: PriceRowForm, then: 'price' | 'percentOff') => append(row, { focusName: `rows.${fields.length}.${then}` });
  return (
    <Card component="div">
      <Table ref={table} aria-label="Prices" aria-rowcount={fields.length + 1}>
        <TableHead>
          <TableRow>
            <TableCell>Item or category</TableCell>
            <TableCell align="right">From</TableCell>
            <TableCell align="right">Price</TableCell>
            <TableCell align="right">Per cent off</TableCell>
            <TableCell align="right">Sales price</TableCell>
            <TableCell>First day</TableCell>
            <TableCell>Last day</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody
          onFocus={({ target }) => {
            const index = target.closest<HTMLElement>('[data-index]')?.dataset.index;
            setTypedIn(index === undefined ? null : Number(index));
          }}
        >
          {rows.items.map(({ index, before }) => (
            <Fragment key={fields[index]?.id ?? index}>
              <Gap height={before} span={columns} />
              <PriceRow index={index} remove={remove} measure={rows.measure} />
            </Fragment>
          ))}
          <Gap height={rows.below} span={columns} />
          {fields.length === 0 ? (
            <TableRow>
              <TableCell colSpan={columns} className="quiet">
                No price yet.
              </TableCell>
            </TableRow>
          ) : null}
        </TableBody>
      </Table>
      {isRead ? null : (
        <Stack pad>
          <LineEntry
            label="Item to give a price"
            takesScans={false}
            add={({ id, sku, name, unit, salesPrice }) => add(newPriceRow({ itemId: id, categoryId: null, code: sku, name, unit, salesPrice }), 'price')}
          />
          <CellChoice
            label="Category to give a price"
            value=""
            none="or a whole category…"
            width={260}
            onChange={(chosen) => {
              const category = reference?.categories.find(({ id }) => id === Number(chosen));
              if (category) add(newPriceRow({ itemId: null, categoryId: category.id, code: category.name }), 'percentOff');
            }}
            options={inUse(reference?.categories).map(({ id, name }) => ({ value: String(id), label: name }))}
          />
        </Stack>
      )}
    </Card>
  );
}

interface PriceRowProps {
  index: number;
  remove: (index: number) => void;
  /** Told the row, to know how high it is. */
  measure: (row: HTMLElement | null) => void;
}

const PriceRow = memo(function PriceRow({ index, remove, measure }: PriceRowProps) {
  const row = useRow<PriceRowForm>(`rows.${index}`);
  const { data: me } = useMeQuery({});
  const isRead = useReadOnly();
  if (!row) return null;
  const today = me?.company.today ?? '';
  return (
    <TableRow ref={measure} data-index={index} aria-rowindex={index + 2}>
      <TableCell>
        {row.itemId === null ? (
          <>all of {row.code}</>
        ) : (
          <>
            <span className="code">{row.code}</span>
            <span className="name">{row.name}</span>
          </>
        )}
      </TableCell>
      <TableCell align="right">
        <Cell number label={`From how many ${row.code}`} name={`rows.${index}.from`} placeholder="any" />
      </TableCell>
      <TableCell align="right">{row.itemId === null ? null : <Cell number label={`Price of ${row.code}`} name={`rows.${index}.price`} />}</TableCell>
      <TableCell align="right">
        <Cell number label={`Per cent off ${row.code}`} name={`rows.${index}.percentOff`} />
      </TableCell>
      <TableCell align="right" className="quiet">
        {row.salesPrice === null ? '' : price(row.salesPrice)}
      </TableCell>
      <TableCell>
        <Day label={`First day of ${row.code}`} hideLabel name={`rows.${index}.startsOn`} today={today} />
      </TableCell>
      <TableCell>
        <Day label={`Last day of ${row.code}`} hideLabel name={`rows.${index}.endsOn`} today={today} />
      </TableCell>
      <TableCell>
        {isRead ? null : (
          <Button size="small" aria-label={`Remove price ${index + 1}`} onClick={() => remove(index)}>
            Remove
          </Button>
        )}
      </TableCell>
    </TableRow>
  );
});
