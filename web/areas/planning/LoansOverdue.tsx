import { CardRow } from '../../kit/CardRow';
import { due } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { useLoansInfiniteQuery } from '../../shared/loans';
import { useSite } from '../../shared/site';
import { shown, TodayCard } from './TodayCards';

/** Things that holders should have brought back. */
export function LoansOverdue({ day }: { day: string }) {
  const { siteId } = useSite();
  const { rows } = useGoing(useLoansInfiniteQuery({ query: { show: 'overdue', siteId } }));
  if (!rows || rows.length === 0) return null;
  return (
    <TodayCard title="Not brought back" note="lent, and past the day" more={rows.length} to="/stock/loans?show=overdue" empty="">
      {rows.slice(0, shown).map((one) => (
        <CardRow key={one.id} to={`/stock/loans/${one.id}`}>
          <span />
          <span>
            <b>
              {one.number} {one.holder}
            </b>
            <span className="quiet">{one.items}</span>
          </span>
          <span className="late">{one.dueOn === null ? '' : due(one.dueOn, day)}</span>
        </CardRow>
      ))}
    </TodayCard>
  );
}
