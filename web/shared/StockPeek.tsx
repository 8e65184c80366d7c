import { Link } from 'react-router';
import { useDelayed } from '../kit/delayed';
import { Jar } from '../kit/Jar';
import { due, money, price, quantity } from '../kit/format';
import { Waiting } from '../kit/states';
import { StepChart } from '../kit/StepChart';
import { useItemStockQuery } from './stock';
import { PeekPlaces } from './PeekPlaces';

/** What one item's stock is about: free, the step chart, where it lies, and who waits for it. Every number opens its movements. */
export function StockPeek({ itemId, siteId, picture = true }: { itemId: number; siteId: number | undefined; picture?: boolean }) {
  const rested = useDelayed(itemId, 180); // while somebody types or walks through the list, the list itself comes first
  const { data, error } = useItemStockQuery({ params: { id: rested }, query: { siteId } });
  if (!data || data.itemId !== itemId)
    return (
      <aside className="card">
        <Waiting error={error} />
      </aside>
    );
  const total = (name: 'free' | 'onHand') => String(data.sites.reduce((sum, site) => sum + Number(site[name]), 0));
  return (
    <aside className="card stack" style={{ paddingBottom: 12 }} aria-label={`About ${data.sku}`}>
      <div className="pad" style={{ display: 'flex', gap: 12, paddingBottom: 0 }}>
        <Jar free={total('free')} reorderPoint={data.reorderPoint} orderUpTo={data.orderUpTo} size={52} />
        {data.pictureId === null || !picture ? null : <img className="peekpicture" src={`/api/catalog/pictures/${data.pictureId}/small`} alt="" />}
        <div>
          <b style={{ fontSize: 15 }}>{data.name}</b>
          <div className="quiet">
            <span className="code">{data.sku}</span> {data.unit}
            {data.value === '' ? '' : `, ${price(data.unitCost)} each, worth ${money(data.value)}`}
          </div>
          <span className="here strong">{quantity(total('free'))} free</span>{' '}
          <span className="quiet">{data.daysOfCover === null ? 'not sold lately' : `about ${Math.floor(data.daysOfCover)} days`}</span>
        </div>
      </div>
      <div className="pad" style={{ padding: '0 14px' }}>
        <StepChart today={data.today} past={data.past} expected={data.expected} reorderPoint={data.reorderPoint} />
      </div>
      <PeekPlaces data={data} />
      {data.expected
        .filter((one) => Number(one.quantity) > 0)
        .slice(0, 5)
        .map((one) => (
          <Link key={`${one.id} ${one.day}`} className="pad quiet" style={{ padding: '0 14px' }} to={`/inbound/orders/${one.id}`}>
            {one.document}: {quantity(one.quantity)} come, {one.day < data.today ? '' : 'due '}
            {due(one.day, data.today)}
          </Link>
        ))}
      {data.reservedFor.slice(0, 5).map((one) => (
        <Link key={one.orderId} className="pad quiet" style={{ padding: '0 14px' }} to={`/outbound/orders/${one.orderId}`}>
          {one.number} {one.customer}: {quantity(one.reserved)} reserved{Number(one.short) > 0 ? `, ${quantity(one.short)} short` : ''}, ship{' '}
          {due(one.shipBy, data.today)}
        </Link>
      ))}
      <div className="pad" style={{ display: 'flex', gap: 8, paddingBottom: 0 }}>
        <Link className="button small" to={`/stock/trail?item=${itemId}`}>
          Trail
        </Link>
        <Link className="button small" to={`/stock/opening?item=${itemId}`}>
          Bring in
        </Link>
        <Link className="button small" to={`/stock/correction?item=${itemId}`}>
          Correct
        </Link>
      </div>
    </aside>
  );
}
