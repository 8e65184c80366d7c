import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { Transfer } from '@larder/contract/transfers';
import { decimal } from '@larder/core/decimal';
import { useState, type ReactNode } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { BottomBar, type NextStep } from '../../kit/BottomBar';
import { count, dueDay, quantity, shortDay } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { StageTrack } from '../../kit/StageTrack';
import { useTitle } from '../../kit/title';
import { useMayAt } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { Movements } from '../../shared/Movements';
import { OrderChanges } from '../../shared/OrderChanges';
import { PickingSheet, type Picked } from '../../shared/PickingSheet';
import { doneOrKept } from '../../shared/floor/kept';
import { useSay } from '../../shared/say';
import {
  useCancelTransferMutation,
  useChangeTransferMutation,
  useForeseeTransferPickQuery,
  usePickTransferMutation,
  useTransferPickListQuery,
  useTransferQuery,
} from './api';
import { LostSheet } from './LostSheet';
import { SendSheet } from './SendSheet';
import { draftOf } from './transferForm';
import { TransferSheet } from './TransferSheet';

type Mode = 'look' | 'change' | 'pick' | 'send' | 'lost';

/** Goods that one site sends to another: what is to go, what lies on the bench for it, what is in transit, and what became of it. */
export function TransferPage() {
  const { id = '' } = useParams();
  const { data, error } = useTransferQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data?.number ?? 'Transfer');
  if (!data || !me) return <Waiting error={error} />;
  return <Opened key={data.id} one={data} today={me.company.today} />;
}

interface OpenedProps {
  one: Transfer;
  today: string;
}

function Opened({ one, today }: OpenedProps) {
  const [mode, setMode] = useState<Mode>('look');
  const [change] = useChangeTransferMutation();
  const say = useSay();
  const back = () => setMode('look');
  if (mode === 'change')
    return (
      <TransferSheet
        one={one}
        came={draftOf(one)}
        today={today}
        send={({ fromSiteId: _from, toSiteId: _to, ...body }, version) => change({ params: { id: one.id }, body: { ...body, version } })}
        done={() => {
          say({ text: `${one.number} is changed.` });
          back();
        }}
      >
        <Button onClick={back}>Back to the transfer</Button>
      </TransferSheet>
    );
  return (
    <>
      <PageHead>
        <h1>{one.number}</h1>
        <span>
          {one.from} to {one.to}
        </span>
        {one.carrier || one.tracking ? <span className="quiet">{[one.carrier, one.tracking].filter(Boolean).join(' ')}</span> : null}
        <a className="wide-only" href={`/api/transfers/${one.id}/paper`} target="_blank" rel="noreferrer">
          Transfer note as PDF
        </a>
        <Side>
          <span className={one.late ? 'late' : ''}>{due(one, today)}</span>
        </Side>
      </PageHead>
      <StageTrack stages={one.stages} />
      {mode === 'look' ? <Look one={one} today={today} go={setMode} /> : null}
      {mode === 'pick' ? <Pick one={one} done={back} /> : null}
      {mode === 'send' ? <SendSheet one={one} today={today} done={back} /> : null}
      {mode === 'lost' ? <LostSheet one={one} done={back} /> : null}
    </>
  );
}

const due = (one: Transfer, today: string): string => {
  if (one.state === 'arrived' || one.state === 'cancelled') return one.state;
  if (Number(one.gone) < Number(one.quantity)) return `Send by ${dueDay(one.sendBy, today)}`;
  return one.expectedOn === null ? 'in transit' : `Arrives ${dueDay(one.expectedOn, today)}`;
};

const some = (text: string): boolean => Number(text) > 0;

function Look({ one, today, go }: OpenedProps & { go: (mode: Mode) => void }) {
  const navigate = useNavigate();
  const say = useSay();
  const [cancel, cancelling] = useCancelTransferMutation();
  const [mayWrite, mayShip, mayReceive] = [useMayAt('stock.transfer'), useMayAt('outbound.ship'), useMayAt('inbound.receive')];
  const isOurs = mayWrite(one.fromSiteId) || mayWrite(one.toSiteId);
  const canPick = one.lines.some((line) => some(line.wanted) && some(line.reserved));
  const canSend = mayWrite(one.fromSiteId) && (canPick || one.onBench.length > 0);
  const arrives = one.underWay.length > 0 && mayReceive(one.toSiteId);
  const left = one.lines.some((line) => Number(line.picked) < Number(line.quantity));
  const next: NextStep | undefined = canSend
    ? { label: `Send to ${one.to}`, run: () => go('send') }
    : arrives
      ? { label: 'Receive at the desk', run: () => void navigate('/inbound/desk') }
      : undefined;
  const stop = async () => {
    if ((await cancel({ params: { id: one.id }, body: { version: one.version } })).error) return;
    say({ text: `What was not picked of ${one.number} is cancelled.` });
  };
  return (
    <Split>
      <Stack>
        <Refused error={cancelling.error} />
        <Lines one={one} />
        {one.note === '' ? null : (
          <Card pad aria-label="Note">
            {one.note}
          </Card>
        )}
      </Stack>
      <Stack>
        {one.underWay.length > 0 ? (
          <Card pad aria-label="In transit">
            <p>
              In transit to {one.to}
              {one.since === null ? '' : ` since ${shortDay(one.since, today)}`}: {quantity(one.inTransit)}. It is free at neither end until it is received
              there.
            </p>
            {isOurs ? (
              <Button size="small" onClick={() => go('lost')}>
                Some of it will not arrive
              </Button>
            ) : null}
          </Card>
        ) : null}
        <Movements movements={one.movements.map((movement) => ({ ...movement, value: '0' }))} />
        <OrderChanges changes={one.changes} today={today} />
      </Stack>
      <BottomBar next={next}>
        {canPick && mayShip(one.fromSiteId) ? <Button onClick={() => go('pick')}>Pick to the bench</Button> : null}
        {isOurs && one.state !== 'arrived' ? <Button onClick={() => go('change')}>Change</Button> : null}
        {isOurs && left ? (
          <Button disabled={cancelling.isLoading} onClick={() => void stop()}>
            Cancel what is not picked
          </Button>
        ) : null}
      </BottomBar>
    </Split>
  );
}

const Lines = ({ one }: { one: Transfer }) => (
  <Card component="div" sheet>
    <Table aria-label="Lines" className="floor">
      <TableHead>
        <TableRow>
          <TableCell>Item</TableCell>
          <TableCell>Bins</TableCell>
          <TableCell align="right">To go</TableCell>
          <TableCell align="right">Reserved</TableCell>
          <TableCell align="right">Bench</TableCell>
          <TableCell align="right">In transit</TableCell>
          <TableCell align="right">Arrived</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {one.lines.map((line) => (
          <TableRow key={line.id}>
            <ItemCell of={line}>
              {line.sale ? (
                <small className="quiet">
                  for <Link to={`/outbound/orders/${line.sale.orderId}`}>{line.sale.number}</Link>
                </small>
              ) : null}
            </ItemCell>
            <TableCell className="quiet">{[line.fromBin, line.toBin].some(Boolean) ? `${line.fromBin ?? 'any'} to ${line.toBin ?? 'any'}` : ''}</TableCell>
            <TableCell align="right" className="strong">
              <span className="phone-only">to go </span>
              {quantity(line.quantity)}
              {some(line.cancelled) ? <small className="quiet name">{quantity(line.cancelled)} cancelled</small> : null}
            </TableCell>
            <Figure
              name="reserved"
              many={line.reserved}
              besides={some(line.short) ? <small className="late name">{quantity(line.short)} short</small> : null}
            />
            <Figure name="bench" many={decimal(line.picked).minus(line.gone).toFixed()} />
            <Figure name="in transit" many={line.inTransit} />
            <Figure name="arrived" many={line.arrived} besides={some(line.lost) ? <small className="late name">{quantity(line.lost)} lost</small> : null} />
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);

/** How many of a line are where; on a phone named, and left out where there are none. */
const Figure = ({ name, many, besides = null }: { name: string; many: string; besides?: ReactNode }) => (
  <TableCell align="right" className={some(many) || besides ? '' : 'wide-only'}>
    <span className="phone-only">{name} </span>
    {quantity(many, true)}
    {besides}
  </TableCell>
);

/** The pick list of a transfer: what is taken waits on the bench until it is sent. */
function Pick({ one, done }: { one: Transfer; done: () => void }) {
  const params = { id: one.id };
  const { data, error } = useTransferPickListQuery({ params });
  const [pick] = usePickTransferMutation();
  const say = useSay();
  const useForeseen = (body: Picked | null) => {
    const { currentData, error: foreseen } = useForeseeTransferPickQuery(
      { params, body: { ...(body ?? { lines: [], short: [], shortReason: '' }), othersRound: true } },
      { skip: body === null },
    );
    return { effects: currentData?.effects, error: foreseen };
  };
  if (!data) return <Waiting error={error} />;
  return (
    <PickingSheet
      rows={data.rows}
      missing={data.missing}
      useForeseen={useForeseen}
      send={(body, _allTaken, moves) => {
        const kept = { words: `Pick ${count(body.lines.length, 'line')} of ${one.number}`, to: `/stock/transfers/${one.id}`, moves };
        return pick({ params, body, kept });
      }}
      done={(answer, lines) => {
        const sent = count(lines, 'line');
        say(doneOrKept(answer, `${sent} of ${one.number} on the bench.`, `the pick of ${sent}`));
        done();
      }}
    >
      <Button onClick={done}>Back to the transfer</Button>
    </PickingSheet>
  );
}
