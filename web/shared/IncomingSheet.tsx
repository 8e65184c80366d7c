import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../kit/layout';
import { decimal } from '@larder/core/decimal';
import { LineEntry } from './LineEntry';
import { newEntry, isReady, type Entry } from './entries';
import { EntryRow } from './IncomingRow';

interface IncomingSheetProps {
  label: string;
  /** What the last column asks: what one is worth, or what it cost. */
  worth: string;
  entries: readonly Entry[];
  /** Rows fill themselves in one after the other, so a change is told as what it makes of the entries there are. */
  change: (update: (entries: Entry[]) => Entry[]) => void;
  /** The sentence for a field of the nth entry that is ready. */
  errorAt: (field: string) => string | undefined;
  /** The bin that new lines go to, when one was said. */
  binId?: number | null;
}

/** A sheet of goods coming in: item, bin, quantity, worth, and lots or serials right there. */
export function IncomingSheet({ label, worth, entries, change, errorAt, binId = null }: IncomingSheetProps) {
  const ready = entries.filter(isReady);
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
        {entries.map((entry, index) => {
          const place = ready.indexOf(entry);
          return (
            <EntryRow
              key={`${entry.itemId} ${index}`}
              entry={entry}
              worth={worth}
              change={(part) => change((now) => now.map((one, n) => (n === index ? { ...one, ...part } : one)))}
              remove={() => change((now) => now.filter((_, n) => n !== index))}
              errorAt={(field) => (place < 0 ? undefined : errorAt(`lines.${place}.${field}`))}
            />
          );
        })}
        <TableBody>
          <TableRow>
            <TableCell colSpan={5}>
              <LineEntry
                add={(item, many, unitId) => {
                  const factor = item.units.find((unit) => unit.unitId === unitId)?.factor ?? '1';
                  change((now) => [
                    ...now,
                    newEntry(item.id, many === '1' && unitId === null && binId === null ? '' : decimal(many).times(factor).toFixed(), binId),
                  ]);
                }}
              />
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Card>
  );
}
