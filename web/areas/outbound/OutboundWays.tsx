import { NavWays } from '../../kit/NavWays';
import { useMay } from '../../shared/may';

const ways = [
  ['/outbound', 'Orders'],
  ['/outbound/picking', 'To pick'],
  ['/outbound/lines', 'Lines that wait'],
  ['/outbound/customers', 'Customers'],
  ['/outbound/prices', 'Price lists'],
] as const;
const withMargin = [...ways, ['/outbound/margin', 'Margin']] as const;

/** The ways into what goes out. */
export const OutboundWays = () => <NavWays label="Outbound" ways={useMay('costs.see') ? withMargin : ways} />;
