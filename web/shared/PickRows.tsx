import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../kit/layout';
import { fieldsOf } from '../kit/formFields';
import { quantity } from '../kit/format';
import { rowKey, type PickForm } from './pickForm';
import type { PickRow } from './pickScan';
import { ItemCell } from '../kit/ItemCell';

const { Cell } = fieldsOf<PickForm>();

/** What to take from which bin, in walking order, and how many were picked. */
export function PickRows({ rows }: { rows: readonly PickRow[] }) {
  const isRound = rows.some(({ slot }) => slot !== undefined);
  const isOverSites = new Set(rows.map(({ siteId }) => siteId)).size > 1;
  return (
    <Card component="div">
      <Table aria-label="Pick list" className="floor">
        <TableHead>
          <TableRow>
            <TableCell>Bin</TableCell>
            <TableCell>Item</TableCell>
            {isRound ? <TableCell>Slot</TableCell> : null}
            <TableCell align="right" className={isRound ? 'wide-only' : ''}>
              There
            </TableCell>
            <TableCell align="right">Take</TableCell>
            <TableCell align="right">Picked</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row, index) => (
            <TableRow key={rowKey(row)}>
              <TableCell className="code strong">
                {row.bin}
                {isOverSites ? <small className="quiet name">{row.site}</small> : null}
              </TableCell>
              <ItemCell of={row}>{row.lot ? <small className="quiet">{row.useBy ? `lot ${row.lot}, use by ${row.useBy}` : row.lot}</small> : null}</ItemCell>
              {isRound ? (
                <TableCell className="strong">
                  <span className="phone-only">slot </span>
                  {row.slot}
                  <small className="quiet name wide-only">{row.number}</small>
                </TableCell>
              ) : null}
              <TableCell className={isRound ? 'quiet wide-only' : 'quiet'} align="right">
                <span className="phone-only">there </span>
                {quantity(row.inBin)}
                {row.doubtful ? <small className="low name">to be counted</small> : null}
              </TableCell>
              <TableCell className="strong" align="right">
                <span className="phone-only">take </span>
                {quantity(row.take)}
              </TableCell>
              <TableCell className="under" align="right">
                <Cell
                  number
                  label={`Picked of ${row.sku} from ${row.bin}${row.slot === undefined ? '' : ` into slot ${row.slot}`}`}
                  name={`rows.${index}.picked`}
                  tall
                />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
