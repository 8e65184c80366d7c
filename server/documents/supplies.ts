import { decimal, quantityText, zero, type Decimal } from '@larder/core/decimal';
import { directCalledOff, wantedOfSite } from '@larder/core/outbound/straight';
import { Refusal } from '@larder/core/refusal';
import { and, eq, not, sql } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { among, positive, updateRows } from '../db/given';
import { jsonRows } from '../db/json';
import { prepared } from '../db/prepared';
import { documentLine, goodsReturned, item, movementLine, party, purchaseOrder, purchaseTerms, salesLine, salesOrder, supply } from '../db/schema/index';
import { plain } from '../db/text';
import { changeDemand } from '../ledger/changeDemand';
import { lock } from '../ledger/lock';
import { recordOrder } from './orders';

/** What suppliers were ordered to send straight to customers: which purchase line brings how much of which sales line. */

const bought = alias(documentLine, 'bought');

/** Of a purchase line, in base units: what came on it once, also what went back to the supplier since: of that nothing is sent anew. */
export const everCame = (purchaseLineId: PgColumn, arrived: PgColumn) =>
  sql<string>`(${arrived} + (${new QueryBuilder()
    .select({ sum: sql`coalesce(sum(${goodsReturned.quantity}), 0)` })
    .from(goodsReturned)
    .innerJoin(movementLine, eq(movementLine.id, goodsReturned.lineId))
    .where(eq(movementLine.supplyLineId, purchaseLineId))}))`;
/** What a purchase line is still to bring of what it was ordered for. */
const toSend = sql<string>`greatest(${supply.quantity} - ${everCame(bought.id, bought.arrived)}, 0)`;

/** Of a sales line, in base units: ordered straight from suppliers and still to be sent. */
export const onOrderStraight = (salesLineId: PgColumn) =>
  sql<string>`(${new QueryBuilder()
    .select({ open: sql`coalesce(sum(${toSend}), 0)` })
    .from(supply)
    .innerJoin(bought, and(eq(bought.id, supply.purchaseLineId), bought.active))
    .where(eq(supply.salesLineId, salesLineId))})`;

/** Of a sales line: what suppliers were ordered to send straight. */
export const suppliesOfSale = (salesLineId: PgColumn) =>
  jsonRows(
    {
      orderId: purchaseOrder.id,
      orderNumber: purchaseOrder.number,
      supplier: party.name,
      quantity: plain(supply.quantity),
      sent: plain(bought.arrived),
      expectedOn: sql<string | null>`coalesce(${purchaseTerms.expectedOn}, ${purchaseOrder.expectedOn})`,
    },
    (select) =>
      select
        .from(supply)
        .innerJoin(bought, eq(bought.id, supply.purchaseLineId))
        .innerJoin(purchaseTerms, eq(purchaseTerms.id, supply.purchaseLineId))
        .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseTerms.orderId))
        .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
        .where(and(eq(supply.salesLineId, salesLineId), positive(supply.quantity))),
    { orderBy: purchaseOrder.id },
  );

/** Of a purchase line: the sales line whose customer it goes straight to. */
export const suppliedBy = (purchaseLineId: PgColumn) =>
  jsonRows(
    { orderId: salesOrder.id, orderNumber: salesOrder.number, position: salesLine.position, quantity: plain(supply.quantity) },
    (select) =>
      select
        .from(supply)
        .innerJoin(salesLine, eq(salesLine.id, supply.salesLineId))
        .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
        .where(eq(supply.purchaseLineId, purchaseLineId)),
    { orderBy: supply.id },
  );

/** Sales lines as deciding what comes straight from a supplier goes by them. */
const readStraight = prepared(['lines'], (db, { lines }) =>
  db
    .select({
      id: salesLine.id,
      orderId: salesOrder.id,
      number: salesOrder.number,
      position: salesLine.position,
      customerId: salesOrder.customerId,
      shipTo: salesOrder.shipTo,
      itemId: salesLine.itemId,
      sku: item.sku,
      siteId: salesLine.siteId,
      stocked: salesLine.stocked,
      active: salesLine.active,
      base: plain(salesLine.baseQuantity),
      picked: plain(salesLine.picked),
      direct: plain(salesLine.direct),
      sent: plain(salesLine.sent),
      onOrder: sql<string>`trim_scale(${onOrderStraight(salesLine.id)})::text`,
      neededOn: sql<string>`coalesce(${salesLine.shipBy}, ${salesOrder.shipBy})`,
      promisedOn: salesLine.promisedOn,
      standsBack: salesLine.standsBack,
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .where(among(salesLine.id, lines)),
);
export type StraightLine = Awaited<ReturnType<typeof readStraight>>[number];

/** Sales lines as deciding what comes straight from a supplier goes by them, by id. Their orders are locked. */
export const straightLines = async ({ tx }: Act, lineIds: readonly number[]): Promise<Map<number, StraightLine>> =>
  new Map((await readStraight(tx, { lines: [...new Set(lineIds)] })).map((line) => [line.id, line]));

/**
 * Sets how many base units of lines come straight from a supplier in all; what their sites no longer send is released, what they send again is reserved as far as it is free. The orders and the pools are
 * locked; `write` writes what it rests on. Returns the effects.
 */
export async function putStraight(act: Act, to: readonly { line: StraightLine; direct: Decimal }[], write: () => Promise<void>) {
  const decided = to.flatMap(({ line, direct }) => {
    const { id, itemId, siteId, neededOn, promisedOn, standsBack, stocked, active } = line;
    return stocked && active ? [{ id, itemId, siteId, becomes: { siteId, wanted: wantedOfSite(line, direct), neededOn, promisedOn, standsBack } }] : [];
  });
  return changeDemand(act, { decided }, async () => {
    await updateRows(
      act.tx,
      documentLine,
      to.map(({ line, direct }) => ({ id: line.id, direct: direct.toFixed() })),
    );
    await write();
    return undefined;
  });
}

/** Takes off what was ordered straight for lines on purchase orders that were ended since, as far as nothing came of it. */
export async function dropEnded({ tx: { db } }: Act, salesLineIds: readonly number[]): Promise<void> {
  await db
    .update(supply)
    .set({ quantity: everCame(bought.id, bought.arrived) })
    .from(bought)
    .where(and(eq(bought.id, supply.purchaseLineId), not(bought.active), positive(toSend), among(supply.salesLineId, salesLineIds)));
}

/** What purchase lines bring straight to customers of sales lines. */
const suppliesOf = ({ tx: { db } }: Act, purchaseLineIds: readonly number[]) =>
  db
    .select({
      id: supply.id,
      purchaseLineId: supply.purchaseLineId,
      salesLineId: supply.salesLineId,
      orderId: salesLine.orderId,
      number: salesOrder.number,
      itemId: salesLine.itemId,
      quantity: plain(supply.quantity),
      arrived: sql<string>`${everCame(bought.id, bought.arrived)}::text`,
      ordered: sql<string>`(${bought.baseQuantity} - ${bought.cancelled})::text`,
    })
    .from(supply)
    .innerJoin(bought, eq(bought.id, supply.purchaseLineId))
    .innerJoin(salesLine, eq(salesLine.id, supply.salesLineId))
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .where(among(supply.purchaseLineId, purchaseLineIds))
    .orderBy(supply.id);

/** Locks the sales orders that purchase lines were ordered for, which comes before the pools of their items; answers what they bring. */
export async function lockSupplied(act: Act, purchaseLineIds: readonly number[]) {
  const rows = await suppliesOf(act, purchaseLineIds);
  await lock.salesOrders(
    act,
    rows.map(({ orderId }) => orderId),
  );
  return suppliesOf(act, purchaseLineIds);
}
export type Supplied = Awaited<ReturnType<typeof lockSupplied>>[number];

/** What was to come straight from a supplier and does not is wanted of the lines' own sites again. The purchase and sales orders and the pools are locked. */
export async function callOffStraight(act: Act, supplied: readonly Supplied[], off: readonly { lineId: number; quantity: Decimal }[]): Promise<void> {
  const cut = (row: Supplied) => off.filter(({ lineId }) => lineId === row.purchaseLineId).reduce((all, { quantity }) => all.plus(quantity), zero);
  const rows = supplied.filter((row) => cut(row).gt(zero));
  if (rows.length === 0) return;
  const lines = await straightLines(
    act,
    rows.map(({ salesLineId }) => salesLineId),
  );
  const fewer = (lineId: number) => rows.filter(({ salesLineId }) => salesLineId === lineId).reduce((all, row) => all.plus(cut(row)), zero);
  await putStraight(
    act,
    [...lines.values()].map((line) => ({ line, direct: directCalledOff(line, fewer(line.id)) })),
    async () => {
      await updateRows(
        act.tx,
        supply,
        rows.map((row) => ({ id: row.id, quantity: decimal(row.quantity).minus(cut(row)).toFixed() })),
      );
      for (const line of lines.values())
        await recordOrder(
          act,
          'sales',
          line.orderId,
          {},
          { straight: `${quantityText(fewer(line.id))} of ${line.sku} will not come straight from a supplier` },
        );
    },
  );
}

/** Refuses to open a purchase order again whose goods were to go to customers who get them otherwise now. */
export function refuseReopened(number: string, supplied: readonly Supplied[]): void {
  const [other] = supplied.filter(({ quantity, ordered }) => decimal(quantity).lt(ordered));
  if (other)
    throw new Refusal(
      409,
      'supplied-otherwise',
      `${number} was to go straight to the customer of ${other.number}, which gets it otherwise now. Order it anew from there.`,
    );
}

/** Refuses to end or withdraw sales orders for which suppliers are still to send something straight; `ever`: or ever were. */
export async function refuseOnOrder({ tx: { db } }: Act, number: string, salesLineIds: readonly number[], { ever = false } = {}): Promise<void> {
  const [row] = await db
    .select({ order: purchaseOrder.number, sku: item.sku, open: sql<string>`trim_scale(${toSend})::text` })
    .from(supply)
    .innerJoin(bought, eq(bought.id, supply.purchaseLineId))
    .innerJoin(purchaseTerms, eq(purchaseTerms.id, bought.id))
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseTerms.orderId))
    .innerJoin(item, eq(item.id, bought.itemId))
    .where(and(among(supply.salesLineId, salesLineIds), ever ? undefined : and(bought.active, positive(toSend))))
    .limit(1);
  if (!row) return;
  throw ever
    ? new Refusal(409, 'begun', `${row.sku} for ${number} was ordered straight from a supplier on ${row.order}. Cancel it, and copy it for another quote.`)
    : new Refusal(
        409,
        'on-order-straight',
        `${row.order} brings ${row.open} of ${row.sku} straight to the customer of ${number}. Cancel the rest of ${row.order} first.`,
      );
}
