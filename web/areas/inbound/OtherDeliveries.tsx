import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card, State } from '../../kit/layout';
import { CellCheck } from '../../kit/Check';
import { memo } from 'react';
import type { DeskLine } from '@larder/contract/receiving';
import { count } from '../../kit/format';
import { DeliveryDue } from './DeliveryLine';

interface OtherDeliveriesProps {
  /** One line of each open order whose lines are not drawn, and whether something is counted on it. */
  orders: readonly { line: DeskLine; begun: boolean }[];
  today: string;
  /** Whether receiving is held to some orders, so that these are left untouched. */
  held: boolean;
  hold: (delivery: string) => void;
}

/** Orders listed at once. */
const mostListed = 200;

/** Open orders without their lines, to hold to them too. A scan leaves them as they are, and they are not drawn again for it. */
export const OtherDeliveries = memo(function OtherDeliveries({ orders, today, held, hold }: OtherDeliveriesProps) {
  if (orders.length === 0) return null;
  return (
    <Card aria-label="Other open orders">
      <h2>
        {count(orders.length, 'other open order')}
        <span>{held ? 'left untouched; tick one to hold to it too' : 'due later; a scan finds them, and a tick holds to them'}</span>
      </h2>
      <Table className="floor">
        <TableBody>
          {orders.slice(0, mostListed).map(({ line: first, begun }) => (
            <TableRow key={first.delivery}>
              <TableCell>
                <Box component="label" sx={{ display: 'flex', gap: 6, alignItems: 'center' }}>
                  <CellCheck checked={false} onChange={() => hold(first.delivery)} label={`Hold to ${first.orderNumber}`} />
                  {first.orderNumber} {first.kind === 'transfer' ? `from ${first.supplier}` : first.supplier}
                </Box>
              </TableCell>
              <TableCell className="quiet">
                <DeliveryDue line={first} today={today} />
                {begun ? <b className="low"> counted in part; that waits</b> : null}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {orders.length > mostListed ? <State>{orders.length - mostListed} more, due later still; open one under Inbound and receive it from there.</State> : null}
    </Card>
  );
});
