import type * as contract from '@larder/contract/shipping';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import { shipmentState } from '@larder/core/outbound/carriage';
import { looseOf, packFaults, weightOf } from '@larder/core/outbound/packing';
import { Refusal, type FieldError } from '@larder/core/refusal';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows } from '../../db/given';
import { jsonRows } from '../../db/json';
import { carrier, item, lot, parcel, parcelContent, salesLine, salesOrder, shipment, site, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { codesHere, codesOf } from '../../documents/codes';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { nextNumber } from '../../documents/number';
import { recordOrder } from '../../documents/orders';
import { onTheBench, packedOf } from '../../documents/parcels';
import { lock } from '../../ledger/lock';
import { seenSale } from './queries';

/** What is told of order lines that lie on a bench or in a parcel. */
const lineFields = {
  lineId: salesLine.id,
  siteId: salesLine.siteId,
  site: site.name,
  itemId: item.id,
  sku: item.sku,
  name: item.name,
  unit: unit.code,
  step: plain(unit.step),
  weight: sql<string | null>`trim_scale(${item.weightKg})::text`,
  itemCodes: codesOf(item.id, { suppliers: false }),
};

/** The lines of an order as packing goes by them, by id. */
async function linesOf({ tx: { db } }: Act, orderId: number) {
  const rows = await db
    .select(lineFields)
    .from(salesLine)
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(site, eq(site.id, salesLine.siteId))
    .where(eq(salesLine.orderId, orderId));
  return new Map(rows.map((row) => [row.lineId, row]));
}

async function lotsOf({ tx: { db } }: Act, ids: readonly (number | null)[]) {
  const rows = await db
    .select({ id: lot.id, kind: lot.kind, code: lot.code, tag: lot.tag })
    .from(lot)
    .where(
      among(
        lot.id,
        ids.flatMap((id) => id ?? []),
      ),
    );
  return new Map(rows.map((row) => [row.id, row]));
}

const parcelsOf = ({ tx: { db } }: Act, orderId: number) =>
  db
    .select({
      id: parcel.id,
      version: parcel.version,
      number: parcel.number,
      siteId: parcel.siteId,
      site: site.name,
      shipmentId: parcel.shipmentId,
      weight: sql<string | null>`trim_scale(${parcel.weight})::text`,
      length: parcel.length,
      width: parcel.width,
      height: parcel.height,
      tracking: parcel.tracking,
      expected: parcel.expected,
      whereabouts: parcel.whereabouts,
      toldAt: parcel.toldAt,
      delivered: sql<boolean>`${parcel.deliveredAt} is not null`,
      contents: jsonRows(
        { lineId: parcelContent.lineId, lotId: parcelContent.lotId, quantity: plain(parcelContent.quantity) },
        (select) => select.from(parcelContent).where(eq(parcelContent.parcelId, parcel.id)),
        { orderBy: parcelContent.id },
      ),
    })
    .from(parcel)
    .innerJoin(site, eq(site.id, parcel.siteId))
    .where(eq(parcel.orderId, orderId))
    .orderBy(asc(parcel.id));

const shipmentsOf = ({ tx: { db } }: Act, orderId: number) =>
  db
    .select({
      id: shipment.id,
      number: shipment.number,
      siteId: shipment.siteId,
      site: site.name,
      way: shipment.way,
      carrier: sql<string>`coalesce(${carrier.name}, '')`,
      connected: sql<boolean>`coalesce(${carrier.connected}, false)`,
      service: shipment.service,
      address: shipment.address,
      charged: shipment.charged,
      fault: shipment.fault,
      nextTryAt: shipment.nextTryAt,
      bookedAt: shipment.bookedAt,
      takenAt: shipment.takenAt,
      movementId: shipment.movementId,
    })
    .from(shipment)
    .innerJoin(site, eq(site.id, shipment.siteId))
    .leftJoin(carrier, eq(carrier.id, shipment.carrierId))
    .where(and(eq(shipment.orderId, orderId), isNull(shipment.cancelledAt)))
    .orderBy(asc(shipment.id));

/** What of an order lies loose on benches, its parcels, and how they go. */
export async function getPacking(act: Act, orderId: number): Promise<ResponseOf<typeof contract.getPacking>> {
  const lines = await linesOf(act, orderId);
  const [order] = await act.tx.db.select({ siteId: salesOrder.siteId }).from(salesOrder).where(eq(salesOrder.id, orderId));
  if (!order) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  seenSale(act, { ...order, lines: [...lines.values()] });
  const lineIds = [...lines.keys()];
  const loose = looseOf(await onTheBench(act, lineIds), await packedOf(act, lineIds));
  const parcels = await parcelsOf(act, orderId);
  const lots = await lotsOf(
    act,
    [...loose, ...parcels.flatMap(({ contents }) => contents)].map(({ lotId }) => lotId),
  );
  const told = ({ lineId, lotId, quantity }: { lineId: number; lotId: number | null; quantity: string }) => {
    const { itemCodes, ...line } = lines.get(lineId) as NonNullable<ReturnType<typeof lines.get>>;
    const of = lotId === null ? undefined : lots.get(lotId);
    const codes = codesHere({ lotKind: of?.kind ?? null, lot: of?.code ?? null, tag: of?.tag ?? null, itemCodes });
    return { ...line, lotId, lot: of?.code ?? null, quantity: decimal(quantity).toFixed(), codes };
  };
  const shipments = await shipmentsOf(act, orderId);
  return {
    loose: loose.map(told),
    parcels: parcels.map(({ contents, expected: _expected, ...one }) => {
      const inside = contents.map((content) => {
        const { siteId: _siteId, site: _site, ...rest } = told(content);
        return rest;
      });
      return { ...one, contents: inside, reckoned: weightOf(inside) };
    }),
    shipments: shipments.map(({ bookedAt, takenAt, ...one }) => {
      const own = parcels.filter(({ shipmentId }) => shipmentId === one.id);
      const expected = own.reduce((all, each) => all.plus(each.expected), decimal(0)).toFixed(2);
      const delivered = own.length > 0 && own.every((each) => each.delivered);
      return { ...one, expected, state: shipmentState({ ...one, bookedAt, takenAt, delivered }) };
    }),
  };
}

/** Packs what lies on the bench of a site into parcels: as they are named, in place of those that were there and are neither booked nor gone. */
export async function packOrder(
  act: Act,
  orderId: number,
  { siteId, seen, parcels: asked }: BodyOf<typeof contract.packOrder>,
): Promise<ResponseOf<typeof contract.packOrder>> {
  act.allow('outbound.ship', siteId);
  await lock.salesOrders(act, [orderId]);
  const lines = await linesOf(act, orderId);
  if (lines.size === 0) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  const before = (await parcelsOf(act, orderId)).filter((one) => one.siteId === siteId && one.shipmentId === null);
  if (before.length !== seen.length || before.some(({ id, version }) => !seen.some((one) => one.id === id && one.version === version)))
    throw new Refusal(409, 'stale', 'Somebody else has packed meanwhile. Look again; what you typed is not saved.');
  const here = [...lines.values()].filter((line) => line.siteId === siteId).map(({ lineId }) => lineId);
  await refuseParcels(act, asked, before, lines, here);
  const kept = asked.flatMap(({ id }) => id ?? []);
  const gone = before.filter(({ id }) => !kept.includes(id));
  const { db } = act.tx;
  await db.delete(parcel).where(
    among(
      parcel.id,
      gone.map(({ id }) => id),
    ),
  );
  await db.delete(parcelContent).where(among(parcelContent.parcelId, kept));
  const rows: { id: number; number: string }[] = [];
  for (const { id, contents: _contents, ...measures } of asked) rows.push(await writeParcel(act, { orderId, siteId }, id, measures));
  await insertRows(
    act.tx,
    parcelContent,
    asked.flatMap(({ contents }, index) => contents.map((content) => ({ parcelId: rows[index]?.id as number, ...content }))),
  );
  const words = [...rows.map(({ number }) => number), ...gone.map(({ number }) => `${number} taken apart`)].join(', ');
  if (words !== '') await recordOrder(act, 'sales', orderId, {}, { packed: words });
  return { parcels: rows };
}

type Asked = BodyOf<typeof contract.packOrder>['parcels'][number];

/** Writes what a parcel is but for its contents: a new one, or one that was there. */
async function writeParcel(act: Act, of: { orderId: number; siteId: number }, id: number | null, measures: Omit<Asked, 'id' | 'contents'>) {
  const { db } = act.tx;
  const [row] =
    id === null
      ? await db
          .insert(parcel)
          .values({ ...of, ...measures, number: await nextNumber(act, 'parcel'), createdAt: act.now.toISOString(), createdBy: act.by.id })
          .returning({ id: parcel.id, number: parcel.number })
      : await db
          .update(parcel)
          .set({ ...measures, version: sql`${parcel.version} + 1` })
          .where(eq(parcel.id, id))
          .returning({ id: parcel.id, number: parcel.number });
  if (!row) throw new Error('the parcel was not written');
  return row;
}

/** Refuses, by their fields, parcels that are not there, or that hold what is not on the bench of the site. */
async function refuseParcels(
  act: Act,
  asked: readonly Asked[],
  before: readonly { id: number; contents: readonly { lineId: number; lotId: number | null; quantity: string }[] }[],
  lines: ReadonlyMap<number, { itemId: number }>,
  here: readonly number[],
): Promise<void> {
  const { items } = await lineFacts(
    act,
    [...lines.values()].map(({ itemId }) => itemId),
  );
  const others = (await packedOf(act, here)).filter(({ parcelId }) => !before.some(({ id }) => id === parcelId));
  refuseErrors(
    asked.flatMap(({ id, contents }, index): FieldError[] => {
      if (id !== null && !before.some((one) => one.id === id))
        return [{ field: `parcels.${index}.id`, sentence: 'This parcel is booked already, or not there any more.' }];
      return contents.flatMap(({ lineId, quantity }, n): FieldError[] => {
        const facts = items.get(lines.get(lineId)?.itemId ?? 0);
        const fault = facts && quantityError(facts, quantity, `parcels.${index}.contents.${n}.quantity`);
        return fault ? [fault] : [];
      });
    }),
  );
  refuseErrors(packFaults(asked, looseOf(await onTheBench(act, here), others)));
}
