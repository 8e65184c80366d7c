import { useParams } from 'react-router';
import type { SalesOrder } from '@larder/contract/outbound';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useReferenceQuery } from '../../shared/reference';
import { useSaleQuery } from './api';
import { ConfirmedOrder } from './ConfirmedOrder';
import { Quote } from './Quote';

/** A sales order: written while it is a quote; picked and dispatched once it is confirmed. */
export function SalePage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const { data, error } = useSaleQuery({ params: { id: Number(id) } }, { skip: isNew });
  const { data: me } = useMeQuery({});
  const { data: reference } = useReferenceQuery({});
  useTitle(isNew ? 'New quote' : (data?.number ?? 'Sales order'));
  if (!me || !reference || (!isNew && !data)) return <Waiting error={error} />;
  if (data && !isNew && !data.canEdit) return <ConfirmedOrder order={data} today={me.company.today} />;
  return (
    <Quote
      key={isNew ? 'new' : data?.id}
      order={isNew ? null : (data as SalesOrder)}
      today={me.company.today}
      currency={me.company.currency}
      sites={reference.sites}
      shipDays={reference.shipDays}
    />
  );
}
