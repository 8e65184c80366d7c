import type { WorkRow } from '@larder/contract/workOrders';
import { CardRow } from '../../kit/CardRow';
import { due, quantity } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Moon } from '../../kit/Moon';
import { useSite } from '../../shared/site';
import { useWorkOrdersInfiniteQuery } from '../../shared/workOrders';
import { shown, TodayCard } from './TodayCards';

/** What is to be begun by today, or is under way in the workshop: what each waits for. */
export function WorkToday({ day }: { day: string }) {
  const { siteId } = useSite();
  const { rows } = useGoing(useWorkOrdersInfiniteQuery({ query: { show: 'today', siteId } }));
  if (!rows || rows.length === 0) return null;
  return (
    <TodayCard title="Making" note="to be begun, or under way" more={rows.length} to="/making/orders?show=today" empty="">
      {rows.slice(0, shown).map((one) => (
        <CardRow key={one.id} to={`/making/orders/${one.id}`}>
          <Moon done={one.made} of={one.quantity} />
          <span>
            <b>
              {one.number} {quantity(one.quantity)} {one.sku}
            </b>
            <span className="quiet">{waitsFor(one)}</span>
          </span>
          <span className={one.late ? 'late' : 'quiet'}>
            {one.late ? '' : 'due '}
            {due(one.dueOn, day)}
          </span>
        </CardRow>
      ))}
    </TodayCard>
  );
}

/** What is done next of an order, in words. */
function waitsFor({ released, short, atWork, taken, needed }: Pick<WorkRow, 'released' | 'short' | 'atWork' | 'taken' | 'needed'>): string {
  if (!released) return 'to be released';
  if (Number(atWork) > 0 && Number(taken) >= Number(needed)) return 'waits to be recorded';
  if (Number(short) > 0) return `${quantity(short)} of its parts short`;
  return Number(taken) > 0 ? 'some parts are still to be taken' : 'can be started: all its parts are here';
}
