import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Split, Stack, Totals } from '../../kit/layout';
import { Link, useNavigate } from 'react-router';
import type { SalesOrder } from '@larder/contract/outbound';
import { amountText } from '@larder/core/books/currency';
import { decimal, type Decimal } from '@larder/core/decimal';
import { BottomBar, type NextStep } from '../../kit/BottomBar';
import { EffectPanel } from '../../kit/EffectPanel';
import { amount, count, due, money } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useMay, useMayAt } from '../../shared/may';
import { Movements } from '../../shared/Movements';
import { OrderChanges } from '../../shared/OrderChanges';
import { useSay } from '../../shared/say';
import { useEnding, wasCancelled } from '../../shared/useEnding';
import { useEndSaleMutation, useForeseePickQuery, usePickListQuery } from './api';
import { useCarriersQuery } from '../../shared/carriers';
import { goesOut } from './cover';
import { FilesCard } from './FilesCard';
import { InvoicesCard } from './InvoicesCard';
import { ConfirmedLines } from './ConfirmedLines';
import type { Packing } from './packForm';
import { PutTogether, stepOf } from './PutTogether';
import { ParcelsCard } from './ParcelsCard';

export type Mode = 'look' | 'pick' | 'pack' | 'ship' | 'booked' | 'dispatch';

interface LookProps {
  order: SalesOrder;
  /** Null until it is known. */
  packing: Packing | null;
  today: string;
  go: (mode: Mode) => void;
}

/** A confirmed order as it stands: lines, what is short, what comes next. */
export function Look({ order, packing, today, go }: LookProps) {
  const { data: list } = usePickListQuery({ params: { id: order.id } }, { skip: !order.open });
  // The list may be read again a moment after the order: what is picked already is not picked once more.
  const wanting = new Set(
    order.lines.filter((line) => Number(line.baseQuantity) - Number(line.direct) + Number(line.sent) > Number(line.picked)).map(({ id }) => id),
  );
  const mayShipFrom = useMayAt('outbound.ship');
  const mayShip = order.lines.some(({ siteId }) => mayShipFrom(siteId));
  /** What a shipper may send from; whoever ships nothing is told of all of it. */
  const isMine = ({ siteId }: { siteId: number }) => !mayShip || mayShipFrom(siteId);
  const made = list?.made ?? [];
  const rows = (list?.rows ?? []).filter((row) => wanting.has(row.lineId) && isMine(row));
  const maySell = useMay('outbound.sell', order.siteId);
  const { currentData, error } = useForeseePickQuery(
    { body: { orderId: order.id, lines: rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take })), shortReason: '' } },
    { skip: rows.length === 0 || !mayShip },
  );
  const [decide, ending] = useEndSaleMutation();
  const { end, reopen } = useEnding(order.number, order.version, (decision, version) => decide({ params: { id: order.id }, body: { decision, version } }));
  const say = useSay();
  /** To be written on again, while nobody has any of it in hand. */
  const withdraw = async () => {
    const { error: refused } = await decide({ params: { id: order.id }, body: { decision: 'withdraw', version: order.version } });
    if (!refused) say({ text: `${order.number} is a quote again.` });
  };
  const waiting = order.open ? order.lines.filter((line) => Number(goesOut(line)) > 0 && isMine(line)) : [];
  const onBench = waiting.filter(({ stocked }) => stocked).length;
  const short = order.lines.filter((line) => Number(line.short) > 0).length;
  const decision = Number(order.picked) > 0 ? ('close' as const) : ('cancel' as const);
  const pickable = new Set(rows.map(({ lineId }) => lineId)).size;
  const waitsWhole = order.whole && short > 0;
  const navigate = useNavigate();
  const mayOrder = useMay('inbound.order', order.siteId);
  const toOrder = order.lines.filter((line) => Number(line.direct) > Number(line.sent) + Number(line.onOrder)).length;
  const mayReceive = useMay('inbound.receive', order.siteId);
  const mayInvoice = useMay('books.invoice', null);
  const isToInvoice = mayInvoice && order.lines.some((line) => Number(line.dispatched) - Number(line.returned) > Number(line.invoiced));
  const mayReturn = useMay('outbound.return', order.siteId) && order.lines.some((line) => line.stocked && Number(line.dispatched) > Number(line.returned));
  const invoicing = { label: `Invoice ${order.number}`, run: () => void navigate(`/books/invoices/new?orders=${order.id}`) };
  const sending = order.open ? order.lines.flatMap(({ supplies }) => supplies).find((one) => Number(one.sent) < Number(one.quantity)) : undefined;
  const straight =
    mayOrder && order.open && toOrder > 0
      ? { label: `Order ${count(toOrder, 'line')} straight`, run: () => void navigate(`/outbound/direct?orders=${order.id}`) }
      : mayReceive && sending
        ? { label: `Record what ${sending.supplier} sent`, run: () => void navigate(`/inbound/orders/${sending.orderId}/delivered`) }
        : undefined;
  // What is put together for it is next when nothing else is.
  const [work] = made.filter(({ toTake, atWork }) => toTake || atWork).map(stepOf);
  const making = work && { label: work.label, run: () => void navigate(work.to) };
  const dispatching = { label: `Dispatch ${count(waiting.length, 'line')}`, run: () => go('dispatch') };
  const carriers = useCarriersQuery({}).data?.rows;
  // Nothing is offered before it is known what is packed and who takes parcels: a button must not become another under the finger.
  const isKnown = packing !== null && carriers !== undefined;
  const shipping = waysOut(packing, mayShipFrom, carriers ?? [], go);
  const next =
    !mayShip || waitsWhole
      ? straight
      : pickable > 0
        ? { label: `Pick ${count(pickable, 'line')}`, run: () => go('pick') }
        : isKnown
          ? (shipping.next ?? (waiting.length > 0 && (onBench > 0 || short === 0) ? dispatching : (straight ?? making)))
          : undefined;
  const last = isKnown && next === undefined && isToInvoice ? invoicing : next;
  const inIts = (value: Decimal) => amount(amountText(order.currency, value));
  return (
    <Split>
      <div>
        <Refused error={ending.error} />
        <ConfirmedLines order={order} today={today} />
        <Totals component="p">
          <span>
            Goods <b>{inIts(decimal(order.amount).plus(order.discounted))}</b>
          </span>
          {Number(order.discounted) === 0 ? null : (
            <span>
              {order.discount} % off <b>{inIts(decimal(order.discounted).neg())}</b>
            </span>
          )}
          <span>
            Tax <b>{inIts(decimal(order.tax))}</b>
          </span>
          <span>
            Total{' '}
            <b>
              {inIts(decimal(order.amount).plus(order.tax))} {order.currency}
            </b>
          </span>
        </Totals>
        {Number(order.dispatched) > 0 ? (
          <Totals component="p" sx={{ paddingTop: 0 }}>
            <span>
              Sold for <b>{amount(order.dispatchedAmount)}</b>
              {order.rate === '1' ? '' : ` ${order.currency} at ${order.rate}`}
            </span>
            {order.margin === '' ? null : (
              <>
                <span>
                  Cost of sales <b>{money(order.dispatchedCost)}</b>
                </span>
                <span>
                  Margin <b>{money(order.margin)}</b>
                </span>
              </>
            )}
          </Totals>
        ) : null}
      </div>
      <Stack>
        {order.shipTo ? <GoesTo address={order.shipTo} /> : null}
        {mayInvoice && Number(order.dispatched) > 0 ? <InvoicesCard orderId={order.id} today={today} /> : null}
        {packing ? <ParcelsCard order={order} packing={packing} mayShipFrom={mayShipFrom} /> : null}
        {!mayShip && order.open ? <WhatHappens order={order} pickable={pickable} waiting={waiting.length} today={today} /> : null}
        {mayShip && rows.length > 0 ? <EffectPanel title="What picking will change" effects={currentData?.effects} error={error} idle="One moment…" /> : null}
        <PutTogether made={made} />
        <Movements movements={order.movements} />
        {order.state === 'cancelled' ? null : <FilesCard order={order} />}
        <OrderChanges changes={order.changes} today={today} />
      </Stack>
      <BottomBar
        hint={`${count(order.lines.length, 'line')}${short > 0 ? `, ${short} of them short` : ''}${waitsWhole ? ': it waits to go out whole' : ''}`}
        next={last}
      >
        {straight !== undefined && next !== straight ? (
          <Button component={Link} to={`/outbound/direct?orders=${order.id}`}>
            {straight.label}
          </Button>
        ) : null}
        {waitsWhole && mayShip && pickable > 0 ? <Button onClick={() => go('pick')}>Pick {count(pickable, 'line')}</Button> : null}
        {maySell && order.open && onBench === 0 ? (
          <Button disabled={ending.isLoading} onClick={() => end(decision)}>
            {decision === 'close' ? 'Cancel the rest' : `Cancel ${order.number}`}
          </Button>
        ) : null}
        {maySell && order.open ? (
          <Button component={Link} to={`/outbound/orders/${order.id}/change`}>
            Change
          </Button>
        ) : null}
        {maySell && order.open && Number(order.picked) === 0 ? (
          <Button disabled={ending.isLoading} onClick={() => void withdraw()}>
            Back to a quote
          </Button>
        ) : null}
        {maySell && wasCancelled(order.state) ? (
          <Button disabled={ending.isLoading} onClick={reopen}>
            Open again
          </Button>
        ) : null}
        {isToInvoice && last !== invoicing ? <Button onClick={invoicing.run}>Invoice what went out</Button> : null}
        {maySell && order.state !== 'cancelled' ? (
          <Button component={Link} to={`/outbound/orders/${order.id}/send`}>
            Send
          </Button>
        ) : null}
        {mayReturn ? (
          <Button component={Link} to={`/outbound/returns/new?order=${order.id}&customer=${order.customerId}`}>
            Goods come back
          </Button>
        ) : null}
        {maySell ? (
          <Button component={Link} to={`/outbound/orders/new?copy=${order.id}`}>
            Copy
          </Button>
        ) : null}
        {mayShip && shipping.packs && next !== shipping.next ? <Button onClick={() => go('pack')}>Pack</Button> : null}
        {mayShip && shipping.repacks ? <Button onClick={() => go('pack')}>Pack otherwise</Button> : null}
        {isKnown && mayShip && waiting.length > 0 && shipping.loose && next !== dispatching ? (
          <Button onClick={dispatching.run}>Dispatch {count(waiting.length, 'line')}</Button>
        ) : null}
      </BottomBar>
    </Split>
  );
}

/** What can be done with what is on the bench and in parcels: the first of it is the next step. */
function waysOut(packing: Packing | null, mayShipFrom: (siteId: number) => boolean, carriers: readonly { retired: boolean }[], go: (mode: Mode) => void) {
  const mine = <R extends { siteId: number }>(rows: readonly R[]) => rows.filter(({ siteId }) => mayShipFrom(siteId));
  const loose = mine(packing?.loose ?? []);
  const open = mine(packing?.parcels ?? []).filter(({ shipmentId }) => shipmentId === null);
  const booked = mine(packing?.shipments ?? []).find(({ state }) => state === 'booked');
  // A business without carriers hands over what it sells; it may pack all the same.
  const packs = loose.length > 0 && carriers.some(({ retired }) => !retired);
  const ways: NextStep[] = [
    ...(booked ? [{ label: `Dispatch ${booked.number} with ${booked.carrier || 'own van'}`, run: () => go('booked') }] : []),
    ...(packs ? [{ label: `Pack ${count(new Set(loose.map(({ lineId }) => lineId)).size, 'line')}`, run: () => go('pack') }] : []),
    ...(open.length > 0 ? [{ label: `Send ${count(open.length, 'parcel')}`, run: () => go('ship') }] : []),
  ];
  const isPacked = open.length > 0 || mine(packing?.shipments ?? []).some(({ movementId }) => movementId === null);
  return { next: ways[0], packs: loose.length > 0, repacks: loose.length === 0 && open.length > 0, loose: loose.length > 0 || !isPacked };
}

interface WhatHappensProps {
  order: SalesOrder;
  pickable: number;
  waiting: number;
  today: string;
}

const GoesTo = ({ address }: { address: string }) => (
  <Card aria-label="Goes to">
    <h2>Goes to</h2>
    <Box component="p" className="pad" sx={{ whiteSpace: 'pre-line' }}>
      {address}
    </Box>
  </Card>
);

/** What happens now with an order, for those who do not do it themselves. */
const WhatHappens = ({ order, pickable, waiting, today }: WhatHappensProps) => (
  <Card aria-label="What happens now">
    <h2>What happens now</h2>
    <p className="pad">
      {pickable > 0
        ? `${count(pickable, 'line')} can be picked: whoever is on the floor at ${order.site} sees it on Today.`
        : waiting > 0
          ? `On the bench at ${order.site}, to be dispatched: ${count(waiting, 'line')}.`
          : order.lines.some(({ short }) => Number(short) > 0)
            ? `It waits for goods to come in at ${order.site}; the lines say when.`
            : 'Suppliers send the rest straight to the customer; the lines say when.'}
    </p>
    <p className="pad quiet">Ship by {due(order.shipBy, today)}.</p>
  </Card>
);
