import Box from '@mui/material/Box';
import { PageHead, Side } from '../../kit/layout';
import { useState } from 'react';
import type { SalesOrder } from '@larder/contract/outbound';
import { dueDay } from '../../kit/format';
import { StageTrack } from '../../kit/StageTrack';
import { useMayAt } from '../../shared/may';
import { DispatchSheet } from './DispatchSheet';
import { PickSheet } from './PickSheet';
import { Look, type Mode } from './OrderLook';

/** An order that was confirmed: what each line waits for, and the way to the bench and out of the door. */
export function ConfirmedOrder({ order, today }: { order: SalesOrder; today: string }) {
  const [mode, setMode] = useState<Mode>('look');
  const mayShipFrom = useMayAt('outbound.ship');
  const done = () => setMode('look');
  return (
    <>
      <PageHead>
        <h1>{order.number}</h1>
        <Box component="span" sx={{ fontSize: 16 }}>
          {order.customer}
        </Box>
        {order.reference ? <span className="code">{order.reference}</span> : null}
        <span className="quiet">
          from {order.site}
          {order.whole ? ', goes out whole' : ''}
        </span>
        <Side>
          {order.open ? (
            <span className={order.late ? 'late' : ''}>
              Ship by <b>{dueDay(order.shipBy, today)}</b>
            </span>
          ) : (
            order.state
          )}
        </Side>
      </PageHead>
      <StageTrack stages={order.stages} />
      {mode === 'look' ? <Look order={order} today={today} go={setMode} /> : null}
      {mode === 'pick' ? <PickSheet order={order} mayShipFrom={mayShipFrom} done={done} /> : null}
      {mode === 'dispatch' ? <DispatchSheet order={order} mayShipFrom={mayShipFrom} done={done} /> : null}
    </>
  );
}
