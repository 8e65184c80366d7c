import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { QueueRow, Round } from '@larder/contract/picking';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { BottomBar, type NextStep } from '../../kit/BottomBar';
import { CellCheck } from '../../kit/Check';
import { Due } from '../../kit/Due';
import { forWhom, lineAddress } from '../../kit/DocumentLink';
import { count, moment, quantity } from '../../kit/format';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMayAt } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSite } from '../../shared/site';
import { useStartRoundMutation } from '../../shared/rounds';
import { usePickQueueQuery } from './api';
import { linkOf } from './picked';
import { OutboundWays } from '../../shared/OutboundWays';

const keyOf = ({ kind, orderId, siteId }: QueueRow): string => `${kind} ${orderId} ${siteId}`;

const kinds = [
  ['all', 'All'],
  ['sales', 'Orders'],
  ['transfer', 'Transfers'],
  ['work', 'Work orders'],
] as const;

/** What is to be picked, for customers, other sites and work, by the day it ships, and who picks what; several orders are picked in one round. */
export function PickingPage() {
  useTitle('To pick');
  const { siteId } = useSite();
  const navigate = useNavigate();
  const address = useAddress();
  const { data, error } = usePickQueueQuery({ query: { siteId, kind: address.choice('kind', kinds) } });
  const { data: me } = useMeQuery({});
  const mayShip = useMayAt('outbound.ship');
  const [start, starting] = useStartRoundMutation();
  const [marked, setMarked] = useState<readonly string[]>([]);
  if (!data || !me) return <Waiting error={error} />;
  // What somebody else has begun since is no longer chosen, and a round is at one site.
  const chosen = data.rows.filter((row) => row.round === null && marked.includes(keyOf(row)));
  const at = chosen[0]?.siteId;
  const mine = data.rounds.find(({ pickerId }) => pickerId === me.id);
  const begin = async (rows: readonly QueueRow[]) => {
    const idsOf = (kind: QueueRow['kind']) => rows.flatMap((row) => (row.kind === kind ? [row.orderId] : []));
    const { data: round } = await start({
      body: { siteId: rows[0]?.siteId ?? 0, orderIds: idsOf('sales'), transferIds: idsOf('transfer'), workOrderIds: idsOf('work') },
    });
    if (round) void navigate(`/outbound/rounds/${round.id}`);
  };
  const first = data.rows.find((row) => row.round === null && !row.waitsWhole && mayShip(row.siteId));
  const next = (): NextStep | undefined => {
    if (chosen.length > 1) return { label: `Pick ${count(chosen.length, 'order')} in one round`, run: () => void begin(chosen), disabled: starting.isLoading };
    const [only] = chosen;
    if (only) return { label: `Pick ${only.number}`, run: () => void begin([only]), disabled: starting.isLoading };
    if (mine) return { label: `Go on with round ${mine.id}`, run: () => void navigate(`/outbound/rounds/${mine.id}`) };
    return first && { label: `Pick ${first.number}`, run: () => void begin([first]), disabled: starting.isLoading };
  };
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>To pick</h1>
        <OutboundWays />
      </PageHead>
      <AddressTabs label="What is picked" address={address} name="kind" options={kinds} />
      <Refused error={starting.error} />
      {data.rounds.length > 0 ? <Rounds rounds={data.rounds} /> : null}
      {data.rows.length === 0 ? (
        <Card state component="p">
          Nothing is to be picked: whatever is confirmed and here is on the bench or gone.
        </Card>
      ) : (
        <Queue
          rows={data.rows}
          today={me.company.today}
          hasCheck={({ siteId: from, round }) => round === null && mayShip(from) && (at === undefined || at === from)}
          isChosen={(row) => chosen.includes(row)}
          toggle={(row) => setMarked((now) => (now.includes(keyOf(row)) ? now.filter((key) => key !== keyOf(row)) : [...now, keyOf(row)]))}
        />
      )}
      <BottomBar hint={`${count(data.rows.length, 'row')} to pick; choose several orders for one round`} next={next()} />
    </Stack>
  );
}

/** Rounds that are under way. */
const Rounds = ({ rounds }: { rounds: readonly Round[] }) => (
  <Card aria-label="Being picked">
    <h2>Being picked</h2>
    <Table aria-label="Rounds">
      <TableBody>
        {rounds.map((one) => (
          <TableRow key={one.id}>
            <TableCell>
              <Link className="strong" to={`/outbound/rounds/${one.id}`}>
                Round {one.id}
              </Link>
            </TableCell>
            <TableCell>{one.picker}</TableCell>
            <TableCell className="quiet">
              {count(one.orders, 'order')} at {one.site}
            </TableCell>
            <TableCell className="quiet wide-only">since {moment(one.startedAt)}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);

interface QueueProps {
  rows: readonly QueueRow[];
  today: string;
  hasCheck: (row: QueueRow) => boolean;
  isChosen: (row: QueueRow) => boolean;
  toggle: (row: QueueRow) => void;
}

function Queue({ rows, today, hasCheck, isChosen, toggle }: QueueProps) {
  const isOverSites = new Set(rows.map(({ siteId }) => siteId)).size > 1;
  return (
    <Card component="div">
      <Table aria-label="To pick">
        <TableHead>
          <TableRow>
            <TableCell sx={{ width: 52 }} />
            <TableCell>Order</TableCell>
            <TableCell align="right">Lines</TableCell>
            <TableCell className="wide-only" align="right">
              Pieces
            </TableCell>
            <TableCell>Ship</TableCell>
            <TableCell className="wide-only" />
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={keyOf(row)}>
              <TableCell>
                {hasCheck(row) || isChosen(row) ? <CellCheck label={`Choose ${row.number}`} checked={isChosen(row)} onChange={() => toggle(row)} /> : null}
              </TableCell>
              <TableCell>
                <Link className="code strong" to={linkOf(row)}>
                  {row.number}
                </Link>
                <span className="name">{forWhom(row)}</span>
                {row.forSale ? (
                  <small className="quiet name">
                    for <Link to={lineAddress('sales', row.forSale.orderId)}>{row.forSale.number}</Link>, {row.forSale.customer}
                  </small>
                ) : null}
                {isOverSites ? <small className="quiet name">from {row.site}</small> : null}
                {row.round ? (
                  <small className="quiet name">
                    {row.round.picker} picks it, <Link to={`/outbound/rounds/${row.round.id}`}>round {row.round.id}</Link>
                  </small>
                ) : null}
              </TableCell>
              <TableCell align="right">{row.lines}</TableCell>
              <TableCell className="wide-only" align="right">
                {quantity(row.pieces)}
              </TableCell>
              <TableCell>
                <Due day={row.shipBy} today={today} late={row.late} />
              </TableCell>
              <TableCell className="wide-only">{row.waitsWhole ? <span className="low">waits to go out whole</span> : null}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
