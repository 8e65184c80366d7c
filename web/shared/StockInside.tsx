import { Waiting } from '../kit/states';
import { PeekPlaces } from './PeekPlaces';
import { useSite } from './site';
import { useItemStockQuery } from './stock';

/** Below an item in a list: where it lies, site by site, with its bins and lots. */
export function StockInside({ itemId }: { itemId: number }) {
  const { siteId } = useSite();
  const { data, error } = useItemStockQuery({ params: { id: itemId }, query: { siteId } });
  return data ? <PeekPlaces data={data} whole small /> : <Waiting error={error} />;
}
