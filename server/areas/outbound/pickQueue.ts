import type * as contract from '@larder/contract/picking';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, isNull, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, atSites, positive } from '../../db/given';
import {
  componentLine,
  item,
  itemSite,
  party,
  person,
  pickRound as roundTable,
  roundOrder,
  salesLine,
  salesOrder,
  site,
  transfer,
  transferLine,
  workOrder,
} from '../../db/schema/index';
import { pickedKinds, type PickedFor } from '../../documents/picks';

const toSite = alias(site, 'to_site');
const free = sql`coalesce(${itemSite.free}, 0)`;
const may = sql`least(${salesLine.wanted}, ${salesLine.reserved} + ${free})`;
const shipBy = sql<string>`min(coalesce(${salesLine.shipBy}, ${salesOrder.shipBy}))`;

/** The round under way at a site that has an order, a transfer or a work order. */
const roundHaving = (document: SQL) =>
  new QueryBuilder()
    .select({ id: roundOrder.roundId, picker: person.name })
    .from(roundOrder)
    .innerJoin(roundTable, eq(roundTable.id, roundOrder.roundId))
    .innerJoin(person, eq(person.id, roundTable.pickerId))
    .where(and(document, eq(roundOrder.siteId, site.id), roundOrder.open))
    .as('in_round');

/** Orders of which something can be picked, each at each of the sites it comes from, by the day it ships. */
function readQueue({ tx: { db }, today }: Act, sites: readonly number[] | null, orderIds?: readonly number[]) {
  const inRound = roundHaving(eq(roundOrder.orderId, salesOrder.id));
  const someShort = db
    .select({ some: sql<boolean>`bool_or(short > 0)`.as('some_short') })
    .from(salesLine)
    .where(eq(salesLine.orderId, salesOrder.id))
    .as('some_short_of_order');
  return db
    .select({
      orderId: salesOrder.id,
      number: salesOrder.number,
      customer: party.name,
      siteId: site.id,
      site: site.name,
      shipBy,
      late: sql<boolean>`${shipBy} < ${today}`,
      lines: sql<number>`count(*)::int`,
      pieces: sql<string>`trim_scale(sum(${may}))::text`,
      waitsWhole: sql<boolean>`${salesOrder.whole} and ${someShort.some}`,
      roundId: sql<number | null>`${inRound.id}`,
      picker: sql<string | null>`${inRound.picker}`,
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(site, eq(site.id, salesLine.siteId))
    .innerJoinLateral(someShort, sql`true`)
    .leftJoin(itemSite, and(eq(itemSite.itemId, salesLine.itemId), eq(itemSite.siteId, salesLine.siteId)))
    .leftJoinLateral(inRound, sql`true`)
    .where(
      and(
        positive(salesLine.wanted),
        sql`${salesLine.reserved} + ${free} > 0`,
        atSites(salesLine.siteId, sites),
        orderIds === undefined ? undefined : among(salesOrder.id, orderIds),
      ),
    )
    .groupBy(salesOrder.id, party.name, site.id, someShort.some, inRound.id, inRound.picker)
    .orderBy(shipBy, salesOrder.id)
    .limit(200);
}

/** Transfers of which something can be picked, by the day they are sent. */
function transfersToPick({ tx: { db }, today }: Act, sites: readonly number[] | null, transferIds?: readonly number[]) {
  const inRound = roundHaving(eq(roundOrder.transferId, transfer.id));
  const mayGo = sql`least(${transferLine.wanted}, ${transferLine.reserved} + ${free})`;
  return db
    .select({
      orderId: transfer.id,
      number: transfer.number,
      customer: toSite.name,
      siteId: site.id,
      site: site.name,
      shipBy: transfer.sendBy,
      late: sql<boolean>`${transfer.sendBy} < ${today}`,
      lines: sql<number>`count(*)::int`,
      pieces: sql<string>`trim_scale(sum(${mayGo}))::text`,
      roundId: sql<number | null>`${inRound.id}`,
      picker: sql<string | null>`${inRound.picker}`,
    })
    .from(transferLine)
    .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
    .innerJoin(site, eq(site.id, transferLine.fromSiteId))
    .innerJoin(toSite, eq(toSite.id, transferLine.toSiteId))
    .leftJoin(itemSite, and(eq(itemSite.itemId, transferLine.itemId), eq(itemSite.siteId, transferLine.fromSiteId)))
    .leftJoinLateral(inRound, sql`true`)
    .where(
      and(
        positive(transferLine.wanted),
        sql`${transferLine.reserved} + ${free} > 0`,
        atSites(transferLine.fromSiteId, sites),
        transferIds === undefined ? undefined : among(transfer.id, transferIds),
      ),
    )
    .groupBy(transfer.id, toSite.name, site.id, inRound.id, inRound.picker)
    .orderBy(transfer.sendBy, transfer.id)
    .limit(200);
}

/** Work orders of which something can be taken, by the day they are begun. */
function workToPick({ tx: { db }, today }: Act, sites: readonly number[] | null, workOrderIds?: readonly number[]) {
  const inRound = roundHaving(eq(roundOrder.workOrderId, workOrder.id));
  const mayGo = sql`least(${componentLine.wanted}, ${componentLine.reserved} + ${free})`;
  return db
    .select({
      orderId: workOrder.id,
      number: workOrder.number,
      customer: item.sku,
      forSale: sql<
        contract.QueueRow['forSale']
      >`case when ${salesOrder.id} is not null then json_build_object('orderId', ${salesOrder.id}, 'number', ${salesOrder.number}, 'customer', ${party.name}) end`,
      siteId: site.id,
      site: site.name,
      shipBy: workOrder.startsOn,
      late: sql<boolean>`${workOrder.startsOn} < ${today}`,
      lines: sql<number>`count(*)::int`,
      pieces: sql<string>`trim_scale(sum(${mayGo}))::text`,
      roundId: sql<number | null>`${inRound.id}`,
      picker: sql<string | null>`${inRound.picker}`,
    })
    .from(componentLine)
    .innerJoin(workOrder, eq(workOrder.id, componentLine.workOrderId))
    .innerJoin(item, eq(item.id, workOrder.itemId))
    .innerJoin(site, eq(site.id, componentLine.siteId))
    .leftJoin(salesLine, eq(salesLine.id, workOrder.salesLineId))
    .leftJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .leftJoin(party, eq(party.id, salesOrder.customerId))
    .leftJoin(itemSite, and(eq(itemSite.itemId, componentLine.itemId), eq(itemSite.siteId, componentLine.siteId)))
    .leftJoinLateral(inRound, sql`true`)
    .where(
      and(
        positive(componentLine.wanted),
        sql`${componentLine.reserved} + ${free} > 0`,
        atSites(componentLine.siteId, sites),
        workOrderIds === undefined ? undefined : among(workOrder.id, workOrderIds),
      ),
    )
    .groupBy(workOrder.id, item.sku, site.id, salesOrder.id, party.name, inRound.id, inRound.picker)
    .orderBy(workOrder.startsOn, workOrder.id)
    .limit(200);
}

/** What is told of a round. */
export const roundFields = {
  id: roundTable.id,
  siteId: site.id,
  site: site.name,
  pickerId: person.id,
  picker: person.name,
  startedAt: roundTable.startedAt,
};

/** What can be picked at these sites, of these orders, transfers and work orders where it is said of which, by the day it ships. */
export async function toPick(act: Act, sites: readonly number[] | null, only: Partial<Record<PickedFor['kind'], readonly number[]>>) {
  const sales = only.sales?.length === 0 ? [] : await readQueue(act, sites, only.sales);
  const transfers = only.transfer?.length === 0 ? [] : await transfersToPick(act, sites, only.transfer);
  const work = only.work?.length === 0 ? [] : await workToPick(act, sites, only.work);
  return [
    ...sales.map((row) => ({ ...row, kind: 'sales' as const, forSale: null })),
    ...transfers.map((row) => ({ ...row, kind: 'transfer' as const, waitsWhole: false, forSale: null })),
    ...work.map((row) => ({ ...row, kind: 'work' as const, waitsWhole: false })),
  ].sort((a, b) => (a.shipBy < b.shipBy ? -1 : a.shipBy > b.shipBy ? 1 : 0));
}

/** What is to be picked, and the rounds that are under way. */
export async function pickQueue(act: Act, { siteId, kind }: QueryOf<typeof contract.pickQueue>): Promise<ResponseOf<typeof contract.pickQueue>> {
  const sites = act.sites('look', siteId);
  const others = pickedKinds.filter((one) => kind !== 'all' && one !== kind);
  const rows = await toPick(act, sites, Object.fromEntries(others.map((one) => [one, []])));
  const { db } = act.tx;
  const orders = db.$count(roundOrder, eq(roundOrder.roundId, roundTable.id));
  const rounds = await db
    .select({ ...roundFields, orders: sql<number>`${orders}`.mapWith(Number) })
    .from(roundTable)
    .innerJoin(site, eq(site.id, roundTable.siteId))
    .innerJoin(person, eq(person.id, roundTable.pickerId))
    .where(and(isNull(roundTable.endedAt), atSites(roundTable.siteId, sites)))
    .orderBy(roundTable.id);
  return {
    rows: rows.map(({ roundId, picker, ...row }) => ({ ...row, round: roundId === null || picker === null ? null : { id: roundId, picker } })),
    rounds,
  };
}
