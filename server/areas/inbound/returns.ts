import { decimal, sum } from '@larder/core/decimal';
import { afterReturn, expectedAgain, returnParts, type ReturnSource } from '@larder/core/inbound/returning';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type * as receiving from '@larder/contract/receiving';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, desc, eq, exists, isNotNull, isNull, notExists, or, sql } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import { seenAt, type Act } from '../../act';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { receiptLines, type ReceiptLine } from '../../ledger/receipts';
import { among, atSites, positive } from '../../db/given';
import { jsonRows } from '../../db/json';
import { balance, item, lot, movement, movementLine, party, place, purchaseLine, purchaseOrder, unit } from '../../db/schema/index';
import { plain } from '../../db/text';

const from = alias(place, 'from_place');
const to = alias(place, 'to_place');

/** How many of each lot or serial came on order lines and have not gone back. */
const came = new QueryBuilder()
  .select({
    lineId: movementLine.supplyLineId,
    lotId: movementLine.lotId,
    quantity: sql<string>`sum(case when ${from.kind} = 'supplier' then ${movementLine.quantity} else -${movementLine.quantity} end)`.as('came_quantity'),
  })
  .from(movementLine)
  .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
  .where(and(isNotNull(movementLine.supplyLineId), isNotNull(movementLine.lotId)))
  .groupBy(movementLine.supplyLineId, movementLine.lotId)
  .as('came');

export async function returnable(act: Act, orderId: number): Promise<ResponseOf<typeof receiving.returnable>> {
  const { db } = act.tx;
  const [order] = await db
    .select({ number: purchaseOrder.number, supplier: party.name, siteId: purchaseOrder.siteId })
    .from(purchaseOrder)
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .where(eq(purchaseOrder.id, orderId));
  if (!order) throw new Refusal(404, 'not-found', 'There is no such purchase order.');
  const { number, supplier } = seenAt(act, order);
  const cameOnIt = db
    .select({ one: sql`1` })
    .from(came)
    .where(and(eq(came.lineId, purchaseLine.id), eq(came.lotId, balance.lotId), positive(came.quantity)));
  const rows = await db
    .select({
      purchaseLineId: purchaseLine.id,
      position: purchaseLine.position,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      received: plain(purchaseLine.received),
      places: jsonRows(
        {
          binId: place.id,
          bin: place.code,
          sellable: place.sellable,
          lotId: balance.lotId,
          lot: sql<string | null>`${lot.code}`,
          quantity: plain(balance.quantity),
        },
        (select) =>
          select
            .from(balance)
            .innerJoin(place, eq(place.id, balance.placeId))
            .leftJoin(lot, eq(lot.id, balance.lotId))
            .where(
              and(
                eq(balance.itemId, item.id),
                eq(place.kind, 'bin'),
                eq(place.siteId, purchaseLine.siteId),
                positive(balance.quantity),
                or(isNull(balance.lotId), exists(cameOnIt)),
              ),
            ),
        { orderBy: sql`${place.sellable}, ${place.code}, ${lot.code}` },
      ),
    })
    .from(purchaseLine)
    .innerJoin(item, eq(item.id, purchaseLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(and(eq(purchaseLine.orderId, orderId), positive(purchaseLine.received)))
    .orderBy(purchaseLine.position);
  return { number, supplier, rows };
}

/** Orders that an item, or one lot of it, came on and that it has not all gone back on. */
export const returnSources = async (
  { tx, sites }: Act,
  { itemId, lotId }: QueryOf<typeof receiving.returnSources>,
): Promise<ResponseOf<typeof receiving.returnSources>> => ({
  rows: await tx.db
    .select({
      orderId: purchaseOrder.id,
      number: purchaseOrder.number,
      supplier: party.name,
      day: sql<string>`max(${movementLine.effectiveOn})`.as('last_day'),
      received: sql<string>`trim_scale(sum(${movementLine.quantity}))`,
    })
    .from(movementLine)
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .innerJoin(purchaseLine, eq(purchaseLine.id, movementLine.supplyLineId))
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .where(
      and(
        eq(movementLine.itemId, itemId),
        lotId === undefined ? undefined : eq(movementLine.lotId, lotId),
        eq(from.kind, 'supplier'),
        to.owned,
        atSites(purchaseOrder.siteId, sites('look')),
        positive(purchaseLine.received),
        notExists(
          tx.db
            .select({ one: sql`1` })
            .from(movement)
            .where(eq(movement.reverses, movementLine.movementId)),
        ),
      ),
    )
    .groupBy(purchaseOrder.id, party.name)
    .orderBy(sql`last_day desc`, desc(purchaseOrder.id))
    .limit(20),
});

/** The lines of an order as what goes back sees them. */
const receivedLines = async ({ tx: { db } }: Act, orderId: number) =>
  db
    .select({
      id: purchaseLine.id,
      number: purchaseOrder.number,
      position: purchaseLine.position,
      sku: item.sku,
      itemId: purchaseLine.itemId,
      siteId: purchaseLine.siteId,
      active: purchaseLine.active,
      baseQuantity: purchaseLine.baseQuantity,
      cancelled: purchaseLine.cancelled,
      received: purchaseLine.received,
      supplierPlaceId: place.id,
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(item, eq(item.id, purchaseLine.itemId))
    .innerJoin(place, and(eq(place.kind, 'supplier'), eq(place.partyId, purchaseOrder.supplierId)))
    .where(eq(purchaseLine.orderId, orderId));
type ReceivedLine = Awaited<ReturnType<typeof receivedLines>>[number];

/**
 * Sends goods back: they leave at what they cost now, the order counts them at what it paid for the receipts they are taken off, and the difference is price variance.
 * Whether they are replaced, and so expected again, or credited is asked.
 */
export async function returnGoods(act: Act, form: BodyOf<typeof receiving.returnGoods>): Promise<Posting> {
  await lock.purchaseOrders(act, [form.orderId]);
  const rows = await receivedLines(act, form.orderId);
  const lines = new Map(rows.map((row) => [row.id, row]));
  await refuseFields(act, form, lines);
  await refuseOtherLots(act, form);
  const ids = form.lines.map(({ purchaseLineId }) => purchaseLineId);
  await lock.poolsOfLines(act, ids);
  const receipts = await receiptLines(act, { purchaseLineIds: ids });
  const sources = new Map(ids.map((id) => [id, receipts.filter((one): one is ReceiptLine => one.purchaseLineId === id && !one.undone)] as const));
  const going = goingBack(form, lines, sources);
  return post(act, {
    kind: 'supplier-return',
    effectiveOn: act.today,
    lines: going,
    reasonId: null,
    reversesId: null,
    note: form.note,
    countedAgreed: form.countedSince,
  });
}

async function refuseFields(act: Act, form: BodyOf<typeof receiving.returnGoods>, lines: ReadonlyMap<number, ReceivedLine>): Promise<void> {
  const { items, bins } = await lineFacts(
    act,
    [...lines.values()].map(({ itemId }) => itemId),
    form.lines.map(({ binId }) => binId),
  );
  refuseErrors(
    form.lines.flatMap((line, index): FieldError[] => {
      const field = (name: string) => `lines.${index}.${name}`;
      const at = lines.get(line.purchaseLineId);
      if (!at) return [{ field: field('purchaseLineId'), sentence: 'That line is not on this order.' }];
      act.allow('inbound.receive', at.siteId);
      if (bins.get(line.binId)?.siteId !== at.siteId) return [{ field: field('binId'), sentence: 'That bin is not at the site this order was delivered to.' }];
      const item = items.get(at.itemId);
      const fault = item && quantityError(item, line.quantity, field('quantity'));
      return fault ? [fault] : [];
    }),
  );
}

/** The lines that go back, each taken off its receipts; refuses more than came, and asks whether they are replaced. */
function goingBack(
  form: BodyOf<typeof receiving.returnGoods>,
  lines: ReadonlyMap<number, ReceivedLine>,
  sources: Map<number, readonly ReturnSource[]>,
): MovementLine[] {
  const left = new Map([...lines].map(([id, row]) => [id, decimal(row.received)]));
  return form.lines.map((line, index): MovementLine => {
    const at = lines.get(line.purchaseLineId) as ReceivedLine;
    const field = `lines.${index}.quantity`;
    const quantity = decimal(line.quantity);
    const known = sources.get(at.id) ?? [];
    const parts = returnParts(known, quantity, line.lotId, line.receiptLineId);
    const found = sum(parts.map((part) => part.quantity));
    if (found.lt(quantity))
      throw refuseField(409, 'not-received', field, `Only ${found.toFixed()} of ${at.number} line ${at.position} came in and have not gone back.`);
    sources.set(at.id, afterReturn(known, parts));
    const received = left.get(at.id) ?? decimal(0);
    left.set(at.id, received.minus(quantity));
    const again = expectedAgain({ active: at.active, baseQuantity: decimal(at.baseQuantity), cancelled: decimal(at.cancelled), received }, quantity);
    if (again.gt(0) && form.then === null)
      throw refuseField(
        409,
        'replaced-or-credited',
        field,
        `Will ${at.number} replace what goes back, ${again.toFixed()} of ${at.sku}, or is a credit expected?`,
        ['replaced', 'credited'],
      );
    return {
      itemId: at.itemId,
      lotId: line.lotId,
      quantity,
      fromPlaceId: line.binId,
      toPlaceId: at.supplierPlaceId,
      valuation: { by: 'returned', value: sum(parts.map(({ value }) => value)), moved: null },
      serves: [{ kind: 'purchase', lineId: at.id }],
      takenOff: parts.map((part, first) => (first === 0 && form.then === 'credited' ? { ...part, calledOff: again } : part)),
      field,
    };
  });
}

/** A lot or serial goes back only on the order line it came on, and no more of it than came there. */
async function refuseOtherLots(act: Act, form: BodyOf<typeof receiving.returnGoods>): Promise<void> {
  const { db } = act.tx;
  const lineIds = form.lines.map(({ purchaseLineId }) => purchaseLineId);
  const lotIds = form.lines.map(({ lotId }) => lotId);
  const known = await db
    .select({ lineId: came.lineId, lotId: came.lotId, quantity: came.quantity })
    .from(came)
    .where(and(among(sql`${came.lineId}`, lineIds), among(sql`${came.lotId}`, lotIds)));
  const codes = await db.select({ id: lot.id, code: lot.code }).from(lot).where(among(lot.id, lotIds));
  refuseErrors(
    form.lines.flatMap(({ purchaseLineId, lotId }, index): FieldError[] => {
      if (lotId === null) return [];
      const here = known.find((row) => row.lineId === purchaseLineId && row.lotId === lotId);
      const wanted = sum(form.lines.filter((one) => one.purchaseLineId === purchaseLineId && one.lotId === lotId).map(({ quantity }) => decimal(quantity)));
      const code = codes.find(({ id }) => id === lotId)?.code ?? 'That lot';
      if (here && wanted.lte(here.quantity)) return [];
      return [
        {
          field: `lines.${index}.quantity`,
          sentence:
            !here || decimal(here.quantity).lte(0)
              ? `${code} did not come on this order.`
              : `Only ${decimal(here.quantity).toFixed()} of ${code} came on this order and have not gone back.`,
        },
      ];
    }),
  );
}
