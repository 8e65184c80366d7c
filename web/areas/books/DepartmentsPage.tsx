import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Link } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { count, money } from '../../kit/format';
import { Card, PageHead, Side, Stack } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { BookTabs } from '../../shared/BookTabs';
import { DayRange, daysOf } from '../../shared/DayRange';
import { useDepartmentReportQuery } from './api';

/** What each department bears, account by account; each sum leads to the entries that make it. */
export function DepartmentsPage() {
  useTitle('Departments');
  const address = useAddress();
  const days = daysOf(address);
  const { currentData: data, error } = useDepartmentReportQuery({ query: days });
  const departments = [...new Map((data?.rows ?? []).map((row) => [row.departmentId, row.department]))];
  const entriesOf = (departmentId: number, accountId: number) => {
    const asked = new URLSearchParams({ department: String(departmentId), account: String(accountId) });
    for (const [name, day] of Object.entries(days)) if (day) asked.set(name, day);
    return `/books/journal?${asked.toString()}`;
  };
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Books</h1>
        <BookTabs />
        <Side>
          <DayRange address={address} />
        </Side>
      </PageHead>
      {data ? null : <Waiting error={error} />}
      {data && departments.length === 0 ? (
        <Card state component="p">
          No department bears anything in these days. <Link to="/setup?section=departments">Departments</Link> are named on a correction.
        </Card>
      ) : null}
      {departments.map(([id, name]) => {
        const rows = (data?.rows ?? []).filter(({ departmentId }) => departmentId === id);
        return (
          <Card key={id} aria-label={name}>
            <h2>
              {name}
              <span>{count(rows.length, 'account')}</span>
            </h2>
            <Table aria-label={`What ${name} bears`}>
              <TableBody>
                {rows.map((row) => (
                  <TableRow key={row.accountId}>
                    <TableCell>
                      <Link to={`/books/accounts/${row.accountId}`}>
                        <span className="code quiet">{row.code}</span> {row.account}
                      </Link>
                    </TableCell>
                    <TableCell align="right">
                      <Link to={entriesOf(id, row.accountId)}>{count(row.entries, 'entry', 'entries')}</Link>
                    </TableCell>
                    <TableCell className="strong" align="right" sx={{ width: 120 }}>
                      {money(row.amount)}
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
        );
      })}
      <BottomBar hint={data && departments.length > 0 ? `All of them together: ${money(data.total)}` : ''} />
    </Stack>
  );
}
