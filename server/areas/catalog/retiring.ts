import { quantityText } from '@larder/core/decimal';
import { refuseField } from '@larder/core/refusal';
import { and, eq, isNull, lt, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, positive } from '../../db/given';
import { bom, bomPart, item, costPool, purchaseLine, purchaseOrder, salesLine, salesOrder } from '../../db/schema/index';

interface InUse {
  sku: string;
  stock: string;
  purchases: string[];
  sales: string[];
  /** What it is made into. */
  goesInto: string[];
}

/** Items not retired yet that have stock, are on order, are wanted or go into something that is made, each with a sentence that says so; in the order of their SKUs. */
export async function stillInUse({ tx }: Pick<Act, 'tx'>, itemIds: readonly number[]): Promise<{ id: number; sentence: string }[]> {
  if (itemIds.length === 0) return [];
  const { db } = tx;
  const purchases = db
    .selectDistinct({ number: purchaseOrder.number })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .where(and(eq(purchaseLine.itemId, item.id), positive(purchaseLine.outstanding)))
    .orderBy(purchaseOrder.number);
  const sales = db
    .selectDistinct({ number: salesOrder.number })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .where(and(eq(salesLine.itemId, item.id), salesLine.active, lt(salesLine.dispatched, salesLine.baseQuantity)))
    .orderBy(salesOrder.number);
  const made = alias(item, 'made_item');
  const goesInto = db
    .selectDistinct({ sku: made.sku })
    .from(bomPart)
    .innerJoin(bom, and(eq(bom.id, bomPart.bomId), isNull(bom.retiredAt)))
    .innerJoin(made, and(eq(made.id, bom.itemId), isNull(made.retiredAt)))
    .where(eq(bomPart.itemId, item.id))
    .orderBy(made.sku);
  const all = await db
    .select({
      id: item.id,
      sku: item.sku,
      stock: costPool.quantity,
      purchases: sql<string[]>`array(${purchases})`,
      sales: sql<string[]>`array(${sales})`,
      goesInto: sql<string[]>`array(${goesInto})`,
    })
    .from(item)
    .innerJoin(costPool, eq(costPool.itemId, item.id))
    .where(and(among(item.id, itemIds), isNull(item.retiredAt)))
    .orderBy(item.sku);
  const rows = all.filter((row) => Number(row.stock) > 0 || row.purchases.length + row.sales.length + row.goesInto.length > 0);
  return rows.map((row) => ({ id: row.id, sentence: inWords(row) }));
}

/** An item with stock or open orders is retired only when the person says so. The items are locked. */
export async function refuseRetiring(act: Act, itemIds: readonly number[], agreed: boolean): Promise<void> {
  if (agreed) return;
  const [first, ...others] = await stillInUse(act, itemIds);
  if (!first) return;
  const more = others.length > 0 ? ` The same is so for ${others.length} more.` : '';
  throw refuseField(409, 'item-still-used', 'retired', `${first.sentence}${more} Retire all the same?`, ['retired-in-use']);
}

function inWords({ sku, stock, purchases, sales, goesInto }: InUse): string {
  const parts = [
    Number(stock) > 0 ? `has ${quantityText(stock)} in stock` : '',
    purchases.length > 0 ? `is on order on ${purchases.join(', ')}` : '',
    sales.length > 0 ? `is wanted by ${sales.join(', ')}` : '',
    goesInto.length > 0 ? `goes into ${goesInto.slice(0, 5).join(', ')}` : '',
  ].filter((part) => part !== '');
  return `${sku} ${parts.join(' and ')}.`;
}
