import { Link, useNavigate } from 'react-router';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { today as todayEndpoint } from '@larder/contract/planning';
import { useSite } from '../../shared/site';
import { BottomBar } from '../../kit/BottomBar';
import { CoverStrip } from '../../kit/CoverStrip';
import { count, due, longDay, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import { Moon } from '../../kit/Moon';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useTodayQuery } from './api';
import { FirstSteps } from './FirstSteps';

type Today = ResponseOf<typeof todayEndpoint>;
const shown = 6;

export function TodayPage() {
  useTitle('Today');
  const { siteId } = useSite();
  const { data, error } = useTodayQuery({ query: { siteId } });
  const navigate = useNavigate();
  if (!data) return <Waiting error={error} />;
  const { counts, comingIn, goingOut, low } = data;
  const late = comingIn.filter((one) => one.late).length + goingOut.filter((one) => one.late).length;
  const first = comingIn.find((one) => one.expectedOn !== null && one.expectedOn <= data.day);
  return (
    <div className="stack">
      <div className="head" style={{ margin: 0 }}>
        <h1>{longDay(data.day)}</h1>
        <span className="quiet">
          {count(counts.comingIn + counts.low + counts.goingOut, 'thing')} to do, {late} of them late
          {counts.quotes > 0 ? <Link to="/outbound?show=quotes">, {count(counts.quotes, 'quote')} nobody has confirmed</Link> : null}
        </span>
      </div>
      <FirstSteps />
      {data.cover.length > 0 ? (
        <section className="card pad" aria-label="How long stock will last">
          <p>
            <b>How long stock will last</b>{' '}
            <span className="quiet">one dot is one item; days until it runs out at the present rate. Left of the line, a new order would come too late.</span>
          </p>
          <CoverStrip cover={data.cover} />
        </section>
      ) : null}
      <div className="columns">
        <Card
          title="Coming in"
          note={count(counts.comingIn, 'delivery').replace('deliverys', 'deliveries')}
          more={counts.comingIn}
          to="/inbound"
          empty="Nothing is on order. Write a purchase order under Inbound, or take one from Planning."
        >
          {comingIn.slice(0, shown).map((one) => (
            <ComingIn key={one.id} one={one} day={data.day} />
          ))}
        </Card>
        <Card title="On the shelves" note={`${counts.low} to top up`} more={counts.low} to="/planning" empty="Nothing is at or below its reorder point.">
          {low.slice(0, shown).map((one) => (
            <Low key={`${one.itemId} ${one.siteId}`} one={one} />
          ))}
        </Card>
        <Card
          title="Going out"
          note={count(counts.goingOut, 'order')}
          more={counts.goingOut}
          to="/outbound"
          empty="No order must go out. Write a quote under Outbound and confirm it."
        >
          {goingOut.slice(0, shown).map((one) => (
            <GoingOut key={one.id} one={one} day={data.day} />
          ))}
        </Card>
      </div>
      <BottomBar
        hint="Tab moves between rows, Enter opens one"
        next={first ? { label: `Receive ${first.number}`, run: () => void navigate(`/inbound/desk?order=${first.id}`) } : undefined}
      >
        <Link className="button" to="/stock/trail">
          Last postings
        </Link>
      </BottomBar>
    </div>
  );
}

function Card({
  title,
  note,
  more,
  to,
  empty,
  children,
}: {
  title: string;
  note: string;
  more: number;
  to: string;
  empty: string;
  children: React.ReactNode[];
}) {
  return (
    <section className="card" aria-label={title}>
      <h2>
        {title}
        <span>{note}</span>
      </h2>
      {children.length === 0 ? <p className="pad quiet">{empty}</p> : children}
      {more > shown ? (
        <p className="pad quiet">
          <Link to={to}>and {more - shown} more</Link>
        </p>
      ) : null}
    </section>
  );
}

function ComingIn({ one, day }: { one: Today['comingIn'][number]; day: string }) {
  const left = Number(one.ordered) - Number(one.received);
  return (
    <Link className="cardrow" to={`/inbound/orders/${one.id}`}>
      <Moon done={one.received} of={one.ordered} />
      <span>
        <b>
          {one.number} {one.supplier}
        </b>
        <span className="quiet">
          {Number(one.received) > 0
            ? `${quantity(String(left))} of ${quantity(one.ordered)} still to come`
            : `${Number(one.ordered) === 1 ? '1 unit' : `${quantity(one.ordered)} units`}, ${count(one.lines, 'line')}`}
        </span>
      </span>
      <span className={one.late ? 'late' : 'quiet'}>
        {one.late ? '' : 'due '}
        {due(one.expectedOn, day)}
      </span>
    </Link>
  );
}

function Low({ one }: { one: Today['low'][number] }) {
  return (
    <Link className="cardrow" to={`/items/${one.itemId}`}>
      <Jar free={one.free} reorderPoint={one.reorderPoint} orderUpTo={one.orderUpTo} size={28} />
      <span>
        <b>{one.name}</b>
        <span className="quiet">
          {quantity(one.free)} free at {one.site}, reorder at {quantity(one.reorderPoint)}
        </span>
      </span>
      <span className={Number(one.short) > 0 ? 'late' : 'quiet'}>
        {Number(one.short) > 0 ? `${quantity(one.short)} short` : `top up ${quantity(one.propose)}`}
      </span>
    </Link>
  );
}

function GoingOut({ one, day }: { one: Today['goingOut'][number]; day: string }) {
  const short = Number(one.short) > 0 ? `, ${quantity(one.short)} short` : '';
  return (
    <Link className="cardrow" to={`/outbound/orders/${one.id}`}>
      <Moon done={one.picked} of={one.ordered} />
      <span>
        <b>
          {one.number} {one.customer}
        </b>
        <span className="quiet">
          {Number(one.picked) > Number(one.dispatched)
            ? `picked ${quantity(one.picked)} of ${quantity(one.ordered)}${short}`
            : `${quantity(one.dispatched)} of ${quantity(one.ordered)} gone${short}`}
        </span>
      </span>
      <span className={one.late ? 'late' : 'quiet'}>
        {one.late ? '' : 'ship '}
        {due(one.shipBy, day)}
      </span>
    </Link>
  );
}
