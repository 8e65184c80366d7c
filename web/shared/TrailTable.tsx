import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, phone } from '../kit/layout';
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
            <TableCell className="wide-only">Who</TableCell>
            <TableCell>What and why</TableCell>
            {ofOneItem ? null : <TableCell className="wide-only">Item</TableCell>}
            <TableCell className="wide-only">From</TableCell>
            <TableCell className="wide-only">To</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell align="right" className="wide-only">
              Change
            </TableCell>
            <TableCell align="right" className="wide-only">
              Value
            </TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={row.lineId}>
              <TableCell sx={{ whiteSpace: 'nowrap', [phone]: { whiteSpace: 'normal' } }}>
                {moment(row.postedAt)}
                {backdated(row.effectiveOn, row.postedAt) === '' ? null : <small className="quiet name">for {backdated(row.effectiveOn, row.postedAt)}</small>}
              </TableCell>
              <TableCell className="wide-only">{row.person}</TableCell>
              <TableCell>
                {row.kind.replace('-', ' ')} <DocumentLink document={row.document} />
                {row.lot ? (
                  <Box component={Link} className="code quiet" sx={{ marginLeft: 6 }} to={`/stock/lots/${row.lotId}`}>
                    {row.lot}
                  </Box>
                ) : null}
                <Box component="small" className="quiet" sx={{ display: 'none', [phone]: { display: 'block' } }}>
                  {ofOneItem ? '' : <span className="code strong">{row.sku} </span>}
                  {row.from} to {row.to}, {row.person}
                </Box>
                {row.why ? (
                  <Box component="small" className="quiet" sx={{ display: 'block' }}>
                    {row.why}
                  </Box>
                ) : null}
              </TableCell>
              {ofOneItem ? null : (
                <TableCell className="wide-only">
                  <Link className="code" to={`/items/${row.itemId}`}>
                    {row.sku}
                  </Link>
                </TableCell>
              )}
              <TableCell className="wide-only">{row.from}</TableCell>
              <TableCell className="wide-only">{row.to}</TableCell>
              <TableCell align="right">{quantity(row.quantity)}</TableCell>
              <TableCell className="strong wide-only" align="right">
                {Number(row.change) > 0 ? `+${quantity(row.change)}` : quantity(row.change, true)}
              </TableCell>
              <TableCell className="wide-only" align="right">
                {Number(row.value) === 0 ? '' : money(row.value)}
              </TableCell>
              <TableCell sx={{ [phone]: { paddingLeft: 0 } }}>
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
