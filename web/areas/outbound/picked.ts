import type { QueueRow } from '@larder/contract/picking';
import { lineAddress } from '../../kit/DocumentLink';

/** Where what is picked for can be looked at. */
export const linkOf = ({ kind, orderId }: Pick<QueueRow, 'kind' | 'orderId'>): string => lineAddress(kind, orderId);
