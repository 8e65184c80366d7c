import { PartyList } from '../../shared/PartyList';
import { InboundWays } from './InboundWays';

/** All suppliers. */
export const SuppliersPage = () => <PartyList as="supplier" title="Suppliers" base="/inbound/suppliers" ways={<InboundWays />} />;
