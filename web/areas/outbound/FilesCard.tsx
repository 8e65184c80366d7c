import type { SalesOrder } from '@larder/contract/outbound';
import { moment, quantity } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';

/** An order as papers and files: its confirmation and its pick list as PDFs, itself and each dispatch of it as UBL. */
export function FilesCard({ order }: { order: SalesOrder }) {
  const sent = order.movements.filter(({ kind, undone, undoes }) => (kind === 'dispatch' || kind === 'drop-shipment') && !undone && !undoes);
  return (
    <Card aria-label="Files">
      <h2>Files</h2>
      <Stack pad sx={{ gap: 6 }}>
        <a href={`/api/post/sales/${order.id}/paper`} target="_blank" rel="noreferrer">
          Confirmation as PDF
        </a>
        {order.open ? (
          <a href={`/api/outbound/orders/${order.id}/pick-list/paper`} target="_blank" rel="noreferrer">
            Pick list as PDF
          </a>
        ) : null}
        <a href={`/api/ubl/orders/${order.id}`} download>
          Order as UBL
        </a>
        {sent.map((one) => (
          <a key={one.id} href={`/api/ubl/dispatches/${one.id}`} download>
            Despatch advice of {quantity(one.quantity)}, {moment(one.postedAt)}, as UBL
          </a>
        ))}
      </Stack>
    </Card>
  );
}
