/** What endpoints show and change. */
export const nouns = [
  'me',
  'person',
  'session',
  'setting',
  'place',
  'reference',
  'party',
  'item',
  'attribute',
  'lot',
  'stock',
  'purchase',
  'sale',
  'round',
  'price',
  'desk',
  'letter',
  'bill',
  'landed',
  'journal',
  'handover',
  'view',
  'layout',
  'print',
  'import',
  'export',
  'steps',
] as const;
export type Noun = (typeof nouns)[number];
/** What a movement of goods can change: figures, the orders it serves, their bills and charges, and the books. */
export const moved: readonly Noun[] = ['stock', 'lot', 'item', 'purchase', 'sale', 'bill', 'landed', 'journal', 'handover', 'steps'];
