import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../kit/layout';
import type { TrailRow } from '@larder/contract/stock';
import { Link } from 'react-router';
import { DocumentLink } from '../kit/DocumentLink';
import { backdated, money, moment, quantity } from '../kit/format';
import { UndoButton } from './UndoButton';

/** Movements line by line; of one item, without naming it on each. */
export function TrailTable({ rows, ofOneItem }: { rows: readonly TrailRow[]; ofOneItem: boolean }) {
  return (
    <Card component="div">
      <Table aria-label="Movements">
        <TableHead>
          <TableRow>
            <TableCell>When</TableCell>
            <TableCell>Who</TableCell>
            <TableCell>What and why</TableCell>
            {ofOneItem ? null : <TableCell>Item</TableCell>}
            <TableCell>From</TableCell>
            <TableCell>To</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell align="right">Change</TableCell>
            <TableCell align="right">Value</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={row.lineId}>
              <TableCell sx={{ whiteSpace: 'nowrap' }}>
                {moment(row.postedAt)}
                {backdated(row.effectiveOn, row.postedAt) === '' ? null : <small className="quiet name">for {backdated(row.effectiveOn, row.postedAt)}</small>}
              </TableCell>
              <TableCell>{row.person}</TableCell>
              <TableCell>
                {row.kind.replace('-', ' ')} <DocumentLink document={row.document} />
                {row.lot ? (
                  <Box component={Link} className="code quiet" sx={{ marginLeft: 6 }} to={`/stock/lots/${row.lotId}`}>
                    {row.lot}
                  </Box>
                ) : null}
                {row.why ? (
                  <Box component="small" className="quiet" sx={{ display: 'block' }}>
                    {row.why}
                  </Box>
                ) : null}
              </TableCell>
              {ofOneItem ? null : (
                <TableCell>
                  <Link className="code" to={`/items/${row.itemId}`}>
                    {row.sku}
                  </Link>
                </TableCell>
              )}
              <TableCell>{row.from}</TableCell>
              <TableCell>{row.to}</TableCell>
              <TableCell align="right">{quantity(row.quantity)}</TableCell>
              <TableCell className="strong" align="right">
                {Number(row.change) > 0 ? `+${quantity(row.change)}` : quantity(row.change, true)}
              </TableCell>
              <TableCell align="right">{Number(row.value) === 0 ? '' : money(row.value)}</TableCell>
              <TableCell>
                {row.undone ? (
                  <span className="quiet">undone</span>
                ) : row.undoes ? null : (
                  <UndoButton movementId={row.movementId} what={`the ${row.kind.replace('-', ' ')} of ${moment(row.postedAt)}`} />
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
