import { and, desc, eq, isNull, ne, not, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { positive } from '../db/given';
import { balance, itemPolicy, place } from '../db/schema/index';

const proper = alias(place, 'proper_bin');
const lies = alias(balance, 'lies_already');
const other = alias(place, 'other_bin');
const query = () => new QueryBuilder();

/** The item's own bin at a site, while it is in use. */
export const ownBin = (itemId: PgColumn, siteId: PgColumn) =>
  query()
    .select({ id: proper.id, code: proper.code })
    .from(itemPolicy)
    .innerJoin(proper, eq(proper.id, itemPolicy.binId))
    .where(and(eq(itemPolicy.itemId, itemId), eq(itemPolicy.siteId, siteId), isNull(proper.retiredAt)))
    .as('own_bin');

/** A bin that is sold from in which the item lies already, where most of it lies; `not` is left out. */
export const usualBin = (itemId: PgColumn, siteId: PgColumn, not?: PgColumn) =>
  query()
    .select({ id: other.id, code: other.code })
    .from(lies)
    .innerJoin(
      other,
      and(
        eq(other.id, lies.placeId),
        eq(other.kind, 'bin'),
        eq(other.siteId, siteId),
        other.sellable,
        not === undefined ? undefined : ne(other.id, not),
        isNull(other.retiredAt),
      ),
    )
    .where(and(eq(lies.itemId, itemId), positive(lies.quantity), sql`not ${other.unplaced}`))
    .orderBy(desc(lies.quantity), other.walk)
    .limit(1)
    .as('usual_bin');

/** The bin of a site for what is looked over before it is sold: of those that nothing is sold from, the first as one walks. */
export const quarantineBin = (siteId: PgColumn): SQL<number | null> =>
  sql<number | null>`(${query()
    .select({ id: proper.id })
    .from(proper)
    .where(and(eq(proper.siteId, siteId), eq(proper.kind, 'bin'), not(proper.sellable), isNull(proper.retiredAt)))
    .orderBy(proper.walk, proper.id)
    .limit(1)})`;

/** Where an item goes at a site: its own bin, else where most of it lies, else the place for what has none. */
export const properBin = (itemId: PgColumn, siteId: PgColumn): SQL<number> =>
  sql<number>`coalesce((${query()
    .select({ id: ownBin(itemId, siteId).id })
    .from(ownBin(itemId, siteId))}), (${query()
    .select({ id: usualBin(itemId, siteId).id })
    .from(usualBin(itemId, siteId))}), (${query()
    .select({ id: proper.id })
    .from(proper)
    .where(and(eq(proper.siteId, siteId), proper.unplaced))}))`;
