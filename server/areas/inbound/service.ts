import { eq } from 'drizzle-orm';
import type * as contract from '@larder/contract/inbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, type Decimal } from '@larder/core/decimal';
import { receiptValue } from '@larder/core/inbound/amount';
import type { Movement } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type { Tracking } from '@larder/core/stock/lots';
import { needRight, type Act } from '../../act';
import { purchaseLine, purchaseOrder } from '../../db/schema/index';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { recordChanges, refuseStale } from '../../documents/changes';
import { linesByLot, type ComingIn } from '../../documents/lots';
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

interface WantedLine {
  id: number;
  orderId: number;
  number: string;
  /** The day it was placed, in the company's time zone. */
  placedOn: string | null;
  position: number;
  itemId: number;
  sku: string;
  tracking: Tracking;
  siteId: number;
  active: boolean;
  baseQuantity: string;
  received: string;
  outstanding: string;
  amount: string;
  rate: string;
  supplierPlaceId: number;
}

/** Receives goods against open lines into bins. More than ordered is taken only when the person says that it is right. */
export async function receive(act: Act, form: contract.ReceiptForm): Promise<Posting> {
  const ids = form.lines.map(({ lineId }) => lineId);
  await lock.purchaseOrdersOf(act, ids);
  const wanted = new Map((await wantedLines(act, ids)).map((line) => [line.id, line]));
  await refuseLines(act, form, wanted);
  refuseOver(form, wanted);
  return post(act, await receiptMovement(act, form, wanted));
}

const wantedLines = ({ tx }: Act, ids: readonly number[]): Promise<WantedLine[]> =>
  tx.rows<WantedLine>(
    `SELECT l.id, o.id AS "orderId", o.number, (o.placed_at AT TIME ZONE (SELECT time_zone FROM company))::date AS "placedOn", l.position, l.item_id AS "itemId", i.sku, i.tracking, l.site_id AS "siteId", l.active, l.base_quantity AS "baseQuantity", l.received, l.outstanding, l.amount, o.rate, p.id AS "supplierPlaceId"
     FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN item i ON i.id = l.item_id JOIN place p ON p.kind = 'supplier' AND p.party_id = o.supplier_id WHERE l.id = ANY($1)`,
    [ids],
  );

async function refuseLines(act: Act, form: contract.ReceiptForm, wanted: ReadonlyMap<number, WantedLine>): Promise<void> {
  const { items, bins } = await lineFacts(
    act,
    [...wanted.values()].map(({ itemId }) => itemId),
    form.lines.map(({ binId }) => binId),
  );
  const errors = form.lines.flatMap((line, index): FieldError[] => {
    const at = wanted.get(line.lineId);
    const field = (name: string) => `lines.${index}.${name}`;
    if (!at) return [{ field: field('lineId'), sentence: 'There is no such order line.' }];
    needRight(act.by, 'inbound.receive', at.siteId);
    if (form.effectiveOn !== undefined && at.placedOn !== null && form.effectiveOn < at.placedOn)
      return [{ field: 'effectiveOn', sentence: `${at.number} was placed on ${at.placedOn}; nothing can have come in on it before.` }];
    if (!at.active) return [{ field: field('lineId'), sentence: `${at.number} is not open: it was not placed, or was closed or cancelled.` }];
    if (bins.get(line.binId)?.siteId !== at.siteId) return [{ field: field('binId'), sentence: 'That bin is not at the site this order is delivered to.' }];
    const item = items.get(at.itemId);
    const fault = item && quantityError(item, line.quantity, field('quantity'));
    return fault ? [fault] : [];
  });
  refuseErrors(errors);
}

function refuseOver(form: contract.ReceiptForm, wanted: ReadonlyMap<number, WantedLine>): void {
  if (form.overReceipt) return;
  const totals = new Map<number, Decimal>();
  form.lines.forEach((line, index) => {
    const at = wanted.get(line.lineId) as WantedLine;
    const total = (totals.get(at.id) ?? decimal(0)).plus(line.quantity);
    totals.set(at.id, total);
    if (total.lte(at.outstanding)) return;
    const sentence = `${at.number} wants only ${decimal(at.outstanding).toFixed()} more of ${at.sku}, not ${total.toFixed()}. Take them all the same?`;
    throw refuseField(409, 'over-receipt', `lines.${index}.quantity`, sentence, ['over-receipt']);
  });
}

async function receiptMovement(act: Act, form: contract.ReceiptForm, wanted: ReadonlyMap<number, WantedLine>): Promise<Movement> {
  const received = new Map<number, Decimal>();
  const coming = form.lines.map((line, index): ComingIn => {
    const at = wanted.get(line.lineId) as WantedLine;
    const before = received.get(at.id) ?? decimal(at.received);
    const quantity = decimal(line.quantity);
    received.set(at.id, before.plus(quantity));
    const value = receiptValue({ amount: decimal(at.amount), baseQuantity: decimal(at.baseQuantity), rate: decimal(at.rate) }, before, quantity);
    return {
      itemId: at.itemId,
      sku: at.sku,
      tracking: at.tracking,
      lots: line.lots,
      line: {
        itemId: at.itemId,
        lotId: null,
        quantity,
        fromPlaceId: at.supplierPlaceId,
        toPlaceId: line.binId,
        valuation: { by: 'stated', value },
        serves: { kind: 'purchase', lineId: at.id },
        field: `lines.${index}.quantity`,
      },
    };
  });
  return {
    kind: 'receipt',
    effectiveOn: form.effectiveOn ?? act.today,
    lines: await linesByLot(act, coming),
    reasonId: null,
    reversesId: null,
    note: form.packingNote === '' ? '' : `packing note ${form.packingNote}`,
  };
}
