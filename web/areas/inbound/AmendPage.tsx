import Box from '@mui/material/Box';
import { Card, PageHead, Stack } from '../../kit/layout';
import { useNavigate, useParams } from 'react-router';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { useForm } from '../../kit/form';
import { fieldsOf, upper } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { useWatch } from 'react-hook-form';
import { BottomBar } from '../../kit/BottomBar';
import { lineKey } from '../../shared/draftLines';
import { LineSheet } from '../../shared/LineSheet';
import { Refused, Waiting } from '../../kit/states';
import { Clashes } from '../../shared/Clashes';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useAmendPurchaseMutation, usePurchaseQuery } from './api';
import { amendForm, sentAmendment, type AmendForm } from './amendForm';
import { AmendLines } from './AmendLines';
import { useSay } from '../../shared/say';

/** Changing an order that was placed: its days, what is called off, and lines added. */
export function AmendPage() {
  const { id = '' } = useParams();
  const { data, error } = usePurchaseQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data ? `Change ${data.number}` : 'Change order');
  if (!data || !me) return <Waiting error={error} />;
  return <AmendSheet key={data.id} order={data} today={me.company.today} own={me.company.currency} />;
}

const names = {
  expectedOn: 'the day it is expected',
  orderedOn: 'the day it was ordered',
  currency: 'the currency',
  rate: 'the rate',
  lines: 'the same lines',
};
const { Day, Field } = fieldsOf<AmendForm>();

function AmendSheet({ order, today, own }: { order: PurchaseOrder; today: string; own: string }) {
  const navigate = useNavigate();
  const form = useForm({
    came: amendForm(order),
    version: order.version,
    rowKeys: { lines: ({ lineId }) => String(lineId), added: lineKey },
    body: (typed: AmendForm) => sentAmendment(order, typed, own),
    checkedBy: async () => (await import('@larder/contract/inbound')).amendPurchase.body,
  });
  const currency = useWatch({ control: form.control, name: 'currency' });
  const [amend] = useAmendPurchaseMutation();
  const say = useSay();
  const save = async () => {
    if (!(await form.send((body, _typed, version) => amend({ params: { id: order.id }, body: { ...body, version } })))) return;
    say({ text: `${order.number} is changed.` });
    void navigate(`/inbound/orders/${order.id}`);
  };
  return (
    <FormFrame form={form} save={() => void save()}>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Change {order.number}</h1>
          <span className="quiet">{order.supplier}; what changes is kept with the order</span>
        </PageHead>
        <Refused error={form.refused} />
        <Clashes of={{ kind: 'purchase order', id: order.id }} writing={form} names={names} />
        <Card pad fields aria-label="Order">
          <Day label="Expected" name="expectedOn" today={today} />
          <Day label="Ordered on" lies="behind" name="orderedOn" today={today} />
          <Field label="Currency of what is still to come" name="currency" read={upper} />
          {currency === own ? null : <Field label={`${own} for one ${currency}`} name="rate" />}
        </Card>
        <AmendLines order={order} today={today} />
        <Box component="h2" className="quiet" sx={{ margin: 0 }}>
          Lines added
        </Box>
        <LineSheet name="added" way="buys" />
        <BottomBar hint="Nothing is sent to the supplier by itself" next={{ label: `Change ${order.number}`, run: () => void save(), disabled: form.isBusy }} />
      </Stack>
    </FormFrame>
  );
}
