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
    <div className="card">
      <table aria-label="Lines" className="floor">
        <thead>
          <tr>
            <th>Item</th>
            <th>Bin</th>
            <th className="number">Held</th>
            <th className="number">{way === 'there-are-now' ? 'There are now' : 'Plus or minus'}</th>
            <th className="number">Difference</th>
            <th />
          </tr>
        </thead>
        <tbody>
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
          <tr>
            <td colSpan={6}>
              <LineEntry add={(item) => change([...entries, { itemId: item.id, binId: null, lotId: null, quantity: '', then: null }])} />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}
