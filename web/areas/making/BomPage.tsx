import type { Bom } from '@larder/contract/making';
import { useParams, useSearchParams } from 'react-router';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useItemQuery } from '../../shared/items';
import { useMeQuery } from '../../shared/me';
import { useBomQuery } from './api';
import { bomDraft } from './bomForm';
import { BomSheet } from './BomSheet';

/** A bill of materials: what so many of an item are made of, and what one costs that way. `new` writes one: of an item, or as another version of one. */
export function BomPage() {
  const { id = 'new' } = useParams();
  const [search] = useSearchParams();
  const isNew = id === 'new';
  const copied = isNew ? Number(search.get('copy')) || 0 : Number(id);
  const forItem = isNew ? Number(search.get('item')) || 0 : 0;
  const { currentData: data, error } = useBomQuery({ params: { id: copied } }, { skip: copied === 0 });
  const { currentData: item, error: unknown } = useItemQuery({ params: { id: forItem } }, { skip: forItem === 0 });
  const { data: me } = useMeQuery({});
  useTitle(isNew ? 'New bill of materials' : data ? `What ${data.sku} is made of` : 'Bill of materials');
  if (!me || (copied !== 0 && data?.id !== copied) || (forItem !== 0 && item?.id !== forItem)) return <Waiting error={error ?? unknown} />;
  const first = item ? { itemId: item.id, sku: item.sku, name: item.name, unit: item.unit } : null;
  const bom = (data ?? null) as Bom | null;
  return <BomSheet key={`${id} ${copied} ${forItem}`} bom={isNew ? null : bom} came={bomDraft(bom, me.company.today, first, isNew)} today={me.company.today} />;
}
