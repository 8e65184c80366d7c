import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { CorrectionForm } from '@larder/contract/stock';
import { LineEntry } from '../../shared/LineEntry';
import { EntryRow, type Entry } from './CorrectionRow';

interface CorrectionLinesProps {
  way: CorrectionForm['way'];
  entries: readonly Entry[];
  change: (entries: Entry[]) => void;
  errorOf: (entry: Entry) => string | undefined;
}

/** The lines of a correction, and the field for the next. */
export function CorrectionLines({ way, entries, change, errorOf }: CorrectionLinesProps) {
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
          {entries.map((entry, index) => (
            <EntryRow
              key={`${entry.itemId} ${index}`}
              entry={entry}
              way={way}
              change={(part) => change(entries.map((one, at) => (at === index ? { ...one, ...part } : one)))}
              remove={() => change(entries.filter((_, at) => at !== index))}
              error={errorOf(entry)}
            />
          ))}
          <TableRow>
            <TableCell colSpan={6}>
              <LineEntry add={(item) => change([...entries, { itemId: item.id, binId: null, lotId: null, quantity: '', then: null }])} />
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Card>
  );
}
