import type * as contract from '@larder/contract/shipping';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, quantityText, sum } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { looseFaults, looseOf, type Content } from '@larder/core/outbound/packing';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { takeLots } from '@larder/core/stock/lots';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { parcel, parcelContent, shipment } from '../../db/schema/index';
import { plain } from '../../db/text';
import { refuseGoing } from '../../documents/goingOut';
import { refuseErrors } from '../../documents/lines';
import { nextNumber } from '../../documents/number';
import { onTheBench, packedOf } from '../../documents/parcels';
import { sendOut } from '../../documents/shipments';
import { post, type Posting } from '../../ledger/door';
import { goingOrder, type GoingLine, type GoingOrder } from './going';

type Form = BodyOf<typeof contract.dispatch>;

/** Sends out what was picked: a booked shipment, parcels, or what lies loose on the bench, and what is not kept in stock with it. */
export async function dispatch(act: Act, form: Form): Promise<Posting> {
  const order = await goingOrder(act, form.orderId);
  const packed = await packedToGo(act, order, form);
  await refuseGoing(act, 'outbound.ship', order, form.lines, []);
  if (packed.contents.length === 0 && form.lines.length === 0) throw refuseField(422, 'nothing-goes', 'lines', 'Nothing waits on the bench for this order.');
  const ids = form.lines.map(({ lineId }) => lineId);
  const inParcels = await packedOf(act, ids);
  const loose = looseOf(await onTheBench(act, ids), inParcels);
  refuseErrors(looseFaults(form.lines, loose, inParcels));
  refuseMore(order, form.lines);
  const all = [...packed.contents, ...form.lines];
  if (order.whole && !form.part) refusePart(order, all);
  const lines = [...packed.contents.map((content) => sentLine(order, content, 'parcelIds')), ...looseLines(order, form.lines, loose)];
  const posting = await post(act, { kind: 'dispatch', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: '' });
  if (act.tx.readOnly || posting.movementId === null) return posting;
  const shipmentId = packed.shipmentId ?? (await newShipment(act, form, packed.siteId ?? siteOf(order, form)));
  if (shipmentId !== null) await sendOut(act, shipmentId, posting.movementId);
  return posting;
}

/** What goes out of parcels: those of a booked shipment, or those that are named. Refuses what is not ready to go. */
async function packedToGo(act: Act, order: GoingOrder, form: Form): Promise<{ shipmentId: number | null; siteId: number | null; contents: Content[] }> {
  const { db } = act.tx;
  if (form.shipmentId !== null) {
    const [found] = await db
      .select()
      .from(shipment)
      .where(and(eq(shipment.id, form.shipmentId), eq(shipment.orderId, order.id), isNull(shipment.cancelledAt)));
    if (!found) throw refuseField(404, 'not-found', 'shipmentId', `${order.number} has no such shipment, or its booking was cancelled.`);
    act.allow('outbound.ship', found.siteId);
    if (found.movementId !== null) throw refuseField(409, 'gone', 'shipmentId', `${found.number} went out already.`);
    if (found.bookedAt === null) throw refuseField(409, 'not-booked', 'shipmentId', `The carrier has not said yes to ${found.number} yet.`);
  }
  const parcels = await db
    .select({ id: parcel.id, number: parcel.number, orderId: parcel.orderId, siteId: parcel.siteId, shipmentId: parcel.shipmentId })
    .from(parcel)
    .where(form.shipmentId === null ? among(parcel.id, form.parcelIds) : eq(parcel.shipmentId, form.shipmentId));
  for (const { siteId } of parcels) act.allow('outbound.ship', siteId);
  if (form.shipmentId === null) refuseParcels(order, form, parcels);
  const contents = await db
    .select({ lineId: parcelContent.lineId, lotId: parcelContent.lotId, quantity: plain(parcelContent.quantity) })
    .from(parcelContent)
    .where(
      among(
        parcelContent.parcelId,
        parcels.map(({ id }) => id),
      ),
    )
    .orderBy(parcelContent.id);
  const ended = contents.map(({ lineId }) => order.lines.get(lineId)).find((line) => !line?.active);
  if (ended) throw new Refusal(409, 'not-open', `${order.number} is not confirmed, or was closed or cancelled.`);
  return { shipmentId: form.shipmentId, siteId: parcels[0]?.siteId ?? null, contents };
}

type ParcelRow = Pick<typeof parcel.$inferSelect, 'id' | 'number' | 'orderId' | 'siteId' | 'shipmentId'>;

/** Refuses, by field, parcels that cannot go together without a carrier. */
function refuseParcels(order: GoingOrder, { parcelIds, way }: Form, parcels: readonly ParcelRow[]): void {
  if (parcelIds.length > 0 && way === null) throw refuseField(422, 'no-way', 'way', 'Say how the parcels go.');
  refuseErrors(
    parcelIds.flatMap((id, index): FieldError[] => {
      const refuse = (sentence: string): FieldError[] => [{ field: `parcelIds.${index}`, sentence }];
      const found = parcels.find((one) => one.id === id);
      if (found?.orderId !== order.id) return refuse(`${order.number} has no such parcel.`);
      if (found.shipmentId !== null) return refuse(`${found.number} went out already, or is booked with a carrier.`);
      return found.siteId === parcels[0]?.siteId ? [] : refuse(`${found.number} is at another site; send each site’s parcels by themselves.`);
    }),
  );
}

/** A line of the movement: so much of an order line, of one lot, to the customer. */
function sentLine(order: GoingOrder, { lineId, lotId, quantity }: Content, field: string): MovementLine {
  const at = order.lines.get(lineId) as GoingLine;
  return {
    itemId: at.itemId,
    lotId,
    quantity: decimal(quantity),
    fromPlaceId: at.stocked ? at.waitsAtId : order.nowhereId,
    toPlaceId: order.customerPlaceId,
    valuation: { by: 'current' },
    serves: [{ kind: 'sales', lineId: at.id }],
    field,
  };
}

const looseLines = (order: GoingOrder, asked: Form['lines'], loose: readonly Content[]): MovementLine[] =>
  asked.flatMap(({ lineId, quantity }, index) => {
    const lies = loose.filter((one) => one.lineId === lineId).map(({ lotId, quantity: many }) => ({ lotId, quantity: decimal(many) }));
    const lots = order.lines.get(lineId)?.stocked ? takeLots(lies, decimal(quantity)) : [{ lotId: null, quantity: decimal(quantity) }];
    return lots.map((lot) => sentLine(order, { lineId, lotId: lot.lotId, quantity: lot.quantity.toFixed() }, `lines.${index}.quantity`));
  });

const siteOf = (order: GoingOrder, { lines }: Form): number => (order.lines.get(lines[0]?.lineId ?? 0) as GoingLine).siteId;

/** Notes how it goes without a carrier, when that is said. */
async function newShipment(act: Act, { orderId, way, charged, parcelIds }: Form, siteId: number): Promise<number | null> {
  if (way === null) return null;
  const { db } = act.tx;
  const at = act.now.toISOString();
  const values = { orderId, siteId, way, charged, bookedAt: at, createdAt: at, createdBy: act.by.id };
  const [made] = await db
    .insert(shipment)
    .values({ ...values, number: await nextNumber(act, 'shipment') })
    .returning({ id: shipment.id });
  await db.update(parcel).set({ shipmentId: made?.id }).where(among(parcel.id, parcelIds));
  return made?.id ?? null;
}

/** Of what is not kept in stock no more goes out than was sold; of goods the bench says so itself. */
function refuseMore({ number, lines: known }: GoingOrder, lines: readonly { lineId: number; quantity: string }[]): void {
  const total = (lineId: number) => sum(lines.filter((line) => line.lineId === lineId).map((line) => decimal(line.quantity)));
  refuseErrors(
    lines.flatMap(({ lineId }, index): FieldError[] => {
      const at = known.get(lineId) as GoingLine;
      const ours = decimal(at.open).minus(at.straight);
      if (at.stocked || total(lineId).lte(ours)) return [];
      return [{ field: `lines.${index}.quantity`, sentence: `${number} wants only ${quantityText(ours)} more of ${at.sku}.` }];
    }),
  );
}

/** Asks before a part goes of an order that is to go out whole. */
function refusePart({ number, lines: known }: GoingOrder, lines: readonly { lineId: number; quantity: string }[]): void {
  const missing = [...known.values()].find(({ id, open }) => sum(lines.filter(({ lineId }) => lineId === id).map((line) => decimal(line.quantity))).lt(open));
  if (missing)
    throw new Refusal(409, 'not-whole', `${number} is to go out whole, and not all of ${missing.sku} goes with this. Send a part all the same?`, [], ['part']);
}
