import { and, eq, lt, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type * as contract from '@larder/contract/outbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, quantityText, sum } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { takeLots, type LotQuantity } from '@larder/core/stock/lots';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { item, lot, movementLine, place, salesLine, salesOrder } from '../../db/schema/index';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { noteDoubts } from '../../documents/doubts';
import { lineFacts, quantityError, refuseErrors, type BinFacts } from '../../documents/lines';
import { refuseOthers } from './claims';

const customerPlace = alias(place, 'customer_place');
const nowhere = alias(place, 'nowhere');

/** An order that goods go out on: the places they pass, and its lines with what has not gone out yet. */
const readGoing = prepared(['ids'], (db, { ids }) =>
  db
    .select({
      id: salesOrder.id,
      number: salesOrder.number,
      whole: salesOrder.whole,
      /** Where goes out from what is not kept in stock. */
      nowhereId: nowhere.id,
      customerPlaceId: customerPlace.id,
      lines: jsonRows(
        {
          id: salesLine.id,
          number: sql<string>`${salesOrder.number}`,
          itemId: salesLine.itemId,
          siteId: salesLine.siteId,
          /** Of the site it comes from. */
          benchId: place.id,
          sku: item.sku,
          active: salesLine.active,
          stocked: salesLine.stocked,
          /** Not gone yet, and of that what a supplier sends. */
          open: sql<string>`(${salesLine.baseQuantity} - ${salesLine.dispatched})::text`,
          straight: sql<string>`(${salesLine.direct} - ${salesLine.sent})::text`,
        },
        (select) =>
          select
            .from(salesLine)
            .innerJoin(item, eq(item.id, salesLine.itemId))
            .innerJoin(place, and(eq(place.kind, 'bench'), eq(place.siteId, salesLine.siteId)))
            .where(eq(salesLine.orderId, salesOrder.id)),
      ),
    })
    .from(salesOrder)
    .innerJoin(customerPlace, and(eq(customerPlace.kind, 'customer'), eq(customerPlace.partyId, salesOrder.customerId)))
    .innerJoin(nowhere, eq(nowhere.kind, 'nowhere'))
    .where(among(salesOrder.id, ids)),
);
type ReadOrder = Awaited<ReturnType<typeof readGoing>>[number];
type GoingLine = ReadOrder['lines'][number];
export type GoingOrder = Omit<ReadOrder, 'lines'> & { lines: Map<number, GoingLine> };

/** Takes goods from bins to the bench for an order. */
export async function pick(act: Act, form: BodyOf<typeof contract.pick>): Promise<Posting> {
  return pickFor(act, [await goingOrder(act, form.orderId)], form);
}

/** The same for several orders in one go; they are locked. */
export async function pickFor(act: Act, orders: readonly GoingOrder[], form: Omit<BodyOf<typeof contract.pick>, 'orderId'>): Promise<Posting> {
  const order = { number: orders.map(({ number }) => number).join(', '), lines: new Map(orders.flatMap(({ lines }) => [...lines])) };
  const bins = await refuseGoing(
    act,
    order,
    form.lines,
    form.lines.map(({ binId }) => binId),
  );
  if (!form.othersRound)
    await refuseOthers(
      act,
      orders.map(({ id }) => id),
      form.lines.flatMap(({ lineId }) => order.lines.get(lineId)?.siteId ?? []),
    );
  refuseErrors(
    form.lines.flatMap(({ lineId, binId }, index) => {
      const bin = bins.get(binId);
      return bin?.sellable && bin.siteId === order.lines.get(lineId)?.siteId
        ? []
        : [{ field: `lines.${index}.binId`, sentence: 'That is not a bin to pick from at this site.' }];
    }),
  );
  await refusePastUse(act, form.lines);
  const lines = form.lines.map((line, index): MovementLine => {
    const at = order.lines.get(line.lineId) as GoingLine;
    return {
      itemId: at.itemId,
      lotId: line.lotId,
      quantity: decimal(line.quantity),
      fromPlaceId: line.binId,
      toPlaceId: at.benchId,
      valuation: { by: 'current' },
      serves: [{ kind: 'sales', lineId: at.id }],
      field: `lines.${index}.quantity`,
    };
  });
  const posting = await post(act, { kind: 'pick', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: form.shortReason });
  if (!act.tx.readOnly)
    await noteDoubts(
      act,
      form.short.flatMap(({ lineId, binId }) => {
        const at = order.lines.get(lineId);
        return at ? [{ itemId: at.itemId, placeId: binId }] : [];
      }),
      form.shortReason,
    );
  return posting;
}

/** What is past its use-by day is not picked, flagged already or not. */
async function refusePastUse({ tx, today }: Act, lines: readonly { lotId: number | null }[]): Promise<void> {
  const ids = lines.flatMap(({ lotId }) => (lotId === null ? [] : [lotId]));
  if (ids.length === 0) return;
  const past = await tx.db
    .select({ id: lot.id, code: lot.code, useBy: lot.useBy })
    .from(lot)
    .where(and(among(lot.id, ids), or(lot.pastUse, lt(lot.useBy, today))));
  refuseErrors(
    lines.flatMap(({ lotId }, index) => {
      const gone = past.find(({ id }) => id === lotId);
      return gone ? [{ field: `lines.${index}.lotId`, sentence: `Lot ${gone.code} passed its use-by day on ${gone.useBy}; it is not sold any more.` }] : [];
    }),
  );
}

/** Sends picked goods from the bench to the customer, and what is not kept in stock with them. */
export async function dispatch(act: Act, form: BodyOf<typeof contract.dispatch>): Promise<Posting> {
  const order = await goingOrder(act, form.orderId);
  await refuseGoing(act, order, form.lines, []);
  const waiting = await onTheBench(
    act,
    form.lines.map(({ lineId }) => lineId),
  );
  refuseMore(order, form.lines);
  if (order.whole && !form.part) refusePart(order, form.lines);
  const lines = form.lines.flatMap((line, index): MovementLine[] => {
    const at = order.lines.get(line.lineId) as GoingLine;
    const asked = decimal(line.quantity);
    const lots = at.stocked ? takeLots(waiting.get(line.lineId) ?? [], asked) : [{ lotId: null, quantity: asked }];
    return lots.map(({ lotId, quantity }) => ({
      itemId: at.itemId,
      lotId,
      quantity,
      fromPlaceId: at.stocked ? at.benchId : order.nowhereId,
      toPlaceId: order.customerPlaceId,
      valuation: { by: 'current' },
      serves: [{ kind: 'sales', lineId: at.id }],
      field: `lines.${index}.quantity`,
    }));
  });
  return post(act, { kind: 'dispatch', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: '' });
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

/** Lots on the bench for these lines: what was picked for each and neither put back nor sent. */
async function onTheBench({ tx }: Act, lineIds: readonly number[]): Promise<Map<number, LotQuantity[]>> {
  const from = alias(place, 'from_place');
  const to = alias(place, 'to_place');
  const left = sql<string>`sum(${movementLine.quantity} * ((${to.kind} = 'bench')::int - (${from.kind} = 'bench')::int))`;
  const rows = await tx.db
    .select({ lineId: sql<number>`${movementLine.demandLineId}`, lotId: movementLine.lotId, quantity: left })
    .from(movementLine)
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .where(among(movementLine.demandLineId, lineIds))
    .groupBy(movementLine.demandLineId, movementLine.lotId)
    .having(sql`${left} > 0`)
    .orderBy(sql`min(${movementLine.id})`);
  const found = new Map<number, LotQuantity[]>();
  for (const { lineId, lotId, quantity } of rows) found.set(lineId, [...(found.get(lineId) ?? []), { lotId, quantity: decimal(quantity) }]);
  return found;
}

async function goingOrder(act: Act, id: number): Promise<GoingOrder> {
  const [order] = await goingOrders(act, [id]);
  if (!order) throw refuseField(404, 'not-found', 'orderId', 'There is no such sales order.');
  return order;
}

/** Orders that goods go out on, locked. */
export async function goingOrders(act: Act, ids: readonly number[]): Promise<GoingOrder[]> {
  await lock.salesOrders(act, ids);
  return (await readGoing(act.tx, { ids })).map((order) => ({ ...order, lines: new Map(order.lines.map((line) => [line.id, line])) }));
}

/** Refuses lines that cannot go, or that go from where the person may not send; answers what is known of the bins. */
async function refuseGoing(
  act: Act,
  order: Pick<GoingOrder, 'number' | 'lines'>,
  lines: readonly { lineId: number; quantity: string }[],
  binIds: readonly number[],
): Promise<Map<number, BinFacts>> {
  for (const { lineId } of lines) {
    const at = order.lines.get(lineId);
    if (at) act.allow('outbound.ship', at.siteId);
  }
  const { items, bins } = await lineFacts(
    act,
    [...order.lines.values()].map(({ itemId }) => itemId),
    binIds,
  );
  refuseErrors(
    lines.flatMap((line, index): FieldError[] => {
      const at = order.lines.get(line.lineId);
      if (!at) return [{ field: `lines.${index}.lineId`, sentence: `That line is not on ${order.number}.` }];
      if (!at.stocked && binIds.length > 0)
        return [{ field: `lines.${index}.lineId`, sentence: `${at.sku} is not kept in stock: there is nothing to pick, it goes out with the dispatch.` }];
      if (!at.active) return [{ field: `lines.${index}.lineId`, sentence: `${at.number} is not confirmed, or was closed or cancelled.` }];
      const item = items.get(at.itemId);
      const fault = item && quantityError(item, line.quantity, `lines.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  return bins;
}
