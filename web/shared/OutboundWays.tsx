import { NavWays } from '../kit/NavWays';
import { useMay } from './may';

/** The ways into what goes out. */
export function OutboundWays() {
  const mayInvoice = useMay('books.invoice');
  const seesCost = useMay('costs.see');
  const ways: [string, string][] = [
    ['/outbound', 'Orders'],
    ['/outbound/picking', 'To pick'],
    ['/outbound/lines', 'Lines that wait'],
    ...(mayInvoice ? ([['/outbound/to-invoice', 'To invoice']] as [string, string][]) : []),
    ['/outbound/returns', 'Returns'],
    ['/outbound/customers', 'Customers'],
    ['/outbound/prices', 'Price lists'],
    ...(seesCost ? ([['/outbound/margin', 'Margin']] as [string, string][]) : []),
  ];
  return <NavWays label="Outbound" ways={ways} />;
}
