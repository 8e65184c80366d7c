import { useSearchParams } from 'react-router';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useClearingQuery } from '../../shared/charges';
import { Entering } from './BillEntering';

/** A bill as it is entered: whose, for which goods at which prices, for which charges; what differs and what it does is said before it is posted. */
export function BillNewPage() {
  useTitle('Enter a bill');
  const [search] = useSearchParams();
  const wanted = Number(search.get('party')) || null;
  const { data: me } = useMeQuery({});
  const { data: clearing } = useClearingQuery({});
  const chosen = (search.get('charges') ?? '').split(',').map(Number);
  const charges = (clearing?.rows ?? []).filter(({ id }) => chosen.includes(id));
  const first = charges.find(({ partyId }) => partyId !== null);
  const fromOrder = wanted !== null ? { id: wanted, name: search.get('name') ?? '' } : null;
  const fromCharge = first?.partyId ? { id: first.partyId, name: first.party ?? '' } : null;
  const party = fromOrder ?? fromCharge;
  if (!me || !clearing) return <Waiting />;
  return (
    <Entering
      key={party?.id ?? 0}
      party={party}
      today={me.company.today}
      currency={me.company.currency}
      chosen={chosen}
      orderId={Number(search.get('order')) || null}
    />
  );
}
