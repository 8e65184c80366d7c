import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { Bill } from '@larder/contract/bills';
import { amount, money, quantity } from '../../kit/format';

/** The lines of a bill that was posted, and what differed of each. */
export function PostedLines({ bill, own }: { bill: Bill; own: string }) {
  const foreign = bill.currency !== own;
  return (
    <Card aria-label="Lines">
      <Table aria-label="Lines">
        <TableHead>
          <TableRow>
            <TableCell sx={{ minWidth: 160 }}>For</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell align="right">Amount{foreign ? `, ${bill.currency}` : ''}</TableCell>
            <TableCell align="right">Expected{foreign ? `, ${own}` : ''}</TableCell>
            <TableCell align="right">Differs by</TableCell>
            <TableCell align="right">Part to stock</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {bill.lines.map((line, index) => (
            <TableRow key={index}>
              <TableCell>{line.text}</TableCell>
              <TableCell align="right">{line.quantity === null ? '' : quantity(line.quantity)}</TableCell>
              <TableCell className="strong" align="right">
                {amount(line.amount)}
              </TableCell>
              <TableCell className="quiet" align="right">
                {line.kind === 'other' ? '' : money(line.cleared)}
              </TableCell>
              <TableCell align="right">{Number(line.difference) === 0 ? '' : money(line.difference)}</TableCell>
              <TableCell className="quiet" align="right">
                {Number(line.difference) === 0 || line.kind !== 'goods' ? '' : money(line.toStock)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
