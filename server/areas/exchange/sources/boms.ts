import { sql } from 'drizzle-orm';
import { bom, item } from '../../../db/schema/index';
import { partsWritten } from '../references';
import type { Source } from './source';

/** What items are made of: a row for each part of each version that is not retired. */
export const boms: Source = {
  read: partsWritten,
  words: sql`lower(${item.sku} || ' ' || ${item.name} || ' ' || ${bom.name})`,
  item: item.id,
  shows: { all: sql`${bom.retiredAt} is null` },
};
