import type * as contract from '@larder/contract/explain';
import { decimal } from '@larder/core/decimal';
import { foremost, plainPart, sinceThen, type ExplainedPart } from '@larder/core/stock/explained';
import { Refusal } from '@larder/core/refusal';
import { and, desc, eq, ne, not, sql, type SQL } from 'drizzle-orm';
import { alias, unionAll } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import type { Act } from '../../act';
import { among, atSites, notNone, positive } from '../../db/given';
import { jsonRow } from '../../db/json';
import {
  balance,
  bill,
  billLine,
  componentTerms,
  costChange,
  costPool,
  documentLine,
  item,
  itemSite,
  landedCharge,
  landedSheet,
  lineDocument,
  lot,
  movement,
  movementLine,
  place,
  productTerms,
  purchaseOrder,
  purchaseTerms,
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
import { documentOf } from './trail';

type Document = contract.Explained['quantities'][number]['parts'][number]['document'];
type Part = ExplainedPart<NonNullable<Document>>;

/** How many changes, and how many documents, are told one by one. */
const [mostChanges, mostDocuments] = [6, 8];

const from = alias(place, 'from_place');
const to = alias(place, 'to_place');
const said = sql<string>`replace(${movement.kind}, '-', ' ')`;

/** What the figures of an item are made of: at one site, or over all that the person may look at. */
export async function explained(act: Act, id: number, siteId?: number): Promise<contract.Explained> {
  const { db } = act.tx;
  const sites = act.sites('look', siteId);
  const [facts] = await db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      costMethod: item.costMethod,
      onHand: plain(costPool.onHand),
      reserved: plain(costPool.reserved),
      free: plain(costPool.free),
      short: plain(costPool.short),
      onOrder: plain(costPool.onOrder),
      inTransit: plain(costPool.inTransit),
      unitCost: plain(costPool.unitCost),
      value: costPool.value,
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(costPoolOver(sites), eq(costPool.itemId, item.id))
    .where(and(eq(item.id, id), eq(item.kind, 'stocked')));
  if (!facts) throw new Refusal(404, 'not-found', 'There is no such item, or it is not kept in stock.');
  const { costMethod, onHand, reserved, free, short, onOrder, inTransit, unitCost, value, ...named } = facts;
  const pastUse = await lyingPastUse(act, id, sites);
  const wanted = await wantedParts(act, id, sites);
  const onHandParts = sinceThen(decimal(onHand).plus(pastUse).toFixed(), await onHandChanges(act, id, sites));
  const costs = act.seesCosts ? await costParts(act, { id, siteId, sites, costMethod, unitCost, value }) : [];
  return {
    ...named,
    quantities: [
      { figure: 'onHand', total: onHand, parts: Number(pastUse) === 0 ? onHandParts : [...onHandParts, plainPart('Past its use-by day', `-${pastUse}`)] },
      { figure: 'reserved', total: reserved, parts: foremost(wanted('reserved'), mostDocuments) },
      { figure: 'free', total: free, parts: [plainPart('On hand', onHand), plainPart('Reserved', decimal(reserved).neg().toFixed())] },
      { figure: 'short', total: short, parts: foremost(wanted('short'), mostDocuments) },
      { figure: 'onOrder', total: onOrder, parts: foremost(await onOrderParts(act, id, sites), mostDocuments) },
      { figure: 'inTransit', total: inTransit, parts: foremost(await inTransitParts(act, id, sites), mostDocuments) },
    ],
    costs,
  };
}

/** In bins that are sold from, of lots whose day has passed: no longer on hand. */
async function lyingPastUse({ tx: { db } }: Act, itemId: number, sites: Sites): Promise<string> {
  const [row] = await db
    .select({ quantity: sql<string>`trim_scale(coalesce(sum(${balance.quantity}), 0))::text` })
    .from(balance)
    .innerJoin(lot, eq(lot.id, balance.lotId))
    .innerJoin(place, eq(place.id, balance.placeId))
    .where(and(eq(balance.itemId, itemId), lot.pastUse, eq(place.kind, 'bin'), place.sellable, atSites(place.siteId, sites)));
  return row?.quantity ?? '0';
}

/** The last movements by which what lies in bins that are sold from changed, newest first. */
function onHandChanges({ tx: { db } }: Act, itemId: number, sites: Sites): Promise<Part[]> {
  const counts = (at: typeof from | typeof to) =>
    sql`(${and(eq(at.kind, 'bin'), at.sellable, sql`coalesce(${atSites(at.siteId, sites) ?? sql`true`}, false)`)})::int`;
  const change = sql`(${counts(to)} - ${counts(from)})`;
  return db
    .select({
      what: said,
      document: sql<Document>`${documentOf}`,
      day: movementLine.effectiveOn,
      by: sql<'plus'>`'plus'`,
      amount: sql<string>`trim_scale(${movementLine.quantity} * ${change})::text`,
    })
    .from(movementLine)
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .leftJoin(lineDocument, eq(lineDocument.lineId, movementLine.id))
    .where(and(eq(movementLine.itemId, itemId), sql`${change} <> 0`))
    .orderBy(desc(movementLine.seq))
    .limit(mostChanges);
}

/** Whom it is reserved for, and who is short of it. */
async function wantedParts({ tx: { db } }: Act, itemId: number, sites: Sites) {
  const rows = await db
    .select({
      document: jsonRow({
        kind: sql<
          'sales order' | 'transfer' | 'work order'
        >`case when ${transfer.id} is not null then 'transfer' when ${workOrder.id} is not null then 'work order' else 'sales order' end`,
        id: sql<number>`coalesce(${salesOrder.id}, ${transfer.id}, ${workOrder.id})`,
        number: documentLine.number,
      }),
      day: documentLine.neededOn,
      reserved: plain(documentLine.reserved),
      short: plain(documentLine.short),
    })
    .from(documentLine)
    .leftJoin(salesTerms, eq(salesTerms.id, documentLine.id))
    .leftJoin(salesOrder, eq(salesOrder.id, salesTerms.orderId))
    .leftJoin(transferTerms, eq(transferTerms.id, documentLine.id))
    .leftJoin(transfer, eq(transfer.id, transferTerms.transferId))
    .leftJoin(componentTerms, eq(componentTerms.id, documentLine.id))
    .leftJoin(workOrder, eq(workOrder.id, componentTerms.workOrderId))
    .where(and(eq(documentLine.itemId, itemId), positive(documentLine.wanted), atSites(documentLine.siteId, sites)))
    .orderBy(documentLine.neededOn, documentLine.id);
  return (of: 'reserved' | 'short'): Part[] =>
    rows
      .filter((row) => Number(row[of]) > 0)
      .map((row) => ({ what: of === 'reserved' ? 'reserved for' : 'short for', document: row.document, day: row.day, by: 'plus', amount: row[of] }));
}

/** What suppliers are to bring, and what is to be made. */
function onOrderParts({ tx: { db } }: Act, itemId: number, sites: Sites): Promise<Part[]> {
  const day = sql<string | null>`coalesce(${purchaseTerms.expectedOn}, ${purchaseOrder.expectedOn}, ${workOrder.dueOn})`;
  return db
    .select({
      what: sql<string>`'still to come'`,
      document: jsonRow({
        kind: sql<'purchase order' | 'work order'>`case when ${workOrder.id} is null then 'purchase order' else 'work order' end`,
        id: sql<number>`coalesce(${purchaseOrder.id}, ${workOrder.id})`,
        number: documentLine.number,
      }),
      day,
      by: sql<'plus'>`'plus'`,
      amount: sql<string>`trim_scale(${documentLine.incoming})::text`,
    })
    .from(documentLine)
    .leftJoin(purchaseTerms, eq(purchaseTerms.id, documentLine.id))
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, purchaseTerms.orderId))
    .leftJoin(productTerms, eq(productTerms.id, documentLine.id))
    .leftJoin(workOrder, eq(workOrder.id, productTerms.workOrderId))
    .where(
      and(eq(documentLine.itemId, itemId), positive(documentLine.incoming), ne(documentLine.kind, 'transfer'), atSites(sql`${documentLine.bringsToId}`, sites)),
    )
    .orderBy(day, documentLine.id);
}

/** What has left other sites and has not arrived. */
function inTransitParts({ tx: { db } }: Act, itemId: number, sites: Sites): Promise<Part[]> {
  return db
    .select({
      what: sql<string>`'in transit'`,
      document: jsonRow({ kind: sql<'transfer'>`'transfer'`, id: transfer.id, number: transfer.number }),
      day: transfer.expectedOn,
      by: sql<'plus'>`'plus'`,
      amount: sql<string>`trim_scale(${transferLine.inTransit})::text`,
    })
    .from(transferLine)
    .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
    .where(and(eq(transferLine.itemId, itemId), positive(transferLine.inTransit), atSites(transferLine.toSiteId, sites)))
    .orderBy(transfer.expectedOn, transferLine.id);
}

interface Costed {
  id: number;
  siteId: number | undefined;
  sites: Sites;
  costMethod: string;
  unitCost: string;
  value: string;
}

/** What one costs and what all are worth. Over all sites by its last changes; at some, by their part of the whole. */
async function costParts(act: Act, { id, siteId, sites, costMethod, unitCost, value }: Costed): Promise<contract.Explained['costs']> {
  const { db } = act.tx;
  const isAllSeen = await isSeenWherever(act, id);
  const [whole] = await db
    .select({ value: sql<string>`${costPool.value}::text`, quantity: plain(costPool.quantity) })
    .from(costPool)
    .where(eq(costPool.itemId, id));
  const money = (what: string, amount: string) => ({ ...plainPart(what, amount), isQuantity: false });
  const number = (what: string, amount: string, by: 'times' | 'over') => ({ ...plainPart(what, amount, by), isQuantity: true });
  const [worth, held] = [whole?.value ?? '0', whole?.quantity ?? '0'];
  const each = [money('Worth of all that is ours', worth), number('How many are ours', held, 'over')];
  const there = await sitesWorth(act, id, sites);
  const [only] = there;
  const parts =
    siteId === undefined && isAllSeen
      ? sinceThen(value, await valueChanges(act, id)).map((part) => ({ ...part, isQuantity: false }))
      : isAllSeen && there.length === 1 && only && costMethod !== 'specific'
        ? [money('Worth of all that is ours', worth), number(`Of them at ${only.site}`, only.quantity, 'times'), number('How many are ours', held, 'over')]
        : there.length > 0
          ? there.map((one) => money(costMethod === 'specific' ? `The units at ${one.site}` : one.site, one.value))
          : [money('None is here', '0.00')];
  return [
    {
      figure: 'unitCost',
      total: unitCost,
      parts: decimal(held).isZero() ? [money('None is ours', '0')] : isAllSeen ? each : [money('What one costs the whole business', unitCost)],
    },
    { figure: 'value', total: value, parts },
  ];
}

/** Whether the person may look wherever the item ever was: how many there are elsewhere, and what moved there, is for those to know who may look there. */
async function isSeenWherever({ tx: { db }, sites }: Act, itemId: number): Promise<boolean> {
  const seen = sites('look');
  if (seen === null) return true;
  return (await db.$count(itemSite, and(eq(itemSite.itemId, itemId), not(among(itemSite.siteId, seen))))) === 0;
}

/** What sites have of an item, wherever it is of theirs, and its worth. */
function sitesWorth({ tx: { db } }: Act, itemId: number, sites: Sites) {
  const quantity = sql`${itemSite.onHand} + ${itemSite.quarantine} + ${itemSite.bench} + ${itemSite.inTransit} + ${itemSite.onLoan} + ${itemSite.inWork}`;
  return db
    .select({ site: site.name, quantity: sql<string>`trim_scale(${quantity})::text`, value: itemSite.value })
    .from(itemSite)
    .innerJoin(site, eq(site.id, itemSite.siteId))
    .where(and(eq(itemSite.itemId, itemId), notNone(quantity), atSites(site.id, sites)))
    .orderBy(site.id);
}

/** The last changes of what all of an item is worth, newest first: goods that came and went, and changes of cost. */
async function valueChanges({ tx: { db } }: Act, itemId: number): Promise<Part[]> {
  const document = (kind: 'bill' | 'landed cost', id: SQL, number: SQL) => sql<Document>`${jsonRow({ kind: sql`${kind}::text`, id, number })}`;
  const goods = db
    .select({
      what: sql<string>`${said}`.as('what'),
      document: sql<Document>`${documentOf}`.as('document'),
      day: sql<string>`${movementLine.effectiveOn}`.as('day'),
      amount: sql<string>`${movementLine.value}::text`.as('amount'),
      seq: sql<number>`${movementLine.seq}`.as('seq'),
    })
    .from(movementLine)
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .leftJoin(lineDocument, eq(lineDocument.lineId, movementLine.id))
    .where(and(eq(movementLine.itemId, itemId), ne(movementLine.value, '0')))
    .orderBy(desc(movementLine.seq))
    .limit(mostChanges);
  const costs = db
    .select({
      what: sql<string>`${costChange.cause}`.as('what'),
      document: sql<Document>`case when ${bill.id} is not null then ${document('bill', sql`${bill.id}`, sql`${bill.number}`)}
        when ${landedSheet.id} is not null then ${document('landed cost', sql`${landedSheet.id}`, sql`${landedSheet.number}`)} end`.as('document'),
      day: sql<string>`${costChange.effectiveOn}`.as('day'),
      amount: sql<string>`${costChange.amount}::text`.as('amount'),
      seq: sql<number>`${costChange.seq}`.as('seq'),
    })
    .from(costChange)
    .leftJoin(billLine, eq(billLine.id, costChange.billLineId))
    .leftJoin(bill, eq(bill.id, billLine.billId))
    .leftJoin(landedCharge, eq(landedCharge.id, costChange.chargeId))
    .leftJoin(landedSheet, eq(landedSheet.id, landedCharge.sheetId))
    .where(and(eq(costChange.itemId, itemId), ne(costChange.amount, '0')))
    .orderBy(desc(costChange.seq))
    .limit(mostChanges);
  const rows = unionAll(goods, costs).as('changes');
  const found = await db
    .select({ what: rows.what, document: rows.document, day: rows.day, amount: rows.amount })
    .from(rows)
    .orderBy(desc(rows.seq))
    .limit(mostChanges);
  return found.map((row) => ({ ...row, by: 'plus' }));
}
