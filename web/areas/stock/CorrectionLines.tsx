import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { CorrectionForm } from '@larder/contract/stock';
import { LineEntry } from '../../shared/LineEntry';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { newEntry, type CorrectionDraft } from './correctionForm';
import { EntryRow } from './CorrectionRow';

/** The lines of a correction, and the field for the next. */
export function CorrectionLines({ way, autoFocus }: { way: CorrectionForm['way']; autoFocus: boolean }) {
  const { control, getValues } = useFormContext<CorrectionDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: 'entries' });
  return (
    <Card component="div">
      <Table aria-label="Lines" className="floor">
        <TableHead>
          <TableRow>
            <TableCell>Item</TableCell>
            <TableCell>Bin</TableCell>
            <TableCell align="right">Held</TableCell>
            <TableCell align="right">{way === 'there-are-now' ? 'There are now' : 'Plus or minus'}</TableCell>
            <TableCell align="right">Difference</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {fields.map(({ id }, index) => (
            <EntryRow key={id} index={index} way={way} remove={() => remove(index)} />
          ))}
          <TableRow>
            <TableCell colSpan={6}>
              <LineEntry
                autoFocus={autoFocus}
                takesScans={false}
                isNewLine
                add={(item) => append(newEntry(item.id, { binId: getValues('binId') }), { focusName: `entries.${fields.length}.quantity` })}
              />
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Card>
  );
}
