import { z } from 'zod';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Day, Id, ItemCodes, PathId, Posted, Quantity, Text } from './values';

export const mostMoved = 500;
/** Goods that go from one bin of a site to another, at once. */
export const MoveForm = z.object({
  note: Text.default(''),
  lines: z
    .array(z.object({ itemId: Id, lotId: Id.nullable().default(null), quantity: Quantity, fromBinId: Id, toBinId: Id }))
    .min(1, 'Scan or type what is moved.')
    .max(mostMoved, 'At most 500 lines at once.'),
});
export type MoveForm = z.infer<typeof MoveForm>;
export const moveGoods = endpoint({
  method: 'POST',
  path: '/api/stock/moves',
  summary: 'Move goods from bin to bin within a site',
  right: 'stock.move',
  changes: moved,
  posts: true,
  body: MoveForm,
  response: Posted,
});

const ToPutAway = z.object({
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  siteId: Id,
  site: z.string(),
  /** Where the goods lie that have no proper bin yet. */
  fromBinId: Id,
  lotId: Id.nullable(),
  lot: z.string().nullable(),
  useBy: Day.nullable(),
  quantity: Amount,
  /** Where they should go: the item's bin there, else one where it lies already. */
  toBinId: Id.nullable(),
  to: z.string().nullable(),
  codes: ItemCodes,
});
export type ToPutAway = z.infer<typeof ToPutAway>;
export const toPutAway = endpoint({
  method: 'GET',
  path: '/api/stock/to-put-away',
  summary: 'Goods that have no proper bin yet, and where they should go',
  right: 'look',
  shows: ['stock', 'item', 'lot', 'place'],
  seenBy: 'sites',
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({ rows: z.array(ToPutAway) }),
});
