import { quantity } from '../../kit/format';
import { type PickRow } from './pickScan';

/** Tells the rows of a pick list apart. */
export const pickKey = (row: { lineId: number; binId: number; lotId: number | null }): string => `${row.lineId}/${row.binId}/${row.lotId ?? ''}`;

interface PickRowsProps {
  rows: readonly PickRow[];
  picked: (row: PickRow) => string;
  type: (row: PickRow, quantity: string) => void;
  faultsOf: (row: PickRow) => readonly string[];
}

/** What to take from which bin, in walking order, and how many were picked. */
export function PickRows({ rows, picked, type, faultsOf }: PickRowsProps) {
  return (
    <div className="card">
      <table aria-label="Pick list" className="floor">
        <thead>
          <tr>
            <th>Bin</th>
            <th>Item</th>
            <th className="number">There</th>
            <th className="number">Take</th>
            <th className="number">Picked</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={pickKey(row)}>
              <td className="code strong">{row.bin}</td>
              <td>
                <span className="code">{row.sku}</span>
                <span className="name">{row.name}</span>
                {row.lot ? <small className="quiet">{row.useBy ? `lot ${row.lot}, use by ${row.useBy}` : row.lot}</small> : null}
                {faultsOf(row).map((sentence) => (
                  <small key={sentence} className="late">
                    {sentence}
                  </small>
                ))}
              </td>
              <td className="number quiet">{quantity(row.inBin)}</td>
              <td className="number strong">{quantity(row.take)}</td>
              <td className="number">
                <input
                  className="plain number"
                  style={{ width: 84 }}
                  inputMode="decimal"
                  aria-label={`Picked of ${row.sku} from ${row.bin}`}
                  value={picked(row)}
                  onChange={(event) => type(row, event.target.value)}
                  onFocus={(event) => event.target.select()}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
