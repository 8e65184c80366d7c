import { useParams, useSearchParams } from 'react-router';
import type { SalesOrder } from '@larder/contract/outbound';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { usePartyQuery, useReferenceQuery } from '../../shared/reference';
import { useCustomerItemsQuery, useSaleQuery } from './api';
import { ConfirmedOrder } from './ConfirmedOrder';
import { Quote } from './Quote';

/** A sales order: written while it is a quote; picked and dispatched once it is confirmed. */
export function SalePage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const [search] = useSearchParams();
  const copied = Number(search.get('copy')) || 0;
  const { currentData: data, error } = useSaleQuery({ params: { id: isNew ? copied : Number(id) } }, { skip: isNew && copied === 0 });
  const { data: me } = useMeQuery({});
  const { data: reference } = useReferenceQuery({});
  const customerId = Number(search.get('customer')) || 0;
  const wanted = (search.get('again') ?? '').split(',').map(Number).filter(Boolean);
  const { currentData: bought } = useCustomerItemsQuery({ params: { id: customerId } }, { skip: !isNew || wanted.length === 0 || customerId === 0 });
  const { currentData: customer } = usePartyQuery({ params: { id: customerId } }, { skip: !isNew || customerId === 0 });
  useTitle(isNew ? 'New quote' : (data?.number ?? 'Sales order'));
  if (!me || !reference || (!data && (!isNew || copied > 0)) || (isNew && customerId > 0 && (!customer || (wanted.length > 0 && !bought))))
    return <Waiting error={error} />;
  if (data && !isNew && !data.canEdit) return <ConfirmedOrder order={data} today={me.company.today} />;
  return (
    <Quote
      key={isNew ? `new ${copied} ${wanted.join(',')}` : data?.id}
      order={isNew ? null : (data as SalesOrder)}
      like={data}
      customer={customer}
      again={bought?.rows.filter(({ itemId, sold }) => sold && wanted.includes(itemId))}
      today={me.company.today}
      currency={me.company.currency}
      sites={reference.sites}
      shipDays={reference.shipDays}
      quoteDays={reference.quoteDays}
    />
  );
}
