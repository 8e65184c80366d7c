import type * as contract from '@larder/contract/stock';
import type { goodsDocuments } from '@larder/contract/stock';
import { addDays } from '@larder/core/day';
import { daysOfCover } from '@larder/core/planning/reorderPoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, gte, isNotNull, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, unionAll } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import type { Act } from '../../act';
import { atSites, notNone, oneRow, positive } from '../../db/given';
import { jsonList, jsonRows, scalar } from '../../db/json';
import {
  balance,
  componentLine,
  componentTerms,
  costPool,
  documentLine,
  item,
  itemPolicy,
  itemSite,
  lot,
  movementLine,
  party,
  place,
  productLine,
  purchaseLine,
  purchaseOrder,
  salesLine,
  salesOrder,
  salesTerms,
  site,
  transfer,
  transferLine,
  transferTerms,
  unit,
  workOrder,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { costPoolOver } from '../../documents/seen';
import { usedDays, usedSince } from '../../documents/used';

/** How far back its stock is looked at, in days. */
const pastDays = 60;

const from = alias(place, 'from_place');
const to = alias(place, 'to_place');

/** Where one item lies, how its stock went in the last 60 days, and what is expected. */
export async function itemStock(act: Act, id: number, siteId?: number): Promise<contract.ItemStock> {
  const { tx, today } = act;
  const sites = act.sites('look', siteId);
  const [row] = await readStanding(tx, id, sites, addDays(today, -usedDays));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such item.');
  const past = await readPast(tx, { id, sites, onHand: row.onHand, from: addDays(today, -pastDays), today });
  const { onHand: _onHand, used, ...rest } = row;
  const free = rest.sites.reduce((sum, one) => sum + Number(one.free), 0);
  return { ...rest, today, past, daysOfCover: daysOfCover(free, Number(used) / usedDays) };
}

function readStanding(tx: Act['tx'], id: number, sites: Sites, since: string) {
  const { db } = tx;
  const used = usedSince(since, sites, { item: item.id }).as('used');
  const policy = db
    .select({
      point: sql<string | null>`trim_scale(sum(${itemPolicy.point}))`.as('point'),
      upTo: sql<string | null>`trim_scale(sum(${itemPolicy.upTo}))`.as('up_to'),
    })
    .from(itemPolicy)
    .where(and(eq(itemPolicy.itemId, item.id), atSites(itemPolicy.siteId, sites)))
    .as('policy');
  return db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      tracking: item.tracking,
      pictureId: item.pictureId,
      unit: unit.code,
      step: plain(unit.step),
      unitCost: plain(costPool.unitCost),
      value: costPool.value,
      seq: costPool.lastSeq,
      reorderPoint: policy.point,
      orderUpTo: policy.upTo,
      onHand: costPool.onHand,
      used: scalar(new QueryBuilder().select({ quantity: used.quantity }).from(used)),
      sites: sitesOf(sites),
      expected: expectedOf(tx, sites),
      reservedFor: reservedFor(sites),
    })
    .from(item)
    .innerJoin(costPoolOver(sites), eq(costPool.itemId, item.id))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoinLateral(policy, sql`true`)
    .where(eq(item.id, id));
}

const binFields = {
  binId: place.id,
  bin: place.code,
  quantity: sql<string>`trim_scale(sum(${balance.quantity}))::text`,
  sellable: place.sellable,
  lots: jsonList(
    { lotId: lot.id, code: lot.code, useBy: lot.useBy, pastUse: lot.pastUse, quantity: plain(balance.quantity) },
    { orderBy: sql`${lot.useBy} nulls last, ${lot.code}`, where: isNotNull(lot.id) },
  ),
};

/** What each bin of a site holds of an item, and of which lots, in the order of walking. */
const binsOf = () => {
  const { binId, bin, quantity, sellable, lots } = binFields;
  const rows = new QueryBuilder()
    .select({
      binId: sql<number>`${binId}`.as('bin_id'),
      bin: sql<string>`${bin}`.as('bin'),
      quantity: quantity.as('held'),
      sellable: sql<boolean>`${sellable}`.as('sellable'),
      lots: lots.as('lots'),
      walk: sql`${place.walk}`.as('walk'),
    })
    .from(balance)
    .innerJoin(place, eq(place.id, balance.placeId))
    .leftJoin(lot, eq(lot.id, balance.lotId))
    .where(and(eq(balance.itemId, item.id), notNone(balance.quantity), eq(place.siteId, site.id), eq(place.kind, 'bin')))
    .groupBy(place.id)
    .as('bins');
  return jsonRows({ binId: rows.binId, bin: rows.bin, quantity: rows.quantity, sellable: rows.sellable, lots: rows.lots }, (select) => select.from(rows), {
    orderBy: sql`${rows.walk}, ${rows.bin}`,
  });
};

const sitesOf = (sites: Sites) =>
  jsonRows(
    {
      siteId: site.id,
      site: site.name,
      onHand: plain(itemSite.onHand),
      reserved: plain(itemSite.reserved),
      free: plain(itemSite.free),
      bench: plain(itemSite.bench),
      onOrder: plain(itemSite.onOrder),
      inTransit: plain(itemSite.inTransit),
      short: plain(itemSite.short),
      reorderPoint: plain(itemPolicy.point),
      orderUpTo: plain(itemPolicy.upTo),
      bins: binsOf(),
    },
    (select) =>
      select
        .from(itemSite)
        .innerJoin(site, eq(site.id, itemSite.siteId))
        .leftJoin(itemPolicy, and(eq(itemPolicy.itemId, itemSite.itemId), eq(itemPolicy.siteId, itemSite.siteId)))
        .where(and(eq(itemSite.itemId, item.id), atSites(site.id, sites))),
    { orderBy: site.id },
  );

type Kind = (typeof goodsDocuments)[number];
const toSite = alias(site, 'to_site');
const made = alias(item, 'made');

/** What is to come and what is to go, by day. */
function expectedOf({ db }: Act['tx'], sites: Sites) {
  const row = (day: SQL, quantity: SQL, order: typeof purchaseOrder | typeof salesOrder | typeof transfer | typeof workOrder, kind: Kind) => ({
    day: sql<string>`${day}`.as('day'),
    quantity: sql<string>`trim_scale(${quantity})::text`.as('moves'),
    document: sql<string>`${order.number}`.as('document'),
    kind: sql<Kind>`${kind}::text`.as('kind'),
    id: sql<number>`${order.id}`.as('order_id'),
  });
  const day = sql`coalesce(${purchaseLine.expectedOn}, ${purchaseOrder.expectedOn})`;
  const coming = db
    .select(row(day, sql`${purchaseLine.incoming}`, purchaseOrder, 'purchase order'))
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .where(and(eq(purchaseLine.itemId, item.id), positive(purchaseLine.incoming), sql`${day} is not null`, atSites(purchaseLine.siteId, sites)));
  const going = db
    .select(row(sql`${salesLine.shipBy}`, sql`-${salesLine.wanted}`, salesOrder, 'sales order'))
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .where(and(eq(salesLine.itemId, item.id), positive(salesLine.wanted), atSites(salesLine.siteId, sites)));
  const broughtHere = db
    .select(row(sql`${transfer.expectedOn}`, sql`${transferLine.incoming}`, transfer, 'transfer'))
    .from(transferLine)
    .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
    .where(
      and(eq(transferLine.itemId, item.id), positive(transferLine.incoming), sql`${transfer.expectedOn} is not null`, atSites(transferLine.toSiteId, sites)),
    );
  const sentAway = db
    .select(row(sql`${transfer.sendBy}`, sql`-${transferLine.wanted}`, transfer, 'transfer'))
    .from(transferLine)
    .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
    .where(and(eq(transferLine.itemId, item.id), positive(transferLine.wanted), atSites(transferLine.fromSiteId, sites)));
  const made = db
    .select(row(sql`${workOrder.dueOn}`, sql`${productLine.incoming}`, workOrder, 'work order'))
    .from(productLine)
    .innerJoin(workOrder, eq(workOrder.id, productLine.workOrderId))
    .where(and(eq(productLine.itemId, item.id), positive(productLine.incoming), atSites(productLine.siteId, sites)));
  const goesIn = db
    .select(row(sql`${workOrder.startsOn}`, sql`-${componentLine.wanted}`, workOrder, 'work order'))
    .from(componentLine)
    .innerJoin(workOrder, eq(workOrder.id, componentLine.workOrderId))
    .where(and(eq(componentLine.itemId, item.id), positive(componentLine.wanted), atSites(componentLine.siteId, sites)));
  const rows = unionAll(coming, going, broughtHere, sentAway, made, goesIn).as('expected');
  return jsonRows({ day: rows.day, quantity: rows.quantity, document: rows.document, kind: rows.kind, id: rows.id }, (select) => select.from(rows), {
    orderBy: sql`${rows.day}`,
  });
}

/** Whom it is reserved for, and who is short of it. */
const reservedFor = (sites: Sites) =>
  jsonRows(
    {
      kind: sql<Kind>`case when ${transfer.id} is not null then 'transfer' when ${workOrder.id} is not null then 'work order' else 'sales order' end`,
      orderId: sql<number>`coalesce(${salesOrder.id}, ${transfer.id}, ${workOrder.id})`,
      number: documentLine.number,
      customer: sql<string>`coalesce(${party.name}, ${toSite.name}, ${made.sku})`,
      reserved: plain(documentLine.reserved),
      short: plain(documentLine.short),
      shipBy: sql<string>`${documentLine.neededOn}`,
    },
    (select) =>
      select
        .from(documentLine)
        .leftJoin(salesTerms, eq(salesTerms.id, documentLine.id))
        .leftJoin(salesOrder, eq(salesOrder.id, salesTerms.orderId))
        .leftJoin(party, eq(party.id, salesOrder.customerId))
        .leftJoin(transferTerms, eq(transferTerms.id, documentLine.id))
        .leftJoin(transfer, eq(transfer.id, transferTerms.transferId))
        .leftJoin(toSite, eq(toSite.id, transfer.toSiteId))
        .leftJoin(componentTerms, eq(componentTerms.id, documentLine.id))
        .leftJoin(workOrder, eq(workOrder.id, componentTerms.workOrderId))
        .leftJoin(made, eq(made.id, workOrder.itemId))
        .where(and(eq(documentLine.itemId, item.id), positive(documentLine.wanted), atSites(documentLine.siteId, sites))),
    { orderBy: sql`${documentLine.neededOn}, ${documentLine.id}` },
  );

interface Past {
  id: number;
  sites: Sites;
  onHand: string;
  from: string;
  today: string;
}

/** What was on hand at the end of each day: today's, less what came after. */
function readPast({ db }: Act['tx'], { id, sites, onHand, from: first, today }: Past) {
  const counts = (side: typeof from | typeof to) =>
    sql`(${and(eq(side.kind, 'bin'), side.sellable, sql`coalesce(${atSites(side.siteId, sites) ?? sql`true`}, false)`)})::int`;
  const changes = db
    .select({ day: movementLine.effectiveOn, change: sql<string>`sum(${movementLine.quantity} * (${counts(to)} - ${counts(from)}))`.as('change') })
    .from(movementLine)
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .where(and(eq(movementLine.itemId, id), gte(movementLine.effectiveOn, first)))
    .groupBy(movementLine.effectiveOn)
    .as('changes');
  const days = db
    .select({ on: sql<string>`generate_series(${first}::date, ${today}::date, '1 day')::date`.as('on_day') })
    .from(oneRow)
    .as('days');
  const after = sql`sum(${changes.change}) over (order by ${days.on} desc rows between unbounded preceding and 1 preceding)`;
  return db
    .select({ day: days.on, quantity: sql<string>`trim_scale(${onHand}::numeric - coalesce(${after}, 0))` })
    .from(days)
    .leftJoin(changes, eq(changes.day, days.on))
    .orderBy(days.on);
}
