import type { ItemState, LedgerState, Place } from './types';

export function placeOf({ places }: Pick<LedgerState, 'places'>, id: number): Place {
  const place = places.get(id);
  if (!place) throw new Error(`place ${id} was not read`);
  return place;
}

export function itemOf({ items }: Pick<LedgerState, 'items'>, id: number): ItemState {
  const item = items.get(id);
  if (!item) throw new Error(`item ${id} was not read`);
  return item;
}
