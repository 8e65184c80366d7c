import type { Bearer } from '@larder/core/costing/adjust';
import { costMethods, type Pool } from '@larder/core/costing/method';
import { stillHere } from '@larder/core/costing/shareHere';
import { decimal, least, zero, type Decimal, type Had } from '@larder/core/decimal';
import type { ReceiptStand } from '@larder/core/inbound/cover';
import { and, eq, exists, gt, inArray, isNull, ne, sql, sum } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { among } from '../db/given';
import {
  bill,
  billCover,
  billLine,
  costLayer,
  goodsReturned,
  item,
  itemAccount,
  movement,
  movementLine,
  place,
  costPool,
  standingMovement,
} from '../db/schema/index';

/** A line of a receipt as cost that comes later, bills and returns see it. */
export interface ReceiptLine extends Bearer, ReceiptStand {
  movementId: number;
  purchaseLineId: number | null;
  /** Its running number: the layer of cost it made. */
  seq: number;
  /** The day it came. */
  day: string;
  undone: boolean;
  /** What it brought, and at which value in company currency. */
  brought: Had;
  /** What of that went back, and what the order had paid for it. */
  returned: Had;
  /** It came to a place of ours, and not straight to a customer or into use. */
  ours: boolean;
  /** The pool it is part of now: the item's or its own layer. */
  pool: Pool;
  inventoryAccount: number;
  costAccount: number;
}

type Of = { purchaseLineIds: readonly number[] } | { movementIds: readonly number[] } | { lineIds: readonly number[] };

const from = alias(place, 'from_place');
const to = alias(place, 'to_place');

/** What went back of a receipt line. */
const returnedOf = (line: PgColumn, what: PgColumn) => {
  const back = new QueryBuilder()
    .select({ sum: sum(what) })
    .from(goodsReturned)
    .where(eq(goodsReturned.ofLineId, line));
  return sql<string>`coalesce((${back}), 0)`;
};

/** What bills that stand cover of a receipt line. */
const covered = sql<string>`coalesce((${new QueryBuilder()
  .select({ sum: sum(billCover.quantity) })
  .from(billCover)
  .innerJoin(billLine, eq(billLine.id, billCover.billLineId))
  .innerJoin(bill, eq(bill.id, billLine.billId))
  .where(and(eq(billCover.lineId, movementLine.id), isNull(bill.undoneAt)))}), 0)`;

const other = alias(movementLine, 'other_line');
const otherFrom = alias(place, 'other_from');
const otherTo = alias(place, 'other_to');

/** What other receipts brought after it, net of what went back of them. */
const later = sql<string>`coalesce((${new QueryBuilder()
  .select({ sum: sql`sum(${other.quantity} - ${returnedOf(other.id, goodsReturned.quantity)})` })
  .from(other)
  .innerJoin(standingMovement, eq(standingMovement.id, other.movementId))
  .innerJoin(otherFrom, eq(otherFrom.id, other.fromPlaceId))
  .innerJoin(otherTo, eq(otherTo.id, other.toPlaceId))
  .where(
    and(eq(other.itemId, movementLine.itemId), gt(other.seq, movementLine.seq), inArray(otherFrom.kind, ['supplier', 'opening', 'made']), otherTo.owned),
  )}), 0)`;

const undo = alias(movement, 'undo');

async function readLines({ db }: Act['tx'], of: Of) {
  const concerned =
    'movementIds' in of
      ? and(ne(to.kind, 'used-up'), among(movementLine.movementId, of.movementIds))
      : 'lineIds' in of
        ? among(movementLine.id, of.lineIds)
        : among(movementLine.supplyLineId, of.purchaseLineIds);
  return db
    .select({
      lineId: movementLine.id,
      movementId: movementLine.movementId,
      itemId: movementLine.itemId,
      lotId: movementLine.lotId,
      purchaseLineId: movementLine.supplyLineId,
      seq: movementLine.seq,
      day: movementLine.effectiveOn,
      undone: exists(
        db
          .select({ one: sql`1` })
          .from(undo)
          .where(eq(undo.reverses, movement.id)),
      ).mapWith(Boolean),
      quantity: movementLine.quantity,
      value: sql<string>`${movementLine.value} + ${movementLine.variance}`,
      returned: returnedOf(movementLine.id, goodsReturned.quantity),
      returnedValue: returnedOf(movementLine.id, goodsReturned.value),
      covered,
      later,
      ours: to.owned,
      owned: costPool.quantity,
      worth: costPool.value,
      method: item.costMethod,
      layerQuantity: costLayer.quantity,
      layerValue: costLayer.value,
      inventory: itemAccount.inventory,
      cost: itemAccount.cost,
    })
    .from(movementLine)
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .innerJoin(costPool, eq(costPool.itemId, movementLine.itemId))
    .innerJoin(item, eq(item.id, movementLine.itemId))
    .innerJoin(itemAccount, eq(itemAccount.itemId, movementLine.itemId))
    .leftJoin(costLayer, and(eq(costLayer.itemId, movementLine.itemId), eq(costLayer.seq, movementLine.seq)))
    .where(and(concerned, eq(from.kind, 'supplier'), isNull(movement.reverses)))
    .orderBy(movement.id, movementLine.position);
}
type Row = Awaited<ReturnType<typeof readLines>>[number];

/** Receipt lines of purchase lines or of receipts, in the order they came in. What lies in the pools is read with them: lock those first. */
export async function receiptLines({ tx }: Act, of: Of): Promise<ReceiptLine[]> {
  const rows = await readLines(tx, of);
  return rows.map((row) => {
    const net = row.undone ? zero : decimal(row.quantity).minus(row.returned);
    return {
      lineId: row.lineId,
      movementId: row.movementId,
      itemId: row.itemId,
      lotId: row.lotId,
      purchaseLineId: row.purchaseLineId,
      seq: row.seq,
      day: row.day,
      undone: row.undone,
      brought: { quantity: decimal(row.quantity), amount: decimal(row.value) },
      returned: { quantity: decimal(row.returned), amount: decimal(row.returnedValue) },
      covered: decimal(row.covered),
      ours: row.ours,
      net,
      ...standingOf(row, net),
      inventoryAccount: row.inventory,
      costAccount: row.cost,
    };
  });
}

/** How many of a receipt are still here, and in which pool: layers know it exactly, under moving average it is reckoned. */
function standingOf(row: Row, net: Decimal): Pick<ReceiptLine, 'here' | 'pool' | 'poolKey'> {
  if (!row.ours) return { here: zero, pool: { quantity: zero, value: zero }, poolKey: `gone ${row.lineId}` };
  if (costMethods[row.method].keepsLayers) {
    const pool = { quantity: decimal(row.layerQuantity ?? '0'), value: decimal(row.layerValue ?? '0') };
    return { here: least(pool.quantity, net), pool, poolKey: `layer ${row.itemId}/${row.seq}` };
  }
  return {
    here: stillHere({ net, receivedLater: decimal(row.later), owned: decimal(row.owned) }),
    pool: { quantity: decimal(row.owned), value: decimal(row.worth) },
    poolKey: `item ${row.itemId}`,
  };
}

/** The pools of receipt lines, as planning costs asks for them. */
export const poolsOf = (lines: readonly ReceiptLine[]): Map<string, Pool> => new Map(lines.map(({ poolKey, pool }) => [poolKey, pool]));
