import { addDays, type Day } from '@larder/core/day';
import { leadTime, type LeadsSeen, type LeadTime } from '@larder/core/planning/leadTime';
import type { Way } from '@larder/core/planning/levels';
import { and, eq, gte, isNotNull, sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Db } from '../../db/database';
import { among } from '../../db/given';
import { dayOf } from './demand';
import { company, movementLine, productLine, purchaseLine, purchaseOrder, standingMovement, transfer, transferLine, workOrder } from '../../db/schema/index';

/** How far back what came is looked at, in days. */
const lookedBack = 730;
/** Days that are reckoned with until something was seen: of a transfer, and of work. */
const agreedDays = { bring: 2, make: 3 };

/** From where more comes, in a word: a supplier, a site, or the work at the site itself. */
export type Source = `buy ${number}` | `bring ${number}` | 'make';

export interface Came {
  itemId: number | null;
  siteId: number | null;
  source: Source;
  seen: LeadsSeen;
}

const nameOf = ({ itemId, siteId, source }: Omit<Came, 'seen'>): string => `${itemId ?? ''}/${siteId ?? ''}/${source}`;

/** What came of items, or, where none are said, of anything: how long after it was asked for. Days below zero (dated before it was asked for) count as none. */
async function readCame(db: Db, today: Day, itemIds: readonly number[] | null): Promise<Came[]> {
  const since = gte(movementLine.effectiveOn, addDays(today, -lookedBack));
  const summed = (from: SQL, item: PgColumn, site: PgColumn, source: SQL<Source>) => {
    const days = sql`greatest(${movementLine.effectiveOn} - ${from}, 0)`;
    return {
      itemId: itemIds ? sql<number | null>`${item}` : sql<number | null>`null::int`,
      siteId: itemIds ? sql<number | null>`${site}` : sql<number | null>`null::int`,
      source,
      count: sql<number>`count(*)::int`,
      days: sql<number>`avg(${days})::float8`,
      spread: sql<number>`coalesce(stddev_samp(${days}), 0)::float8`,
    };
  };
  const standing = eq(standingMovement.id, movementLine.movementId);
  const ofItems = (item: PgColumn) => (itemIds ? among(item, itemIds) : undefined);
  const bought = db
    .select(
      summed(
        sql`coalesce(${purchaseOrder.orderedOn}, ${dayOf(purchaseOrder.placedAt)})`,
        purchaseLine.itemId,
        purchaseLine.siteId,
        sql<Source>`'buy ' || ${purchaseOrder.supplierId}`,
      ),
    )
    .from(movementLine)
    .innerJoin(standingMovement, and(standing, eq(standingMovement.kind, 'receipt')))
    .innerJoin(purchaseLine, eq(purchaseLine.id, movementLine.supplyLineId))
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .crossJoin(company)
    .where(and(since, isNotNull(movementLine.supplyLineId), isNotNull(purchaseOrder.placedAt), ofItems(movementLine.itemId)))
    .groupBy(sql`1, 2, 3`);
  const brought = db
    .select(summed(dayOf(transfer.createdAt), transferLine.itemId, transferLine.toSiteId, sql<Source>`'bring ' || ${transfer.fromSiteId}`))
    .from(movementLine)
    .innerJoin(standingMovement, and(standing, eq(standingMovement.kind, 'arrival')))
    .innerJoin(transferLine, eq(transferLine.id, movementLine.demandLineId))
    .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
    .crossJoin(company)
    .where(and(since, isNotNull(movementLine.demandLineId), ofItems(movementLine.itemId)))
    .groupBy(sql`1, 2, 3`);
  const made = db
    .select(summed(dayOf(workOrder.releasedAt), productLine.itemId, productLine.siteId, sql<Source>`'make'`))
    .from(movementLine)
    .innerJoin(standingMovement, and(standing, eq(standingMovement.kind, 'making')))
    .innerJoin(productLine, eq(productLine.id, movementLine.supplyLineId))
    .innerJoin(workOrder, eq(workOrder.id, productLine.workOrderId))
    .crossJoin(company)
    .where(and(since, isNotNull(movementLine.supplyLineId), isNotNull(workOrder.releasedAt), ofItems(movementLine.itemId)))
    .groupBy(sql`1, 2, 3`);
  const rows = (await Promise.all([bought, brought, made])).flat();
  return rows.map(({ itemId, siteId, source, ...seen }) => ({ itemId, siteId, source, seen }));
}

interface Leads {
  /** How long it takes until more of the item is at the site. */
  of: (itemId: number, siteId: number, source: Source, agreed: number | null) => LeadTime;
}

/** All that ever came within two years, from each supplier and site; read once for many items. */
export const allLeads = (db: Db, today: Day): Promise<Came[]> => readCame(db, today, null);

/** How long it takes until more of these items is there. */
export async function leadsOf(db: Db, today: Day, itemIds: readonly number[], all: readonly Came[]): Promise<Leads> {
  const seen = new Map([...all, ...(await readCame(db, today, itemIds))].map((came) => [nameOf(came), came.seen]));
  return {
    of: (itemId, siteId, source, agreed) =>
      leadTime({
        own: seen.get(nameOf({ itemId, siteId, source })),
        all: seen.get(nameOf({ itemId: null, siteId: null, source })),
        agreed: agreed ?? (source === 'make' ? agreedDays.make : agreedDays.bring),
      }),
  };
}

/** From where more of an item comes by a way, and in how many days it is agreed to: as its policy says, else it is made where a bill says how, else bought from its first supplier. */
export function sourceOf(way: Way['by'], known: { waySiteId: number | null; supplierId: number | null; made: boolean }): Source | null {
  if (way === 'bring' && known.waySiteId !== null) return `bring ${known.waySiteId}`;
  if (way === 'make' || (way === 'best' && known.made)) return 'make';
  return known.supplierId === null ? null : `buy ${known.supplierId}`;
}
