/** What an item is: goods on shelves, goods that are used as they come, work done by somebody, or a charge on an order. */
export const itemKinds = ['stocked', 'not-stocked', 'service', 'charge'] as const;
export type ItemKind = (typeof itemKinds)[number];

/** Whether items of this kind lie in places of ours, are reserved and counted. Others come to be used up at once, and go out from nowhere. */
export const isStocked = (kind: ItemKind): boolean => kind === 'stocked';

export interface KindChoices {
  kind: ItemKind;
  tracking: string;
  costMethod: string;
  /** Sites it has a reorder point at. */
  reordered: number;
}

/** What does not go together with a kind that is not kept in stock, by field; empty when all does. */
export function kindFaults({ kind, tracking, costMethod, reordered }: KindChoices): { field: string; sentence: string }[] {
  if (isStocked(kind)) return [];
  const faults: { field: string; sentence: string }[] = [];
  if (tracking !== 'none') faults.push({ field: 'tracking', sentence: 'Only what is kept in stock has lots or serials.' });
  if (costMethod !== 'average') faults.push({ field: 'costMethod', sentence: 'What is not kept in stock is cost as it comes; leave this at moving average.' });
  if (reordered > 0) faults.push({ field: 'policies.0.reorderPoint', sentence: 'What is not kept in stock has no reorder point.' });
  return faults;
}
