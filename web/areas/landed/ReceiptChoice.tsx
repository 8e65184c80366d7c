import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card, State } from '../../kit/layout';
import { CellCheck } from '../../kit/Check';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { receipts } from '@larder/contract/landed';
import { Link } from 'react-router';
import { count, money, shortDay } from '../../kit/format';

interface ReceiptChoiceProps {
  rows: ResponseOf<typeof receipts>['rows'];
  chosen: readonly number[];
  toggle: (movementId: number) => void;
  today: string;
}

/** Receipts, to choose those that one freight or duty falls on. */
export function ReceiptChoice({ rows, chosen, toggle, today }: ReceiptChoiceProps) {
  return (
    <Card aria-label="Receipts">
      <h2>
        Receipts<span>choose those one freight or duty falls on</span>
      </h2>
      <Table aria-label="Receipts">
        <TableBody>
          {rows.map((row) => (
            <TableRow key={row.movementId}>
              <TableCell sx={{ width: 36 }}>
                <CellCheck
                  label={`Choose the receipt of ${row.orders || row.supplier}, ${row.day}`}
                  checked={chosen.includes(row.movementId)}
                  onChange={() => toggle(row.movementId)}
                />
              </TableCell>
              <TableCell>{shortDay(row.day, today)}</TableCell>
              <TableCell sx={{ minWidth: { xs: 100, sm: 140 } }}>
                {row.supplier} <span className="code quiet">{row.orders}</span>
                <small className="quiet name">{row.note}</small>
              </TableCell>
              <TableCell className="quiet wide-only" align="right">
                {count(row.lines, 'line')}
              </TableCell>
              <TableCell align="right">{money(row.value)}</TableCell>
              <TableCell>
                {row.sheets.map(({ id, number }) => (
                  <Link key={id} className="code" to={`/books/landed/${id}`}>
                    {number}{' '}
                  </Link>
                ))}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {rows.length === 0 ? <State>Nothing has been received that fits.</State> : null}
    </Card>
  );
}
