import type { orderTopUp } from '@larder/contract/planning';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Link } from 'react-router';
import { Notice } from '../kit/Notice';

/** Purchase orders that were just drafted, each to be looked over and placed, transfers that were asked for, and work that was planned, to be released. */
export const DraftsMade = ({ of }: { of: ResponseOf<typeof orderTopUp> }) => (
  <Notice kind="done">
    {of.orders.length > 0 ? 'Drafts to look over and place: ' : ''}
    {of.orders.map((one) => (
      <Link key={one.id} className="strong" to={`/inbound/orders/${one.id}`}>
        {one.number} {one.supplier}
      </Link>
    ))}
    {of.transfers.length > 0 ? ' Transfers, to be picked there: ' : ''}
    {of.transfers.map((one) => (
      <Link key={one.id} className="strong" to={`/stock/transfers/${one.id}`}>
        {one.number} {one.from} to {one.to}
      </Link>
    ))}
    {of.work.length > 0 ? ' Work to look over and release: ' : ''}
    {of.work.map((one) => (
      <Link key={one.id} className="strong" to={`/making/orders/${one.id}`}>
        {one.number} {one.sku}
      </Link>
    ))}
  </Notice>
);
