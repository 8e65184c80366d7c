import { and, eq, isNull, lt, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type * as contract from '@larder/contract/outbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, sum } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { takeLots, type LotQuantity } from '@larder/core/stock/lots';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { item, lot, movementLine, party, place, salesLine, salesOrder, salesTerms, site } from '../../db/schema/index';
import { post, type Posting } from '../../ledger/door';
import { companyCurrency } from '../../ledger/company';
import { lock } from '../../ledger/lock';
import { changeDemand } from '../../ledger/changeDemand';
import { recordChanges, refuseStale } from '../../documents/changes';
import { nextNumber } from '../../documents/number';
import { addLines, removeLines } from '../../documents/documentLines';
import { lineFacts, quantityError, refuseErrors, writtenLines, type BinFacts, type WrittenLine } from '../../documents/lines';
import { sale } from './queries';

export async function createSale(act: Act, form: contract.SalesForm): Promise<contract.SalesOrder> {
  await refuseHead(act, form);
  const currency = await companyCurrency(act);
  const lines = await writtenLines(act, form.lines, { taxCodeId: null, currency, rate: '1' });
  const number = await nextNumber(act, 'sales order');
  const [added] = await act.tx.db
    .insert(salesOrder)
    .values({
      number,
      customerId: form.customerId,
      siteId: form.siteId,
      currency,
      shipBy: form.shipBy,
      note: form.note,
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: salesOrder.id });
  const orderId = added?.id as number;
  await writeLines(act, { id: orderId, number, siteId: form.siteId, shipBy: form.shipBy }, lines);
  return sale(act, orderId);
}

export async function editSale(act: Act, id: number, form: contract.SalesForm & { version: number }): Promise<contract.SalesOrder> {
  await lock.salesOrders(act, [id]);
  const was = await sale(act, id);
  refuseStale(form.version, was.version, was.number);
  if (!was.canEdit) throw new Refusal(409, 'not-a-quote', `${was.number} is ${was.state} and can no longer be changed here.`);
  await refuseHead(act, form);
  const lines = await writtenLines(act, form.lines, { taxCodeId: null, currency: was.currency, rate: '1' });
  await removeLines(act, 'sales', was.number);
  await act.tx.db
    .update(salesOrder)
    .set({ customerId: form.customerId, siteId: form.siteId, shipBy: form.shipBy, note: form.note, version: was.version + 1 })
    .where(eq(salesOrder.id, id));
  await writeLines(act, { id, number: was.number, siteId: form.siteId, shipBy: form.shipBy }, lines);
  const is = await sale(act, id);
  await recordChanges(act, 'sales order', id, headOf(was), headOf(is));
  return is;
}

/** Writes the lines of a quote: what they want of the site, and what was agreed for them. */
async function writeLines(act: Act, order: { id: number; number: string; siteId: number; shipBy: string }, lines: readonly WrittenLine[]): Promise<void> {
  const { id: orderId, number, siteId, shipBy } = order;
  const ids = await addLines(
    act,
    { kind: 'sales', number, siteId, bringsToId: null, draws: true, active: false },
    lines.map((line) => ({ ...line, neededOn: shipBy })),
  );
  await act.tx.db.insert(salesTerms).values(lines.map((line, index) => ({ ...line, id: ids[index] as number, orderId })));
}

const headOf = (order: contract.SalesOrder) => ({
  customer: order.customer,
  site: order.site,
  shipBy: order.shipBy,
  note: order.note,
  lines: order.lines.map(({ sku, quantity, unit, price, pricePer }) => ({ sku, quantity, unit, price, pricePer })),
});

async function refuseHead(act: Act, form: contract.SalesForm): Promise<void> {
  const { db } = act.tx;
  const [customer, here] = await Promise.all([
    db.$count(party, and(eq(party.id, form.customerId), party.isCustomer, isNull(party.retiredAt))),
    db.$count(site, and(eq(site.id, form.siteId), isNull(site.retiredAt))),
  ]);
  if (customer === 0) throw refuseField(404, 'no-such-customer', 'customerId', 'There is no such customer.');
  if (here === 0) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
  if (form.shipBy < act.today) throw refuseField(422, 'past-day', 'shipBy', 'The ship-by day has passed already.');
  act.allow('outbound.sell', form.siteId);
}

/** Confirms a quote: what is free is reserved for it, the rest of each line is short and served as stock comes. */
export async function confirmSale(act: Act, id: number, version: number): Promise<Posting> {
  await lock.salesOrders(act, [id]);
  const was = await sale(act, id);
  act.allow('outbound.sell', was.siteId);
  refuseStale(version, was.version, was.number);
  if (!was.canEdit) throw new Refusal(409, 'not-a-quote', `${was.number} is ${was.state} already.`);
  return decide(act, was, true, { confirmedAt: act.now.toISOString(), confirmedBy: act.by.id });
}

/** Cancels an order nothing of which is picked, or closes one short; what it held goes to those who are short. */
export async function endSale(act: Act, id: number, { decision, version }: BodyOf<typeof contract.endSale>): Promise<Posting> {
  await lock.salesOrders(act, [id]);
  const was = await sale(act, id);
  act.allow('outbound.sell', was.siteId);
  refuseStale(version, was.version, was.number);
  if (!was.open && !was.canEdit) throw new Refusal(409, 'not-open', `${was.number} is ${was.state} already.`);
  if (decimal(was.picked).gt(was.dispatched))
    throw new Refusal(409, 'on-the-bench', `Goods of ${was.number} wait on the bench. Dispatch them or undo the pick first.`);
  if (decision === 'cancel' && decimal(was.picked).gt(0))
    throw new Refusal(409, 'cannot-cancel', `Goods of ${was.number} have gone out; close it short instead.`);
  if (decision === 'close' && was.canEdit) throw new Refusal(409, 'not-open', `${was.number} is only a quote; cancel it instead.`);
  const now = act.now.toISOString();
  return decide(act, was, false, decision === 'cancel' ? { cancelledAt: now, cancelledBy: act.by.id } : { closedAt: now, closedBy: act.by.id });
}

async function decide(act: Act, was: contract.SalesOrder, active: boolean, decision: Partial<typeof salesOrder.$inferInsert>): Promise<Posting> {
  const lines = was.lines.filter(({ kept }) => kept);
  await lock.pools(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const effects = await changeDemand(act, { siteId: was.siteId, lines }, active, async () => {
    await act.tx.db
      .update(salesOrder)
      .set({ ...decision, version: was.version + 1 })
      .where(eq(salesOrder.id, was.id));
    await recordChanges(act, 'sales order', was.id, {}, { decision: Object.keys(decision)[0] });
  });
  return { movementId: null, effects };
}

const customerPlace = alias(place, 'customer_place');
const nowhere = alias(place, 'nowhere');

/** An order that goods go out on: the places they pass, and its lines with what has not gone out yet. */
const readGoing = prepared(['id'], (db, { id }) =>
  db
    .select({
      number: salesOrder.number,
      siteId: salesOrder.siteId,
      benchId: place.id,
      /** Where goes out from what is not kept in stock. */
      nowhereId: nowhere.id,
      customerPlaceId: customerPlace.id,
      lines: jsonRows(
        {
          id: salesLine.id,
          itemId: salesLine.itemId,
          sku: item.sku,
          active: salesLine.active,
          kept: salesLine.kept,
          open: sql<string>`(${salesLine.baseQuantity} - ${salesLine.dispatched})::text`,
        },
        (select) => select.from(salesLine).innerJoin(item, eq(item.id, salesLine.itemId)).where(eq(salesLine.orderId, salesOrder.id)),
      ),
    })
    .from(salesOrder)
    .innerJoin(place, and(eq(place.kind, 'bench'), eq(place.siteId, salesOrder.siteId)))
    .innerJoin(customerPlace, and(eq(customerPlace.kind, 'customer'), eq(customerPlace.partyId, salesOrder.customerId)))
    .innerJoin(nowhere, eq(nowhere.kind, 'nowhere'))
    .where(sql`${salesOrder.id} = ${id}`),
);
type ReadOrder = Awaited<ReturnType<typeof readGoing>>[number];
type GoingLine = ReadOrder['lines'][number];
type GoingOrder = Omit<ReadOrder, 'lines'> & { lines: Map<number, GoingLine> };

/** Takes goods from bins to the bench for an order. */
export async function pick(act: Act, form: BodyOf<typeof contract.pick>): Promise<Posting> {
  const order = await goingOrder(act, form.orderId);
  const bins = await refuseGoing(
    act,
    order,
    form.lines,
    form.lines.map(({ binId }) => binId),
  );
  const fromHere = (binId: number) => bins.get(binId)?.siteId === order.siteId && bins.get(binId)?.sellable;
  refuseErrors(
    form.lines.flatMap(({ binId }, index) =>
      fromHere(binId) ? [] : [{ field: `lines.${index}.binId`, sentence: 'That is not a bin to pick from at this site.' }],
    ),
  );
  await refusePastUse(act, form.lines);
  const lines = form.lines.map((line, index): MovementLine => {
    const at = order.lines.get(line.lineId) as GoingLine;
    return {
      itemId: at.itemId,
      lotId: line.lotId,
      quantity: decimal(line.quantity),
      fromPlaceId: line.binId,
      toPlaceId: order.benchId,
      valuation: { by: 'current' },
      serves: [{ kind: 'sales', lineId: at.id }],
      field: `lines.${index}.quantity`,
    };
  });
  return post(act, { kind: 'pick', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: form.shortReason });
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
  const lines = form.lines.flatMap((line, index): MovementLine[] => {
    const at = order.lines.get(line.lineId) as GoingLine;
    const asked = decimal(line.quantity);
    const lots = at.kept ? takeLots(waiting.get(line.lineId) ?? [], asked) : [{ lotId: null, quantity: asked }];
    return lots.map(({ lotId, quantity }) => ({
      itemId: at.itemId,
      lotId,
      quantity,
      fromPlaceId: at.kept ? order.benchId : order.nowhereId,
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
      if (at.kept || total(lineId).lte(at.open)) return [];
      return [{ field: `lines.${index}.quantity`, sentence: `${number} wants only ${decimal(at.open).toFixed()} more of ${at.sku}.` }];
    }),
  );
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
  await lock.salesOrders(act, [id]);
  const [order] = await readGoing(act.tx, { id });
  if (!order) throw refuseField(404, 'not-found', 'orderId', 'There is no such sales order.');
  act.allow('outbound.ship', order.siteId);
  return { ...order, lines: new Map(order.lines.map((line) => [line.id, line])) };
}

/** Refuses lines that cannot go; answers what is known of the bins. */
async function refuseGoing(
  act: Act,
  order: GoingOrder,
  lines: readonly { lineId: number; quantity: string }[],
  binIds: readonly number[],
): Promise<Map<number, BinFacts>> {
  const { items, bins } = await lineFacts(
    act,
    [...order.lines.values()].map(({ itemId }) => itemId),
    binIds,
  );
  refuseErrors(
    lines.flatMap((line, index): FieldError[] => {
      const at = order.lines.get(line.lineId);
      if (!at) return [{ field: `lines.${index}.lineId`, sentence: `That line is not on ${order.number}.` }];
      if (!at.kept && binIds.length > 0)
        return [{ field: `lines.${index}.lineId`, sentence: `${at.sku} is not kept in stock: there is nothing to pick, it goes out with the dispatch.` }];
      if (!at.active) return [{ field: `lines.${index}.lineId`, sentence: `${order.number} is not confirmed, or was closed or cancelled.` }];
      const item = items.get(at.itemId);
      const fault = item && quantityError(item, line.quantity, `lines.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  return bins;
}
