import Button from '@mui/material/Button';
import type { SalesOrder } from '@larder/contract/outbound';
import { count } from '../../kit/format';
import { Stack } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { doneOrKept } from '../../shared/floor/kept';
import { useSay } from '../../shared/say';
import { useForeseePickQuery, usePickListQuery, usePickMutation } from './api';
import { PutTogether } from './PutTogether';
import { PickingSheet, type Picked } from '../../shared/PickingSheet';

interface PickSheetProps {
  order: SalesOrder;
  mayShipFrom: (siteId: number) => boolean;
  done: () => void;
}

/** The pick list of one order, as soon as it is there. */
export function PickSheet({ order, mayShipFrom, done }: PickSheetProps) {
  const { data, error } = usePickListQuery({ params: { id: order.id } });
  const [pick] = usePickMutation();
  const say = useSay();
  const useForeseen = (body: Picked | null) => {
    const { currentData, error: foreseen } = useForeseePickQuery(
      { body: { orderId: order.id, ...(body ?? { lines: [], short: [], shortReason: '' }), othersRound: true } },
      { skip: body === null },
    );
    return { effects: currentData?.effects, error: foreseen };
  };
  if (!data) return <Waiting error={error} />;
  return (
    <Stack>
      <PutTogether made={data.made} />
      <PickingSheet
        rows={data.rows.filter(({ siteId }) => mayShipFrom(siteId))}
        missing={data.missing}
        useForeseen={useForeseen}
        send={(body, _allTaken, moves) => {
          const kept = { words: `Pick ${count(body.lines.length, 'line')} of ${order.number}`, to: `/outbound/orders/${order.id}`, moves };
          return pick({ body: { orderId: order.id, ...body }, kept });
        }}
        done={(answer, lines) => {
          const sent = count(lines, 'line');
          say(doneOrKept(answer, `${sent} of ${order.number} on the bench.`, `the pick of ${sent}`));
          done();
        }}
      >
        <Button onClick={done}>Back to the order</Button>
      </PickingSheet>
    </Stack>
  );
}
