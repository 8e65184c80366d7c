import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import type { Form } from './work';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import {
  bill,
  billLine,
  carrier,
  goodsReturned,
  item,
  journalEntry,
  landedCharge,
  landedSheet,
  movement,
  movementLine,
  parcel,
  purchaseLine,
  purchaseOrder,
  salesOrder,
  shipment,
} from '../../db/schema/index';

/** Lines of standing bills, or credits, in this currency that count for an order line already. */
const partsIn = (kind: Form['kind'], currency: string) =>
  jsonRows(
    {
      quantity: sql<string>`${billLine.quantity}::text`,
      price: sql<string>`${billLine.price}::text`,
      amount: billLine.amount,
      rate: bill.rate,
      company: sql<string>`abs(${billLine.cleared} + ${billLine.difference})::text`,
    },
    (select) =>
      select
        .from(billLine)
        .innerJoin(bill, eq(bill.id, billLine.billId))
        .where(
          and(
            eq(billLine.purchaseLineId, purchaseLine.id),
            isNotNull(billLine.quantity),
            eq(bill.kind, kind),
            eq(bill.currency, currency),
            isNotNull(bill.postedAt),
            isNull(bill.undoneAt),
          ),
        ),
    { orderBy: billLine.id },
  );

async function readOrdered({ db }: Act['tx'], ids: readonly number[], kind: Form['kind'], currency: string) {
  const returnedOn = db
    .select({ day: sql<string>`max(${movementLine.effectiveOn})` })
    .from(movementLine)
    .innerJoin(goodsReturned, eq(goodsReturned.lineId, movementLine.id))
    .where(eq(movementLine.supplyLineId, purchaseLine.id));
  return db
    .select({
      id: purchaseLine.id,
      label: sql<string>`${purchaseOrder.number} || ' line ' || ${purchaseLine.position}`,
      sku: item.sku,
      supplierId: purchaseOrder.supplierId,
      placed: sql<boolean>`${purchaseOrder.placedAt} is not null`,
      baseQuantity: purchaseLine.baseQuantity,
      quantity: purchaseLine.quantity,
      price: purchaseLine.price,
      pricePer: purchaseLine.pricePer,
      amount: purchaseLine.amount,
      rate: purchaseLine.rate,
      /** Net of what went back, and what went back. */
      received: purchaseLine.received,
      returned: purchaseLine.returned,
      /** The last day anything went back. */
      returnedOn: sql<string | null>`(${returnedOn})`,
      billed: purchaseLine.billed,
      /** What came in at, and what bills cleared of it, in company currency. */
      receivedValue: purchaseLine.receivedValue,
      billedValue: purchaseLine.billedValue,
      parts: partsIn(kind, currency),
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(item, eq(item.id, purchaseLine.itemId))
    .where(among(purchaseLine.id, ids));
}
/** An order line as a bill sees it. */
export type OrderedLine = Awaited<ReturnType<typeof readOrdered>>[number];

/** The order lines that a bill or credit in that currency names, with their orders locked. */
export async function orderedLines({ tx }: Act, form: Form, currency: string): Promise<Map<number, OrderedLine>> {
  const ids = form.lines.flatMap((line) => (line.kind === 'goods' || line.kind === 'credit' ? [line.purchaseLineId] : []));
  return new Map((await readOrdered(tx, ids, form.kind, currency)).map((row) => [row.id, row]));
}

async function readCharges({ db }: Act['tx'], ids: readonly number[]) {
  const postedOn = db
    .select({ day: sql<string>`max(${journalEntry.effectiveOn})` })
    .from(journalEntry)
    .where(eq(journalEntry.sheetId, landedSheet.id));
  return db
    .select({
      id: landedCharge.id,
      label: sql<string>`${landedSheet.number} || ', ' || ${landedCharge.name}`,
      estimate: landedCharge.estimate,
      cleared: landedCharge.cleared,
      over: sql<boolean>`${landedCharge.settledAt} is not null or ${landedCharge.removedAt} is not null`,
      /** The day its estimate was posted last. */
      postedOn: sql<string | null>`(${postedOn})`,
    })
    .from(landedCharge)
    .innerJoin(landedSheet, eq(landedSheet.id, landedCharge.sheetId))
    .where(among(landedCharge.id, ids));
}
export type Charge = Awaited<ReturnType<typeof readCharges>>[number];

/** The charges that a bill names, with their worksheets locked. */
export async function openCharges({ tx }: Act, form: Form): Promise<Map<number, Charge>> {
  const ids = form.lines.flatMap((line) => (line.kind === 'charge' ? [line.chargeId] : []));
  return new Map((await readCharges(tx, ids)).map((row) => [row.id, row]));
}

/** What standing bills have cleared of parcels. */
const billedFor = (db: Act['tx']['db']) =>
  db
    .select({ parcelId: billLine.parcelId, cleared: sql<string>`sum(${billLine.cleared})`.as('cleared') })
    .from(billLine)
    .innerJoin(bill, eq(bill.id, billLine.billId))
    .where(and(isNotNull(billLine.parcelId), isNotNull(bill.postedAt), isNull(bill.undoneAt)))
    .groupBy(billLine.parcelId)
    .as('billed_for');

const readSent = ({ db }: Act['tx']) => {
  const billed = billedFor(db);
  return db
    .select({
      id: parcel.id,
      number: parcel.number,
      orderId: salesOrder.id,
      order: salesOrder.number,
      partyId: carrier.partyId,
      tracking: parcel.tracking,
      expected: parcel.expected,
      billed: sql<boolean>`${billed.parcelId} is not null`,
      since: movement.effectiveOn,
    })
    .from(parcel)
    .innerJoin(shipment, eq(shipment.id, parcel.shipmentId))
    .innerJoin(movement, eq(movement.id, shipment.movementId))
    .innerJoin(salesOrder, eq(salesOrder.id, parcel.orderId))
    .innerJoin(carrier, eq(carrier.id, shipment.carrierId))
    .leftJoin(billed, eq(billed.parcelId, parcel.id));
};
export type SentParcel = Awaited<ReturnType<typeof readSent>>[number];

/** The parcels that a bill names, with their shipments locked, as they went out. */
export async function sentParcels({ tx }: Act, form: Form): Promise<Map<number, SentParcel>> {
  const ids = form.lines.flatMap((line) => (line.kind === 'parcel' ? [line.parcelId] : []));
  if (ids.length === 0) return new Map();
  return new Map((await readSent(tx).where(among(parcel.id, ids))).map((row) => [row.id, row]));
}

/** Parcels that a party's carriers have taken out and not billed, the oldest first. */
export const parcelsToBill = async ({ tx }: Act, partyId: number): Promise<SentParcel[]> =>
  (await readSent(tx).where(eq(carrier.partyId, partyId)).orderBy(parcel.id)).filter(({ billed }) => !billed);
