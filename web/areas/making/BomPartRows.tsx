import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Fragment, memo, useRef, useState } from 'react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { fieldsOf, useReadOnly } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';
import { Gap } from '../../kit/ListRows';
import { useRow } from '../../kit/row';
import { useVirtualRows } from '../../kit/virtualRows';
import { LineEntry } from '../../shared/LineEntry';
import { Alternatives } from './Alternatives';
import { newPart, type BomDraft, type PartDraft } from './bomForm';

const { Cell, CellChoice } = fieldsOf<BomDraft>();
const columns = 6;

/** What goes into it, line by line; of many parts only those in sight are drawn. */
export function BomPartRows({ autoFocus }: { autoFocus: boolean }) {
  const { control } = useFormContext<BomDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: 'parts' });
  const table = useRef<HTMLTableElement>(null);
  const [typedIn, setTypedIn] = useState<number | null>(null);
  const rows = useVirtualRows({ table, count: fields.length, keyOf: (index) => fields[index]?.id ?? index, kept: typedIn, beyond: 5 });
  const isRead = useReadOnly();
  return (
    <Card component="div">
      <Table ref={table} aria-label="Parts" aria-rowcount={fields.length + 1}>
        <TableHead>
          <TableRow>
            <TableCell>Part</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell>Unit</TableCell>
            <TableCell align="right">Waste, % on top</TableCell>
            <TableCell>Note</TableCell>
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
              <PartRow index={index} remove={remove} measure={rows.measure} />
            </Fragment>
          ))}
          <Gap height={rows.below} span={columns} />
          {fields.length === 0 ? (
            <TableRow>
              <TableCell colSpan={columns} className="quiet">
                No part yet.
              </TableCell>
            </TableRow>
          ) : null}
        </TableBody>
      </Table>
      {isRead ? null : (
        <Stack pad>
          <LineEntry
            label="New part"
            isNewLine
            autoFocus={autoFocus}
            add={(item, many, unitId) => append(newPart(item, many, unitId), { focusName: `parts.${fields.length}.quantity` })}
          />
        </Stack>
      )}
    </Card>
  );
}

interface PartRowProps {
  index: number;
  remove: (index: number) => void;
  /** Told the row, to know how high it is. */
  measure: (row: HTMLElement | null) => void;
}

const PartRow = memo(function PartRow({ index, remove, measure }: PartRowProps) {
  const row = useRow<PartDraft>(`parts.${index}`);
  const isRead = useReadOnly();
  const [seeksOther, setSeeksOther] = useState(false);
  if (!row) return null;
  return (
    <TableRow ref={measure} data-index={index} aria-rowindex={index + 2}>
      <TableCell>
        <span className="code">{row.sku}</span>
        <span className="name">{row.name}</span>
        <Alternatives part={index} of={row} isOpen={seeksOther} close={() => setSeeksOther(false)} />
      </TableCell>
      <TableCell align="right">
        <Cell number label={`How many ${row.sku}`} name={`parts.${index}.quantity`} />
      </TableCell>
      <TableCell>
        {row.units.length === 0 ? (
          <span className="quiet">{row.unit}</span>
        ) : (
          <CellChoice
            label={`Unit of ${row.sku}`}
            name={`parts.${index}.unitId`}
            ids
            none={row.unit}
            options={row.units.map(({ unitId, unit, factor }) => ({ value: String(unitId), label: `${unit} of ${quantity(factor)}` }))}
          />
        )}
      </TableCell>
      <TableCell align="right">
        <Cell number width={64} label={`Waste of ${row.sku}, per cent on top`} name={`parts.${index}.waste`} placeholder="none" />
      </TableCell>
      <TableCell>
        <Cell width="100%" label={`Note on ${row.sku}`} name={`parts.${index}.note`} />
      </TableCell>
      <TableCell align="right">
        {isRead ? null : (
          <Box sx={{ display: 'flex', gap: 4, justifyContent: 'flex-end' }}>
            <Button size="small" aria-label={`Alternative to ${row.sku}`} onClick={() => setSeeksOther(true)}>
              Alternative
            </Button>
            <Button size="small" aria-label={`Remove ${row.sku}`} onClick={() => remove(index)}>
              Remove
            </Button>
          </Box>
        )}
      </TableCell>
    </TableRow>
  );
});
