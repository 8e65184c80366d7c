import Box from '@mui/material/Box';
import { Card, PageHead, Stack } from '../../kit/layout';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { sentLines, type DraftLine } from '../../shared/draftLines';
import { LineSheet } from '../../shared/LineSheet';
import { Refused, Waiting } from '../../kit/states';
import { useWriting } from '../../kit/writing';
import { Clashes } from '../../shared/Clashes';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useAmendPurchaseMutation, usePurchaseQuery } from './api';
import { AmendLines, type AmendTyped } from './AmendLines';

/** Changing an order that was placed: its days, what is called off, and lines added. */
export function AmendPage() {
  const { id = '' } = useParams();
  const { data, error } = usePurchaseQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data ? `Change ${data.number}` : 'Change order');
  if (!data || !me) return <Waiting error={error} />;
  return <AmendSheet key={data.id} order={data} today={me.company.today} own={me.company.currency} />;
}

const names = { expectedOn: 'the day it is expected', orderedOn: 'the day it was ordered', currency: 'the currency', rate: 'the rate' };

function AmendSheet({ order, today, own }: { order: PurchaseOrder; today: string; own: string }) {
  const navigate = useNavigate();
  const writing = useWriting({ expectedOn: order.expectedOn, orderedOn: order.orderedOn, currency: order.currency, rate: order.rate }, order.version);
  const { put } = writing;
  const { expectedOn, orderedOn, currency, rate } = writing.form;
  const [typed, setTyped] = useState<AmendTyped>({ days: {}, off: {}, prices: {} });
  const { days, off, prices } = typed;
  const [added, setAdded] = useState<DraftLine[]>([]);
  const [amend, amending] = useAmendPurchaseMutation();
  const { refused, problem, busy, at } = refusalOf(amending);
  const body = {
    version: order.version,
    expectedOn,
    ...(orderedOn === null || orderedOn === order.orderedOn ? {} : { orderedOn }),
    ...(currency === order.currency && rate.trim() === order.rate ? {} : { currency, rate: currency === own ? '1' : rate.trim() }),
    lines: order.lines.map((line) => ({
      lineId: line.id,
      expectedOn: days[line.id] === undefined ? line.expectedOn : (days[line.id] ?? null),
      callOff: off[line.id]?.trim() || null,
      price: prices[line.id]?.trim() || null,
    })),
    added: sentLines(added),
  };
  // Lines added are checked as lines of their own.
  const addedProblem = problem?.errors.some(({ field }) => /\.(callOff|price)$/.test(field)) ? null : problem;
  const save = async () => {
    if (!(await amend({ params: { id: order.id }, body })).error) void navigate(`/inbound/orders/${order.id}`);
  };
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Change {order.number}</h1>
        <span className="quiet">{order.supplier}; what changes is kept with the order</span>
      </PageHead>
      <Refused error={refused} />
      <Clashes of={{ kind: 'purchase order', id: order.id }} writing={writing} names={names} />
      <Card pad fields aria-label="Order">
        <DayField label="Expected" value={expectedOn} today={today} onChange={(day) => put({ expectedOn: day })} error={at('expectedOn')} />
        <DayField
          label="Ordered on"
          lies="behind"
          value={orderedOn ?? order.placedAt?.slice(0, 10) ?? null}
          today={today}
          onChange={(day) => put({ orderedOn: day })}
          error={at('orderedOn')}
        />
        <Field label="Currency of what is still to come" value={currency} onChange={(text) => put({ currency: text.toUpperCase() })} error={at('currency')} />
        {currency === own ? null : <Field label={`${own} for one ${currency}`} value={rate} onChange={(text) => put({ rate: text })} error={at('rate')} />}
      </Card>
      <AmendLines order={order} today={today} typed={typed} put={(part) => setTyped((was) => ({ ...was, ...part }))} at={at} />
      <Box component="h2" className="quiet" sx={{ margin: 0 }}>
        Lines added
      </Box>
      <LineSheet lines={added} change={setAdded} way="buys" problem={addedProblem} />
      <BottomBar hint="Nothing is sent to the supplier by itself" next={{ label: `Change ${order.number}`, run: () => void save(), disabled: busy }} />
    </Stack>
  );
}
