import type { QueueRow } from '@larder/contract/picking';

/** Where a customer's order, or a transfer, that is picked can be looked at. */
export const linkOf = ({ kind, orderId }: Pick<QueueRow, 'kind' | 'orderId'>): string =>
  kind === 'transfer' ? `/stock/transfers/${orderId}` : `/outbound/orders/${orderId}`;
