import Button from '@mui/material/Button';
import type { SalesOrder } from '@larder/contract/outbound';
import type { Offer, Parcel } from '@larder/contract/shipping';
import type { ReactNode } from 'react';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, money } from '../../kit/format';
import { Card, Fields, Split, Stack } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { useBookShipmentMutation } from './api';

interface BookForm {
  charged: string;
  typed: { expected: string; tracking: string }[];
}
const { Field } = fieldsOf<BookForm>();

/** Books parcels with a carrier; of one that is not asked over an interface, what it bills and its numbers are typed. */
export function BookParcels({
  order,
  parcels,
  offer,
  how,
  done,
}: {
  order: SalesOrder;
  parcels: readonly Parcel[];
  offer: Offer;
  how: ReactNode;
  done: () => void;
}) {
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
            <Field label="Charge the customer, before tax" name="charged" placeholder="nothing" />
            {offer.connected
              ? null
              : parcels.map(({ id, number }, index) => (
                  <Fields key={id}>
                    <Field label={`${offer.carrier} bills for ${number}`} name={`typed.${index}.expected`} />
                    <Field label={`Tracking number of ${number}`} name={`typed.${index}.tracking`} />
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
