import { useParams, useSearchParams } from 'react-router';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useReferenceQuery } from '../../shared/reference';
import { usePurchaseQuery } from './api';
import { DraftOrder } from './DraftOrder';
import { PlacedOrder } from './PlacedOrder';

/** A purchase order: written while it is a draft, followed once it is placed. */
export function PurchasePage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const [search] = useSearchParams();
  const copied = Number(search.get('copy')) || 0;
  const { currentData: data, error } = usePurchaseQuery({ params: { id: isNew ? copied : Number(id) } }, { skip: isNew && copied === 0 });
  const { data: me } = useMeQuery({});
  const { data: reference } = useReferenceQuery({});
  useTitle(isNew ? 'New purchase order' : (data?.number ?? 'Purchase order'));
  if (!me || !reference || (!data && (!isNew || copied > 0))) return <Waiting error={error} />;
  if (!isNew && data && !data.canEdit) return <PlacedOrder order={data} today={me.company.today} />;
  return (
    <DraftOrder
      key={isNew ? `new ${copied}` : data?.id}
      order={isNew ? null : (data as PurchaseOrder)}
      like={data}
      today={me.company.today}
      currency={me.company.currency}
      sites={reference.sites}
    />
  );
}
