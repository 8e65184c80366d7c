import { useParams } from 'react-router';
import type { Item } from '@larder/contract/catalog';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useItemQuery } from '../../shared/items';
import { useReferenceQuery } from '../../shared/reference';
import { ItemSheet } from './ItemSheet';
import { newItem, writtenItem } from './written';

/** One item: what is there, comes and wants it, and its facts to change. `new` sets one up. */
export function ItemPage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const { currentData: data, error } = useItemQuery({ params: { id: Number(id) } }, { skip: isNew });
  const { data: reference } = useReferenceQuery({});
  useTitle(isNew ? 'New item' : (data?.sku ?? 'Item'));
  if (!reference || (!isNew && data?.id !== Number(id))) return <Waiting error={error} />;
  const { units, taxes, sites } = reference;
  const first = isNew ? newItem(units[0]?.id ?? 0, taxes[0]?.id ?? null, sites) : writtenItem(data as Item, sites);
  return <ItemSheet key={id} item={isNew ? null : (data as Item)} first={first} />;
}
