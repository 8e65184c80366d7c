import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { count, money } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useCompareQuery } from './api';

/** Both sides, account by account, and documents that only one of them has. */
export function Comparison() {
  const { data, error } = useCompareQuery({}, { refetchOnMountOrArgChange: true });
  if (!data) return <Waiting error={error} />;
  const odd: [string, readonly string[]][] = [
    ['handed over, and not in their books', data.missing],
    ['in their books, and never handed over', data.unknown],
    ['in their books with other amounts', data.different],
  ];
  const even = data.accounts.every(({ same }) => same) && odd.every(([, list]) => list.length === 0);
  return (
    <Card aria-label="Both sides" aria-live="polite">
      <h2>
        Both sides<span>{even ? `agree on ${count(data.documents, 'document')}` : 'differ'}</span>
      </h2>
      {odd
        .filter(([, list]) => list.length > 0)
        .map(([words, list]) => (
          <p key={words} className="pad late">
            {list.join(', ')} {words}.
          </p>
        ))}
      <Table size="small">
        <TableHead>
          <TableRow>
            <TableCell>Their account</TableCell>
            <TableCell align="right">Handed over</TableCell>
            <TableCell align="right">In their books</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {data.accounts.map((account) => (
            <TableRow key={account.code}>
              <TableCell>
                <span className="code quiet">{account.code}</span> {account.name}
              </TableCell>
              <TableCell align="right">{money(account.ours)}</TableCell>
              <TableCell align="right" className={account.same ? undefined : 'late'}>
                {money(account.theirs)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
