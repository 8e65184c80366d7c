import type { Day } from '@larder/core/day';
import type { LeadTime } from '@larder/core/planning/leadTime';
import type { Levels } from '@larder/core/planning/forecast/replay';
import { quantileOf, type ServiceLevels } from '@larder/core/planning/serviceLevel';
import type { Holding } from '@larder/core/planning/suggestion';
import type { ItemClass } from '@larder/core/stock/counting';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Db } from '../../db/database';
import { among } from '../../db/given';
import { company, costPool, item, itemClass, itemPolicy, itemSupplier, party, site, unit } from '../../db/schema/index';
import { bomsInUse } from '../making/service';
import { leadsOf, sourceOf, type Came, type Source } from './leads';

/** What is reckoned with for all items. */
export interface Terms {
  service: ServiceLevels;
  orderCost: number;
  transferCost: number;
  /** In a year, per cent of what goods are worth. */
  holdingRate: number;
}

export async function readTerms(db: Db): Promise<Terms> {
  const number = (column: typeof company.orderCost) => sql<number>`${column}::float8`;
  const [row] = await db
    .select({
      A: number(company.serviceA),
      B: number(company.serviceB),
      C: number(company.serviceC),
      orderCost: number(company.orderCost),
      transferCost: number(company.transferCost),
      holdingRate: number(company.holdingRate),
    })
    .from(company);
  if (!row) throw new Error('there is a company');
  const { orderCost, transferCost, holdingRate, ...service } = row;
  return { service, orderCost, transferCost, holdingRate };
}

/** How an item is bought and held at a site, and with which levels now; null where there are none. */
export interface Held {
  class: ItemClass;
  source: Source | null;
  lead: LeadTime;
  holding: Holding;
  now: Levels | null;
}

const suppliers = alias(party, 'its_supplier');

/** How items are bought and held at all sites in use, by item and site. */
export async function readHoldings(db: Db, itemIds: readonly number[], { today, came, terms }: { today: Day; came: readonly Came[]; terms: Terms }) {
  const used = bomsInUse({ tx: { db }, today }).as('in_use');
  const [items, bought, policies, leads] = await Promise.all([
    db
      .select({
        id: item.id,
        class: sql<ItemClass>`coalesce(${itemClass.class}, 'C')`,
        cost: sql<number>`coalesce(case when ${costPool.quantity} > 0 then ${costPool.unitCost} end, ${item.purchasePrice}, 0)::float8`,
        step: sql<number>`${unit.step}::float8`,
        made: sql<boolean>`${used.itemId} is not null`,
      })
      .from(item)
      .innerJoin(unit, eq(unit.id, item.unitId))
      .innerJoin(costPool, eq(costPool.itemId, item.id))
      .leftJoin(itemClass, eq(itemClass.itemId, item.id))
      .leftJoin(used, eq(used.itemId, item.id))
      .where(among(item.id, itemIds)),
    db
      .select({
        itemId: itemSupplier.itemId,
        supplierId: itemSupplier.supplierId,
        pack: sql<number>`${itemSupplier.packSize}::float8`,
        days: sql<number>`coalesce(${itemSupplier.leadDays}, ${suppliers.leadDays})`,
      })
      .from(itemSupplier)
      .innerJoin(suppliers, and(eq(suppliers.id, itemSupplier.supplierId), isNull(suppliers.retiredAt)))
      .where(among(itemSupplier.itemId, itemIds))
      .orderBy(itemSupplier.itemId, itemSupplier.position),
    db
      .select({
        itemId: itemPolicy.itemId,
        siteId: itemPolicy.siteId,
        point: sql<number | null>`${itemPolicy.point}::float8`,
        upTo: sql<number | null>`${itemPolicy.upTo}::float8`,
        coverDays: itemPolicy.coverDays,
        pack: sql<number | null>`${itemPolicy.packSize}::float8`,
        way: itemPolicy.way,
        waySupplierId: itemPolicy.waySupplierId,
        waySiteId: sql<number | null>`case when ${site.retiredAt} is null then ${itemPolicy.waySiteId} end`,
      })
      .from(itemPolicy)
      .leftJoin(site, eq(site.id, itemPolicy.waySiteId))
      .where(among(itemPolicy.itemId, itemIds)),
    leadsOf(db, today, itemIds, came),
  ]);
  const itemOf = new Map(items.map((row) => [row.id, row]));
  return (itemId: number, siteId: number): Held | null => {
    const of = itemOf.get(itemId);
    if (!of) return null;
    const policy = policies.find((row) => row.itemId === itemId && row.siteId === siteId);
    const own = bought.filter((row) => row.itemId === itemId);
    const supplier = own.find(({ supplierId }) => supplierId === policy?.waySupplierId) ?? own[0] ?? null;
    const source = sourceOf(policy?.way ?? 'best', { waySiteId: policy?.waySiteId ?? null, supplierId: supplier?.supplierId ?? null, made: of.made });
    const buys = source?.startsWith('buy') === true;
    const lead = source === null ? nobody : leads.of(itemId, siteId, source, buys ? (supplier?.days ?? null) : null);
    const pack = policy?.pack ?? (buys ? (supplier?.pack ?? 0) : 0);
    const holding = {
      ...{ leadDays: lead.days, leadSpread: lead.spread, pack, step: of.step, coverDays: policy?.coverDays ?? 0 },
      ...{
        z: quantileOf(terms.service[of.class]),
        orderCost: source?.startsWith('bring') ? terms.transferCost : terms.orderCost,
        holdingCost: (of.cost * terms.holdingRate) / 100,
      },
    };
    const { point = null, upTo = null } = policy ?? {};
    const now = point === null || upTo === null ? null : { point, upTo, pack, leadDays: Math.round(lead.days) };
    return { class: of.class, source, lead, holding, now };
  };
}

/** Where nobody is known to send any: a week, as for a new supplier. */
const nobody: LeadTime = { days: 7, spread: 0, from: 'agreed', seen: 0 };
