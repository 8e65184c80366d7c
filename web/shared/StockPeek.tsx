import { May } from './may';
import { Picture } from '../kit/Picture';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card } from '../kit/layout';
import { memo } from 'react';
import { Link } from 'react-router';
import { useDelayed } from '../kit/delayed';
import { documentAddress, forWhom } from '../kit/DocumentLink';
import { Jar } from '../kit/Jar';
import { due, money, price, quantity } from '../kit/format';
import { Waiting } from '../kit/states';
import { StepChart } from '../kit/StepChart';
import { useExplainKey } from './explaining';
import { useItemStockQuery } from './stock';
import { PeekPlaces } from './PeekPlaces';

/** What one item's stock is about: free, the step chart, where it lies, and who waits for it. Every number opens its movements. */
export const StockPeek = memo(function StockPeek({ itemId, siteId, picture = true }: { itemId: number; siteId: number | undefined; picture?: boolean }) {
  const rested = useDelayed(itemId, 180); // while somebody types or walks through the list, the list itself comes first
  const { data, error } = useItemStockQuery({ params: { id: rested }, query: { siteId } });
  useExplainKey(itemId);
  if (!data || data.itemId !== itemId)
    return (
      <Card component="aside">
        <Waiting error={error} />
      </Card>
    );
  const total = (name: 'free' | 'onHand') => String(data.sites.reduce((sum, site) => sum + Number(site[name]), 0));
  return (
    <Card stack component="aside" sx={{ paddingBottom: 12 }} aria-label={`About ${data.sku}`}>
      <Box className="pad" sx={{ display: 'flex', gap: 12, paddingBottom: 0 }}>
        <Jar free={total('free')} reorderPoint={data.reorderPoint} orderUpTo={data.orderUpTo} size={52} />
        {data.pictureId === null || !picture ? null : <Picture src={`/api/catalog/pictures/${data.pictureId}/small`} size={64} />}
        <div>
          <Box component="b" sx={{ fontSize: 15 }}>
            {data.name}
          </Box>
          <div className="quiet">
            <span className="code">{data.sku}</span> {data.unit}
            {data.value === '' ? '' : `, ${price(data.unitCost)} each, worth ${money(data.value)}`}
          </div>
          <span className="here strong">{quantity(total('free'))} free</span>{' '}
          <span className="quiet">{data.daysOfCover === null ? 'not sold lately' : `about ${Math.floor(data.daysOfCover)} days`}</span>
        </div>
      </Box>
      <Box className="pad" sx={{ padding: '0 14px' }}>
        <StepChart today={data.today} past={data.past} expected={data.expected} reorderPoint={data.reorderPoint} />
      </Box>
      <PeekPlaces data={data} />
      {data.expected
        .filter((one) => Number(one.quantity) > 0)
        .slice(0, 5)
        .map((one) => (
          <Box component={Link} key={`${one.document} ${one.day}`} className="quiet" sx={{ padding: '0 14px' }} to={documentAddress(one.kind, one.id)}>
            {one.document}: {quantity(one.quantity)} come, {one.day < data.today ? '' : 'due '}
            {due(one.day, data.today)}
          </Box>
        ))}
      {data.reservedFor.slice(0, 5).map((one) => (
        <Box component={Link} key={one.number} className="quiet" sx={{ padding: '0 14px' }} to={documentAddress(one.kind, one.orderId)}>
          {one.number} {forWhom(one)}: {quantity(one.reserved)} reserved
          {Number(one.short) > 0 ? `, ${quantity(one.short)} short` : ''}, ship {due(one.shipBy, data.today)}
        </Box>
      ))}
      <Box className="pad" sx={{ display: 'flex', gap: 8, paddingBottom: 0 }}>
        <Button component={Link} size="small" to={`/stock/trail?item=${itemId}`}>
          Trail
        </Button>
        <May to="stock.correct">
          <Button component={Link} size="small" to={`/stock/opening?item=${itemId}`}>
            Add opening stock
          </Button>
          <Button component={Link} size="small" to={`/stock/correction?item=${itemId}`}>
            Correct
          </Button>
        </May>
      </Box>
    </Card>
  );
});
