import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { LoanLine } from '@larder/contract/loans';
import { Link } from 'react-router';
import { Due } from '../../kit/Due';
import { quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card } from '../../kit/layout';

/** Lines of loans: what was lent, what of it is out, and, of several loans, which and until when. */
export const LoanLines = ({ lines, today, isOfOne }: { lines: readonly LoanLine[]; today: string; isOfOne: boolean }) => (
  <Card component="div" sheet>
    <Table aria-label={isOfOne ? 'Lines' : 'What they have'} className="floor">
      <TableHead>
        <TableRow>
          <TableCell>Item</TableCell>
          {isOfOne ? <TableCell>Came from</TableCell> : <TableCell>Loan</TableCell>}
          <TableCell align="right">Lent</TableCell>
          <TableCell align="right">Back</TableCell>
          <TableCell align="right">Out</TableCell>
          {isOfOne ? null : <TableCell>Due</TableCell>}
        </TableRow>
      </TableHead>
      <TableBody>
        {lines.map((line) => (
          <TableRow key={line.id}>
            <ItemCell of={line}>
              {line.lotId === null ? null : (
                <small>
                  <Link className="code" to={`/stock/lots/${line.lotId}`}>
                    {line.lot}
                  </Link>
                </small>
              )}
            </ItemCell>
            <TableCell className="quiet">{isOfOne ? line.fromBin : <Link to={`/stock/loans/${line.loanId}`}>{line.number}</Link>}</TableCell>
            <TableCell align="right">
              <span className="phone-only">lent </span>
              {quantity(line.lent)}
            </TableCell>
            <TableCell align="right" className={Number(line.back) > 0 || Number(line.lost) > 0 ? '' : 'wide-only'}>
              <span className="phone-only">back </span>
              {quantity(line.back, true)}
              {Number(line.lost) > 0 ? <small className="late name">{quantity(line.lost)} lost</small> : null}
            </TableCell>
            <TableCell align="right" className="strong">
              <span className="phone-only">out </span>
              {quantity(line.out, true)}
            </TableCell>
            {isOfOne ? null : (
              <TableCell>
                <Due day={line.dueOn} today={today} late={line.overdue} />
              </TableCell>
            )}
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);
