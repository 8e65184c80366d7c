import type * as contract from '@larder/contract/making';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, greatest, zero } from '@larder/core/decimal';
import { makeable, type Shelf } from '@larder/core/making/canMake';
import { topDown, type Bills } from '@larder/core/making/bill';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, asc, desc, eq, gt, ne, or, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, atSites } from '../../db/given';
import { jsonRows } from '../../db/json';
import { bomAlternative, bomPart, company, item, itemPolicy, itemSite, itemSupplier, party, site } from '../../db/schema/index';
import { plain } from '../../db/text';
import { comingOf } from '../../documents/coming';
import { quantityError, lineFacts, refuseErrors, type ItemFacts } from '../../documents/lines';
import { allInUse, freeAt, inUseFor, itemsOf, type MadeItem } from './inUse';

/** How many of an item can be made at a site of what is free there, and what it takes to make so many: what is missing, when it comes, and from where it could be had. */
export async function canMakeItem(
  act: Act,
  itemId: number,
  { siteId, quantity }: QueryOf<typeof contract.canMakeItem>,
): Promise<ResponseOf<typeof contract.canMakeItem>> {
  act.allow('look', siteId);
  const { bills, bomIds } = await inUseFor(act, [itemId]);
  const bomId = bomIds.get(itemId);
  const order = topDown([itemId], bills);
  const [items, free, here] = await Promise.all([
    itemsOf(act, order),
    freeAt(act, order, siteId),
    act.tx.db.select({ id: site.id }).from(site).where(eq(site.id, siteId)),
  ]);
  const made = items.get(itemId);
  if (!made) throw new Refusal(404, 'not-found', 'There is no such item.');
  if (here.length === 0) throw refuseField(422, 'no-such-site', 'siteId', 'There is no such site.');
  if (bomId === undefined) throw new Refusal(404, 'not-made', `${made.sku} has no bill of materials in use.`);
  if (quantity !== undefined) {
    const { items: facts } = await lineFacts(act, [itemId]);
    const fault = quantityError(facts.get(itemId) as ItemFacts, quantity, 'quantity');
    if (fault) refuseErrors([fault]);
  }
  const shelf = shelfOf(items, free);
  const reckoned = makeable(bills, shelf);
  const can = reckoned.canMake(itemId);
  const many = decimal(quantity ?? (can.many ?? zero).plus(made.step));
  const rows = reckoned.needed(itemId, many).filter((row) => row.itemId !== itemId);
  const about = await sourcesOf(
    act,
    rows.filter(({ missing }) => missing.gt(0)).map((row) => row.itemId),
    siteId,
  );
  const alternatives = await alternativesFor(act, [...bomIds.values()], siteId);
  const levels = levelsOf(itemId, order, bills);
  const named = (id: number) => {
    const one = items.get(id) as MadeItem;
    return { itemId: id, sku: one.sku, name: one.name, unit: one.unit };
  };
  return {
    ...named(itemId),
    step: made.step,
    bomId,
    free: free.get(itemId) ?? '0',
    canMake: can.many?.toFixed() ?? null,
    limits: can.limits.map((id) => ({ itemId: id, sku: items.get(id)?.sku ?? '', name: items.get(id)?.name ?? '' })),
    quantity: many.toFixed(),
    rows: rows.map((row) => {
      const { coming = [], elsewhere = [], supplierId = null, supplier = null } = about.get(row.itemId) ?? {};
      const comes = coming.reduce((all, one) => all.plus(one.quantity), zero);
      return {
        ...named(row.itemId),
        level: levels.get(row.itemId) ?? 1,
        step: items.get(row.itemId)?.step ?? '1',
        stocked: shelf.stocked(row.itemId),
        needed: row.needed.toFixed(),
        free: free.get(row.itemId) ?? '0',
        taken: row.free.toFixed(),
        made: row.made.toFixed(),
        missing: row.missing.toFixed(),
        coming,
        open: greatest(row.missing.minus(comes), zero).toFixed(),
        elsewhere,
        alternatives: alternatives.get(row.itemId) ?? [],
        supplierId,
        supplier,
      };
    }),
  };
}

const shelfOf = (items: ReadonlyMap<number, MadeItem>, free: ReadonlyMap<number, string>): Shelf => {
  const facts = new Map([...items].map(([id, { step, stocked }]) => [id, { step: decimal(step), stocked, free: greatest(decimal(free.get(id) ?? 0), zero) }]));
  return { free: (id) => facts.get(id)?.free ?? zero, step: (id) => facts.get(id)?.step ?? decimal(1), stocked: (id) => facts.get(id)?.stocked ?? true };
};

/** How far below the item each of its parts first is. */
function levelsOf(itemId: number, order: readonly number[], bills: Bills): Map<number, number> {
  const levels = new Map([[itemId, 0]]);
  for (const at of order)
    for (const part of bills.get(at)?.parts ?? []) levels.set(part.itemId, Math.min(levels.get(part.itemId) ?? Infinity, (levels.get(at) ?? 0) + 1));
  return levels;
}

/** From where more of items could be had at a site: what comes there, who else has some free, and from whom it is bought first. */
async function sourcesOf({ tx: { db }, sites }: Act, itemIds: readonly number[], siteId: number) {
  const mine = sites('look');
  const seen = mine === null ? undefined : or(sql`(${db.select({ all: company.freeSeenElsewhere }).from(company)})`, atSites(itemSite.siteId, mine));
  const first = db
    .select({ itemId: itemSupplier.itemId, supplierId: itemSupplier.supplierId })
    .from(itemSupplier)
    .where(eq(itemSupplier.itemId, item.id))
    .orderBy(itemSupplier.position)
    .limit(1)
    .as('first_supplier');
  const rows = await db
    .select({
      id: item.id,
      supplierId: first.supplierId,
      supplier: party.name,
      coming: comingOf(item.id, siteId),
      elsewhere: jsonRows(
        { siteId: site.id, site: site.name, free: plain(itemSite.free) },
        (select) =>
          select
            .from(itemSite)
            .innerJoin(site, eq(site.id, itemSite.siteId))
            .where(and(eq(itemSite.itemId, item.id), ne(itemSite.siteId, siteId), gt(itemSite.free, '0'), seen)),
        { orderBy: desc(itemSite.free) },
      ),
    })
    .from(item)
    .leftJoinLateral(first, sql`true`)
    .leftJoin(party, eq(party.id, first.supplierId))
    .where(among(item.id, itemIds));
  return new Map(rows.map((row) => [row.id, row]));
}

/** What may be taken in place of parts, with how many of it are free at the site. */
async function alternativesFor({ tx: { db } }: Act, bomIds: readonly number[], siteId: number) {
  const rows = await db
    .select({ partId: bomPart.itemId, sku: item.sku, quantity: plain(bomAlternative.quantity), free: sql<string>`trim_scale(coalesce(${itemSite.free}, 0))` })
    .from(bomAlternative)
    .innerJoin(bomPart, and(eq(bomPart.bomId, bomAlternative.bomId), eq(bomPart.position, bomAlternative.part)))
    .innerJoin(item, eq(item.id, bomAlternative.itemId))
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, siteId)))
    .where(among(bomAlternative.bomId, bomIds))
    .orderBy(asc(bomAlternative.bomId), asc(bomAlternative.part), asc(bomAlternative.position));
  const found = new Map<number, { sku: string; quantity: string; free: string }[]>();
  for (const { partId, ...row } of rows) found.set(partId, [...(found.get(partId) ?? []), row]);
  return found;
}

/** Everything that is made, with how many can be made at a site of what is free there, and what limits each. */
export async function canMakeAll(act: Act, { siteId, q }: QueryOf<typeof contract.canMakeAll>): Promise<ResponseOf<typeof contract.canMakeAll>> {
  act.allow('look', siteId);
  const { bills, bomIds } = await allInUse(act);
  const all = [...new Set([...bills].flatMap(([id, { parts }]) => [id, ...parts.map((part) => part.itemId)]))];
  const [items, free, standing] = await Promise.all([itemsOf(act, all), freeAt(act, all, siteId), standingOf(act, [...bills.keys()], siteId)]);
  const { canMake } = makeable(bills, shelfOf(items, free));
  const words = (q ?? '').toLowerCase().split(/\s+/);
  const shown = [...bills.keys()].flatMap((id) => {
    const one = items.get(id);
    return one && words.every((word) => `${one.sku} ${one.name}`.toLowerCase().includes(word)) ? [one] : [];
  });
  shown.sort((a, b) => a.sku.localeCompare(b.sku));
  return {
    rows: shown.map(({ id, sku, name, unit }) => {
      const { many, limits } = canMake(id);
      const stands = standing.get(id);
      return {
        itemId: id,
        sku,
        name,
        unit,
        bomId: bomIds.get(id) as number,
        free: free.get(id) ?? '0',
        short: stands?.short ?? '0',
        reorderPoint: stands?.reorderPoint ?? null,
        canMake: many?.toFixed() ?? null,
        limits: limits.map((itemId) => ({ itemId, sku: items.get(itemId)?.sku ?? '' })),
      };
    }),
  };
}

async function standingOf({ tx: { db } }: Act, itemIds: readonly number[], siteId: number) {
  const rows = await db
    .select({
      id: item.id,
      short: sql<string>`trim_scale(coalesce(${itemSite.short}, 0))`,
      reorderPoint: sql<string | null>`${plain(itemPolicy.point)}`,
    })
    .from(item)
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, siteId)))
    .leftJoin(itemPolicy, and(eq(itemPolicy.itemId, item.id), eq(itemPolicy.siteId, siteId)))
    .where(among(item.id, itemIds));
  return new Map(rows.map((row) => [row.id, row]));
}
