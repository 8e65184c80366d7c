import Button from '@mui/material/Button';
import type { SalesOrder } from '@larder/contract/outbound';
import type { Parcel, Shipment } from '@larder/contract/shipping';
import type { ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Card, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { useDispatchMutation, useForeseeDispatchQuery } from './api';
import { goesOut } from './cover';
import type { Packing } from './packForm';
import { insideOf, weightSaid } from './parcelWords';

/** What is not kept in stock and has not gone: it goes with whatever goes first. */
export const goingAlong = (order: SalesOrder, mayShipFrom: (siteId: number) => boolean) =>
  order.lines
    .filter((line) => !line.stocked && Number(goesOut(line)) > 0 && mayShipFrom(line.siteId))
    .map((line) => ({ lineId: line.id, quantity: goesOut(line), sku: line.sku, name: line.name }));

interface SendForm {
  charged: string;
}
const { Field } = fieldsOf<SendForm>();

interface SendingProps {
  order: SalesOrder;
  parcels: readonly Parcel[];
  /** A booked shipment, or how it goes without one. */
  shipment?: Shipment;
  way?: 'van' | 'collected';
  along: ReturnType<typeof goingAlong>;
  how: ReactNode;
  done: () => void;
}

/** Sends parcels out, and what is not kept in stock with them. */
export function SendParcels({ order, parcels, shipment, way, along, how, done }: SendingProps) {
  const [dispatch] = useDispatchMutation();
  const say = useSay();
  const bodyOf = ({ charged }: SendForm) => ({
    orderId: order.id,
    ...(shipment
      ? { shipmentId: shipment.id }
      : { parcelIds: parcels.map(({ id }) => id), way: way ?? null, charged: charged.trim() === '' ? '0' : charged.trim() }),
    lines: along.map(({ lineId, quantity }) => ({ lineId, quantity })),
  });
  const form = useForm({
    came: { charged: '' },
    body: bodyOf,
    checkedBy: async () => (await import('@larder/contract/shipping')).dispatch.body,
  });
  const typed = useWatch({ control: form.control }) as SendForm;
  const asked = useDelayed({ ...bodyOf({ ...typed, charged: '0' }), part: true }, 250);
  const { currentData, error } = useForeseeDispatchQuery({ body: asked }, { skip: parcels.length === 0 });
  const post = async (part = false) => {
    const posted = await form.send((body) => dispatch({ body: part ? { ...body, part } : body }));
    if (!posted) return;
    const sent = count(parcels.length, 'parcel');
    say({ text: `Dispatched ${sent} of ${order.number}.`, undo: { movementId: posted.movementId, what: `the dispatch of ${sent}` } });
    done();
  };
  const asks = form.refused?.asks ?? [];
  const by = shipment ? shipment.carrier || 'own van' : way === 'collected' ? 'the customer' : 'own van';
  return (
    <FormFrame form={form} save={() => void post()} foreseen={parcels.length > 0 ? problemOf(error) : null}>
      <Split>
        <Stack>
          {form.refused && asks.includes('part') ? (
            <Asking question={form.refused.title} answers={[{ label: 'Send the part', run: () => void post(true) }]} busy={form.isBusy} />
          ) : (
            <Refused error={form.refused} />
          )}
          {how}
          {along.length > 0 ? (
            <p className="quiet">With them, not from stock: {along.map(({ quantity, sku, name }) => `${quantity} ${sku} ${name}`).join(', ')}.</p>
          ) : null}
          {shipment ? null : (
            <Card pad aria-label="Freight">
              <Field label="Charge the customer, before tax" name="charged" placeholder="nothing" />
            </Card>
          )}
        </Stack>
        <EffectPanel title="What dispatching will change" effects={currentData?.effects} error={error} idle="Nothing goes out yet." />
        <BottomBar
          hint={shipment ? `${shipment.number} is booked` : 'What stays here can go another time'}
          next={{
            label: `Dispatch ${count(parcels.length, 'parcel')} ${by === 'the customer' ? 'to' : 'with'} ${by}`,
            run: () => void post(),
            disabled: form.isBusy || parcels.length === 0,
          }}
        >
          <Button onClick={done}>Back to the order</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}

interface BookedSheetProps {
  order: SalesOrder;
  packing: Packing;
  mayShipFrom: (siteId: number) => boolean;
  done: () => void;
}

/** Sends out what a carrier has said yes to. */
export function BookedSheet({ order, packing, mayShipFrom, done }: BookedSheetProps) {
  const [shipment] = packing.shipments.filter(({ state, siteId }) => state === 'booked' && mayShipFrom(siteId));
  if (!shipment) return null;
  const parcels = packing.parcels.filter(({ shipmentId }) => shipmentId === shipment.id);
  const how = (
    <Card aria-label={shipment.number}>
      <h2>
        {shipment.number} <span className="quiet">{[shipment.carrier, shipment.service].filter(Boolean).join(', ')}</span>
      </h2>
      {parcels.map((parcel) => (
        <p key={parcel.id} className="pad">
          <b>{parcel.number}</b> <span className="quiet">{weightSaid(parcel)}</span> <span className="code">{parcel.tracking}</span>
          <small className="name">{insideOf(parcel)}</small>
        </p>
      ))}
    </Card>
  );
  return <SendParcels order={order} parcels={parcels} shipment={shipment} along={goingAlong(order, mayShipFrom)} how={how} done={done} />;
}
