import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Side, Stack } from '../../kit/layout';
import { CellCheck } from '../../kit/Check';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { decimal, sum } from '@larder/core/decimal';
import { BottomBar } from '../../kit/BottomBar';
import { count, money, shortDay } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useClearingQuery } from '../../shared/charges';
import { BookTabs } from '../../shared/BookTabs';

/** Estimates of charges that wait for a bill, by worksheet; what they add up to is what the account says. */
export function ClearingPage() {
  useTitle('Clearing');
  const navigate = useNavigate();
  const mayBill = useMay('books.bill');
  const { data, error } = useClearingQuery({});
  const { data: me } = useMeQuery({});
  const [chosen, setChosen] = useState<number[]>([]);
  if (!data) return <Waiting error={error} />;
  const sheets = [...new Set(data.rows.map(({ sheetId }) => sheetId))];
  const rows = data.rows.filter(({ id }) => chosen.includes(id));
  const toggle = (id: number) => setChosen(chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id]);
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Books</h1>
        <BookTabs />
        <Side>
          <b>{money(data.balance)}</b> <span className="quiet">on landed cost clearing, the same as the open entries</span>
        </Side>
      </PageHead>
      {data.rows.length === 0 ? (
        <Card state component="p">
          Nothing is open: every charge that was estimated has been billed, and the account stands at zero.
        </Card>
      ) : null}
      {sheets.map((sheetId) => {
        const group = data.rows.filter((row) => row.sheetId === sheetId);
        const [first] = group;
        return (
          <Card key={sheetId} aria-label={first?.sheet}>
            <h2>
              <Link className="code" to={`/books/landed/${sheetId}`}>
                {first?.sheet}
              </Link>{' '}
              {first?.deliveries}
              <span>since {first ? shortDay(first.since, me?.company.today ?? '') : ''}</span>
            </h2>
            <Table aria-label={`Open charges of ${first?.sheet ?? ''}`}>
              <TableBody>
                {group.map((row) => (
                  <TableRow key={row.id}>
                    <TableCell sx={{ width: 36 }}>
                      <CellCheck label={`Choose ${row.name} of ${row.sheet}`} checked={chosen.includes(row.id)} onChange={() => toggle(row.id)} />
                    </TableCell>
                    <TableCell>{row.name}</TableCell>
                    <TableCell className="quiet">{row.party ?? 'not known yet who bills'}</TableCell>
                    <TableCell className="quiet wide-only" align="right">
                      estimated {money(row.estimate)}
                    </TableCell>
                    <TableCell className="quiet wide-only" align="right">
                      {Number(row.cleared) === 0 ? '' : `billed ${money(row.cleared)}`}
                    </TableCell>
                    <TableCell className="strong" align="right">
                      {money(row.open)}
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
        );
      })}
      <BottomBar
        hint={
          rows.length > 0
            ? `${count(rows.length, 'charge')}, ${money(sum(rows.map(({ open }) => decimal(open))).toFixed(2))} open`
            : 'Choose what the bill in hand is for'
        }
        next={
          mayBill
            ? { label: 'Enter the bill for these', run: () => void navigate(`/books/bills/new?charges=${chosen.join(',')}`), disabled: rows.length === 0 }
            : undefined
        }
      />
    </Stack>
  );
}
