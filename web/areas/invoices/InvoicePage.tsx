import { useParams } from 'react-router';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useInvoiceQuery } from './api';
import { InvoiceStanding } from './InvoiceStanding';

/** An invoice or credit note as it was issued, with what was paid and credited of it. */
export function InvoicePage() {
  const { id = '' } = useParams();
  const { currentData: data, error } = useInvoiceQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data?.number ?? 'Invoice');
  if (!data || !me) return <Waiting error={error} />;
  return <InvoiceStanding key={`${data.id} ${data.open}`} invoice={data} today={me.company.today} own={me.company.currency} />;
}
