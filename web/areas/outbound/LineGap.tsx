import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { lineGap } from '@larder/contract/gaps';
import type { SalesOrder } from '@larder/contract/outbound';
import { decimal, least, sum } from '@larder/core/decimal';
import { isNumber } from '@larder/core/number';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link } from 'react-router';
import { CoverBar } from '../../kit/CoverBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { forWhom, lineAddress } from '../../kit/DocumentLink';
import { quantity, shortDay } from '../../kit/format';
import { Stack, Ways } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { sentRow, useVersionOf } from '../../kit/row';
import { Refused, Waiting } from '../../kit/states';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { coverParts, coverWords } from './cover';
import {
  useDecideDirectMutation,
  useForeseeHoldQuery,
  useHoldStockMutation,
  useLineGapQuery,
  usePromiseLineMutation,
  useStandBackMutation,
  useSwapLineMutation,
} from './api';

type Gap = ResponseOf<typeof lineGap>;
interface GapForm {
  /** What each line that holds some gives; empty: nothing. */
  holders: { lineId: number; gives: string }[];
}
const { Cell } = fieldsOf<GapForm>();
const gives = ({ gives: many }: GapForm['holders'][number]): boolean => many.trim() !== '' && Number(many) !== 0;
const rowKeys = { holders: ({ lineId }: GapForm['holders'][number]) => String(lineId) };

/** Where a line of a confirmed order comes from that waits; why it is short and what can be done about it, or who may go before it, is a click away. */
export function LineGap({ line, today }: { line: SalesOrder['lines'][number]; today: string }) {
  const [isOpen, setOpen] = useState(false);
  const mayHold = useMay('outbound.hold', line.siteId);
  const isShort = Number(line.short) > 0;
  const parts = coverParts(Number(line.baseQuantity) - Number(line.picked) - (Number(line.direct) - Number(line.sent)), Number(line.short), line.coming);
  const open = () => setOpen(true);
  return (
    <>
      <CoverBar {...parts} words={coverWords(parts, line.coming, null, today)} open={!isShort && mayHold ? open : undefined} />
      {isShort ? (
        <div>
          <Button size="small" aria-label={`Why ${line.sku} is short`} onClick={open}>
            Why short?
          </Button>
        </div>
      ) : null}
      {isOpen ? <GapDialog lineId={line.id} today={today} close={() => setOpen(false)} /> : null}
    </>
  );
}

function GapDialog({ lineId, today, close }: { lineId: number; today: string; close: () => void }) {
  const { data, error } = useLineGapQuery({ params: { id: lineId } });
  return (
    <Dialog open onClose={close} maxWidth="md">
      {data ? <Opened lineId={lineId} gap={data} today={today} close={close} /> : <Waiting error={error} />}
    </Dialog>
  );
}

interface OpenedProps {
  lineId: number;
  gap: Gap;
  today: string;
  close: () => void;
}

function Opened({ lineId, gap, today, close }: OpenedProps) {
  const say = useSay();
  const params = { id: lineId };
  const [hold] = useHoldStockMutation();
  const [stand, standing] = useStandBackMutation();
  const mayHold = useMay('outbound.hold', gap.siteId);
  const form = useForm({
    came: { holders: gap.holders.map((one) => ({ lineId: one.lineId, gives: '' })) },
    version: useVersionOf(gap.holders),
    rowKeys,
    body: ({ holders }: GapForm) => ({ from: holders.filter(gives).map((one) => ({ lineId: one.lineId, quantity: one.gives.trim() })) }),
    checkedBy: async () => (await import('@larder/contract/gaps')).holdStock.body,
    sentAs: (path, { holders }) => {
      const row = sentRow(path, 'from', holders, gives);
      return row ? `holders.${row.at}.gives` : 'holders';
    },
  });
  const typed = (useWatch({ control: form.control }) as GapForm).holders.filter(gives);
  const all = sum(typed.flatMap((one) => (isNumber(one.gives, 'quantity') ? [decimal(one.gives)] : [])));
  const asked = useDelayed({ from: typed.map((one) => ({ lineId: one.lineId, quantity: one.gives.trim() })) }, 250);
  const { currentData, error } = useForeseeHoldQuery({ params, body: asked }, { skip: asked.from.length === 0 });
  const isShort = Number(gap.short) > 0;
  const take = async () => {
    if (!(await form.send((body) => hold({ params, body })))) return;
    say({ text: `${gap.number} holds ${quantity(all.toFixed())} more of ${gap.sku}.` });
    close();
  };
  const letGo = async (back: boolean) => {
    const { error: refused } = await stand({ params, body: { back } });
    if (refused) return;
    say({ text: back ? `${gap.number} lets others go first with ${gap.sku}.` : `${gap.number} is served ${gap.sku} again.` });
    close();
  };
  return (
    <FormFrame form={form} save={() => void take()} foreseen={asked.from.length > 0 ? problemOf(error) : null}>
      <Stack pad sx={{ minWidth: { xs: 0, sm: 560 } }}>
        <DialogTitle>
          {gap.sku} for {gap.number}
        </DialogTitle>
        <p>
          {gap.name}, from {gap.site}: {quantity(gap.wanted)} wanted, {quantity(gap.reserved)} reserved
          {isShort ? <span className="late">, {quantity(gap.short)} short</span> : null}.
          {gap.standsBack ? ' It lets others go first: nothing is reserved for it.' : ''}
        </p>
        <Refused error={form.refused ?? standing.error} />
        {isShort ? <WhatComes lineId={lineId} gap={gap} today={today} /> : null}
        {isShort && gap.substitutes.length > 0 ? <Swaps lineId={lineId} gap={gap} close={close} /> : null}
        {isShort ? <FromSupplier lineId={lineId} gap={gap} close={close} /> : null}
        {isShort && gap.holders.length > 0 ? <Holders gap={gap} mayGive={mayHold && !gap.standsBack} today={today} /> : null}
        {typed.length > 0 ? <EffectPanel title="What holding it will change" effects={currentData?.effects} error={error} idle="One moment…" /> : null}
        <Ways>
          <Button onClick={close}>Close</Button>
          {mayHold && (gap.standsBack || Number(gap.reserved) > 0 || isShort) ? (
            <Button disabled={standing.isLoading} onClick={() => void letGo(!gap.standsBack)}>
              {gap.standsBack ? 'Serve it again' : 'Let others go first'}
            </Button>
          ) : null}
          {mayHold && isShort && gap.holders.length > 0 && !gap.standsBack ? (
            <Button variant="contained" disabled={form.isBusy || typed.length === 0} onClick={() => void take()}>
              Hold {all.isZero() ? 'stock' : quantity(all.toFixed())} for {gap.number}
            </Button>
          ) : null}
        </Ways>
      </Stack>
    </FormFrame>
  );
}

/** What comes, and the day that can be promised. */
function WhatComes({ lineId, gap, today }: Omit<OpenedProps, 'close'>) {
  const [promise, asked] = usePromiseLineMutation();
  const maySell = useMay('outbound.sell', gap.siteId);
  const mayTransfer = useMay('stock.transfer');
  const mayMake = useMay('making.plan', gap.siteId);
  const to = (promisedOn: string | null) => void promise({ params: { id: lineId }, body: { promisedOn } });
  const day = gap.availableOn;
  return (
    <>
      <Refused error={asked.error} />
      {gap.coming.length === 0 ? <p className="quiet">Nothing is on its way to {gap.site}.</p> : null}
      {gap.coming.map((one) => (
        <p key={`${one.orderNumber} ${one.expectedOn ?? ''}`}>
          <Link to={lineAddress(one.kind, one.orderId)}>{one.orderNumber}</Link> brings {quantity(one.quantity)}{' '}
          {one.expectedOn === null ? 'on a day not known yet' : `on ${shortDay(one.expectedOn, today)}${one.expectedOn < today ? ', late' : ''}`}
        </p>
      ))}
      {gap.elsewhere.map((one) => (
        <p key={one.siteId} className="quiet">
          {quantity(one.free)} free at {one.site}:{' '}
          {mayTransfer ? (
            <>
              <Link to={`/stock/transfers/new?lines=${lineId}&from=${one.siteId}`}>bring it from there</Link> or{' '}
            </>
          ) : null}
          <Link to={`/outbound/orders/${gap.orderId}/change`}>ship from there</Link>
        </p>
      ))}
      {mayMake && Number(gap.short) > 0 ? (
        <p className="quiet">
          <Link to={`/making/orders/new?item=${gap.itemId}&site=${gap.siteId}&many=${gap.short}&line=${lineId}`}>
            Make {quantity(gap.short)} of it for this line
          </Link>
        </p>
      ) : null}
      <Ways>
        <span>
          {gap.promisedOn
            ? `Promised for ${shortDay(gap.promisedOn, today)}: it is served before those without a promise.`
            : day === null
              ? 'Nothing that is on its way covers it, so no day can be promised.'
              : `All of it could be here on ${shortDay(day, today)}.`}
        </span>
        {maySell && gap.promisedOn ? (
          <Button size="small" disabled={asked.isLoading} onClick={() => to(null)}>
            Take the promise back
          </Button>
        ) : null}
        {maySell && day !== null && gap.promisedOn !== day ? (
          <Button size="small" disabled={asked.isLoading} onClick={() => to(day)}>
            Promise {shortDay(day, today)}
          </Button>
        ) : null}
      </Ways>
    </>
  );
}

/** What may be sold in its place, as far as it is free. */
function Swaps({ lineId, gap, close }: Omit<OpenedProps, 'today'>) {
  const say = useSay();
  const maySell = useMay('outbound.sell', gap.siteId);
  const [swap, asked] = useSwapLineMutation();
  const take = async (itemId: number, sku: string, many: string) => {
    const { error } = await swap({ params: { id: lineId }, body: { itemId, quantity: many } });
    if (error) return;
    say({ text: `${quantity(many)} of ${sku} in the place of ${gap.sku}.` });
    close();
  };
  return (
    <>
      <Refused error={asked.error} />
      {gap.substitutes.map((one) => {
        const many = least(decimal(gap.short), decimal(one.free)).toFixed();
        return (
          <Ways key={one.itemId}>
            <span>
              {one.sku} {one.name}: {quantity(one.free)} free here.
            </span>
            {maySell ? (
              <Button size="small" disabled={asked.isLoading} onClick={() => void take(one.itemId, one.sku, many)}>
                Swap {quantity(many)} for {one.sku}
              </Button>
            ) : null}
          </Ways>
        );
      })}
    </>
  );
}

/** A supplier may send what is short straight to the customer: ordered at once by those who buy, decided for them by those who sell. */
function FromSupplier({ lineId, gap, close }: Omit<OpenedProps, 'today'>) {
  const say = useSay();
  const mayOrder = useMay('inbound.order', gap.siteId);
  const maySell = useMay('outbound.sell', gap.siteId);
  const [decide, asked] = useDecideDirectMutation();
  if (!maySell) return null;
  const straight = async () => {
    const all = decimal(gap.short).plus(gap.toOrder).toFixed();
    const { error } = await decide({ params: { id: lineId }, body: { quantity: all } });
    if (error) return;
    say({ text: `${quantity(all)} of ${gap.sku} are to come straight from a supplier.` });
    close();
  };
  return (
    <>
      <Refused error={asked.error} />
      <Ways>
        <span>A supplier may send it straight to the customer.</span>
        {mayOrder ? (
          <Button size="small" component={Link} to={`/outbound/direct?lines=${lineId}`}>
            Order it straight
          </Button>
        ) : (
          <Button size="small" disabled={asked.isLoading} onClick={() => void straight()}>
            Have {quantity(gap.short)} sent straight
          </Button>
        )}
      </Ways>
    </>
  );
}

/** Who holds the stock, in the order they are served, and how many each gives. */
const Holders = ({ gap, mayGive, today }: { gap: Gap; mayGive: boolean; today: string }) => (
  <Table aria-label={`Who holds ${gap.sku}`}>
    <TableHead>
      <TableRow>
        <TableCell>Order</TableCell>
        <TableCell>Ship by</TableCell>
        <TableCell align="right">Holds</TableCell>
        {mayGive ? <TableCell align="right">Gives</TableCell> : null}
      </TableRow>
    </TableHead>
    <TableBody>
      {gap.holders.map((one, index) => (
        <TableRow key={one.lineId}>
          <TableCell>
            <Link to={lineAddress(one.kind, one.orderId)}>{one.number}</Link>
            <span className="name">{forWhom(one)}</span>
          </TableCell>
          <TableCell>
            {shortDay(one.shipBy, today)}
            {one.promisedOn ? <small className="quiet name">promised for {shortDay(one.promisedOn, today)}</small> : null}
          </TableCell>
          <TableCell align="right">{quantity(one.reserved)}</TableCell>
          {mayGive ? (
            <TableCell align="right">
              <Cell number label={`${one.number} gives`} name={`holders.${index}.gives`} />
            </TableCell>
          ) : null}
        </TableRow>
      ))}
    </TableBody>
  </Table>
);
