import { z } from 'zod';
import { countBin } from './counts';
import { endpoint } from './endpoint';
import { Amount, Day, Id, ItemCodes, PathId } from './values';

/** What a phone holds, so that the floor goes on without a connection; and where a thing lies, for whoever stands before it. */

const tracking = z.enum(['none', 'lot', 'serial']);
const HeldSite = z.object({
  siteId: Id,
  site: z.string(),
  at: z.string(),
  items: z.array(
    z.object({
      id: Id,
      sku: z.string(),
      name: z.string(),
      unit: z.string(),
      step: z.string(),
      tracking,
      /** The number of its last movement. */
      seq: z.number().int(),
      codes: ItemCodes,
      supplierCodes: z.array(z.string()),
    }),
  ),
  /** Those of which something is here or at another site. */
  lots: z.array(z.object({ id: Id, itemId: Id, code: z.string(), tag: z.string().nullable(), useBy: Day.nullable(), pastUse: z.boolean() })),
  bins: z.array(z.object({ id: Id, code: z.string(), sellable: z.boolean() })),
  lying: z.array(z.object({ itemId: Id, lotId: Id.nullable(), binId: Id, quantity: Amount })),
});
export const heldSite = endpoint({
  method: 'GET',
  path: '/api/floor/sites/:id',
  summary: 'All codes, the bins of a site and what lies in them, to be held by a phone',
  right: 'look',
  shows: ['item', 'lot', 'place', 'stock'],
  seenBy: 'sites',
  heavy: true,
  params: z.object({ id: PathId }),
  response: HeldSite,
});

export const heldCount = endpoint({
  method: 'GET',
  path: '/api/floor/counts/:id',
  summary: 'The bins of a count that are not counted whole, with what is to be counted in each, to be held by a phone',
  right: 'look',
  shows: ['count', 'stock', 'place', 'item', 'lot'],
  seenBy: 'sites',
  heavy: true,
  params: z.object({ id: PathId }),
  response: z.object({ bins: z.array(countBin.response) }),
});

export const whereItLies = endpoint({
  method: 'GET',
  path: '/api/floor/items/:id',
  summary: 'Where an item lies, bin by bin',
  right: 'look',
  shows: ['item', 'lot', 'place', 'stock'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({
    id: Id,
    sku: z.string(),
    name: z.string(),
    unit: z.string(),
    tracking,
    rows: z.array(
      z.object({
        siteId: Id,
        site: z.string(),
        binId: Id,
        bin: z.string(),
        sellable: z.boolean(),
        lotId: Id.nullable(),
        lot: z.string().nullable(),
        useBy: Day.nullable(),
        quantity: Amount,
      }),
    ),
  }),
});
