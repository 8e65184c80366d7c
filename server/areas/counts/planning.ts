import type * as contract from '@larder/contract/counts';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { choosesItems, dueBefore, type CountPlan } from '@larder/core/stock/counting';
import { decimal, sum } from '@larder/core/decimal';
import { refuseField } from '@larder/core/refusal';
import { and, eq, exists, gte, isNotNull, isNull, notExists, or, sql, type SQL } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows, notNone } from '../../db/given';
import { balance, binCount, binDoubt, company, costPool, countBin, countItem, countSheet, item, itemClass, itemSite, place, site } from '../../db/schema/index';
import { nextNumber } from '../../documents/number';

/** The class that an item is counted by: C until it was reckoned. */
export const classOf = sql<'A' | 'B' | 'C'>`coalesce(${itemClass.class}, 'C')`;

/** Whether what lies at a site is due: last counted before the day that its class says, or never. */
export function dueThere(every: Every, today: string): SQL | undefined {
  return or(
    ...(['A', 'B', 'C'] as const).flatMap((one) => {
      const before = dueBefore(today, every[one]);
      return before === null ? [] : [and(sql`${classOf} = ${one}`, sql`coalesce(${itemSite.countedOn}, '-infinity') < ${before}::date`)];
    }),
  );
}

export type Every = Record<'A' | 'B' | 'C', number | null>;
export async function everyDays({ tx: { db } }: { tx: Pick<Act['tx'], 'db'> }): Promise<Every> {
  const [row] = await db.select({ A: company.countEveryA, B: company.countEveryB, C: company.countEveryC }).from(company);
  return row ?? { A: null, B: null, C: null };
}

interface Asked {
  siteId: number;
  plan: CountPlan;
}

/** Bins in use at the site that the plan looks at. */
const binsOf = ({ siteId, plan: { zone, binIds } }: Asked): SQL | undefined =>
  and(
    eq(place.kind, 'bin'),
    eq(place.siteId, siteId),
    isNull(place.retiredAt),
    zone === '' ? undefined : eq(place.zone, zone),
    binIds.length === 0 ? undefined : among(place.id, binIds),
  );

/** What lies in those bins and is chosen, by bin and item. */
async function lyingThere(act: Act, asked: Asked) {
  const { db } = act.tx;
  const { categoryId, itemIds, classes, notSince, differedSince, doubted, due } = asked.plan;
  const counted = (more: SQL | undefined) =>
    db
      .select({ one: sql`1` })
      .from(binCount)
      .where(and(eq(binCount.itemId, balance.itemId), eq(binCount.placeId, balance.placeId), more));
  const inDoubt = db
    .select({ one: sql`1` })
    .from(binDoubt)
    .where(and(eq(binDoubt.itemId, balance.itemId), eq(binDoubt.placeId, balance.placeId)));
  return db
    .select({
      placeId: place.id,
      itemId: item.id,
      lines: sql<number>`count(*)::int`,
      value: sql<string>`sum(round(${balance.quantity} * ${costPool.unitCost}, 2))`,
    })
    .from(balance)
    .innerJoin(place, eq(place.id, balance.placeId))
    .innerJoin(item, eq(item.id, balance.itemId))
    .innerJoin(costPool, eq(costPool.itemId, item.id))
    .leftJoin(itemClass, eq(itemClass.itemId, item.id))
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, asked.siteId)))
    .where(
      and(
        binsOf(asked),
        notNone(balance.quantity),
        categoryId === null ? undefined : eq(item.categoryId, categoryId),
        itemIds.length === 0 ? undefined : among(item.id, itemIds),
        classes.length === 0 ? undefined : among(classOf, classes),
        notSince === null ? undefined : notExists(counted(gte(binCount.countedOn, notSince))),
        differedSince === null ? undefined : exists(counted(and(gte(binCount.countedOn, differedSince), isNotNull(binCount.movementId)))),
        doubted ? exists(inDoubt) : undefined,
        due ? (dueThere(await everyDays(act), act.today) ?? sql`false`) : undefined,
      ),
    )
    .groupBy(place.id, item.id);
}

const askedOf = ({ siteId, plan }: { siteId: number | null; plan: CountPlan }): Asked => ({ siteId: siteId as number, plan }); // the contract has refused none

/** What the plan of a count would come to. */
export async function foreseeCount(act: Act, form: BodyOf<typeof contract.foreseeCount>): Promise<ResponseOf<typeof contract.foreseeCount>> {
  const asked = askedOf(form);
  act.allow('look', asked.siteId);
  const rows = await lyingThere(act, asked);
  const bins = choosesItems(asked.plan) ? new Set(rows.map(({ placeId }) => placeId)).size : await act.tx.db.$count(place, binsOf(asked));
  return {
    bins,
    lines: rows.reduce((all, { lines }) => all + lines, 0),
    items: new Set(rows.map(({ itemId }) => itemId)).size,
    value: sum(rows.map(({ value }) => decimal(value))).toFixed(2),
  };
}

const mostBins = 5000;

/** Plans a count: its bins are those that hold something of what is chosen then, or all there are. */
export async function createCount(act: Act, { siteId, plan, ...form }: BodyOf<typeof contract.createCount>): Promise<ResponseOf<typeof contract.createCount>> {
  const asked = askedOf({ siteId, plan });
  act.allow('stock.correct', asked.siteId);
  const { db } = act.tx;
  if ((await db.$count(site, and(eq(site.id, asked.siteId), isNull(site.retiredAt)))) === 0)
    throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
  const restricted = choosesItems(plan);
  const rows = restricted ? await lyingThere(act, asked) : [];
  const placeIds = restricted
    ? [...new Set(rows.map(({ placeId }) => placeId))]
    : (await db.select({ id: place.id }).from(place).where(binsOf(asked)).orderBy(place.walk, place.code)).map(({ id }) => id);
  if (placeIds.length === 0)
    throw refuseField(
      422,
      'nothing-to-count',
      'plan',
      restricted ? 'Nothing that lies at this site is chosen by this.' : 'There is no bin like that at this site.',
    );
  if (placeIds.length > mostBins) throw refuseField(422, 'too-much', 'plan', `These are ${placeIds.length} bins; count at most ${mostBins} with one sheet.`);
  const number = await nextNumber(act, 'count');
  const values = { ...form, number, siteId: asked.siteId, plan, restricted, createdAt: act.now.toISOString(), createdBy: act.by.id };
  const [made] = await db.insert(countSheet).values(values).returning({ id: countSheet.id });
  const sheetId = made?.id as number;
  await insertRows(
    act.tx,
    countBin,
    placeIds.map((placeId) => ({ sheetId, placeId })),
  );
  await insertRows(
    act.tx,
    countItem,
    [...new Set(rows.map(({ itemId }) => itemId))].map((itemId) => ({ sheetId, itemId })),
  );
  return { id: sheetId, number };
}
