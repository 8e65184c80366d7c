import { eq } from 'drizzle-orm';
import type * as contract from '@larder/contract/outbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, sum } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { takeLots, type LotQuantity } from '@larder/core/stock/lots';
import type { Act } from '../../act';
import { salesOrder, salesTerms } from '../../db/schema/index';
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
  const [known] = await act.tx.rows<{ customer: boolean; site: boolean }>(
    'SELECT EXISTS (SELECT 1 FROM party WHERE id = $1 AND is_customer AND retired_at IS NULL) AS customer, EXISTS (SELECT 1 FROM site WHERE id = $2 AND retired_at IS NULL) AS site',
    [form.customerId, form.siteId],
  );
  if (!known?.customer) throw refuseField(404, 'no-such-customer', 'customerId', 'There is no such customer.');
  if (!known.site) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
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

interface GoingLine {
  id: number;
  itemId: number;
  sku: string;
  active: boolean;
  kept: boolean;
  /** Not gone out yet. */
  open: string;
}

interface GoingOrder {
  number: string;
  siteId: number;
  benchId: number;
  /** Where goes out from what is not kept in stock. */
  nowhereId: number;
  customerPlaceId: number;
  lines: Map<number, GoingLine>;
}

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
  const past = await tx.rows<{ id: number; code: string; useBy: string }>(
    'SELECT id, code, use_by AS "useBy" FROM lot WHERE id = ANY($1) AND (past_use OR use_by < $2)',
    [ids, today],
  );
  refuseErrors(
    lines.flatMap(({ lotId }, index) => {
      const lot = past.find(({ id }) => id === lotId);
      return lot ? [{ field: `lines.${index}.lotId`, sentence: `Lot ${lot.code} passed its use-by day on ${lot.useBy}; it is not sold any more.` }] : [];
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
  const rows = await tx.rows<{ lineId: number; lotId: number | null; quantity: string }>(
    `SELECT l.demand_line_id AS "lineId", l.lot_id AS "lotId", sum(l.quantity * ((t.kind = 'bench')::int - (f.kind = 'bench')::int)) AS quantity
     FROM movement_line l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id WHERE l.demand_line_id = ANY($1)
     GROUP BY 1, 2 HAVING sum(l.quantity * ((t.kind = 'bench')::int - (f.kind = 'bench')::int)) > 0 ORDER BY min(l.id)`,
    [lineIds],
  );
  const found = new Map<number, LotQuantity[]>();
  for (const { lineId, lotId, quantity } of rows) found.set(lineId, [...(found.get(lineId) ?? []), { lotId, quantity: decimal(quantity) }]);
  return found;
}

async function goingOrder(act: Act, id: number): Promise<GoingOrder> {
  await lock.salesOrders(act, [id]);
  const [order] = await act.tx.rows<Omit<GoingOrder, 'lines'> & { lines: GoingLine[] }>(
    `SELECT o.number, o.site_id AS "siteId", b.id AS "benchId", (SELECT id FROM place WHERE kind = 'nowhere') AS "nowhereId", c.id AS "customerPlaceId",
      (SELECT json_agg(json_build_object('id', l.id, 'itemId', l.item_id, 'sku', i.sku, 'active', l.active, 'kept', l.kept, 'open', (l.base_quantity - l.dispatched)::text)) FROM sales_line l JOIN item i ON i.id = l.item_id WHERE l.order_id = o.id) AS lines
     FROM sales_order o JOIN place b ON b.kind = 'bench' AND b.site_id = o.site_id JOIN place c ON c.kind = 'customer' AND c.party_id = o.customer_id WHERE o.id = $1`,
    [id],
  );
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
