import type * as contract from '@larder/contract/counts';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { addDays, dayOf } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { classesOf } from '@larder/core/stock/counting';
import { and, eq, gte, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type pg from 'pg';
import type { Act } from '../../act';
import { transaction, type Db } from '../../db/database';
import { atSites, insertRows, positive } from '../../db/given';
import { company, countBin, countLine, countSheet, item, itemClass, itemSite, movementLine, place, site } from '../../db/schema/index';
import { recordChanges } from '../../documents/changes';
import { classOf, dueThere, everyDays } from './planning';

/** What is due to be counted at each site, class by class, and how often each class is. */
export async function countCalendar(act: Act, { siteId }: QueryOf<typeof contract.countCalendar>): Promise<ResponseOf<typeof contract.countCalendar>> {
  const every = await everyDays(act);
  const rows = await act.tx.db
    .select({
      siteId: site.id,
      site: site.name,
      class: classOf,
      items: sql<number>`count(*)::int`,
      due: sql<number>`(count(*) filter (where ${dueThere(every, act.today) ?? sql`false`}))::int`,
    })
    .from(itemSite)
    .innerJoin(site, eq(site.id, itemSite.siteId))
    .leftJoin(itemClass, eq(itemClass.itemId, itemSite.itemId))
    .where(and(positive(itemSite.onHand), isNull(site.retiredAt), atSites(itemSite.siteId, act.sites('look', siteId))))
    .groupBy(site.id, sql`3`)
    .orderBy(site.id, sql`3`);
  return { every, rows };
}

/** Sites at which something is due to be counted, and how many items that are. */
export async function dueSites(db: Db, today: string): Promise<{ siteId: number; site: string; due: number }[]> {
  const due = dueThere(await everyDays({ tx: { db } }), today);
  if (due === undefined) return [];
  return db
    .select({ siteId: site.id, site: site.name, due: sql<number>`count(*)::int` })
    .from(itemSite)
    .innerJoin(site, eq(site.id, itemSite.siteId))
    .leftJoin(itemClass, eq(itemClass.itemId, itemSite.itemId))
    .where(and(positive(itemSite.onHand), isNull(site.retiredAt), due))
    .groupBy(site.id);
}

export async function editCalendar(act: Act, form: BodyOf<typeof contract.editCalendar>): Promise<Record<string, never>> {
  const was = await everyDays(act);
  await act.tx.db.update(company).set({ countEveryA: form.A, countEveryB: form.B, countEveryC: form.C });
  await recordChanges(act, 'company', 1, { 'class A': was.A, 'class B': was.B, 'class C': was.C }, { 'class A': form.A, 'class B': form.B, 'class C': form.C });
  return {};
}

/** Month by month, how much of what was counted and settled agreed. */
export async function countAccuracy(act: Act, { siteId }: QueryOf<typeof contract.countAccuracy>): Promise<ResponseOf<typeof contract.countAccuracy>> {
  const month = sql<string>`to_char(${countLine.countedAt} at time zone ${company.timeZone}, 'YYYY-MM')`;
  const { db } = act.tx;
  const worth = db
    .select({ value: sql`sum(abs(${movementLine.value}))` })
    .from(movementLine)
    .where(
      and(
        eq(movementLine.movementId, countLine.movementId),
        eq(movementLine.itemId, countLine.itemId),
        sql`${movementLine.lotId} is not distinct from ${countLine.lotId}`,
        sql`${countBin.placeId} in (${movementLine.fromPlaceId}, ${movementLine.toPlaceId})`,
      ),
    );
  const months = await db
    .select({
      month,
      lines: sql<number>`count(*)::int`,
      agreed: sql<number>`(count(*) filter (where ${countLine.posted} = 0))::int`,
      off: sql<string>`coalesce(sum((${worth})), 0.00)`,
    })
    .from(countLine)
    .innerJoin(countBin, eq(countBin.id, countLine.binId))
    .innerJoin(countSheet, eq(countSheet.id, countBin.sheetId))
    .crossJoin(company)
    .where(and(sql`${countLine.settledAt} is not null`, atSites(countSheet.siteId, act.sites('look', siteId))))
    .groupBy(sql`1`)
    .orderBy(sql`1`);
  return { months };
}

const from = alias(place, 'used_from');
const to = alias(place, 'used_to');

/** Reckons the class of each item anew, once a day: by what of it left the business in a year, at what it had cost. Answers how many there are; nothing where it was done today. */
export async function classifyItems(pool: pg.Pool, now: Date): Promise<number> {
  return transaction(pool, 'write', async (tx) => {
    const { db } = tx;
    const [business] = await db.select({ zone: company.timeZone, on: company.classifiedOn, A: company.shareA, B: company.shareB }).from(company);
    if (!business) return 0;
    const today = dayOf(now, business.zone);
    if (business.on === today) return 0;
    const used = await db
      .select({ id: movementLine.itemId, used: sql<string>`-sum(${movementLine.value})` })
      .from(movementLine)
      .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
      .innerJoin(to, eq(to.id, movementLine.toPlaceId))
      // What was used is what left for customers, own use or work, less what came back from there.
      .where(
        and(
          gte(movementLine.effectiveOn, addDays(today, -365)),
          sql`'{customer,own-use,made}'::text[] && array[${from.kind}, ${to.kind}]`,
          sql`${from.owned} <> ${to.owned}`,
        ),
      )
      .groupBy(movementLine.itemId);
    const items = await db.select({ id: item.id }).from(item).where(eq(item.kind, 'stocked'));
    const values = new Map(used.map(({ id, used: value }) => [id, value]));
    const classes = classesOf(
      items.map(({ id }) => ({ id, used: decimal(values.get(id) ?? '0') })),
      business,
    );
    await db.delete(itemClass);
    await insertRows(
      tx,
      itemClass,
      items.map(({ id }) => ({ itemId: id, class: classes.get(id) ?? 'C', usedValue: values.get(id) ?? '0' })),
    );
    await db.update(company).set({ classifiedOn: today });
    return items.length;
  });
}
