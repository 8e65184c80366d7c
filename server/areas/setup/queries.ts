import type * as contract from '@larder/contract/setup';
import type { ResponseOf } from '@larder/contract/endpoint';
import { and, desc, eq, isNull, lte, ne, sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, notNone, oneRow } from '../../db/given';
import { jsonRow, jsonRows, jsonValues } from '../../db/json';
import { everyWord } from '../../db/paging';
import { plain } from '../../db/text';
import { balance, category, company, department, place, reason, site, taxCode, taxRate, unit } from '../../db/schema/index';

export async function reference({ tx: { db }, today }: Act): Promise<ResponseOf<typeof contract.reference>> {
  const rateNow = db
    .select({ rate: sql<string>`trim_scale(${taxRate.rate})::text`.as('rate') })
    .from(taxRate)
    .where(and(eq(taxRate.taxCodeId, taxCode.id), lte(taxRate.fromDay, today)))
    .orderBy(desc(taxRate.fromDay))
    .limit(1)
    .as('rate_now');
  const [row] = await db
    .select({
      sites: jsonRows({ id: site.id, code: site.code, name: site.name }, (select) => select.from(site).where(isNull(site.retiredAt)), { orderBy: site.id }),
      units: jsonRows(
        {
          id: unit.id,
          code: unit.code,
          name: unit.name,
          step: sql<string>`trim_scale(${unit.step})::text`,
          retired: sql<boolean>`${unit.retiredAt} is not null`,
        },
        (select) => select.from(unit),
        { orderBy: sql`${unit.retiredAt} is not null, ${unit.id}` },
      ),
      categories: jsonRows(
        {
          id: category.id,
          name: category.name,
          inventoryAccountId: category.inventoryAccountId,
          costAccountId: category.costAccountId,
          salesAccountId: category.salesAccountId,
          retired: sql<boolean>`${category.retiredAt} is not null`,
        },
        (select) => select.from(category),
        { orderBy: sql`${category.retiredAt} is not null, ${category.name}` },
      ),
      zones: sql<string[]>`(${db
        .select({ list: jsonValues(place.zone, { distinct: true, orderBy: place.zone }) })
        .from(place)
        .where(and(eq(place.kind, 'bin'), ne(place.zone, ''), isNull(place.retiredAt)))})`,
      reasons: jsonRows(
        { id: reason.id, code: reason.code, name: reason.name, place: reason.place, accountId: reason.accountId, taxCodeId: reason.taxCodeId },
        (select) => select.from(reason).where(and(isNull(reason.retiredAt), ne(reason.place, 'customer'))),
        {
          orderBy: reason.id,
        },
      ),
      returnReasons: jsonRows(
        { id: reason.id, code: reason.code, name: reason.name },
        (select) => select.from(reason).where(and(isNull(reason.retiredAt), eq(reason.place, 'customer'))),
        { orderBy: reason.id },
      ),
      taxes: jsonRows(
        { id: taxCode.id, code: taxCode.code, name: taxCode.name, rate: rateNow.rate, retired: sql<boolean>`${taxCode.retiredAt} is not null` },
        (select) => select.from(taxCode).innerJoinLateral(rateNow, sql`true`),
        { orderBy: sql`${taxCode.retiredAt} is not null, ${taxCode.id}` },
      ),
      departments: jsonRows(
        { id: department.id, code: department.code, name: department.name, retired: sql<boolean>`${department.retiredAt} is not null` },
        (select) => select.from(department),
        { orderBy: sql`${department.retiredAt} is not null, ${department.name}` },
      ),
      shipDays: sql<number>`(${db.select({ days: company.shipDays }).from(company)})`,
      quoteDays: sql<number>`(${db.select({ days: company.quoteDays }).from(company)})`,
      makingDifference: sql<number | null>`(${db.select({ percent: company.makingDifference }).from(company)})`,
      planning: planningSet(db),
      lotPattern: sql<string>`(${db.select({ pattern: company.lotPattern }).from(company)})`,
      freeSeenElsewhere: sql<boolean>`(${db.select({ seen: company.freeSeenElsewhere }).from(company)})`,
    })
    .from(oneRow);
  if (!row) throw new Error('one row was asked for');
  return row;
}

/** By what items are of a class, and levels are suggested. */
const planningSet = (db: Act['tx']['db']) => {
  const money = (column: PgColumn) => sql<string>`round(${column}, 2)::text`;
  const { shareA, shareB } = company;
  const set = {
    ...{ shareA, shareB, serviceA: plain(company.serviceA), serviceB: plain(company.serviceB), serviceC: plain(company.serviceC) },
    ...{ orderCost: money(company.orderCost), transferCost: money(company.transferCost), holdingRate: plain(company.holdingRate) },
  };
  return sql<contract.PlanningSet>`(${db.select({ set: jsonRow(set) }).from(company)})`;
};

type BinQuery = { siteId?: number | undefined; q?: string | undefined; ids?: number[]; retired?: 'without' | 'with' };

export async function bins({ tx: { db } }: Act, query: BinQuery): Promise<contract.Bin[]> {
  const inIt = db
    .select({ items: sql`count(distinct ${balance.itemId})::int` })
    .from(balance)
    .where(and(eq(balance.placeId, place.id), notNone(balance.quantity)));
  return db
    .select({
      id: place.id,
      siteId: site.id,
      siteName: site.name,
      code: place.code,
      sellable: place.sellable,
      unplaced: place.unplaced,
      zone: place.zone,
      walk: place.walk,
      retired: sql<boolean>`${place.retiredAt} is not null`,
      items: sql<number>`(${inIt})`,
    })
    .from(place)
    .innerJoin(site, eq(site.id, place.siteId))
    .where(
      and(
        eq(place.kind, 'bin'),
        query.retired === 'with' ? undefined : isNull(place.retiredAt),
        everyWord(sql`lower(${place.code} || ' ' || ${place.zone})`, query.q),
        query.siteId === undefined ? undefined : eq(place.siteId, query.siteId),
        query.ids ? among(place.id, query.ids) : undefined,
      ),
    )
    .orderBy(place.siteId, place.unplaced, place.walk, place.code)
    .limit(5000);
}
