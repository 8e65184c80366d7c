import { PartyList } from '../../shared/PartyList';
import { OutboundWays } from '../../shared/OutboundWays';

/** All customers. */
export const CustomersPage = () => <PartyList as="customer" title="Customers" base="/outbound/customers" ways={<OutboundWays />} />;
