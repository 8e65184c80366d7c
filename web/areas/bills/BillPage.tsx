import { useParams } from 'react-router';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useBillQuery } from './api';
import { Standing } from './BillStanding';

/** A bill as it was entered, with what it did, what was paid on it, and what is open. */
export function BillPage() {
  const { id = '' } = useParams();
  const { data, error } = useBillQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data?.number ?? 'Bill');
  if (!data || !me) return <Waiting error={error} />;
  return <Standing key={data.open} bill={data} today={me.company.today} own={me.company.currency} />;
}
