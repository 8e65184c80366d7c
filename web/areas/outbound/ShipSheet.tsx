import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import type { SalesOrder } from '@larder/contract/outbound';
import type { Offer } from '@larder/contract/shipping';
import { useState } from 'react';
import { Check } from '../../kit/Check';
import { dueDay, money } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useCarrierOffersQuery } from './api';
import { BookParcels } from './BookParcels';
import { openParcels, packingSites, type Packing } from './packForm';
import { insideOf, weightSaid } from './parcelWords';
import { goingAlong, SendParcels } from './SendParcels';

interface ShipSheetProps {
  order: SalesOrder;
  packing: Packing;
  today: string;
  mayShipFrom: (siteId: number) => boolean;
  done: () => void;
}

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
  if (offer) return <BookParcels key={offer.connected ? 'asked' : 'typed'} order={order} parcels={chosen} offer={offer} how={how} done={done} />;
  return <SendParcels order={order} parcels={chosen} way={way === 'collected' ? 'collected' : 'van'} along={along} how={how} done={done} />;
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
