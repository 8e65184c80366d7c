import { CardRow } from '../../kit/CardRow';
import { Card } from '../../kit/layout';
import { Link } from 'react-router';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { today as todayEndpoint } from '@larder/contract/planning';
import { count, due, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import { Moon } from '../../kit/Moon';

type Today = ResponseOf<typeof todayEndpoint>;
/** Rows of a card. */
export const shown = 6;

/** A card of Today: a few rows, and the way to all of them. */
export function TodayCard({
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
    <Card aria-label={title}>
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
    </Card>
  );
}

export function ComingIn({ one, day }: { one: Today['comingIn'][number]; day: string }) {
  const left = Number(one.ordered) - Number(one.received);
  return (
    <CardRow to={`/inbound/orders/${one.id}`}>
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
    </CardRow>
  );
}

/** A line that stock which came in was reserved for. */
export const Served = ({ one, at }: { one: Today['served'][number]; at: string }) => (
  <CardRow to={`/outbound/orders/${one.orderId}`}>
    <Moon done={one.reserved} of={String(Number(one.reserved) + Number(one.short))} />
    <span>
      <b>
        {one.number} {one.customer}
      </b>
      <span className="quiet">
        {quantity(one.reserved)} of {one.sku} reserved{Number(one.short) > 0 ? `, ${quantity(one.short)} short still` : ''}
      </span>
    </span>
    <span className="quiet">{at}</span>
  </CardRow>
);

/** A bin in which less of an item was found than it should hold. */
export const ToCount = ({ one, at }: { one: Today['toCount'][number]; at: string }) => (
  <CardRow to={`/stock/correction?item=${one.itemId}`}>
    <Moon done="0" of="1" />
    <span>
      <b>
        {one.bin} {one.sku}
      </b>
      <span className="quiet">
        {one.person}
        {one.reason === '' ? '' : `: ${one.reason}`}
      </span>
    </span>
    <span className="quiet">{at}</span>
  </CardRow>
);

/** A booking that its carrier has refused, or has not answered. */
export const Unbooked = ({ one }: { one: Today['unbooked'][number] }) => (
  <CardRow to={`/outbound/orders/${one.orderId}`}>
    <Moon done="0" of="1" />
    <span>
      <b>
        {one.order} {one.number}
      </b>
      <span className="quiet">{one.fault}</span>
    </span>
    <span className="quiet">{one.carrier}</span>
  </CardRow>
);

export function Low({ one }: { one: Today['low'][number] }) {
  return (
    <CardRow to={`/items/${one.itemId}`}>
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
    </CardRow>
  );
}

export function GoingOut({ one, day }: { one: Today['goingOut'][number]; day: string }) {
  const short = Number(one.short) > 0 ? `, ${quantity(one.short)} short` : '';
  return (
    <CardRow to={`/outbound/orders/${one.id}`}>
      <Moon done={one.picked} of={one.ordered} />
      <span>
        <b>
          {one.number} {one.customer}
        </b>
        <span className="quiet">
          {Number(one.picked) > Number(one.dispatched)
            ? `picked ${quantity(one.picked)} of ${quantity(one.ordered)}${short}`
            : `${quantity(one.dispatched)} of ${quantity(one.ordered)} dispatched${short}`}
        </span>
      </span>
      <span className={one.late ? 'late' : 'quiet'}>
        {one.late ? '' : 'ship '}
        {due(one.shipBy, day)}
      </span>
    </CardRow>
  );
}
