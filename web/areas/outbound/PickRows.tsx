import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { fieldsOf } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { rowKeys, type PickForm } from './pickForm';
import type { PickRow } from './pickScan';
import { ItemCell } from '../../kit/ItemCell';

const { Cell } = fieldsOf<PickForm>();

/** What to take from which bin, in walking order, and how many were picked. */
export function PickRows({ rows }: { rows: readonly PickRow[] }) {
  const isOverSites = new Set(rows.map(({ siteId }) => siteId)).size > 1;
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
          {rows.map((row, index) => (
            <TableRow key={rowKeys.rows(row)}>
              <TableCell className="code strong">
                {row.bin}
                {isOverSites ? <small className="quiet name">{row.site}</small> : null}
              </TableCell>
              <ItemCell of={row}>{row.lot ? <small className="quiet">{row.useBy ? `lot ${row.lot}, use by ${row.useBy}` : row.lot}</small> : null}</ItemCell>
              <TableCell className="quiet" align="right">
                {quantity(row.inBin)}
              </TableCell>
              <TableCell className="strong" align="right">
                {quantity(row.take)}
              </TableCell>
              <TableCell align="right">
                <Cell number label={`Picked of ${row.sku} from ${row.bin}`} name={`rows.${index}.picked`} tall />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
