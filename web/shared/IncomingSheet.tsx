import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../kit/layout';
import { decimal } from '@larder/core/decimal';
import { LineEntry } from './LineEntry';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { newEntry, type WithEntries } from './entries';
import { EntryRow } from './IncomingRow';

interface IncomingSheetProps {
  label: string;
  /** What the last column asks: what one is worth, or what it cost. */
  worth: string;
  /** The bin that new lines go to, when one was said. */
  binId?: number | null;
}

/** A sheet of goods coming in, in a form that holds them as `entries`: item, bin, quantity, worth, and lots or serials right there. */
export function IncomingSheet({ label, worth, binId = null }: IncomingSheetProps) {
  const { control } = useFormContext<WithEntries>();
  const { fields, append, remove } = useFieldArray({ control, name: 'entries' });
  return (
    <Card sheet component="div">
      <Table aria-label={label} className="floor">
        <TableHead>
          <TableRow>
            <TableCell>Item</TableCell>
            <TableCell>Bin</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell align="right">{worth}</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        {fields.map(({ id }, index) => (
          <EntryRow key={id} index={index} worth={worth} remove={() => remove(index)} />
        ))}
        <TableBody>
          <TableRow>
            <TableCell colSpan={5}>
              <LineEntry
                add={(item, many, unitId) => {
                  const factor = item.units.find((unit) => unit.unitId === unitId)?.factor ?? '1';
                  const isAsked = many === '1' && unitId === null && binId === null;
                  append(newEntry(item.id, isAsked ? '' : decimal(many).times(factor).toFixed(), binId), {
                    shouldFocus: isAsked,
                    focusName: `entries.${fields.length}.quantity`,
                  });
                }}
              />
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Card>
  );
}
