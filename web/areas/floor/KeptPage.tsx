import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { nouns } from '@larder/contract/nouns';
import { keyMadeAt } from '@larder/contract/requestKey';
import { useDispatch } from 'react-redux';
import { Link } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { clock, count, moment } from '../../kit/format';
import { Card, PageHead, Stack } from '../../kit/layout';
import { useTitle } from '../../kit/title';
import { api } from '../../shared/api';
import type { Waiting } from '../../shared/floor/database';
import { sendWaiting } from '../../shared/floor/sending';
import { useKept } from '../../shared/floor/useFloor';
import { waiting } from '../../shared/floor/waiting';

/** What is kept on this device: what waits for a connection, in its order, and what the server would not take. */
export function KeptPage() {
  useTitle('Kept on this phone');
  const dispatch = useDispatch();
  const { lostSince, waits, refused, others, scans } = useKept();
  const takeBack = async ({ key }: Waiting) => {
    await waiting.remove(key);
    // Lists show again what was thought to be done.
    dispatch(api.util.invalidateTags([...nouns]));
  };
  return (
    <Stack sx={{ maxWidth: 760 }}>
      <PageHead sx={{ margin: 0 }}>
        <h1>Kept on this phone</h1>
        <span className="quiet">{lostSince === null ? 'There is a connection.' : `No connection since ${clock(lostSince)}.`}</span>
      </PageHead>
      {refused.length === 0 ? null : (
        <Card aria-label="Not taken">
          <h2>
            Not taken<span>look at each, and do it anew where it is still needed</span>
          </h2>
          <Rows name="Not taken" rows={refused} action="It is sorted out" run={takeBack} />
        </Card>
      )}
      {waits.length === 0 ? null : (
        <Card aria-label="Waits for a connection">
          <h2>
            Waits for a connection<span>in this order, once</span>
          </h2>
          <Rows name="Waits" rows={waits} action="Take it back" run={takeBack} />
        </Card>
      )}
      {scans === 0 ? null : (
        <Card pad component="p">
          {count(scans, 'thing')} counted at the <Link to="/inbound/desk">receiving desk</Link> {scans === 1 ? 'waits' : 'wait'} as well.
        </Card>
      )}
      {others === 0 ? null : (
        <Card pad component="p">
          {count(others, 'thing')} of somebody else {others === 1 ? 'waits' : 'wait'} here until they sign in on this phone.
        </Card>
      )}
      {waits.length + refused.length + scans + others === 0 ? (
        <Card state component="p">
          Nothing waits: all that was done here is with the server.
        </Card>
      ) : null}
      <BottomBar
        hint={`${count(waits.length, 'thing')} ${waits.length === 1 ? 'waits' : 'wait'}`}
        next={waits.length > 0 ? { label: 'Send now', run: () => void sendWaiting() } : undefined}
      />
    </Stack>
  );
}

interface RowsProps {
  name: string;
  rows: readonly Waiting[];
  action: string;
  run: (row: Waiting) => Promise<void>;
}

const Rows = ({ name, rows, action, run }: RowsProps) => (
  <Table aria-label={name}>
    <TableBody>
      {rows.map((row) => (
        <TableRow key={row.key}>
          <TableCell>
            <Link className="strong" to={row.to}>
              {row.words}
            </Link>
            <small className="quiet name">{madeOn(row)}</small>
            {row.refused === null ? null : <span className="late name">{row.refused}</span>}
          </TableCell>
          <TableCell align="right">
            <Button aria-label={`${action}: ${row.words}`} onClick={() => void run(row)}>
              {action}
            </Button>
          </TableCell>
        </TableRow>
      ))}
    </TableBody>
  </Table>
);

const madeOn = ({ key }: Waiting): string => moment(new Date(keyMadeAt(key) ?? 0).toISOString());
