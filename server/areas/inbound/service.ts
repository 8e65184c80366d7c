import { eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type * as contract from '@larder/contract/inbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { amountFault } from '@larder/core/books/currency';
import { decimal, greatest, zero } from '@larder/core/decimal';
import { orderWays } from '@larder/core/order';
import { refuseField, type FieldError } from '@larder/core/refusal';
import type { Act } from '../../act';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { item, party, purchaseCharge, purchaseLine, purchaseOrder, site, taxCode } from '../../db/schema/index';
import { plain } from '../../db/text';
import { lock } from '../../ledger/lock';
import { removeLines } from '../../documents/documentLines';
import { refuseErrors, writtenLines, type WrittenLine } from '../../documents/lines';
import { moneyOf, type Money } from '../../documents/money';
import {
  addOrderLines,
  beginOrder,
  changeOrder,
  recordOrder,
  refuseDecision,
  refuseRetiredSite,
  refuseWhere,
  takeDraft,
  takeOrder,
} from '../../documents/orders';
import { callOffStraight, lockSupplied, refuseReopened } from '../../documents/supplies';
import { writtenFields } from '../../documents/orderFields';
import { purchase } from './queries';

export async function createPurchase(act: Act, form: contract.PurchaseForm): Promise<contract.PurchaseOrder> {
  await refuseHead(act, form);
  return writePurchase(act, form);
}

/** Writes a draft; who may and whether its head is right has been looked at. */
export async function writePurchase(act: Act, form: contract.PurchaseForm): Promise<contract.PurchaseOrder> {
  const { lines, money } = await linesToWrite(act, form);
  const order = await beginOrder<typeof purchaseOrder>(act, 'purchase', { ...headColumns(form), ...money });
  await writeParts(act, order, form, lines, money);
  return purchase(act, order.id);
}

export async function editPurchase(act: Act, id: number, form: contract.PurchaseForm & { version: number }): Promise<contract.PurchaseOrder> {
  const order = await takeDraft(act, 'purchase', id, form.version);
  await refuseHead(act, form);
  const was = await readWritten(act.tx, { id });
  const { lines, money } = await linesToWrite(act, form);
  await removeLines(act, 'purchase', order.number);
  await act.tx.db.delete(purchaseCharge).where(eq(purchaseCharge.orderId, id));
  await changeOrder<typeof purchaseOrder>(act, 'purchase', order, { ...headColumns(form), ...money });
  await writeParts(act, order, form, lines, money);
  await recordOrder(act, 'purchase', id, was[0] ?? {}, (await readWritten(act.tx, { id }))[0] ?? {});
  return purchase(act, id);
}

/** What an order's own row keeps of what is typed. */
const headColumns = ({ supplierId, siteId, shipsToId, shipTo, orderedOn, expectedOn, note }: contract.PurchaseForm) => ({
  supplierId,
  siteId,
  shipsToId,
  shipTo: shipsToId === null ? '' : (shipTo ?? ''),
  orderedOn,
  expectedOn,
  note,
});

/** The lines of an order as they will be written, and in which money; refuses by the field what cannot be. */
export async function linesToWrite(act: Act, form: contract.PurchaseForm): Promise<{ lines: WrittenLine[]; money: { currency: string; rate: string } }> {
  const money = await moneyAndCharges(act, form);
  return { lines: await writtenLines(act, form.lines, { taxCodeId: await taxOfSupplier(act, form.supplierId), ...money }), money };
}

/** In which currency an order is written, and at which rate; refuses by the field what cannot be, of its charges as well. */
async function moneyAndCharges(act: Act, form: contract.PurchaseForm): Promise<Money> {
  const money = await moneyOf(act, form);
  refuseErrors(
    form.charges.flatMap(({ amount }, index): FieldError[] => {
      const sentence = amountFault(amount, money.currency);
      return sentence ? [{ field: `charges.${index}.amount`, sentence }] : [];
    }),
  );
  return money;
}

/** Writes the lines and charges of a draft. */
async function writeParts(
  act: Act,
  { id: orderId, number }: { id: number; number: string },
  form: contract.PurchaseForm,
  lines: readonly WrittenLine[],
  money: { currency: string; rate: string },
): Promise<void> {
  await addPurchaseLines(
    act,
    { id: orderId, number, siteId: form.siteId, shipsToId: form.shipsToId, active: false },
    lines.map((line, index) => ({ ...line, ...money, expectedOn: form.lines[index]?.expectedOn ?? null })),
  );
  if (form.charges.length > 0)
    await act.tx.db.insert(purchaseCharge).values(form.charges.map((charge, index) => ({ ...charge, orderId, position: index + 1 })));
}

/** Adds lines to an order: what they will bring, and what was agreed for them. */
export async function addPurchaseLines(
  act: Act,
  order: { id: number; number: string; siteId: number; shipsToId: number | null; active: boolean },
  lines: readonly (WrittenLine & { currency: string; rate: string; expectedOn: string | null })[],
): Promise<void> {
  const { id: orderId, number, siteId, shipsToId, active } = order;
  await addOrderLines(act, 'purchase', { id: orderId, number, siteId, bringsToId: shipsToId === null ? siteId : null, draws: false, active }, lines);
}

/** The tax a supplier charges on everything, or null when it goes by the item. */
export async function taxOfSupplier({ tx }: Act, supplierId: number): Promise<number | null> {
  const [row] = await tx.db.select({ taxCodeId: party.taxCodeId }).from(party).where(eq(party.id, supplierId));
  return row?.taxCodeId ?? null;
}

const customer = alias(party, 'customer');

/** An order as it is written, in words: what its history tells. */
const readWritten = prepared(['id'], (db, { id }) =>
  db
    .select({
      supplier: party.name,
      site: site.name,
      shipsTo: sql<string>`coalesce(${customer.name}, '')`,
      expectedOn: purchaseOrder.expectedOn,
      orderedOn: purchaseOrder.orderedOn,
      currency: purchaseOrder.currency,
      rate: plain(purchaseOrder.rate),
      note: purchaseOrder.note,
      charges: jsonRows(
        { label: purchaseCharge.label, amount: purchaseCharge.amount },
        (select) => select.from(purchaseCharge).where(eq(purchaseCharge.orderId, purchaseOrder.id)),
        { orderBy: purchaseCharge.position },
      ),
      lines: jsonRows(
        { ...writtenFields(purchaseLine), expectedOn: purchaseLine.expectedOn },
        (select) => select.from(purchaseLine).innerJoin(item, eq(item.id, purchaseLine.itemId)).where(eq(purchaseLine.orderId, purchaseOrder.id)),
        { orderBy: purchaseLine.position },
      ),
    })
    .from(purchaseOrder)
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .innerJoin(site, eq(site.id, purchaseOrder.siteId))
    .leftJoin(customer, eq(customer.id, purchaseOrder.shipsToId))
    .where(sql`${purchaseOrder.id} = ${id}`),
);

async function refuseHead(act: Act, form: contract.PurchaseForm): Promise<void> {
  const { db } = act.tx;
  await refuseWhere(act, { as: 'supplier', field: 'supplierId', id: form.supplierId }, form.siteId);
  if (form.shipsToId !== null) await refuseWhere(act, { as: 'customer', field: 'shipsToId', id: form.shipsToId }, form.siteId);
  const taxes = await db.select({ id: taxCode.id }).from(taxCode);
  const odd = form.charges.findIndex(({ taxCodeId }) => taxCodeId !== null && !taxes.some(({ id }) => id === taxCodeId));
  if (odd >= 0) throw refuseField(404, 'no-such-tax', `charges.${odd}.taxCodeId`, 'There is no such tax.');
  if (form.orderedOn !== null && form.orderedOn > act.today) throw refuseField(422, 'future-day', 'orderedOn', 'The day lies in the future.');
  act.allow('inbound.order', form.siteId);
}

/** Places a draft, cancels an order nothing of which has come, or cancels the rest of one; or takes back that it was cancelled. */
export async function decidePurchase(act: Act, id: number, { decision, version }: BodyOf<typeof contract.decidePurchase>): Promise<contract.PurchaseOrder> {
  const order = await takeOrder(act, 'purchase', id, version);
  refuseDecision('purchase', order, decision === 'place' ? 'decide' : decision);
  if (decision === 'reopen') await refuseRetiredSite(act, order.siteId);
  const supplied = await lockSupplied(
    act,
    order.lines.map((line) => line.id),
  );
  if (decision === 'reopen') refuseReopened(order.number, supplied);
  await lock.pools(
    act,
    order.lines.map(({ itemId }) => itemId),
  );
  if (decision === 'cancel' || decision === 'close')
    await callOffStraight(
      act,
      supplied,
      supplied.map(({ purchaseLineId, quantity, arrived }) => ({ lineId: purchaseLineId, quantity: greatest(decimal(quantity).minus(arrived), zero) })),
    );
  const now = act.now.toISOString();
  const decided = {
    place: { placedAt: now, placedBy: act.by.id },
    cancel: { cancelledAt: now, cancelledBy: act.by.id },
    close: { closedAt: now, closedBy: act.by.id },
    reopen: { cancelledAt: null, cancelledBy: null, closedAt: null, closedBy: null },
  }[decision];
  await changeOrder<typeof purchaseOrder>(act, 'purchase', order, decided);
  const is = await purchase(act, id);
  await recordOrder(act, 'purchase', id, { state: orderWays.purchase.standing(order).state }, { state: is.state });
  return is;
}

/** Places a draft that was just written by a receipt without an order. */
export async function placePurchase(act: Act, id: number): Promise<void> {
  await act.tx.db.update(purchaseOrder).set({ placedAt: act.now.toISOString(), placedBy: act.by.id }).where(eq(purchaseOrder.id, id));
}
