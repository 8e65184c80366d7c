import { decimal, quantityText, sum, type Decimal } from '@larder/core/decimal';
import { expectedAgain } from '@larder/core/inbound/returning';
import type { CameBack, MovementLine, TakenOff } from '@larder/core/ledger/types';
import type { Condition } from '@larder/core/outbound/comingBack';
import { refuseField } from '@larder/core/refusal';
import { and, eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { place, purchaseLine, purchaseOrder, supply } from '../../db/schema/index';
import { lock } from '../../ledger/lock';
import { receiptLines, type ReceiptLine } from '../../ledger/receipts';

/** Goods that came straight from a supplier, and that the customer sends straight on to it: a return of theirs to us, and of ours to the supplier, at once. */

/** Where such goods go: the supplier, and what its order counts of them no more. */
export interface StraightOn {
  supplierPlaceId: number;
  purchaseLineId: number;
  takenOff: TakenOff[];
}

interface Line {
  index: number;
  salesLineId: number | null;
  condition: Condition;
  quantity: string;
}

/** Locks the purchase orders of goods that go straight on to their supplier: before the sales orders, as everybody does. */
export async function lockStraight(act: Act, lines: readonly Pick<Line, 'salesLineId' | 'condition'>[]): Promise<void> {
  const salesLineIds = lines.flatMap(({ salesLineId, condition }) => (condition === 'supplier' && salesLineId !== null ? [salesLineId] : []));
  if (salesLineIds.length === 0) return;
  const supplies = await act.tx.db.select({ id: supply.purchaseLineId }).from(supply).where(among(supply.salesLineId, salesLineIds));
  await lock.purchaseOrdersOf(
    act,
    supplies.map(({ id }) => id),
  );
}

const readBought = ({ tx: { db } }: Act, lineIds: readonly number[]) =>
  db
    .select({
      id: purchaseLine.id,
      number: purchaseOrder.number,
      siteId: purchaseLine.siteId,
      active: purchaseLine.active,
      baseQuantity: purchaseLine.baseQuantity,
      cancelled: purchaseLine.cancelled,
      received: purchaseLine.received,
      supplierPlaceId: place.id,
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(place, and(eq(place.kind, 'supplier'), eq(place.partyId, purchaseOrder.supplierId)))
    .where(among(purchaseLine.id, lineIds));

/**
 * Of each line that goes straight on, by its index: to which supplier, and taken off which of its deliveries, at what they cost. Its order does not expect them again: they are to be credited.
 * Refuses a line whose goods came on several orders, and whom may not send goods back to suppliers.
 */
export async function straightOn(act: Act, lines: readonly Line[], parts: readonly CameBack[][]): Promise<Map<number, StraightOn>> {
  const going = lines.flatMap((line, nth) => (line.condition === 'supplier' ? [{ ...line, cameBack: parts[nth] ?? [] }] : []));
  if (going.length === 0) return new Map();
  const movementLines = going.flatMap(({ cameBack }) => cameBack.map(({ ofLineId }) => ofLineId));
  const receipts = await receiptsOf(act, movementLines);
  const bought = await readBought(
    act,
    [...receipts.values()].flatMap(({ purchaseLineId }) => purchaseLineId ?? []),
  );
  const received = new Map(bought.map((line) => [line.id, decimal(line.received)]));
  return new Map(
    going.map(({ index, cameBack }): [number, StraightOn] => {
      const first = receipts.get(cameBack[0]?.ofLineId ?? 0);
      const order = bought.find(({ id }) => id === first?.purchaseLineId);
      if (!order) throw new Error('what came straight from a supplier came on no order');
      act.allow('inbound.receive', order.siteId);
      const ofFirst = cameBack.filter(({ ofLineId }) => receipts.get(ofLineId)?.purchaseLineId === order.id);
      const quantity = sum(ofFirst.map((part) => part.quantity));
      if (ofFirst.length < cameBack.length)
        throw refuseField(
          409,
          'several-orders',
          `lines.${index}.quantity`,
          `Only ${quantityText(quantity)} of these came on ${order.number}; the rest goes on a line of its own.`,
        );
      const before = received.get(order.id) as Decimal;
      received.set(order.id, before.minus(quantity));
      const again = expectedAgain(
        { active: order.active, baseQuantity: decimal(order.baseQuantity), cancelled: decimal(order.cancelled), received: before },
        quantity,
      );
      const takenOff = cameBack.map((part, nth): TakenOff => ({
        lineId: part.ofLineId,
        layerSeq: receipts.get(part.ofLineId)?.seq ?? 0,
        quantity: part.quantity,
        value: part.value,
        calledOff: nth === 0 ? again : decimal(0),
      }));
      return [index, { supplierPlaceId: order.supplierPlaceId, purchaseLineId: order.id, takenOff }];
    }),
  );
}

/** The deliveries that these movement lines are, by them. */
async function receiptsOf(act: Act, movementLineIds: readonly number[]): Promise<Map<number, ReceiptLine>> {
  const lines = await receiptLines(act, { lineIds: movementLineIds });
  return new Map(lines.map((line) => [line.lineId, line]));
}

/** A line of goods that come back, as it goes on to the supplier: no stock of ours is touched, and what they cost goes from cost of sales to what the supplier owes or is not owed. */
export const toSupplier = (back: MovementLine, { supplierPlaceId, purchaseLineId, takenOff }: StraightOn): MovementLine => ({
  ...back,
  toPlaceId: supplierPlaceId,
  valuation: { by: 'stated', value: sum(takenOff.map(({ value }) => value)).neg() },
  serves: [{ kind: 'purchase', lineId: purchaseLineId }, ...back.serves],
  takenOff,
});
