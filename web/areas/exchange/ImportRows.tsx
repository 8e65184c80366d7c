import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { type ImportRow } from '@larder/contract/exchange';

/** The rows of a file: what becomes of each, or why not. */
export function ImportRows({ rows }: { rows: readonly ImportRow[] }) {
  return (
    <Card component="div">
      <Table aria-label="Rows">
        <TableHead>
          <TableRow>
            <TableCell align="right">Line</TableCell>
            <TableCell>Row</TableCell>
            <TableCell>State</TableCell>
            <TableCell>What, or why not</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <Line key={row.line} row={row} />
          ))}
          {rows.length === 0 ? (
            <TableRow>
              <TableCell colSpan={4} className="quiet">
                No such rows.
              </TableCell>
            </TableRow>
          ) : null}
        </TableBody>
      </Table>
    </Card>
  );
}

function Line({ row }: { row: ImportRow }) {
  return (
    <TableRow>
      <TableCell className="quiet" align="right">
        {row.line}
      </TableCell>
      <TableCell className="code">{row.key}</TableCell>
      <TableCell className={row.status === 'refused' ? 'late' : row.status === 'same' ? 'quiet' : 'strong'}>{row.status}</TableCell>
      <TableCell>
        {row.reasons.map((reason) => (
          <span key={reason} className="late">
            {reason}{' '}
          </span>
        ))}
        {row.changes.map((change) => (
          <Box component="span" key={change.field} sx={{ marginRight: 14 }}>
            {change.field} <span className="quiet">{change.was === '' ? 'nothing' : change.was}</span> → {change.is === '' ? 'nothing' : change.is}
          </Box>
        ))}
      </TableCell>
    </TableRow>
  );
}
