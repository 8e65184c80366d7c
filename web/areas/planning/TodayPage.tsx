import { useMay } from '../../shared/may';
import { todaysNext } from './todaysNext';
import Button from '@mui/material/Button';
import { Card, Columns, PageHead, Stack } from '../../kit/layout';
import { Link, useNavigate } from 'react-router';
import { useSite } from '../../shared/site';
import { BottomBar } from '../../kit/BottomBar';
import { CoverStrip } from '../../kit/CoverStrip';
import { count, longDay, moment } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useFirstStepsQuery, useTodayQuery } from './api';
import { CountsDue } from './CountsDue';
import { LoansOverdue } from './LoansOverdue';
import { FirstSteps } from './FirstSteps';
import { WorkToday } from './WorkToday';
import { ComingIn, GoingOut, Low, Served, ToCount, shown, TodayCard, Unbooked } from './TodayCards';

export function TodayPage() {
  useTitle('Today');
  const { siteId } = useSite();
  const { data, error } = useTodayQuery({ query: { siteId } });
  const { data: first } = useFirstStepsQuery({});
  const navigate = useNavigate();
  const may = { receive: useMay('inbound.receive'), ship: useMay('outbound.ship'), sell: useMay('outbound.sell'), topUp: useMay('planning.top-up') };
  if (!data) return <Waiting error={error} />;
  const { counts, comingIn, goingOut, low } = data;
  const late = comingIn.filter((one) => one.late).length + goingOut.filter((one) => one.late).length;
  const next = todaysNext(data, may, first);
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>{longDay(data.day)}</h1>
        <span className="quiet">
          {count(counts.comingIn + counts.low + counts.goingOut + counts.making, 'thing')} to do, {late} of them late
          {counts.quotes > 0 ? <Link to="/outbound?show=quotes">, {count(counts.quotes, 'quote')} nobody has confirmed</Link> : null}
        </span>
      </PageHead>
      <FirstSteps />
      {data.cover.length > 0 ? (
        <Card pad aria-label="How long stock will last">
          <p>
            <b>How long stock will last</b>{' '}
            <span className="quiet">one dot is one item; days until it runs out at the present rate. Left of the line, a new order would come too late.</span>
          </p>
          <CoverStrip cover={data.cover} />
        </Card>
      ) : null}
      <Columns>
        <TodayCard
          title="Coming in"
          note={count(counts.comingIn, 'delivery').replace('deliverys', 'deliveries')}
          more={counts.comingIn}
          to="/inbound"
          empty="Nothing is on order. Write a purchase order under Inbound, or take one from Planning."
        >
          {comingIn.slice(0, shown).map((one) => (
            <ComingIn key={one.id} one={one} day={data.day} />
          ))}
        </TodayCard>
        <TodayCard title="On the shelves" note={`${counts.low} to top up`} more={counts.low} to="/planning" empty="Nothing is at or below its reorder point.">
          {low.slice(0, shown).map((one) => (
            <Low key={`${one.itemId} ${one.siteId}`} one={one} />
          ))}
        </TodayCard>
        <Stack>
          {data.served.length > 0 ? (
            <TodayCard title="Came in for orders" note="within the last day" more={data.served.length} to="/outbound" empty="">
              {data.served.slice(0, shown).map((one) => (
                <Served key={one.lineId} one={one} at={moment(one.at)} />
              ))}
            </TodayCard>
          ) : null}
          {data.toCount.length > 0 ? (
            <TodayCard title="Bins to count" note="less was found there than should be" more={data.toCount.length} to="/stock/counts/new?doubted" empty="">
              {data.toCount.slice(0, shown).map((one) => (
                <ToCount key={`${one.itemId} ${one.binId}`} one={one} at={moment(one.at)} />
              ))}
            </TodayCard>
          ) : null}
          <CountsDue />
          <WorkToday day={data.day} />
          <LoansOverdue day={data.day} />
          {data.unbooked.length > 0 ? (
            <TodayCard title="Not booked" note="the carrier says no, or nothing" more={data.unbooked.length} to="/outbound" empty="">
              {data.unbooked.slice(0, shown).map((one) => (
                <Unbooked key={one.shipmentId} one={one} />
              ))}
            </TodayCard>
          ) : null}
          <TodayCard
            title="Going out"
            note={count(counts.goingOut, 'order')}
            more={counts.goingOut}
            to="/outbound"
            empty="No order must go out. Write a quote under Outbound and confirm it."
          >
            {goingOut.slice(0, shown).map((one) => (
              <GoingOut key={one.id} one={one} day={data.day} />
            ))}
          </TodayCard>
        </Stack>
      </Columns>
      <BottomBar hint="Tab moves between rows, Enter opens one" next={next ? { label: next.label, run: () => void navigate(next.to) } : undefined}>
        <Button component={Link} to="/stock/trail">
          Last postings
        </Button>
      </BottomBar>
    </Stack>
  );
}
