import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { WorkRow } from '@larder/contract/workOrders';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { refusalOf } from '../../kit/draft';
import { count } from '../../kit/format';
import { Card, Stack, Ways } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { problemOf } from '../../kit/problem';
import { Refused } from '../../kit/states';
import { useMayAt } from '../../shared/may';
import { useStartRoundMutation } from '../../shared/rounds';
import { useSay } from '../../shared/say';
import { useLazyWorkOrderQuery, useReleaseWorkOrderMutation } from './api';

interface BulkProps {
  rows: readonly WorkRow[];
  choose: (rows: readonly WorkRow[]) => void;
}

/** What can be done with several work orders at once, each by itself: one that cannot be released holds up no other. */
export function BulkWork({ rows, choose }: BulkProps) {
  const navigate = useNavigate();
  const say = useSay();
  const [going, setGoing] = useState('');
  const [left, setLeft] = useState<readonly { row: WorkRow; why: string }[]>([]);
  const [find] = useLazyWorkOrderQuery();
  const [release] = useReleaseWorkOrderMutation();
  const [start, starting] = useStartRoundMutation();
  const [mayPlan, mayTake] = [useMayAt('making.plan'), useMayAt('outbound.ship')];
  const planned = rows.filter((row) => !row.released && !row.ended && mayPlan(row.siteId));
  const ready = rows.filter((row) => row.released && !row.ended && Number(row.taken) < Number(row.needed) && mayTake(row.siteId));
  const sites = new Set(ready.map(({ siteId }) => siteId));
  const releaseAll = async () => {
    const undone: { row: WorkRow; why: string }[] = [];
    for (const [at, row] of planned.entries()) {
      setGoing(`Releasing ${row.number}, ${at + 1} of ${planned.length}`);
      const { data, error } = await find({ params: { id: row.id } });
      const answer = data ? await release({ params: { id: row.id }, body: { version: data.version } }) : { error };
      if (answer.error) undone.push({ row, why: problemOf(answer.error)?.title ?? 'The server cannot be reached.' });
    }
    setGoing('');
    setLeft(undone);
    choose(undone.map(({ row }) => row));
    say({
      text: `Released ${count(planned.length - undone.length, 'work order')}.${undone.length > 0 ? ` ${undone.length} could not be: the list says why.` : ''}`,
    });
  };
  const round = async () => {
    const { data } = await start({ body: { siteId: ready[0]?.siteId ?? 0, workOrderIds: ready.map(({ id }) => id) } });
    if (data) void navigate(`/outbound/rounds/${data.id}`);
  };
  return (
    <Card component="aside" aria-label="Chosen work orders">
      <h2>
        {count(rows.length, 'work order')} chosen
        <span>Space chooses, with Shift several</span>
      </h2>
      <Stack pad>
        <Refused error={refusalOf(starting).refused} />
        {planned.length > 0 ? (
          <Button disabled={going !== ''} onClick={() => void releaseAll()}>
            Release {count(planned.length, 'work order')}
          </Button>
        ) : null}
        {ready.length > 0 ? (
          sites.size === 1 ? (
            <Button disabled={starting.isLoading} onClick={() => void round()}>
              Take parts for {count(ready.length, 'work order')} in one round
            </Button>
          ) : (
            <p className="quiet">A round is at one site: choose orders of one.</p>
          )
        ) : null}
        <Ways>
          {[
            ['job-sheets', 'job sheet'],
            ['pick-lists', 'pick list'],
          ].map(([path = '', noun = '']) => (
            <Button key={path} component="a" href={`/api/making/${path}?ids=${rows.map(({ id }) => id).join(',')}`} target="_blank" rel="noreferrer">
              Print {count(rows.length, noun)}
            </Button>
          ))}
        </Ways>
        {planned.length === 0 && ready.length === 0 ? <p className="quiet">Nothing can be done with these at once.</p> : null}
        {going === '' ? null : <Notice role="status">{going}</Notice>}
        {left.length > 0 ? (
          <Table aria-label="Not released">
            <TableBody>
              {left.map(({ row, why }) => (
                <TableRow key={row.id}>
                  <TableCell>
                    <Link className="code strong" to={`/making/orders/${row.id}`}>
                      {row.number}
                    </Link>
                  </TableCell>
                  <TableCell>{why}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        ) : null}
      </Stack>
    </Card>
  );
}
