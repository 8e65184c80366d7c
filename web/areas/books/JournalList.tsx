import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, State } from '../../kit/layout';
import { Link } from 'react-router';
import type { JournalRow } from '@larder/contract/books';
import { DocumentLink } from '../../kit/DocumentLink';
import { money, shortDay } from '../../kit/format';

/** What an entry says beside its document's number. */
const saidOf = ({ document, text }: JournalRow): string => (document ? text.replace(`${document.number}: `, '') : text);

/** Journal entries with their lines, debit and credit. */
export function JournalList({ rows, today, label }: { rows: readonly JournalRow[]; today: string; label: string }) {
  const hasDepartments = rows.some(({ lines }) => lines.some(({ department }) => department !== null));
  return (
    <Card component="div">
      <Table aria-label={label} size="small">
        <TableHead>
          <TableRow>
            <TableCell>Account</TableCell>
            {hasDepartments ? <TableCell className="wide-only">Department</TableCell> : null}
            <TableCell align="right">Debit</TableCell>
            <TableCell align="right">Credit</TableCell>
          </TableRow>
        </TableHead>
        {rows.map((row) => (
          <TableBody key={row.id}>
            <TableRow className="group">
              <TableCell component="th" scope="rowgroup" colSpan={hasDepartments ? 4 : 3}>
                {shortDay(row.day, today)} <DocumentLink document={row.document} /> <span className="quiet">{saidOf(row)}</span>
              </TableCell>
            </TableRow>
            {row.lines.map((line, index) => (
              <TableRow key={index}>
                <TableCell className="inset">
                  <Link to={`/books/accounts/${line.accountId}`}>
                    <span className="code quiet">{line.code}</span> {line.name}
                  </Link>
                  {line.sku ? <span className="code quiet"> {line.sku}</span> : null}
                </TableCell>
                {hasDepartments ? <TableCell className="wide-only">{line.department}</TableCell> : null}
                <TableCell align="right">{Number(line.amount) > 0 ? money(line.amount) : ''}</TableCell>
                <TableCell align="right">{Number(line.amount) < 0 ? money(line.amount.slice(1)) : ''}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        ))}
      </Table>
      {rows.length === 0 ? <State>No entry fits.</State> : null}
    </Card>
  );
}
