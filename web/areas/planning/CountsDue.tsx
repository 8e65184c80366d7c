import { itemClasses } from '@larder/core/stock/counting';
import { CardRow } from '../../kit/CardRow';
import { count } from '../../kit/format';
import { useCountCalendarQuery } from '../../shared/countCalendar';
import { useMay } from '../../shared/may';
import { useSite } from '../../shared/site';
import { TodayCard } from './TodayCards';

/** What the calendar of counts says is due, site by site. */
export function CountsDue() {
  const { siteId } = useSite();
  const may = useMay('stock.correct');
  const { data } = useCountCalendarQuery({ query: { siteId } }, { skip: !may });
  const due = (data?.rows ?? []).filter((row) => row.due > 0);
  const sites = [...new Map(due.map((row) => [row.siteId, row.site]))];
  if (sites.length === 0) return null;
  return (
    <TodayCard title="Due to be counted" note="by their class" more={sites.length} to="/stock/counts/calendar" empty="">
      {sites.map(([id, name]) => {
        const here = itemClasses.flatMap((one) => due.filter((row) => row.siteId === id && row.class === one));
        return (
          <CardRow key={id} to={`/stock/counts/new?site=${id}&class=${here[0]?.class ?? 'A'}&due`}>
            <span />
            <span>
              <b>{name}</b>
              <span className="quiet">{here.map((row) => `${row.class}: ${count(row.due, 'item')}`).join(', ')}</span>
            </span>
            <span />
          </CardRow>
        );
      })}
    </TodayCard>
  );
}
