import { dayOf } from '@larder/core/day';
import { standsRefused } from '@larder/core/planning/decision';
import { asItIs, suggested } from '@larder/core/planning/suggestion';
import { and, eq, isNull, notInArray, sql } from 'drizzle-orm';
import type pg from 'pg';
import { drizzleOn, transaction, type Tx } from '../../db/database';
import { among, given, insertRows } from '../../db/given';
import { company, item, itemPolicy, levelSuggestion, site, suggestionRun } from '../../db/schema/index';
import { pairOf, readPasts } from './demand';
import { readHoldings, readTerms, type Terms } from './holdings';
import { allLeads, type Came } from './leads';

/** Items that are looked at in one go. */
const batch = 200;

/** What a look at the past needs to be told. */
export interface Looking {
  runId: number;
  now: Date;
}

/**
 * Looks at the past of all items in use, batch by batch, each in a transaction of its own, and keeps what it says; how far it is, and whether it is
 * still wanted, is told by its row. What is kept is there at once, and a look that is stopped leaves the rest as it was.
 */
export async function lookAtAll(pool: pg.Pool, { runId, now }: Looking): Promise<void> {
  const db = drizzleOn(pool);
  const run = eq(suggestionRun.id, runId);
  try {
    const [business] = await db.select({ zone: company.timeZone }).from(company);
    const today = dayOf(now, business?.zone ?? 'UTC');
    const ids = (
      await db
        .select({ id: item.id })
        .from(item)
        .where(and(eq(item.kind, 'stocked'), isNull(item.retiredAt)))
        .orderBy(item.id)
    ).map(({ id }) => id);
    await db
      .update(suggestionRun)
      .set({ startedAt: sql`now()`, heardAt: sql`now()`, total: ids.length })
      .where(run);
    const [terms, came] = [await readTerms(db), await allLeads(db, today)];
    for (let from = 0; from < ids.length; from += batch) {
      const some = ids.slice(from, from + batch);
      await transaction(pool, 'write', (tx) => lookAt(tx, some, { today, terms, came }));
      const [told] = await db
        .update(suggestionRun)
        .set({ done: Math.min(from + batch, ids.length), heardAt: sql`now()` })
        .where(run)
        .returning({ stopped: suggestionRun.stopped });
      if (told?.stopped !== false) break;
    }
    await db
      .update(suggestionRun)
      .set({ endedAt: sql`now()` })
      .where(run);
  } catch (error) {
    await db
      .update(suggestionRun)
      .set({ endedAt: sql`now()`, fault: 'Something went wrong on our side; the items that were not reached are as they were.' })
      .where(run);
    throw error;
  }
}

/** Looks at the past of some items, and keeps what it says: at sites in use at which something of them was ever wanted. */
export async function lookAt(
  tx: Tx,
  itemIds: readonly number[],
  { today, terms, came }: { today: string; terms: Terms; came: readonly Came[] },
): Promise<void> {
  const { db } = tx;
  const sites = (await db.select({ id: site.id }).from(site).where(isNull(site.retiredAt))).map(({ id }) => id);
  const pasts = await readPasts(db, { itemIds, sites, today });
  const heldAt = await readHoldings(db, itemIds, { today, came, terms });
  const { decision, refusedPoint, refusedUpTo } = levelSuggestion;
  const before = new Map(
    (
      await db
        .select({ itemId: levelSuggestion.itemId, siteId: levelSuggestion.siteId, decision, refusedPoint, refusedUpTo })
        .from(levelSuggestion)
        .where(among(levelSuggestion.itemId, itemIds))
    ).map((row) => [pairOf(row), row]),
  );
  const rows = pasts.flatMap(({ itemId, siteId, days }) => {
    const held = heldAt(itemId, siteId);
    const found = held && suggested(days, held.holding);
    if (!held || !found) return [];
    const now = held.now && asItIs(days, held.now);
    const old = before.get(pairOf({ itemId, siteId }));
    return [
      {
        ...{ itemId, siteId, madeOn: today, pattern: found.traits.pattern, method: found.tried[0]?.method ?? null, spread: found.spread },
        ...{
          perDay: found.perDay.toFixed(4),
          wantedYear: days
            .slice(-365)
            .reduce((all, { wanted }) => all + wanted, 0)
            .toFixed(4),
        },
        ...{ leadDays: held.lead.days, leadSpread: held.lead.spread, leadFrom: held.lead.from },
        ...{ point: found.point.toFixed(4), upTo: found.upTo.toFixed(4), withoutStock: found.filled.withoutStock, apart: found.filled.apart },
        ...{ daysOut: found.replay.daysOut, averageStock: found.replay.averageStock },
        ...{ daysOutNow: now?.daysOut ?? null, averageStockNow: now?.averageStock ?? null },
        // What was refused is asked again once the past says something else; whatever else was decided, was decided on what was said then.
        keeps: old?.decision === 'refused' && standsRefused({ point: Number(old.refusedPoint), upTo: Number(old.refusedUpTo) }, found),
      },
    ];
  });
  const set = sql`made_on = excluded.made_on, pattern = excluded.pattern, method = excluded.method, per_day = excluded.per_day, spread = excluded.spread,
    wanted_year = excluded.wanted_year, lead_days = excluded.lead_days, lead_spread = excluded.lead_spread, lead_from = excluded.lead_from,
    point = excluded.point, up_to = excluded.up_to, without_stock = excluded.without_stock, apart = excluded.apart, days_out = excluded.days_out,
    average_stock = excluded.average_stock, days_out_now = excluded.days_out_now, average_stock_now = excluded.average_stock_now`;
  await insertRows(
    tx,
    levelSuggestion,
    rows.map(({ keeps: _keeps, ...row }) => row),
    sql`on conflict (item_id, site_id) do update set ${set}`,
  );
  const open = rows.filter(({ keeps }) => !keeps).map(({ itemId, siteId }) => ({ itemId, siteId }));
  const pairs = given('looked', { itemId: levelSuggestion.itemId, siteId: levelSuggestion.siteId }, open);
  await db
    .update(levelSuggestion)
    .set({ decision: null, decidedAt: null, decidedBy: null, reason: '', refusedPoint: null, refusedUpTo: null })
    .from(pairs.rows)
    .where(and(eq(levelSuggestion.itemId, pairs.row.itemId), eq(levelSuggestion.siteId, pairs.row.siteId)));
  // Nothing was wanted any more within three years, or the site is not in use.
  const said = rows.map(({ itemId, siteId }) => pairOf({ itemId, siteId }));
  await db
    .delete(levelSuggestion)
    .where(
      and(
        among(levelSuggestion.itemId, itemIds),
        said.length === 0 ? undefined : notInArray(sql`${levelSuggestion.itemId} || '/' || ${levelSuggestion.siteId}`, said),
      ),
    );
  const rates = given(
    'rate',
    { itemId: itemPolicy.itemId, siteId: itemPolicy.siteId, perDay: itemPolicy.perDay },
    rows.map(({ itemId, siteId, perDay }) => ({ itemId, siteId, perDay })),
  );
  await db
    .update(itemPolicy)
    .set({ perDay: null })
    .where(and(among(itemPolicy.itemId, itemIds), sql`${itemPolicy.perDay} is not null`));
  await db
    .update(itemPolicy)
    .set({ perDay: rates.row.perDay })
    .from(rates.rows)
    .where(and(eq(itemPolicy.itemId, rates.row.itemId), eq(itemPolicy.siteId, rates.row.siteId)));
}
