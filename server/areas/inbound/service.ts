import { and, eq, isNull } from 'drizzle-orm';
import type * as contract from '@larder/contract/inbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { amountFault, currencyFaults } from '@larder/core/books/currency';
import { decimal } from '@larder/core/decimal';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type { Act } from '../../act';
import { party, purchaseCharge, purchaseOrder, purchaseTerms, site, taxCode } from '../../db/schema/index';
import { companyCurrency } from '../../ledger/company';
import { lock } from '../../ledger/lock';
import { recordChanges, refuseStale } from '../../documents/changes';
import { nextNumber } from '../../documents/number';
import { addLines, removeLines } from '../../documents/documentLines';
import { refuseErrors, writtenLines, type WrittenLine } from '../../documents/lines';
import { purchase } from './queries';

export async function createPurchase(act: Act, form: contract.PurchaseForm): Promise<contract.PurchaseOrder> {
  await refuseHead(act, form);
  return writePurchase(act, form);
}

/** Writes a draft; who may and whether its head is right has been looked at. */
export async function writePurchase(act: Act, form: contract.PurchaseForm): Promise<contract.PurchaseOrder> {
  const { lines, money } = await linesToWrite(act, form);
  const number = await nextNumber(act, 'purchase order');
  const [added] = await act.tx.db
    .insert(purchaseOrder)
    .values({
      number,
      supplierId: form.supplierId,
      siteId: form.siteId,
      shipsToId: form.shipsToId,
      ...money,
      orderedOn: form.orderedOn,
      expectedOn: form.expectedOn,
      note: form.note,
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: purchaseOrder.id });
  const orderId = added?.id as number;
  await writeParts(act, { id: orderId, number }, form, lines, money);
  return purchase(act, orderId);
}

export async function editPurchase(act: Act, id: number, form: contract.PurchaseForm & { version: number }): Promise<contract.PurchaseOrder> {
  await lock.purchaseOrders(act, [id]);
  const was = await purchase(act, id);
  refuseStale(form.version, was.version, was.number);
  if (!was.canEdit) throw new Refusal(409, 'not-a-draft', `${was.number} is ${was.state} and can no longer be changed here.`);
  await refuseHead(act, form);
  const { lines, money } = await linesToWrite(act, form);
  await removeLines(act, 'purchase', was.number);
  await act.tx.db.delete(purchaseCharge).where(eq(purchaseCharge.orderId, id));
  await act.tx.db
    .update(purchaseOrder)
    .set({
      supplierId: form.supplierId,
      siteId: form.siteId,
      shipsToId: form.shipsToId,
      ...money,
      orderedOn: form.orderedOn,
      expectedOn: form.expectedOn,
      note: form.note,
      version: was.version + 1,
    })
    .where(eq(purchaseOrder.id, id));
  await writeParts(act, was, form, lines, money);
  const is = await purchase(act, id);
  await recordChanges(act, 'purchase order', id, headOf(was), headOf(is));
  return is;
}

/** The lines of an order as they will be written, and in which money; refuses by the field what cannot be. */
export async function linesToWrite(act: Act, form: contract.PurchaseForm): Promise<{ lines: WrittenLine[]; money: { currency: string; rate: string } }> {
  const money = await moneyOf(act, form);
  return { lines: await writtenLines(act, form.lines, { taxCodeId: await taxOfSupplier(act, form.supplierId), ...money }), money };
}

/** In which currency an order is written, and at which rate; refuses by the field what cannot be. */
async function moneyOf(act: Act, { currency, rate, charges }: contract.PurchaseForm): Promise<{ currency: string; rate: string }> {
  const company = await companyCurrency(act);
  const money = { currency: currency ?? company, rate };
  refuseErrors([
    ...currencyFaults(money.currency, rate, company),
    ...charges.flatMap(({ amount }, index): FieldError[] => {
      const sentence = amountFault(amount, money.currency);
      return sentence ? [{ field: `charges.${index}.amount`, sentence }] : [];
    }),
  ]);
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
  const ids = await addLines(act, { kind: 'purchase', number, siteId, bringsToId: shipsToId === null ? siteId : null, draws: false, active }, lines);
  if (lines.length > 0) await act.tx.db.insert(purchaseTerms).values(lines.map((line, index) => ({ ...line, id: ids[index] as number, orderId })));
}

/** The tax a supplier charges on everything, or null when it goes by the item. */
export async function taxOfSupplier({ tx }: Act, supplierId: number): Promise<number | null> {
  const [row] = await tx.db.select({ taxCodeId: party.taxCodeId }).from(party).where(eq(party.id, supplierId));
  return row?.taxCodeId ?? null;
}

const headOf = (order: contract.PurchaseOrder) => ({
  supplier: order.supplier,
  site: order.site,
  shipsTo: order.shipsTo ?? '',
  expectedOn: order.expectedOn,
  orderedOn: order.orderedOn,
  currency: order.currency,
  rate: order.rate,
  note: order.note,
  charges: order.charges.map(({ label, amount }) => ({ label, amount })),
  lines: order.lines.map(({ sku, quantity, unit, price, pricePer, expectedOn }) => ({ sku, quantity, unit, price, pricePer, expectedOn })),
});

async function refuseHead(act: Act, form: contract.PurchaseForm): Promise<void> {
  const { db } = act.tx;
  const [supplier, here, customer, taxes] = await Promise.all([
    db.$count(party, and(eq(party.id, form.supplierId), party.isSupplier, isNull(party.retiredAt))),
    db.$count(site, and(eq(site.id, form.siteId), isNull(site.retiredAt))),
    form.shipsToId === null ? 1 : db.$count(party, and(eq(party.id, form.shipsToId), party.isCustomer, isNull(party.retiredAt))),
    db.select({ id: taxCode.id }).from(taxCode),
  ]);
  if (supplier === 0) throw refuseField(404, 'no-such-supplier', 'supplierId', 'There is no such supplier.');
  if (here === 0) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
  if (customer === 0) throw refuseField(404, 'no-such-customer', 'shipsToId', 'There is no such customer.');
  const odd = form.charges.findIndex(({ taxCodeId }) => taxCodeId !== null && !taxes.some(({ id }) => id === taxCodeId));
  if (odd >= 0) throw refuseField(404, 'no-such-tax', `charges.${odd}.taxCodeId`, 'There is no such tax.');
  if (form.orderedOn !== null && form.orderedOn > act.today) throw refuseField(422, 'future-day', 'orderedOn', 'The day lies in the future.');
  act.allow('inbound.order', form.siteId);
}

/** Places a draft, cancels an order nothing of which has come, or closes one short. */
export async function decidePurchase(act: Act, id: number, { decision, version }: BodyOf<typeof contract.decidePurchase>): Promise<contract.PurchaseOrder> {
  await lock.purchaseOrders(act, [id]);
  const was = await purchase(act, id);
  act.allow('inbound.order', was.siteId);
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
