import Button from '@mui/material/Button';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Asking } from '../../kit/Asking';
import { useChangeAsked } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { count } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useSteady } from '../../kit/steady';
import { useTitle } from '../../kit/title';
import { TeachCode } from '../../shared/TeachCode';
import { Delivery } from './Delivery';
import { type Put } from './DeliveryLine';
import { DeskSaid } from './DeskSaid';
import { DeskSide } from './DeskSide';
import { OtherDeliveries } from './OtherDeliveries';
import { useDesk, type Desk } from './useDesk';

/** Deliveries drawn at once, beside those that something is counted on. */
const mostDrawn = 40;

/** The receiving desk over all open orders: scan or type what is there; each goes to the earliest due line that wants it. */
export function DeskPage() {
  useTitle('Receiving desk');
  const [search] = useSearchParams();
  const ask = useChangeAsked();
  const chosen = search.getAll('order');
  const desk = useDesk(chosen);
  const { orders, said, change, asking, today } = desk;
  const [teaching, setTeaching] = useState('');
  const hold = useCallback(
    (delivery: string) =>
      ask((asked) => {
        const held = asked.getAll('order');
        const next = held.includes(delivery) ? held.filter((id) => id !== delivery) : [...held, delivery];
        asked.delete('order');
        next.forEach((id) => asked.append('order', id));
      }),
    [ask],
  );
  const put = useSteady((lines: Put[]) => void change({ what: 'put', lines }));
  const { shown, others } = useDrawn(desk, chosen);
  if (!desk.isReady || today === undefined) return <Waiting error={desk.error} />;
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Receiving desk</h1>
          <span className="quiet">
            {chosen.length > 0 ? `held to ${count(chosen.length, 'order')}` : `${count(orders.size, 'open order')}: scan, or type quantities`}
          </span>
          {chosen.length > 0 ? (
            <Button size="small" onClick={() => ask((asked) => asked.delete('order'), { replace: false })}>
              Show all orders
            </Button>
          ) : null}
        </PageHead>
        {said ? (
          <DeskSaid
            said={said}
            takeExtra={desk.takeExtra}
            setAside={({ itemId, sku, quantity: many }) => {
              change({ what: 'set-aside', itemId, sku, quantity: many });
              desk.setSaid({ kind: 'done', text: `${many} × ${sku} put aside.` });
            }}
            teach={setTeaching}
          />
        ) : null}
        {teaching ? <TeachCode code={teaching} close={() => setTeaching('')} /> : null}
        {asking ? (
          <Asking
            question={asking.title}
            answers={[
              asking.asks.includes('over-receipt')
                ? { label: 'Take them all', run: desk.agreeToExtra }
                : { label: 'Take it all the same', run: () => desk.agree(asking.asks) },
            ]}
          />
        ) : (
          <Refused error={desk.refused} />
        )}
        {shown.map((delivery) => (
          <Delivery key={delivery} lines={orders.get(delivery) ?? []} today={today} tally={desk.tally} put={put} held={chosen.includes(delivery)} hold={hold} />
        ))}
        <OtherDeliveries orders={others} today={today} held={chosen.length > 0} hold={hold} />
        {orders.size === 0 ? (
          <Card state component="p">
            Nothing is on order here. Place a purchase order under Inbound and it will wait on this desk.
          </Card>
        ) : null}
      </Stack>
      <DeskSide desk={desk} today={today} />
      <BottomBar
        hint={desk.unsent > 0 ? `${count(desk.unsent, 'change')} not sent yet; kept on this machine` : 'Each scan counts one; 12 and a code counts twelve'}
        next={{ label: `Receive ${count(desk.received, 'line')}`, run: () => void desk.post(), disabled: desk.received === 0 || desk.isPosting }}
      >
        <Button disabled={desk.received === 0} onClick={desk.startOver}>
          Start over
        </Button>
      </BottomBar>
    </Split>
  );
}

/** Which deliveries are drawn whole, and which are only named: the same ones again while nothing about them changed, so that a scan draws few of them anew. */
function useDrawn({ orders, begun }: Desk, chosen: readonly string[]) {
  const wanted = [...orders.keys()].filter((delivery) => chosen.length === 0 || chosen.includes(delivery));
  const shown = wanted.filter((delivery, index) => index < mostDrawn || begun.has(delivery));
  const shownKey = shown.join();
  const waitingKey = [...begun].filter((id) => !shown.includes(id)).join();
  const others = useMemo(() => {
    const [drawn, begunThere] = [shownKey, waitingKey].map((key) => new Set(key.split(','))) as [Set<string>, Set<string>];
    return [...orders].flatMap(([id, [line]]) => (line === undefined || drawn.has(id) ? [] : [{ line, begun: begunThere.has(id) }]));
  }, [orders, shownKey, waitingKey]);
  return { shown, others };
}
