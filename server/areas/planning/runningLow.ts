import type * as contract from '@larder/contract/runningLow';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import type { Sites } from '@larder/contract/rights';
import { and, eq, isNotNull, isNull, or, sql, type SQL } from 'drizzle-orm';
import type { Act } from '../../act';
import type { Db } from '../../db/database';
import { atSites, positive } from '../../db/given';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { alertState, category, item, itemPolicy, itemSite, itemSupplier, party, site } from '../../db/schema/index';
import { lower, plain } from '../../db/text';
import { itemsHeld } from '../../documents/itemsHeld';

type LowQuery = QueryOf<typeof contract.listLow>;
export type Low = Omit<LowQuery, 'sort' | 'direction' | 'limit' | 'cursor'>;

const orNone = (of: SQL) => sql<string>`coalesce(${of}, 0)`;
/** What is not sold from, where it counts too. */
const beside = ({ counts }: Pick<Low, 'counts'>): SQL => (counts === 'everything' ? sql`coalesce(${itemSite.quarantine}, 0)` : sql`0`);
const positionOf = (low: Pick<Low, 'counts'>): SQL =>
  sql`(coalesce(${itemSite.free} + ${itemSite.onOrder} + ${itemSite.coming} - ${itemSite.short}, 0) + ${beside(low)})`;
const onHandOf = (low: Pick<Low, 'counts'>): SQL => sql`(coalesce(${itemSite.onHand}, 0) + ${beside(low)})`;

function statesOf(low: Low): Record<Low['state'], SQL | undefined> {
  const states = {
    low: and(isNotNull(itemPolicy.point), sql`${positionOf(low)} <= ${itemPolicy.point}`),
    short: positive(orNone(sql`${itemSite.short}`)),
    out: and(isNotNull(itemPolicy.point), sql`${onHandOf(low)} <= 0`),
  };
  return { ...states, all: or(states.low, states.short, states.out) };
}

/** Conditions of a list of what runs low; items, sites, their levels and figures are joined. */
export const lowConditions = (low: Low, sites: Sites): SQL | undefined =>
  and(
    eq(item.kind, 'stocked'),
    isNull(item.retiredAt),
    isNull(site.retiredAt),
    atSites(site.id, sites),
    everyWord(item.findable, low.q),
    itemsHeld(low, { site: site.id, sites: null }),
    statesOf(low)[low.state],
  );

const firstSupplier = (db: Db) =>
  db
    .select({ name: party.name })
    .from(itemSupplier)
    .innerJoin(party, eq(party.id, itemSupplier.supplierId))
    .where(eq(itemSupplier.itemId, item.id))
    .orderBy(itemSupplier.position)
    .limit(1);
/** Since when it runs low: as alerts have seen it. */
const sinceOf = (db: Db) =>
  sql<string | null>`(${db
    .select({ since: alertState.since })
    .from(alertState)
    .where(and(eq(alertState.kind, 'low'), sql`${alertState.subject} = ${item.id} || '/' || ${site.id}`))})`;
const daysOf = sql<
  number | null
>`case when ${itemPolicy.perDay} > 0 then round(greatest(coalesce(${itemSite.free}, 0), 0) / ${itemPolicy.perDay}, 1)::float8 end`;
const text = (of: SQL) => sql<string>`trim_scale(${of})::text`;

/** What runs low, with all that is told of it. */
export function lowFields(db: Db, low: Low) {
  const states = statesOf(low);
  return {
    itemId: item.id,
    siteId: site.id,
    sku: item.sku,
    name: item.name,
    category: sql<string>`coalesce(${category.name}, '')`,
    supplier: sql<string>`coalesce((${firstSupplier(db)}), '')`,
    site: site.name,
    state: sql<contract.LowRow['state']>`case when ${states.out} then 'out' when ${states.short} then 'short' else 'low' end`,
    onHand: text(onHandOf(low)),
    free: text(orNone(sql`${itemSite.free}`)),
    onOrder: text(orNone(sql`${itemSite.onOrder}`)),
    coming: text(orNone(sql`${itemSite.coming}`)),
    short: text(orNone(sql`${itemSite.short}`)),
    position: text(positionOf(low)),
    reorderPoint: sql<string | null>`${plain(itemPolicy.point)}`,
    orderUpTo: sql<string | null>`${plain(itemPolicy.upTo)}`,
    below: text(sql`greatest(coalesce(${itemPolicy.point} - ${positionOf(low)}, 0), 0)`),
    toLevel: text(sql`greatest(coalesce(${itemPolicy.upTo} - ${positionOf(low)}, 0), 0)`),
    since: sinceOf(db),
    days: daysOf,
  };
}

/** Items at sites with their levels and figures, to be narrowed down. */
export const lowOf = <F extends Record<string, SQL>>(db: Db, low: Low, more: F) =>
  db
    .select({ ...lowFields(db, low), ...more })
    .from(item)
    .innerJoin(site, sql`true`)
    .leftJoin(itemPolicy, and(eq(itemPolicy.itemId, item.id), eq(itemPolicy.siteId, site.id)))
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, site.id)))
    .leftJoin(category, eq(category.id, item.categoryId))
    .$dynamic();

const pairId = sql<number>`${item.id}::bigint * 100000 + ${site.id}`;
const sortsOf = (db: Db, low: Low): Record<LowQuery['sort'], Sort> => ({
  sku: { sql: lower(item.sku), type: 'text' },
  below: { sql: sql`coalesce(${itemPolicy.point} - ${positionOf(low)}, 0)`, type: 'numeric' },
  toLevel: { sql: sql`coalesce(${itemPolicy.upTo} - ${positionOf(low)}, 0)`, type: 'numeric' },
  // What is known to last comes before what is not.
  days: { sql: sql`coalesce(${daysOf}::numeric, 999999)`, type: 'numeric' },
  since: { sql: sql`coalesce(${sinceOf(db)}, 'infinity'::timestamptz)`, type: 'timestamptz' },
});

export async function lowList(act: Act, query: LowQuery): Promise<ResponseOf<typeof contract.listLow>> {
  const { db } = act.tx;
  const sort = sortsOf(db, query)[query.sort];
  const page = pageOf(sort, pairId, query);
  const rows = await lowOf(db, query, cursorOf(sort, pairId))
    .where(and(lowConditions(query, act.sites('look', query.siteId)), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown.map((row) => ({ ...row, since: row.since === null ? null : new Date(row.since).toISOString() })), next };
}

export async function lowInAll(act: Act, query: LowQuery): Promise<ResponseOf<typeof contract.lowInAll>> {
  const found = lowOf(act.tx.db, query, {})
    .where(lowConditions(query, act.sites('look', query.siteId)))
    .as('found');
  return { count: await act.tx.db.$count(found) };
}
