import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { Link, useNavigate } from 'react-router';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { BottomBar } from '../../kit/BottomBar';
import { dueDay, shortDay } from '../../kit/format';
import { StageTrack } from '../../kit/StageTrack';
import { Refused } from '../../kit/states';
import { useMay } from '../../shared/may';
import { Movements } from '../../shared/Movements';
import { useEnding, wasCancelled } from '../../shared/useEnding';
import { useDecidePurchaseMutation } from './api';
import { OrderChanges } from '../../shared/OrderChanges';
import { PlacedLines } from './PlacedLines';
import { OrderSums } from '../../kit/OrderSums';

/** An order that was placed: what came of it, what it costs, and what may still be done with it. */
export function PlacedOrder({ order, today }: { order: PurchaseOrder; today: string }) {
  const navigate = useNavigate();
  const mayBill = useMay('books.bill', null);
  const mayOrder = useMay('inbound.order', order.siteId);
  const mayReceive = useMay('inbound.receive', order.siteId);
  const [decide, { error, isLoading }] = useDecidePurchaseMutation();
  const { end, reopen } = useEnding(order.number, order.version, (decision, version) => decide({ params: { id: order.id }, body: { decision, version } }));
  return (
    <Split>
      <div>
        <PageHead>
          <h1>{order.number}</h1>
          <Box component={Link} to={`/inbound/suppliers/${order.supplierId}`} sx={{ fontSize: 16 }}>
            {order.supplier}
          </Box>
          <span className="quiet">
            {order.shipsTo === null ? `to ${order.site}` : `straight to ${order.shipsTo}`}
            {order.orderedOn === null ? '' : `, ordered on ${shortDay(order.orderedOn, today)}`}
            {order.rate === '1' ? '' : `, in ${order.currency} at ${order.rate}`}
          </span>
          <Side>{order.open ? <span className={order.late ? 'late' : ''}>due {dueDay(order.expectedOn, today)}</span> : <span>{order.state}</span>}</Side>
        </PageHead>
        <StageTrack stages={order.stages} />
        <Refused error={error} />
        <PlacedLines order={order} today={today} />
        <OrderSums
          currency={order.currency}
          sums={[
            ['Goods', order.amount],
            ...order.charges.map((charge): [string, string] => [charge.label, charge.amount]),
            ['Tax', order.tax],
            ['In all', order.total],
          ]}
        />
        {order.note ? <p className="quiet">{order.note}</p> : null}
      </div>
      <Stack>
        <Movements movements={order.movements} />
        <OrderChanges changes={order.changes} today={today} />
        {order.movements.length === 0 ? (
          <Card className="quiet" pad component="p">
            {order.shipsTo === null ? 'Nothing has been received on this order yet.' : `Nothing has been delivered to ${order.shipsTo} yet.`}
          </Card>
        ) : null}
      </Stack>
      <BottomBar next={order.open && mayReceive ? nextStep(order, (address) => void navigate(address)) : undefined}>
        {mayBill && Number(order.received) > 0 ? (
          <Button component={Link} to={`/books/bills/new?party=${order.supplierId}&name=${encodeURIComponent(order.supplier)}&order=${order.id}`}>
            Enter its bill
          </Button>
        ) : null}
        {mayBill && Number(order.received) > 0 && order.shipsTo === null ? (
          <Button component={Link} to={`/books/landed?q=${order.number}&receipts=${receiptsOf(order).join(',')}`}>
            Landed cost
          </Button>
        ) : null}
        {mayReceive && Number(order.received) > 0 && order.shipsTo === null ? (
          <Button component={Link} to={`/inbound/orders/${order.id}/return`}>
            Return goods
          </Button>
        ) : null}
        {mayOrder ? (
          <Button component={Link} to={`/inbound/orders/${order.id}/send`}>
            Send
          </Button>
        ) : null}
        {mayOrder ? (
          <>
            <Button component={Link} to={`/inbound/orders/new?copy=${order.id}`}>
              Copy
            </Button>
            {order.open ? (
              <Button component={Link} to={`/inbound/orders/${order.id}/change`}>
                Change
              </Button>
            ) : null}
            {order.open && Number(order.received) > 0 ? (
              <Button disabled={isLoading} onClick={() => end('close')}>
                Cancel the rest
              </Button>
            ) : null}
            {order.open && Number(order.received) === 0 ? (
              <Button disabled={isLoading} onClick={() => end('cancel')}>
                Cancel {order.number}
              </Button>
            ) : null}
            {wasCancelled(order.state) ? (
              <Button disabled={isLoading} onClick={reopen}>
                Open again
              </Button>
            ) : null}
          </>
        ) : null}
      </BottomBar>
    </Split>
  );
}

/** Receipts on this order that stand. */
const receiptsOf = (order: PurchaseOrder): number[] => order.movements.flatMap(({ id, kind, undone }) => (kind === 'receipt' && !undone ? [id] : []));

const nextStep = (order: PurchaseOrder, go: (address: string) => void) =>
  order.shipsTo === null
    ? { label: `Receive ${order.number}`, run: () => go(`/inbound/desk?order=${order.id}`) }
    : { label: `Record what ${order.shipsTo} got`, run: () => go(`/inbound/orders/${order.id}/delivered`) };
