import { useParams } from 'react-router';
import { useAddress } from '../../kit/address';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay, useMayAt } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { usePartyQuery, useReferenceQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { useCustomerReturnQuery } from './api';
import { ReceivedReturn } from './ReceivedReturn';
import { draftOf } from './returnForm';
import { ReturnSheet } from './ReturnSheet';

/** Goods that a customer brings back. `new` takes the first of them; one that is expected is written on until it is received. */
export function ReturnPage() {
  const { id = 'new' } = useParams();
  return id === 'new' ? <NewReturn /> : <KnownReturn id={Number(id)} />;
}

function NewReturn() {
  useTitle('Goods come back');
  const address = useAddress();
  const customerId = Number(address.get('customer')) || null;
  const { siteId } = useSite();
  const mayAt = useMayAt('outbound.return');
  const { data: me } = useMeQuery({});
  const { data: reference } = useReferenceQuery({});
  const { currentData: party } = usePartyQuery({ params: { id: customerId ?? 0 } }, { skip: customerId === null });
  if (!me || !reference || (customerId !== null && !party)) return <Waiting />;
  const sites = reference.sites.filter((one) => mayAt(one.id));
  const today = me.company.today;
  return (
    <ReturnSheet
      one={null}
      today={today}
      came={{
        customer: party ? { id: party.id, name: party.name } : null,
        siteId: (sites.find((one) => one.id === siteId) ?? sites[0])?.id ?? null,
        cameOn: today,
        reference: '',
        note: '',
        lines: [],
      }}
    />
  );
}

function KnownReturn({ id }: { id: number }) {
  const { currentData: one, error } = useCustomerReturnQuery({ params: { id } });
  const { data: me } = useMeQuery({});
  const may = useMay('outbound.return', one?.siteId);
  useTitle(one?.number ?? 'Return');
  if (!one || !me) return <Waiting error={error} />;
  const today = me.company.today;
  if (one.state === 'expected' && may) return <ReturnSheet key={one.id} one={one} came={draftOf(one, today)} today={today} />;
  return <ReceivedReturn key={`${one.id} ${one.version}`} one={one} today={today} />;
}
