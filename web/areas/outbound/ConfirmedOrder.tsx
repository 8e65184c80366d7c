import Box from '@mui/material/Box';
import { PageHead, Side } from '../../kit/layout';
import { useState } from 'react';
import type { SalesOrder } from '@larder/contract/outbound';
import { dueDay } from '../../kit/format';
import { StageTrack } from '../../kit/StageTrack';
import { useMayAt } from '../../shared/may';
import { DispatchSheet } from './DispatchSheet';
import type { Packing } from './packForm';
import { PackSheet } from './PackSheet';
import { PickSheet } from './PickSheet';
import { BookedSheet } from './SendParcels';
import { ShipSheet } from './ShipSheet';
import { usePackingQuery } from './api';
import { Look, type Mode } from './OrderLook';

const nothingPicked: Packing = { loose: [], parcels: [], shipments: [] };

/** An order that was confirmed: what each line waits for, and the way to the bench and out of the door. */
export function ConfirmedOrder({ order, today }: { order: SalesOrder; today: string }) {
  const [mode, setMode] = useState<Mode>('look');
  const mayShipFrom = useMayAt('outbound.ship');
  const done = () => setMode('look');
  const wasPicked = order.lines.some(({ stocked, picked, sent }) => stocked && Number(picked) > Number(sent));
  const [asks, setAsks] = useState(false);
  // A carrier that is being asked answers in the background.
  const { data } = usePackingQuery({ params: { id: order.id } }, { skip: !wasPicked, pollingInterval: asks ? 1000 : 0 });
  const waits = data?.shipments.some(({ state }) => state === 'asking' || state === 'unanswered') ?? false;
  if (asks !== waits) setAsks(waits);
  const packing = wasPicked ? (data ?? null) : nothingPicked;
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
      {mode === 'look' ? <Look order={order} packing={packing} today={today} go={setMode} /> : null}
      {mode === 'pick' ? <PickSheet order={order} mayShipFrom={mayShipFrom} done={done} /> : null}
      {mode === 'pack' && packing ? <PackSheet order={order} packing={packing} mayShipFrom={mayShipFrom} done={done} /> : null}
      {mode === 'ship' && packing ? <ShipSheet order={order} packing={packing} today={today} mayShipFrom={mayShipFrom} done={done} /> : null}
      {mode === 'booked' && packing ? <BookedSheet order={order} packing={packing} mayShipFrom={mayShipFrom} done={done} /> : null}
      {mode === 'dispatch' ? <DispatchSheet order={order} packing={packing} mayShipFrom={mayShipFrom} done={done} /> : null}
    </>
  );
}
