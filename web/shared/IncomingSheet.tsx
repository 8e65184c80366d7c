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
    <div className="card scroll">
      <table aria-label={label} className="floor">
        <thead>
          <tr>
            <th>Item</th>
            <th>Bin</th>
            <th className="number">Quantity</th>
            <th className="number">{worth}</th>
            <th />
          </tr>
        </thead>
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
        <tbody>
          <tr>
            <td colSpan={5}>
              <LineEntry
                add={(item, many, unitId) => {
                  const factor = item.units.find((unit) => unit.unitId === unitId)?.factor ?? '1';
                  change((now) => [
                    ...now,
                    newEntry(item.id, many === '1' && unitId === null && binId === null ? '' : decimal(many).times(factor).toFixed(), binId),
                  ]);
                }}
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}
