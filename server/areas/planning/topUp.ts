import type * as contract from '@larder/contract/planning';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { Sites } from '@larder/contract/rights';
import { decimal, quantityText, zero, type Decimal } from '@larder/core/decimal';
import { allowed, priceOf, type PriceBreak } from '@larder/core/inbound/terms';
import { wayOf, type WayText } from '@larder/core/planning/levels';
import { nextBreak, proposalsOf, standing, type Proposed, type ToppedUp } from '@larder/core/planning/proposals';
import { and, eq, exists, isNotNull, isNull, or, sql, type SQL } from 'drizzle-orm';
import { unionAll, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import type { Db } from '../../db/database';
import { among, atSites } from '../../db/given';
import { jsonList, jsonRows, type RowOf } from '../../db/json';
import {
  company,
  bom,
  item,
  itemPolicy,
  itemSite,
  itemSupplier,
  party,
  person,
  productLine,
  purchaseLine,
  purchaseOrder,
  putOff,
  site,
  unit,
  workOrder,
} from '../../db/schema/index';
import { lower, plain } from '../../db/text';
import { isDraft } from '../../documents/orderFields';
import { wayWritten } from '../../documents/levels';
import { bomsInUse } from '../making/service';

/** What is on drafts of purchase orders that come to a site, and in work that is planned and not released, by item and site. */
function drafted(db: Db) {
  const ordered = db
    .select({ itemId: purchaseLine.itemId, siteId: purchaseLine.siteId, many: sql<string>`${purchaseLine.baseQuantity}`.as('many') })
    .from(purchaseOrder)
    .innerJoin(purchaseLine, eq(purchaseLine.orderId, purchaseOrder.id))
    .where(and(isDraft(purchaseOrder, purchaseOrder.placedAt), isNull(purchaseOrder.shipsToId)));
  const planned = db
    .select({ itemId: productLine.itemId, siteId: productLine.siteId, many: sql<string>`${productLine.quantity} - ${productLine.made}`.as('many') })
    .from(workOrder)
    .innerJoin(productLine, eq(productLine.workOrderId, workOrder.id))
    .where(and(isNull(workOrder.releasedAt), isNull(workOrder.endedAt), isNull(workOrder.cancelledAt), eq(workOrder.apart, false)));
  const both = unionAll(ordered, planned).as('drafts');
  return db
    .select({ itemId: both.itemId, siteId: both.siteId, many: sql<string>`sum(${both.many})`.as('drafted_many') })
    .from(both)
    .groupBy(both.itemId, both.siteId)
    .as('drafted');
}

const figures = and(eq(itemSite.itemId, itemPolicy.itemId), eq(itemSite.siteId, itemPolicy.siteId));
const orNone = (column: PgColumn | SQL | SQL.Aliased) => sql<string>`trim_scale(coalesce(${column}, 0))::text`;

/** Items and sites in use whose position, with what is in drafts, is at or below the point, and that nobody has put off; one row each. */
export function lowOnes({ tx: { db }, today }: Pick<Act, 'tx' | 'today'>, seen: Sites, { withPutOff = false } = {}) {
  const drafts = drafted(db);
  const position = sql`coalesce(${itemSite.free} + ${itemSite.onOrder} + ${itemSite.coming} - ${itemSite.short}, 0) + coalesce(${drafts.many}, 0)`;
  return db
    .select({ itemId: sql<number>`${itemPolicy.itemId}`.as('low_item'), siteId: sql<number>`${itemPolicy.siteId}`.as('low_site') })
    .from(itemPolicy)
    .innerJoin(item, and(eq(item.id, itemPolicy.itemId), isNull(item.retiredAt)))
    .innerJoin(site, and(eq(site.id, itemPolicy.siteId), isNull(site.retiredAt)))
    .leftJoin(itemSite, figures)
    .leftJoin(drafts, and(eq(drafts.itemId, itemPolicy.itemId), eq(drafts.siteId, itemPolicy.siteId)))
    .leftJoin(putOff, and(eq(putOff.itemId, itemPolicy.itemId), eq(putOff.siteId, itemPolicy.siteId)))
    .where(
      and(
        isNotNull(itemPolicy.point),
        atSites(itemPolicy.siteId, seen),
        sql`${position} <= ${itemPolicy.point}`,
        sql`${position} < ${itemPolicy.upTo}`,
        withPutOff ? undefined : or(isNull(putOff.until), sql`${putOff.until} <= ${today}`),
      ),
    );
}

const standingFields = {
  siteId: site.id,
  site: site.name,
  free: orNone(itemSite.free),
  onOrder: orNone(itemSite.onOrder),
  coming: orNone(itemSite.coming),
  short: orNone(itemSite.short),
  drafted: orNone(sql`drafted.drafted_many`),
  point: sql<string | null>`${plain(itemPolicy.point)}`,
  upTo: sql<string | null>`${plain(itemPolicy.upTo)}`,
  written: sql<string | null>`${plain(itemPolicy.reorderPoint)}`,
  coverDays: sql<number | null>`${itemPolicy.coverDays}`,
  pack: sql<string | null>`${plain(itemPolicy.packSize)}`,
  way: sql<WayText | null>`case when ${itemPolicy.way} is not null then ${wayWritten} end`,
  until: sql<string | null>`${putOff.until}::text`,
  reason: sql<string | null>`${putOff.reason}`,
  person: sql<string | null>`${person.name}`,
};
type Standing = RowOf<typeof standingFields>;

/** How items stand at all sites in use that may be looked at or brought from: a list for each item, which is read faster than rows. */
async function readStandings({ tx: { db }, today }: Act, itemIds: readonly number[], sites: Sites): Promise<Map<number, Standing[]>> {
  const drafts = drafted(db);
  const rows = await db
    .select({ itemId: item.id, sites: jsonList(standingFields, { orderBy: site.id }) })
    .from(item)
    .innerJoin(site, and(isNull(site.retiredAt), atSites(site.id, sites)))
    .leftJoin(itemPolicy, and(eq(itemPolicy.itemId, item.id), eq(itemPolicy.siteId, site.id)))
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, site.id)))
    .leftJoin(drafts, and(eq(drafts.itemId, item.id), eq(drafts.siteId, site.id)))
    .leftJoin(putOff, and(eq(putOff.itemId, item.id), eq(putOff.siteId, site.id), sql`${putOff.until} > ${today}`))
    .leftJoin(person, eq(person.id, putOff.personId))
    .where(among(item.id, itemIds))
    .groupBy(item.id);
  return new Map(rows.map(({ itemId, sites: standings }) => [itemId, standings]));
}

/** What is said of items in all: words, unit, weight, room, whether they are made, and what their suppliers ask. */
function readItems({ tx, today }: Act, itemIds: readonly number[]) {
  return tx.db
    .select({
      id: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      weightKg: sql<string | null>`${plain(item.weightKg)}`,
      volumeM3: sql<string | null>`trim_scale(round(${item.lengthCm} * ${item.widthCm} * ${item.heightCm} / 1000000, 9))::text`,
      made: sql<boolean>`${exists(bomsInUse({ tx, today }, eq(bom.itemId, item.id)))}`,
      suppliers: jsonRows(
        {
          supplierId: itemSupplier.supplierId,
          supplier: party.name,
          retired: sql<boolean>`${party.retiredAt} is not null`,
          packSize: plain(itemSupplier.packSize),
          minimum: plain(itemSupplier.minimum),
          price: sql<string | null>`trim_scale(coalesce(${itemSupplier.price}, ${item.purchasePrice}))::text`,
          breaks: sql<PriceBreak[]>`${itemSupplier.breaks}`,
        },
        (select) => select.from(itemSupplier).innerJoin(party, eq(party.id, itemSupplier.supplierId)).where(eq(itemSupplier.itemId, item.id)),
        { orderBy: itemSupplier.position },
      ),
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(among(item.id, itemIds))
    .orderBy(lower(item.sku));
}
type ItemRow = Awaited<ReturnType<typeof readItems>>[number];

const toppedUp = (row: Standing): ToppedUp => ({
  siteId: row.siteId,
  free: decimal(row.free),
  incoming: decimal(row.onOrder).plus(row.coming),
  short: decimal(row.short),
  drafted: decimal(row.drafted),
  reorderPoint: row.point === null ? null : decimal(row.point),
  orderUpTo: row.upTo === null ? null : decimal(row.upTo),
  way: wayOf(row.way ?? 'best'),
  pack: row.pack === null ? null : decimal(row.pack),
});

/** A proposal with all that is shown of it. */
function rowOf(of: ItemRow, at: Standing, position: Decimal, { source, quantity, note }: Proposed, fromSite: string | null): contract.TopUpRow {
  const supplier = source.by === 'buy' ? of.suppliers.find(({ supplierId }) => supplierId === source.supplierId) : undefined;
  const price = supplier ? priceOf(supplier, quantity) : null;
  const next = supplier ? nextBreak(supplier, quantity) : null;
  const raised = at.point !== null && at.written !== null && decimal(at.point).gt(at.written);
  return {
    itemId: of.id,
    sku: of.sku,
    name: of.name,
    unit: of.unit,
    step: of.step,
    siteId: at.siteId,
    site: at.site,
    by: source.by,
    supplierId: supplier?.supplierId ?? null,
    supplier: supplier?.supplier ?? null,
    fromSiteId: source.by === 'bring' ? source.siteId : null,
    fromSite,
    note,
    free: at.free,
    onOrder: at.onOrder,
    coming: at.coming,
    drafted: at.drafted,
    short: at.short,
    position: quantityText(position),
    reorderPoint: at.point ?? '0',
    orderUpTo: at.upTo ?? '0',
    coverDays: raised ? at.coverDays : null,
    packSize: supplier?.packSize ?? at.pack ?? of.step,
    minimum: supplier?.minimum ?? '0',
    propose: quantityText(quantity),
    price: price?.toFixed() ?? null,
    amount: price?.times(quantity).toFixed(2) ?? null,
    nextBreak: next && { quantity: quantityText(next.quantity), price: next.price.toFixed(), costs: next.costs.toFixed(2), saves: next.saves.toFixed(2) },
    weightKg: of.weightKg,
    volumeM3: of.volumeM3,
    putOff: at.until === null ? null : { until: at.until, reason: at.reason ?? '', person: at.person ?? '' },
  };
}

/** Sites that may be looked at, and those that may be brought from: all, where the business has everybody see what is free elsewhere. */
async function sitesToBringFrom({ tx: { db } }: Act, seen: Sites): Promise<Sites> {
  if (seen === null) return null;
  const [ours] = await db.select({ all: company.freeSeenElsewhere }).from(company);
  return ours?.all === true ? null : seen;
}

interface Asked {
  siteId?: number | undefined;
  itemId?: number | undefined;
  itemIds?: readonly number[];
}

/** Each item and site at or below its reorder point, with what to bring, make or order; by supplier, then site and SKU. Those that are put off say so. */
export async function topUpList(act: Act, { siteId, itemId, itemIds }: Asked = {}): Promise<contract.TopUpRow[]> {
  const { db } = act.tx;
  const seen = act.sites('look', siteId);
  const low = lowOnes(act, seen, { withPutOff: true }).as('low');
  const only = itemId === undefined ? itemIds : [itemId];
  const found = await db
    .select({ itemId: low.itemId, siteId: low.siteId })
    .from(low)
    .where(only === undefined ? undefined : among(sql`${low.itemId}`, only));
  const ids = [...new Set(found.map((row) => row.itemId))];
  if (ids.length === 0) return [];
  // Who may not look at all sites sees what others give, but not how they stand.
  const [standings, items] = await Promise.all([readStandings(act, ids, await sitesToBringFrom(act, act.sites('look'))), readItems(act, ids)]);
  const rows = items.flatMap((of) => {
    const sites = standings.get(of.id) ?? [];
    const suppliers = of.suppliers.map(({ supplierId, retired, ...terms }) => ({ supplierId, retired, terms }));
    const all = sites.map(toppedUp);
    return proposalsOf(all, { step: decimal(of.step), made: of.made, suppliers }).flatMap((proposed) => {
      const nth = sites.findIndex((row) => row.siteId === proposed.siteId);
      const [at, here] = [sites[nth], all[nth]];
      const { source } = proposed;
      const from = source.by === 'bring' ? sites.find((row) => row.siteId === source.siteId) : undefined;
      return at && here && isSeen(seen, at.siteId) ? [rowOf(of, at, standing(here), proposed, from?.site ?? null)] : [];
    });
  });
  return rows.sort((one, other) => order(one.supplier, other.supplier) || one.siteId - other.siteId);
}

const isSeen = (seen: Sites, siteId: number): boolean => seen === null || seen.includes(siteId);
/** Made once: comparing by the text itself makes one each time. */
const names = new Intl.Collator('en');
/** By name; none comes last. */
const order = (one: string | null, other: string | null): number =>
  one === null || other === null ? Number(one === null) - Number(other === null) : names.compare(one, other);

/** What the suppliers of proposals ask an order to come to. */
export async function minimumsOf({ tx: { db } }: Act, rows: readonly contract.TopUpRow[]): Promise<ResponseOf<typeof contract.topUpList>['minimums']> {
  const ids = [...new Set(rows.flatMap(({ supplierId }) => supplierId ?? []))];
  const found = await db
    .select({ supplierId: party.id, amount: party.minimumOrder })
    .from(party)
    .where(and(among(party.id, ids), isNotNull(party.minimumOrder)));
  return found.flatMap(({ supplierId, amount }) => (amount === null ? [] : [{ supplierId, amount }]));
}

/** How many are shown to fill an order with. */
const mostFilling = 30;

/** What else of a supplier would be wanted soonest at a site: what is above its point and below its level there, the first to run low first. */
export async function topUpFill(act: Act, supplierId: number, siteId: number): Promise<ResponseOf<typeof contract.topUpFill>> {
  const seen = act.sites('look', siteId);
  const drafts = drafted(act.tx.db);
  const position = sql`coalesce(${itemSite.free} + ${itemSite.onOrder} + ${itemSite.coming} - ${itemSite.short}, 0) + coalesce(${drafts.many}, 0)`;
  const days = sql<number | null>`case when ${itemPolicy.perDay} > 0 then ((${position} - ${itemPolicy.point}) / ${itemPolicy.perDay})::float8 end`;
  const near = await act.tx.db
    .select({ itemId: itemPolicy.itemId, days })
    .from(itemPolicy)
    .innerJoin(item, and(eq(item.id, itemPolicy.itemId), isNull(item.retiredAt)))
    .innerJoin(itemSupplier, and(eq(itemSupplier.itemId, item.id), eq(itemSupplier.supplierId, supplierId)))
    .leftJoin(itemSite, figures)
    .leftJoin(drafts, and(eq(drafts.itemId, itemPolicy.itemId), eq(drafts.siteId, itemPolicy.siteId)))
    .where(and(eq(itemPolicy.siteId, siteId), isNotNull(itemPolicy.point), sql`${position} > ${itemPolicy.point}`, sql`${position} < ${itemPolicy.upTo}`))
    .orderBy(sql`${days} nulls last`, sql`(${position} - ${itemPolicy.point}) / greatest(${itemPolicy.upTo}, 1)`, item.id)
    .limit(mostFilling);
  const ids = near.map((row) => row.itemId);
  const [standings, items] = await Promise.all([readStandings(act, ids, seen), readItems(act, ids)]);
  const rows = near.flatMap((row) => {
    const of = items.find(({ id }) => id === row.itemId);
    const at = standings.get(row.itemId)?.find((one) => one.siteId === siteId);
    const supplier = of?.suppliers.find((one) => one.supplierId === supplierId);
    if (!of || !at || !supplier || supplier.retired) return [];
    const now = standing(toppedUp(at));
    const missing = decimal(at.upTo ?? 0).minus(now);
    if (missing.lte(zero)) return [];
    const proposed: Proposed = { siteId, source: { by: 'buy', supplierId }, quantity: allowed(supplier, missing), note: null };
    return [{ ...rowOf(of, at, now, proposed, null), days: row.days }];
  });
  return { rows };
}
