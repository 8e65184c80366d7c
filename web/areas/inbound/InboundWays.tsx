import { NavWays } from '../../kit/NavWays';

const ways = [
  ['/inbound', 'Orders'],
  ['/inbound/suppliers', 'Suppliers'],
] as const;

/** The ways into what comes in. */
export const InboundWays = () => <NavWays label="Inbound" ways={ways} />;
