import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { CellField } from '../../kit/CellField';
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
    <Card component="div">
      <Table aria-label="Pick list" className="floor">
        <TableHead>
          <TableRow>
            <TableCell>Bin</TableCell>
            <TableCell>Item</TableCell>
            <TableCell align="right">There</TableCell>
            <TableCell align="right">Take</TableCell>
            <TableCell align="right">Picked</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={pickKey(row)}>
              <TableCell className="code strong">{row.bin}</TableCell>
              <TableCell>
                <span className="code">{row.sku}</span>
                <span className="name">{row.name}</span>
                {row.lot ? <small className="quiet">{row.useBy ? `lot ${row.lot}, use by ${row.useBy}` : row.lot}</small> : null}
                {faultsOf(row).map((sentence) => (
                  <small key={sentence} className="late">
                    {sentence}
                  </small>
                ))}
              </TableCell>
              <TableCell className="quiet" align="right">
                {quantity(row.inBin)}
              </TableCell>
              <TableCell className="strong" align="right">
                {quantity(row.take)}
              </TableCell>
              <TableCell align="right">
                <CellField number label={`Picked of ${row.sku} from ${row.bin}`} value={picked(row)} onChange={(typed) => type(row, typed)} tall />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
