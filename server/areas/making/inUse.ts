import { topDown, type Bill, type Bills } from '@larder/core/making/bill';
import type { CostNow } from '@larder/core/making/rollUp';
import { decimal } from '@larder/core/decimal';
import { and, desc, eq, isNull, lte, sql, type SQL } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRows, type RowOf } from '../../db/json';
import { bom, bomByProduct, bomCost, bomPart, costPool, item, itemSite, unit } from '../../db/schema/index';
import { plain } from '../../db/text';

/** The versions that are in use on a day: of each item the one that began last. */
export const bomsInUse = ({ tx: { db }, today }: { tx: Pick<Act['tx'], 'db'>; today: string }, only?: SQL) =>
  db
    .selectDistinctOn([bom.itemId], { id: bom.id, itemId: bom.itemId })
    .from(bom)
    .where(and(isNull(bom.retiredAt), lte(bom.startsOn, today), only))
    .orderBy(bom.itemId, desc(bom.startsOn), desc(bom.number));

/** How a version stands on that day, in words. `inUseId`: the version of its item that is in use. */
export const bomState = (today: SQL | string, inUseId: SQL) =>
  sql<
    'in use' | 'later' | 'replaced' | 'retired'
  >`case when ${bom.retiredAt} is not null then 'retired' when ${bom.startsOn} > ${today}::date then 'later' when ${bom.id} = ${inUseId} then 'in use' else 'replaced' end`;

const billFields = {
  id: bom.id,
  itemId: bom.itemId,
  makes: plain(bom.makes),
  share: sql<string | null>`${plain(bom.share)}`,
  parts: jsonRows(
    { itemId: bomPart.itemId, quantity: plain(bomPart.baseQuantity), waste: plain(bomPart.waste) },
    (select) => select.from(bomPart).where(eq(bomPart.bomId, bom.id)),
    {
      orderBy: bomPart.position,
    },
  ),
  costs: jsonRows({ quantity: plain(bomCost.quantity), rate: plain(bomCost.rate) }, (select) => select.from(bomCost).where(eq(bomCost.bomId, bom.id)), {
    orderBy: bomCost.position,
  }),
  byProducts: jsonRows(
    { itemId: bomByProduct.itemId, quantity: plain(bomByProduct.quantity), share: sql<string | null>`${plain(bomByProduct.share)}` },
    (select) => select.from(bomByProduct).where(eq(bomByProduct.bomId, bom.id)),
    { orderBy: bomByProduct.position },
  ),
};

/** What a bill is reckoned with, of what is written in rows or in a form. */
export const billOf = (row: Omit<RowOf<typeof billFields>, 'id'>): Bill => ({
  itemId: row.itemId,
  makes: decimal(row.makes),
  share: row.share === null ? null : decimal(row.share),
  parts: row.parts.map(({ itemId, quantity, waste }) => ({ itemId, quantity: decimal(quantity), waste: decimal(waste) })),
  costs: row.costs.map(({ quantity, rate }) => ({ quantity: decimal(quantity), rate: decimal(rate) })),
  byProducts: row.byProducts.map(({ itemId, quantity, share }) => ({ itemId, quantity: decimal(quantity), share: share === null ? null : decimal(share) })),
});

/** Bills in use, with the version each is of. */
export interface InUse {
  bills: Bills;
  bomIds: ReadonlyMap<number, number>;
}

async function read(act: Act, only?: SQL): Promise<InUse> {
  const { db } = act.tx;
  const used = bomsInUse(act, only).as('used');
  const rows = await db.select(billFields).from(bom).innerJoin(used, eq(used.id, bom.id));
  return { bills: new Map(rows.map((row) => [row.itemId, billOf(row)])), bomIds: new Map(rows.map((row) => [row.itemId, row.id])) };
}

/** All bills in use. */
export const allInUse = (act: Act): Promise<InUse> => read(act);

/** The bills in use of these items and of all that goes into them, level by level. `given` stands for the bills of its items, whatever is in use. */
export async function inUseFor(act: Act, itemIds: readonly number[], given: Bills = new Map()): Promise<InUse> {
  const bills = new Map(given);
  const bomIds = new Map<number, number>();
  const seen = new Set<number>(given.keys());
  let next = [...itemIds, ...[...given.values()].flatMap(({ parts }) => parts.map((part) => part.itemId))];
  while ((next = [...new Set(next)].filter((id) => !seen.has(id))).length > 0) {
    for (const id of next) seen.add(id);
    const level = await read(act, among(bom.itemId, next));
    for (const [id, bill] of level.bills) bills.set(id, bill);
    for (const [id, bomId] of level.bomIds) bomIds.set(id, bomId);
    next = [...level.bills.values()].flatMap(({ parts }) => parts.map((part) => part.itemId));
  }
  return { bills, bomIds };
}

/** Items that bills name, and what is reckoned of each: its words, its step, whether it lies on shelves, and what one costs now. */
export async function itemsOf({ tx: { db } }: Act, itemIds: readonly number[]) {
  const rows = await db
    .select({
      id: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      stocked: sql<boolean>`${item.kind} = 'stocked'`,
      /** As it is in stock, else as it was when it last was, else as it is bought. What is used as it comes was cost then already. */
      cost: sql<string | null>`(case when ${item.kind} <> 'stocked' then 0 when ${costPool.quantity} > 0 then ${costPool.value} / ${costPool.quantity}
        when ${costPool.lastQuantity} > 0 then ${costPool.lastValue} / ${costPool.lastQuantity} else ${item.purchasePrice} end)::text`,
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(costPool, eq(costPool.itemId, item.id))
    .where(among(item.id, itemIds));
  return new Map(rows.map((row) => [row.id, row]));
}
export type MadeItem = Awaited<ReturnType<typeof itemsOf>> extends Map<number, infer T> ? T : never;

/** What one of each costs now; null where nothing says. */
export const costNowOf =
  (items: ReadonlyMap<number, MadeItem>): CostNow =>
  (itemId) => {
    const known = items.get(itemId)?.cost ?? null;
    return known === null ? null : decimal(known);
  };

/** All items that bills name, what is made before what goes into it. */
export const itemsIn = (from: readonly number[], bills: Bills): number[] => [
  ...new Set([...topDown(from, bills), ...[...bills.values()].flatMap(({ byProducts }) => byProducts.map(({ itemId }) => itemId))]),
];

/** How many of items are free at a site. */
export async function freeAt({ tx: { db } }: Act, itemIds: readonly number[], siteId: number): Promise<Map<number, string>> {
  const rows = await db
    .select({ itemId: itemSite.itemId, free: plain(itemSite.free) })
    .from(itemSite)
    .where(and(among(itemSite.itemId, itemIds), eq(itemSite.siteId, siteId)));
  return new Map(rows.map(({ itemId, free }) => [itemId, String(free)]));
}
