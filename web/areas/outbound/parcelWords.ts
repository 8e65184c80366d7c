import type { Parcel } from '@larder/contract/shipping';

/** "2 SMOKER, 1 VEIL": what is in a parcel, and what it weighs. */
export const insideOf = ({ contents }: Pick<Parcel, 'contents'>): string =>
  contents.map(({ quantity, sku, lot }) => `${quantity} ${sku}${lot === null ? '' : ` (${lot})`}`).join(', ');
export const weightSaid = ({ weight, reckoned }: Pick<Parcel, 'weight' | 'reckoned'>): string => {
  const known = weight ?? reckoned;
  return known === null ? 'not weighed' : `${known} kg`;
};
