import { eq } from 'drizzle-orm';
import type * as contract from '@larder/contract/inbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { needRight, type Act } from '../../act';
import { purchaseLine, purchaseOrder } from '../../db/schema/index';
import { lock } from '../../ledger/lock';
import { recordChanges, refuseStale } from '../../documents/changes';
import { nextNumber } from '../../documents/number';
import { lineFacts, quantityError, refuseErrors, writtenLines } from '../../documents/lines';
import { purchase } from './queries';

export async function createPurchase(act: Act, form: contract.PurchaseForm): Promise<contract.PurchaseOrder> {
  await refuseHead(act, form);
  return writePurchase(act, form);
}

/** Writes a draft; who may and whether its head is right has been looked at. */
export async function writePurchase(act: Act, form: contract.PurchaseForm): Promise<contract.PurchaseOrder> {
  const lines = await writtenLines(act, form.lines);
  const [company] = await act.tx.rows<{ currency: string }>('SELECT currency FROM company');
  const number = await nextNumber(act, 'purchase order');
  const [added] = await act.tx.db
    .insert(purchaseOrder)
    .values({
      number,
      supplierId: form.supplierId,
      siteId: form.siteId,
      currency: company?.currency ?? '',
      expectedOn: form.expectedOn,
      note: form.note,
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: purchaseOrder.id });
  const orderId = added?.id as number;
  await act.tx.db.insert(purchaseLine).values(lines.map((line) => ({ ...line, orderId, siteId: form.siteId })));
  return purchase(act, orderId);
}

export async function editPurchase(act: Act, id: number, form: contract.PurchaseForm & { version: number }): Promise<contract.PurchaseOrder> {
  await lock.purchaseOrders(act, [id]);
  const was = await purchase(act, id);
  refuseStale(form.version, was.version, was.number);
  if (!was.canEdit) throw new Refusal(409, 'not-a-draft', `${was.number} is ${was.state} and can no longer be changed here.`);
  await refuseHead(act, form);
  const lines = await writtenLines(act, form.lines);
  await act.tx.db.delete(purchaseLine).where(eq(purchaseLine.orderId, id));
  await act.tx.db
    .update(purchaseOrder)
    .set({ supplierId: form.supplierId, siteId: form.siteId, expectedOn: form.expectedOn, note: form.note, version: was.version + 1 })
    .where(eq(purchaseOrder.id, id));
  await act.tx.db.insert(purchaseLine).values(lines.map((line) => ({ ...line, orderId: id, siteId: form.siteId })));
  const is = await purchase(act, id);
  await recordChanges(act, 'purchase order', id, headOf(was), headOf(is));
  return is;
}

const headOf = (order: contract.PurchaseOrder) => ({
  supplier: order.supplier,
  site: order.site,
  expectedOn: order.expectedOn,
  note: order.note,
  lines: order.lines.map(({ sku, quantity, unit, price }) => ({ sku, quantity, unit, price })),
});

async function refuseHead(act: Act, form: contract.PurchaseForm): Promise<void> {
  const [known] = await act.tx.rows<{ supplier: boolean; site: boolean }>(
    'SELECT EXISTS (SELECT 1 FROM party WHERE id = $1 AND is_supplier AND retired_at IS NULL) AS supplier, EXISTS (SELECT 1 FROM site WHERE id = $2 AND retired_at IS NULL) AS site',
    [form.supplierId, form.siteId],
  );
  if (!known?.supplier) throw refuseField(404, 'no-such-supplier', 'supplierId', 'There is no such supplier.');
  if (!known.site) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
  needRight(act.by, 'inbound.order', form.siteId);
}

/** Places a draft, cancels an order nothing of which has come, or closes one short. */
export async function decidePurchase(act: Act, id: number, { decision, version }: BodyOf<typeof contract.decidePurchase>): Promise<contract.PurchaseOrder> {
  await lock.purchaseOrders(act, [id]);
  const was = await purchase(act, id);
  needRight(act.by, 'inbound.order', was.siteId);
  refuseStale(version, was.version, was.number);
  const received = decimal(was.received).gt(0);
  if (decision === 'place' && !was.canEdit) throw new Refusal(409, 'not-a-draft', `${was.number} is ${was.state} already.`);
  if (decision === 'cancel' && (received || was.state === 'cancelled' || was.state === 'closed short'))
    throw new Refusal(
      409,
      'cannot-cancel',
      received ? `Goods have come in on ${was.number}; close it short instead.` : `${was.number} is ${was.state} already.`,
    );
  if (decision === 'close' && !was.open) throw new Refusal(409, 'not-open', `${was.number} is ${was.state}; there is nothing open to close.`);
  await lock.pools(
    act,
    was.lines.map(({ itemId }) => itemId),
  );
  const now = act.now.toISOString();
  const decided = {
    place: { placedAt: now, placedBy: act.by.id },
    cancel: { cancelledAt: now, cancelledBy: act.by.id },
    close: { closedAt: now, closedBy: act.by.id },
  }[decision];
  await act.tx.db
    .update(purchaseOrder)
    .set({ ...decided, version: was.version + 1 })
    .where(eq(purchaseOrder.id, id));
  const is = await purchase(act, id);
  await recordChanges(act, 'purchase order', id, { state: was.state }, { state: is.state });
  return is;
}

/** Places a draft that was just written by a receipt without an order. */
export async function placePurchase(act: Act, id: number): Promise<void> {
  await act.tx.db.update(purchaseOrder).set({ placedAt: act.now.toISOString(), placedBy: act.by.id }).where(eq(purchaseOrder.id, id));
}

/** Changes an order that was placed: its days, what is called off of what is still to come, and lines added to it. What changed is kept. */
export async function amendPurchase(act: Act, id: number, form: BodyOf<typeof contract.amendPurchase>): Promise<contract.PurchaseOrder> {
  await lock.purchaseOrders(act, [id]);
  const was = await purchase(act, id);
  needRight(act.by, 'inbound.order', was.siteId);
  refuseStale(form.version, was.version, was.number);
  if (was.placedAt === null || was.state === 'cancelled' || was.state === 'closed short')
    throw new Refusal(409, 'not-placed', `${was.number} is ${was.state}; only an order that was placed is changed like this.`);
  await refuseAmended(act, was, form);
  const added = await writtenLines(act, form.added);
  await lock.pools(
    act,
    [...was.lines, ...added].map(({ itemId }) => itemId),
  );
  await callOff(
    act,
    form.lines.flatMap(({ lineId, callOff: quantity }) => (quantity === null ? [] : [{ lineId, quantity }])),
  );
  await act.tx.rows(
    'UPDATE purchase_line l SET expected_on = x.day FROM unnest($1::int[], $2::date[]) x(line, day) WHERE l.id = x.line AND l.expected_on IS DISTINCT FROM x.day',
    [form.lines.map(({ lineId }) => lineId), form.lines.map(({ expectedOn }) => expectedOn)],
  );
  const last = Math.max(0, ...was.lines.map(({ position }) => position));
  if (added.length > 0)
    await act.tx.db
      .insert(purchaseLine)
      .values(added.map((line) => ({ ...line, position: last + line.position, orderId: id, siteId: was.siteId, active: true })));
  await act.tx.db
    .update(purchaseOrder)
    .set({ expectedOn: form.expectedOn, version: was.version + 1 })
    .where(eq(purchaseOrder.id, id));
  return withHistory(act, was);
}

/** Writes down what became of an order that was placed, and gives it as it is now. */
async function withHistory(act: Act, was: contract.PurchaseOrder): Promise<contract.PurchaseOrder> {
  await recordChanges(act, 'purchase order', was.id, amended(was), amended(await purchase(act, was.id)));
  return purchase(act, was.id);
}

/** Calls off all that is still to come on these lines of an order; the order and the pools of its items are locked. */
export async function endLines(act: Act, orderId: number, lineIds: readonly number[]): Promise<void> {
  const was = await purchase(act, orderId);
  const open = was.lines.filter(({ id, outstanding }) => lineIds.includes(id) && decimal(outstanding).gt(0));
  if (open.length === 0) return;
  await callOff(
    act,
    open.map(({ id, outstanding }) => ({ lineId: id, quantity: outstanding })),
  );
  await act.tx.db
    .update(purchaseOrder)
    .set({ version: was.version + 1 })
    .where(eq(purchaseOrder.id, orderId));
  await withHistory(act, was);
}

async function refuseAmended(act: Act, was: contract.PurchaseOrder, { lines }: BodyOf<typeof contract.amendPurchase>): Promise<void> {
  const { items } = await lineFacts(
    act,
    was.lines.map(({ itemId }) => itemId),
  );
  refuseErrors(
    lines.flatMap(({ lineId, callOff: quantity }, index): FieldError[] => {
      const field = (name: string) => `lines.${index}.${name}`;
      const at = was.lines.find((line) => line.id === lineId);
      if (!at) return [{ field: field('lineId'), sentence: 'That line is not on this order.' }];
      if (lines.findIndex((line) => line.lineId === lineId) < index) return [{ field: field('lineId'), sentence: 'This line is given twice.' }];
      if (quantity === null) return [];
      const item = items.get(at.itemId);
      const fault = item && quantityError(item, quantity, field('callOff'));
      if (fault) return [fault];
      return decimal(quantity).gt(at.outstanding) ? [{ field: field('callOff'), sentence: `Only ${at.outstanding} of ${at.sku} are still to come.` }] : [];
    }),
  );
}

/** What an amendment can change, each under the words it is told by. */
const amended = (order: contract.PurchaseOrder): Record<string, string> => ({
  expected: order.expectedOn ?? '',
  ...Object.fromEntries(
    order.lines.flatMap(({ position, sku, baseQuantity, cancelled, expectedOn }) => [
      [`line ${position}`, `${baseQuantity} of ${sku}`],
      [`line ${position} called off`, cancelled],
      [`line ${position} expected`, expectedOn ?? ''],
    ]),
  ),
});

/** Takes so many of what is to come off order lines; their orders and the pools of their items are locked. */
async function callOff({ tx }: Act, lines: readonly { lineId: number; quantity: string }[]): Promise<void> {
  await tx.rows(
    'UPDATE purchase_line l SET cancelled = l.cancelled + x.quantity FROM (SELECT line, sum(quantity) AS quantity FROM unnest($1::int[], $2::numeric[]) y(line, quantity) GROUP BY 1) x WHERE l.id = x.line',
    [lines.map(({ lineId }) => lineId), lines.map(({ quantity }) => quantity)],
  );
}
