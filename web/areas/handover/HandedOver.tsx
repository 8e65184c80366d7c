import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { HandedRow } from '@larder/contract/handover';
import { money, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Onward } from '../../kit/Onward';
import { Waiting } from '../../kit/states';
import { useHandedInfiniteQuery } from './api';

export function HandedOver({ q, today, back, busy }: { q: string; today: string; back: ((id: number) => void) | null; busy: boolean }) {
  const list = useGoing(useHandedInfiniteQuery({ query: { q } }));
  if (!list.rows) return <Waiting error={list.error} />;
  return (
    <Card aria-label="Handed over">
      <h2>
        Handed over<span>the last first</span>
      </h2>
      {list.rows.length === 0 ? <p className="pad quiet">Nothing handed over fits.</p> : null}
      <Table size="small">
        <TableBody>
          {list.rows.map((row) => (
            <TableRow key={row.id}>
              <TableCell>
                <span className="code strong">{row.outsideNumber}</span> {row.text}
                <Box component="small" className="quiet" sx={{ display: 'block' }}>
                  {gone(row, today)}
                </Box>
              </TableCell>
              <TableCell align="right">{money(row.amount)}</TableCell>
              <TableCell align="right">
                {row.takenBackAt !== null ? (
                  <span className="quiet">taken back</span>
                ) : back ? (
                  <Button size="small" disabled={busy} aria-label={`Take ${row.outsideNumber} back`} onClick={() => back(row.id)}>
                    Take back
                  </Button>
                ) : null}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Onward list={list} />
    </Card>
  );
}

const gone = (row: HandedRow, today: string): string => {
  const back = row.takenBackAt === null ? '' : `; taken back ${shortDay(row.takenBackAt.slice(0, 10), today)} by ${row.takenBackBy ?? ''}`;
  return `of ${shortDay(row.day, today)}, sent ${shortDay(row.sentAt.slice(0, 10), today)} by ${row.person}${back}`;
};
