import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import { memo } from 'react';
import { Card } from '../../kit/layout';
import { useSteady } from '../../kit/steady';
import { CellCheck } from '../../kit/Check';
import { type Tally } from '@larder/core/inbound/tally';
import type { DeskLine } from '@larder/contract/receiving';
import { DeliveryDue, DeliveryLine, type Put } from './DeliveryLine';

interface DeliveryProps {
  lines: readonly DeskLine[];
  today: string;
  tally: Tally;
  put: (lines: Put[]) => void;
  held: boolean;
  hold: (delivery: string) => void;
}

/** One open order at the desk: what it wants, what was counted, and where that goes. */
export function Delivery({ lines, today, tally, put, held, hold }: DeliveryProps) {
  const first = lines[0] as DeskLine;
  const takeAll = useSteady(() =>
    put(lines.map((line) => ({ lineId: line.lineId, put: { quantity: line.outstanding, binId: tally.lines[line.lineId]?.binId ?? line.binId } }))),
  );
  return (
    <Card aria-label={`${first.orderNumber} ${first.supplier}`}>
      <Head line={first} today={today} held={held} hold={hold} takeAll={takeAll} />
      <Table className="floor">
        <TableBody>
          {lines.map((line) => (
            <DeliveryLine key={line.lineId} line={line} at={tally.lines[line.lineId]} put={put} />
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

interface HeadProps extends Pick<DeliveryProps, 'today' | 'held' | 'hold'> {
  line: DeskLine;
  takeAll: () => void;
}

/** What the delivery is; not drawn anew at each scan. */
const Head = memo(function Head({ line, today, held, hold, takeAll }: HeadProps) {
  const { delivery, kind, orderNumber, supplier } = line;
  return (
    <Box component="h2" sx={{ display: 'flex', alignItems: 'center', gap: 10 }}>
      <Box component="label" sx={{ display: 'flex', gap: 6, alignItems: 'center' }}>
        <CellCheck checked={held} onChange={() => hold(delivery)} label={`Hold to ${orderNumber}`} />
        {orderNumber} {kind === 'transfer' ? `from ${supplier}` : supplier}
      </Box>
      <Box component="span" sx={{ margin: 0 }}>
        <DeliveryDue line={line} today={today} />
      </Box>
      <Button size="small" sx={{ marginLeft: 'auto' }} onClick={takeAll} aria-label={`Take all of ${orderNumber}`}>
        Take all
      </Button>
    </Box>
  );
});
