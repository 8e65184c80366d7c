import { takenFromParcels, weightOf, type Content } from '@larder/core/outbound/packing';
import { Refusal } from '@larder/core/refusal';
import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import type { Db } from '../db/database';
import { among } from '../db/given';
import { jsonRows } from '../db/json';
import { documentLine, item, movementLine, parcel, parcelContent, place, shipment } from '../db/schema/index';
import { plain } from '../db/text';

/** What lies on benches for order lines, and what of it is packed in parcels that are still here. */

const from = alias(place, 'from_place');
const to = alias(place, 'to_place');

/** Of order lines: what was picked for each and neither put back nor sent, lot by lot, what was picked first first. */
export async function onTheBench({ tx }: Act, lineIds: readonly number[]) {
  const left = sql<string>`sum(${movementLine.quantity} * ((${to.kind} = 'bench')::int - (${from.kind} = 'bench')::int))`;
  return tx.db
    .select({ lineId: sql<number>`${movementLine.demandLineId}`, lotId: movementLine.lotId, sku: item.sku, quantity: left })
    .from(movementLine)
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .innerJoin(item, eq(item.id, movementLine.itemId))
    .where(among(movementLine.demandLineId, lineIds))
    .groupBy(movementLine.demandLineId, movementLine.lotId, item.sku)
    .having(sql`${left} > 0`)
    .orderBy(sql`min(${movementLine.id})`);
}

/** What parcels that are still here hold of order lines, and which parcel. */
export const packedOf = ({ tx }: Act, lineIds: readonly number[]): Promise<(Content & { parcelId: number; parcel: string })[]> =>
  tx.db
    .select({
      parcelId: parcel.id,
      parcel: parcel.number,
      lineId: parcelContent.lineId,
      lotId: parcelContent.lotId,
      quantity: plain(parcelContent.quantity),
    })
    .from(parcelContent)
    .innerJoin(parcel, eq(parcel.id, parcelContent.parcelId))
    .leftJoin(shipment, eq(shipment.id, parcel.shipmentId))
    .where(and(among(parcelContent.lineId, lineIds), isNull(shipment.movementId)))
    .orderBy(parcel.id);

/** Refuses that goods leave a bench which are in a parcel. The orders are locked. */
export async function refusePacked(act: Act, leaving: readonly Content[]): Promise<void> {
  const lineIds = [...new Set(leaving.map(({ lineId }) => lineId))];
  if (lineIds.length === 0) return;
  const packed = await packedOf(act, lineIds);
  if (packed.length === 0) return;
  const [taken] = takenFromParcels(await onTheBench(act, lineIds), packed, leaving);
  if (!taken) return;
  const holding = packed.find(({ lineId }) => lineId === taken.lineId);
  throw new Refusal(409, 'packed', `${taken.sku} is packed in parcel ${holding?.parcel ?? ''}. Take it out of the parcel first.`);
}

/** The same of what an undo of a movement would take off a bench. */
export async function refusePackedOf(act: Act, movementId: number): Promise<void> {
  const rows = await act.tx.db
    .select({ lineId: sql<number>`${movementLine.demandLineId}`, lotId: movementLine.lotId, quantity: plain(movementLine.quantity) })
    .from(movementLine)
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .where(and(eq(movementLine.movementId, movementId), eq(to.kind, 'bench'), isNotNull(movementLine.demandLineId)));
  await refusePacked(act, rows);
}

const readParcels = (db: Db, ids: readonly number[]) =>
  db
    .select({
      id: parcel.id,
      number: parcel.number,
      orderId: parcel.orderId,
      siteId: parcel.siteId,
      shipmentId: parcel.shipmentId,
      weight: sql<string | null>`trim_scale(${parcel.weight})::text`,
      length: parcel.length,
      width: parcel.width,
      height: parcel.height,
      contents: jsonRows({ quantity: plain(parcelContent.quantity), weight: sql<string | null>`trim_scale(${item.weightKg})::text` }, (select) =>
        select
          .from(parcelContent)
          .innerJoin(documentLine, eq(documentLine.id, parcelContent.lineId))
          .innerJoin(item, eq(item.id, documentLine.itemId))
          .where(eq(parcelContent.parcelId, parcel.id)),
      ),
    })
    .from(parcel)
    .where(among(parcel.id, ids))
    .orderBy(parcel.id);

/** Parcels as a carrier is told of them: each with what it was weighed at, or else what its contents weigh. */
export const parcelsToCarry = async (db: Db, ids: readonly number[]) =>
  (await readParcels(db, ids)).map(({ contents, ...one }) => ({ ...one, weight: one.weight ?? weightOf(contents) }));
