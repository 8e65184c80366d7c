import { Link, useSearchParams } from 'react-router';
import { State } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useProposeInvoiceQuery } from './api';
import { InvoiceSheet } from './InvoiceSheet';
import { SeveralInvoices } from './SeveralInvoices';

/** Invoices for orders: one that is looked over before it is issued, or several at once where the orders are of several customers. */
export function InvoiceNewPage() {
  useTitle('New invoice');
  const [search] = useSearchParams();
  const orders = search.get('orders') ?? '';
  const { data: me } = useMeQuery({});
  const { currentData: proposal, error } = useProposeInvoiceQuery({ query: { orders } }, { skip: orders === '' });
  if (orders === '')
    return (
      <State>
        Choose first what is invoiced: <Link to="/outbound/to-invoice">what went out</Link>.
      </State>
    );
  if (!me || !proposal) return <Waiting error={error} />;
  if (proposal.dispatches.length === 0)
    return (
      <State>
        Nothing of this is left to invoice. <Link to="/books/invoices?show=all">Look at the invoices</Link>.
      </State>
    );
  const { today, currency } = me.company;
  const ids = proposal.orders.map(({ id }) => id);
  return proposal.partyId === null || search.get('each') ? (
    <SeveralInvoices orderIds={ids} today={today} />
  ) : (
    <InvoiceSheet key={orders} proposal={proposal} today={today} own={currency} />
  );
}
