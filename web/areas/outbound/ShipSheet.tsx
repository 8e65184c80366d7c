import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import type { SalesOrder } from '@larder/contract/outbound';
import type { Offer, Parcel, Shipment } from '@larder/contract/shipping';
import { useState, type ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { Check } from '../../kit/Check';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, dueDay, money } from '../../kit/format';
import { Card, Fields, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { Refused, Waiting } from '../../kit/states';
import { useSay } from '../../shared/say';
import { useBookShipmentMutation, useCarrierOffersQuery, useDispatchMutation, useForeseeDispatchQuery } from './api';
import { goesOut } from './cover';
import { openParcels, packingSites, type Packing } from './packForm';

interface ShipSheetProps {
  order: SalesOrder;
  packing: Packing;
  today: string;
  mayShipFrom: (siteId: number) => boolean;
  done: () => void;
}

/** "2 SMOKER, 1 VEIL": what is in a parcel, and what it weighs. */
export const insideOf = ({ contents }: Pick<Parcel, 'contents'>): string =>
  contents.map(({ quantity, sku, lot }) => `${quantity} ${sku}${lot === null ? '' : ` (${lot})`}`).join(', ');
export const weightSaid = ({ weight, reckoned }: Pick<Parcel, 'weight' | 'reckoned'>): string => {
  const known = weight ?? reckoned;
  return known === null ? 'not weighed' : `${known} kg`;
};

/** What is not kept in stock and has not gone: it goes with whatever goes first. */
const goingAlong = (order: SalesOrder, mayShipFrom: (siteId: number) => boolean) =>
  order.lines
    .filter((line) => !line.stocked && Number(goesOut(line)) > 0 && mayShipFrom(line.siteId))
    .map((line) => ({ lineId: line.id, quantity: goesOut(line), sku: line.sku, name: line.name }));

const wayOf = ({ carrierId, service }: Offer): string => `${carrierId} ${service}`;

/** How parcels go: by a carrier, who is booked first, by own van, or the customer collects them. */
export function ShipSheet({ order, packing, today, mayShipFrom, done }: ShipSheetProps) {
  const sites = packingSites(packing).filter(({ siteId }) => mayShipFrom(siteId) && openParcels(packing, siteId).length > 0);
  const siteId = sites[0]?.siteId ?? 0;
  const parcels = openParcels(packing, siteId);
  const [left, setLeft] = useState<readonly number[]>([]);
  const chosen = parcels.filter(({ id }) => !left.includes(id));
  const parcelIds = chosen.map(({ id }) => id);
  const { currentData, data, error } = useCarrierOffersQuery({ params: { id: order.id }, body: { parcelIds } }, { skip: parcelIds.length === 0 });
  const known = currentData ?? data;
  const offers = known?.offers ?? [];
  const [said, setWay] = useState<string | null>(null);
  const cheapest = [...offers].filter(({ price }) => price !== null).sort((a, b) => Number(a.price) - Number(b.price))[0];
  const way = said ?? (cheapest ? wayOf(cheapest) : 'van');
  const offer = offers.find((one) => wayOf(one) === way);
  const how = (
    <>
      <Card aria-label="Parcels that go">
        <h2>Parcels that go{sites.length > 1 ? `, from ${sites[0]?.site ?? ''}` : ''}</h2>
        <Stack pad>
          {parcels.map((parcel) => (
            <Check
              key={parcel.id}
              label={
                <>
                  <b>{parcel.number}</b> <span className="quiet">{weightSaid(parcel)}</span>
                  <small className="name">{insideOf(parcel)}</small>
                </>
              }
              checked={!left.includes(parcel.id)}
              onChange={(goes) => setLeft((ids) => (goes ? ids.filter((id) => id !== parcel.id) : [...ids, parcel.id]))}
            />
          ))}
        </Stack>
      </Card>
      <Card aria-label="How it goes">
        <h2 id="how-it-goes">How it goes</h2>
        <Stack pad>
          <Refused error={error} />
          <RadioGroup aria-labelledby="how-it-goes" value={way} onChange={(_, chosenWay) => setWay(chosenWay)}>
            {offers.map((one) => (
              <FormControlLabel
                key={wayOf(one)}
                value={wayOf(one)}
                disabled={one.refusal !== ''}
                control={<Radio />}
                label={<OfferSaid offer={one} today={today} />}
              />
            ))}
            <FormControlLabel value="van" control={<Radio />} label="Own van" />
            <FormControlLabel value="collected" control={<Radio />} label="The customer collects" />
          </RadioGroup>
        </Stack>
      </Card>
    </>
  );
  const along = goingAlong(order, mayShipFrom);
  // What is proposed goes by what they ask: nothing is offered before that is known.
  if (!known && !error && parcelIds.length > 0) return <Waiting />;
  if (offer) return <Booking key={offer.connected ? 'asked' : 'typed'} order={order} parcels={chosen} offer={offer} how={how} done={done} />;
  return <Sending order={order} parcels={chosen} way={way === 'collected' ? 'collected' : 'van'} along={along} how={how} done={done} />;
}

const OfferSaid = ({ offer, today }: { offer: Offer; today: string }) => (
  <>
    <b>{[offer.carrier, offer.service].filter(Boolean).join(', ')}</b>{' '}
    {offer.price === null ? null : (
      <span>
        {money(offer.price)}
        {offer.arrivesOn === null ? '' : `, there ${dueDay(offer.arrivesOn, today)}`}
      </span>
    )}
    {offer.price === null && offer.refusal === '' ? <span className="quiet">price and tracking number are typed</span> : null}
    {offer.refusal === '' ? null : <small className="late name">{offer.refusal}</small>}
  </>
);

interface BookForm {
  charged: string;
  typed: { expected: string; tracking: string }[];
}
const booking = fieldsOf<BookForm>();

/** Books parcels with a carrier; of one that is not asked over an interface, what it bills and its numbers are typed. */
function Booking({ order, parcels, offer, how, done }: { order: SalesOrder; parcels: readonly Parcel[]; offer: Offer; how: ReactNode; done: () => void }) {
  const [book] = useBookShipmentMutation();
  const say = useSay();
  const form = useForm({
    came: { charged: '', typed: parcels.map(() => ({ expected: '', tracking: '' })) },
    body: ({ charged, typed }: BookForm) => ({
      parcelIds: parcels.map(({ id }) => id),
      carrierId: offer.carrierId,
      service: offer.service,
      charged: charged.trim() === '' ? '0' : charged,
      typed: offer.connected
        ? []
        : parcels.map(({ id }, index) => ({ parcelId: id, expected: typed[index]?.expected ?? '', tracking: typed[index]?.tracking ?? '' })),
    }),
    checkedBy: async () => (await import('@larder/contract/shipping')).bookShipment.body,
  });
  const post = async () => {
    const booked = await form.send((body) => book({ params: { id: order.id }, body }));
    if (!booked) return;
    say({ text: `${booked.number}: ${count(parcels.length, 'parcel')} booked with ${offer.carrier}.` });
    done();
  };
  const price = offer.price === null ? '' : `, ${money(offer.price)}`;
  return (
    <FormFrame form={form} save={() => void post()}>
      <Split>
        <Stack>
          <Refused error={form.refused} />
          {how}
        </Stack>
        <Card aria-label="Freight">
          <h2>Freight</h2>
          <Stack pad>
            <booking.Field label="Charge the customer, before tax" name="charged" placeholder="nothing" />
            {offer.connected
              ? null
              : parcels.map(({ id, number }, index) => (
                  <Fields key={id}>
                    <booking.Field label={`${offer.carrier} bills for ${number}`} name={`typed.${index}.expected`} />
                    <booking.Field label={`Tracking number of ${number}`} name={`typed.${index}.tracking`} />
                  </Fields>
                ))}
            <p className="quiet">What {offer.carrier} will bill is expected from the day it goes out.</p>
          </Stack>
        </Card>
        <BottomBar
          hint="The goods stay on the bench until they are dispatched"
          next={{
            label: `Book ${count(parcels.length, 'parcel')} with ${offer.carrier}${price}`,
            run: () => void post(),
            disabled: form.isBusy || parcels.length === 0 || offer.refusal !== '',
          }}
        >
          <Button onClick={done}>Back to the order</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}

interface SendForm {
  charged: string;
}
const sending = fieldsOf<SendForm>();

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
function Sending({ order, parcels, shipment, way, along, how, done }: SendingProps) {
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
              <sending.Field label="Charge the customer, before tax" name="charged" placeholder="nothing" />
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

/** Sends out what a carrier has said yes to. */
export function BookedSheet({ order, packing, mayShipFrom, done }: Omit<ShipSheetProps, 'today'>) {
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
  return <Sending order={order} parcels={parcels} shipment={shipment} along={goingAlong(order, mayShipFrom)} how={how} done={done} />;
}
