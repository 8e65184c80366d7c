import { NavWays } from '../../kit/NavWays';

const ways = [
  ['/outbound', 'Orders'],
  ['/outbound/customers', 'Customers'],
  ['/outbound/prices', 'Price lists'],
] as const;

/** The ways into what goes out. */
export const OutboundWays = () => <NavWays label="Outbound" ways={ways} />;
