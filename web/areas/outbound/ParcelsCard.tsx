import Button from '@mui/material/Button';
import type { SalesOrder } from '@larder/contract/outbound';
import type { Parcel, Shipment } from '@larder/contract/shipping';
import { useState } from 'react';
import { count, moment, money } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { useAskAgainMutation, useCancelShipmentMutation, useNoteTakenMutation, usePrintParcelsMutation } from './api';
import type { Packing } from './packForm';
import { insideOf, weightSaid } from './parcelWords';

const states: Record<Shipment['state'], string> = {
  asking: 'the carrier is being asked',
  unanswered: 'no answer yet',
  refused: 'not booked',
  booked: 'booked, still here',
  dispatched: 'dispatched',
  taken: 'on its way',
  delivered: 'delivered',
};
const ways: Record<Shipment['way'], string> = { carrier: '', van: 'own van', collected: 'the customer collects' };

interface ParcelsCardProps {
  order: SalesOrder;
  packing: Packing;
  mayShipFrom: (siteId: number) => boolean;
}

/** The parcels of an order: those that are packed, and those that are booked or gone, with what can be done about them. */
export function ParcelsCard({ order, packing, mayShipFrom }: ParcelsCardProps) {
  const packed = packing.parcels.filter(({ shipmentId }) => shipmentId === null);
  if (packed.length === 0 && packing.shipments.length === 0) return null;
  return (
    <>
      {packed.length > 0 ? (
        <Card aria-label="Packed">
          <h2>Packed</h2>
          <Stack pad>
            <Rows parcels={packed} />
            <Papers order={order} parcels={packed} />
          </Stack>
        </Card>
      ) : null}
      {packing.shipments.map((shipment) => (
        <ShipmentCard
          key={shipment.id}
          order={order}
          shipment={shipment}
          parcels={packing.parcels.filter(({ shipmentId }) => shipmentId === shipment.id)}
          may={mayShipFrom(shipment.siteId)}
        />
      ))}
    </>
  );
}

/** Parcels, each with what is in it and where it is. */
const Rows = ({ parcels }: { parcels: readonly Parcel[] }) =>
  parcels.map((parcel) => (
    <div key={parcel.id}>
      <b>{parcel.number}</b> <span className="quiet">{weightSaid(parcel)}</span> <span className="code">{parcel.tracking}</span>
      <small className="name">{insideOf(parcel)}</small>
      {parcel.whereabouts === '' || parcel.toldAt === null ? null : (
        <small className="name quiet">
          {parcel.whereabouts}, {moment(parcel.toldAt)}
        </small>
      )}
    </div>
  ));

/** Labels and packing slips of parcels, and the PDF of what was printed last. */
function Papers({ order, parcels }: { order: SalesOrder; parcels: readonly Parcel[] }) {
  const [print, printing] = usePrintParcelsMutation();
  const [done, setDone] = useState<{ id: number; said: string } | null>(null);
  const run = async (paper: 'label' | 'slip', what: string) => {
    const { data } = await print({ params: { id: order.id }, body: { parcelIds: parcels.map(({ id }) => id), paper } });
    if (data) setDone({ id: data.id, said: `Printed ${what}.` });
  };
  const [labels, slips] = [count(parcels.length, 'label'), count(parcels.length, 'packing slip')];
  return (
    <>
      <Refused error={printing.error} />
      {done ? (
        <Notice kind="done">
          {done.said}{' '}
          <a href={`/api/printing/jobs/${done.id}/pdf`} target="_blank" rel="noreferrer">
            Open the PDF
          </a>
        </Notice>
      ) : null}
      <span>
        <Button size="small" disabled={printing.isLoading} onClick={() => void run('label', labels)}>
          Print {labels}
        </Button>{' '}
        <Button size="small" disabled={printing.isLoading} onClick={() => void run('slip', slips)}>
          Print {slips}
        </Button>
      </span>
    </>
  );
}

interface ShipmentCardProps {
  order: SalesOrder;
  shipment: Shipment;
  parcels: readonly Parcel[];
  may: boolean;
}

function ShipmentCard({ order, shipment, parcels, may }: ShipmentCardProps) {
  const { id, number, way, carrier, service, state, fault, nextTryAt, charged, expected } = shipment;
  const [again, asking] = useAskAgainMutation();
  const [cancel, cancelling] = useCancelShipmentMutation();
  const [taken, taking] = useNoteTakenMutation();
  const say = useSay();
  const isHere = ['asking', 'unanswered', 'refused', 'booked'].includes(state);
  const off = async () => {
    const { error } = await cancel({ params: { id }, body: {} });
    if (!error) say({ text: `The booking of ${number} is cancelled; its parcels are still packed.` });
  };
  return (
    <Card aria-label={number}>
      <h2>
        {number} <span className="quiet">{way === 'carrier' ? [carrier, service].filter(Boolean).join(', ') : ways[way]}</span>
      </h2>
      <Stack pad>
        <div role="status">
          {states[state]}
          {fault === '' ? null : (
            <small className={state === 'refused' ? 'late name' : 'name'}>
              {fault}
              {nextTryAt === null ? '' : ` It is asked again at ${moment(nextTryAt)}.`}
            </small>
          )}
          {way === 'carrier' && Number(expected) > 0 ? <small className="name quiet">freight {money(expected)}</small> : null}
          {Number(charged) > 0 ? <small className="name quiet">the customer is charged {money(charged)}</small> : null}
        </div>
        <Rows parcels={parcels} />
        <Refused error={asking.error ?? cancelling.error ?? taking.error} />
        {parcels.length > 0 && !['taken', 'delivered'].includes(state) ? <Papers order={order} parcels={parcels} /> : null}
        {may ? (
          <span>
            {state === 'unanswered' || state === 'refused' ? (
              <Button size="small" disabled={asking.isLoading} onClick={() => void again({ params: { id }, body: {} })}>
                Ask again
              </Button>
            ) : null}{' '}
            {isHere ? (
              <Button size="small" disabled={cancelling.isLoading} onClick={() => void off()}>
                Cancel the booking
              </Button>
            ) : null}{' '}
            {state === 'dispatched' ? (
              <Button size="small" disabled={taking.isLoading} onClick={() => void taken({ params: { id }, body: {} })}>
                {way === 'collected' ? 'It was collected' : 'The driver has it'}
              </Button>
            ) : null}
          </span>
        ) : null}
      </Stack>
    </Card>
  );
}
