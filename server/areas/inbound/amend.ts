import { and, eq, sql } from 'drizzle-orm';
import type * as contract from '@larder/contract/inbound';
import type { BodyOf } from '@larder/contract/endpoint';
import type { OrderLine } from '@larder/contract/values';
import { amountText, currencyFaults, currencyPlaces } from '@larder/core/books/currency';
import { decimal } from '@larder/core/decimal';
import { lineAmount } from '@larder/core/inbound/amount';
import { orderWays } from '@larder/core/order';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type { z } from 'zod';
import type { Act } from '../../act';
import { given } from '../../db/given';
import { documentLine, movementLine, type purchaseOrder, purchaseTerms } from '../../db/schema/index';
import { companyCurrency } from '../../ledger/company';
import { lock } from '../../ledger/lock';
import { lineFacts, quantityError, refuseErrors, writtenLines } from '../../documents/lines';
import { callOffStraight, lockSupplied, type Supplied } from '../../documents/supplies';
import { changeOrder, recordOrder, takeOrder } from '../../documents/orders';
import { agreedOn, type Agreed } from './agreed';
import { purchase } from './queries';
import { addPurchaseLines, taxOfSupplier } from './service';

/** Changes an order that was placed: its days, what is called off of what is still to come, and lines added to it. What changed is kept. */
export async function amendPurchase(act: Act, id: number, form: BodyOf<typeof contract.amendPurchase>): Promise<contract.PurchaseOrder> {
  const order = await takeOrder(act, 'purchase', id, form.version);
  if (!order.decided || order.cancelled || order.closed)
    throw new Refusal(409, 'not-placed', `${order.number} is ${orderWays.purchase.standing(order).state}; only an order that was placed is changed like this.`);
  const was = await agreedOn(act, id);
  await refuseAmended(act, was, form);
  const money = await otherMoney(act, was, form);
  const repriced = otherPrices(was, form, money);
  const added = await writtenLines(act, [...form.added, ...repriced.added], { taxCodeId: await taxOfSupplier(act, was.supplierId), ...money }, 'added');
  const supplied = await lockSupplied(
    act,
    was.lines.map((line) => line.id),
  );
  refuseRepriced(form, repriced, supplied);
  await lock.pools(
    act,
    [...was.lines, ...added].map(({ itemId }) => itemId),
  );
  const off = [...form.lines.flatMap(({ lineId, callOff: quantity }) => (quantity === null ? [] : [{ lineId, quantity }])), ...repriced.off];
  await callOffStraight(
    act,
    supplied,
    off.map(({ lineId, quantity }) => ({ lineId, quantity: decimal(quantity) })),
  );
  await callOff(act, off);
  await putPrices(act, repriced.whole, money);
  await putDays(act, form.lines);
  const last = Math.max(0, ...was.lines.map(({ position }) => position));
  await addPurchaseLines(
    act,
    { ...was, active: true },
    added.map((line, index) => ({
      ...line,
      ...money,
      expectedOn: (form.added[index] ?? repriced.added[index - form.added.length])?.expectedOn ?? null,
      position: last + line.position,
    })),
  );
  await changeOrder<typeof purchaseOrder>(act, 'purchase', order, {
    expectedOn: form.expectedOn,
    ...money,
    ...(form.orderedOn === undefined ? {} : { orderedOn: form.orderedOn }),
  });
  await writeHistory(act, was);
  return purchase(act, id);
}

interface Repriced {
  /** Lines nothing of which has come: they get the price as they stand. */
  whole: { lineId: number; price: string; amount: string }[];
  /** What is still to come of the others is called off, and ordered anew at the other price. */
  off: { lineId: number; quantity: string }[];
  added: (z.output<typeof OrderLine> & { expectedOn: string | null })[];
}

/** In which currency and at which rate the rest of an order goes on; refuses, by the field, what cannot be. */
async function otherMoney(act: Act, was: Agreed, form: BodyOf<typeof contract.amendPurchase>): Promise<{ currency: string; rate: string }> {
  const money = { currency: form.currency ?? was.currency, rate: form.rate ?? (form.currency === undefined ? was.rate : '1') };
  refuseErrors(currencyFaults(money.currency, money.rate, await companyCurrency(act)));
  if (money.currency !== was.currency && was.hasCharges)
    throw refuseField(409, 'charges-in-currency', 'currency', `The charges of ${was.number} are in ${was.currency}; an order with charges keeps its currency.`);
  if (form.orderedOn !== undefined) await refuseOrderedOn(act, was, form.orderedOn);
  return money;
}

/** An order was placed no later than today, and than anything came in on it. */
async function refuseOrderedOn(act: Act, was: Agreed, day: string): Promise<void> {
  if (day > act.today) throw refuseField(422, 'future-day', 'orderedOn', 'The day lies in the future.');
  const [first] = await act.tx.db
    .select({ day: sql<string | null>`min(${movementLine.effectiveOn})` })
    .from(movementLine)
    .innerJoin(purchaseTerms, eq(purchaseTerms.id, movementLine.supplyLineId))
    .where(eq(purchaseTerms.orderId, was.id));
  if (first?.day && day > first.day)
    throw refuseField(409, 'came-before', 'orderedOn', `Goods came in on ${was.number} on ${first.day}; it was placed by then.`);
}

/** What another price, currency or rate makes of the lines of an order: what has come keeps its own, what is still to come becomes a line of its own. */
function otherPrices(was: Agreed, { lines }: BodyOf<typeof contract.amendPurchase>, money: { currency: string; rate: string }): Repriced {
  const repriced: Repriced = { whole: [], off: [], added: [] };
  for (const at of was.lines) {
    const change = lines.find(({ lineId }) => lineId === at.id);
    const price = change?.price ?? at.price;
    const same = decimal(price).eq(at.price) && at.currency === money.currency && decimal(at.rate).eq(money.rate);
    const left = decimal(at.outstanding).minus(change?.callOff ?? 0);
    if (same || left.lte(0)) continue;
    if (decimal(at.received).isZero()) {
      const amount = lineAmount(
        { quantity: decimal(at.quantity), price: decimal(price), pricePer: decimal(at.pricePer), discount: decimal(0) },
        currencyPlaces(money.currency) ?? 2,
      );
      repriced.whole.push({ lineId: at.id, price, amount: amountText(money.currency, amount) });
    } else {
      // Of the base unit, at the same price for as many base units: nothing is divided.
      const even = left.times(at.quantity).div(at.baseQuantity).decimalPlaces() <= 4;
      repriced.off.push({ lineId: at.id, quantity: left.toFixed() });
      repriced.added.push({
        itemId: at.itemId,
        unitId: even ? at.unitId : null,
        quantity: (even ? left.times(at.quantity).div(at.baseQuantity) : left).toFixed(),
        price,
        pricePer: (even ? decimal(at.pricePer) : decimal(at.pricePer).times(at.baseQuantity).div(at.quantity)).toFixed(),
        expectedOn: change ? change.expectedOn : at.expectedOn,
      });
    }
  }
  return repriced;
}

/** What goes straight to the customer of a sales order stays the line that it is: once some of it went at a price, the rest goes at it as well. */
function refuseRepriced({ lines }: BodyOf<typeof contract.amendPurchase>, { off }: Repriced, supplied: readonly Supplied[]): void {
  const linked = supplied.find(({ purchaseLineId }) => off.some(({ lineId }) => lineId === purchaseLineId));
  if (!linked) return;
  const index = lines.findIndex(({ lineId }) => lineId === linked.purchaseLineId);
  throw refuseField(
    409,
    'price-of-sale',
    `lines.${Math.max(index, 0)}.price`,
    `Some of it went to the customer of ${linked.number} at this price; the rest goes at it as well.`,
  );
}

/** Puts other days on lines. */
async function putDays({ tx }: Act, lines: readonly { lineId: number; expectedOn: string | null }[]): Promise<void> {
  const { id, expectedOn } = purchaseTerms;
  const { rows, row } = given(
    'dated',
    { id, expectedOn },
    lines.map((line) => ({ id: line.lineId, expectedOn: line.expectedOn })),
  );
  await tx.db
    .update(purchaseTerms)
    .set({ expectedOn: row.expectedOn })
    .from(rows)
    .where(and(eq(id, row.id), sql`${expectedOn} is distinct from ${row.expectedOn}`));
}

async function putPrices({ tx }: Act, lines: Repriced['whole'], money: { currency: string; rate: string }): Promise<void> {
  const { id, price, amount } = purchaseTerms;
  const { rows, row } = given(
    'priced',
    { id, price, amount },
    lines.map((line) => ({ id: line.lineId, price: line.price, amount: line.amount })),
  );
  await tx.db
    .update(purchaseTerms)
    .set({ price: row.price, amount: row.amount, ...money })
    .from(rows)
    .where(eq(id, row.id));
}

/** Writes down what became of an order that was placed. */
const writeHistory = async (act: Act, was: Agreed): Promise<void> =>
  recordOrder(act, 'purchase', was.id, amended(was), amended(await agreedOn(act, was.id)), (field) => field.endsWith(' price'));

/** Calls off all that is still to come on these lines of an order; the order and the pools of its items are locked. */
export async function endLines(act: Act, orderId: number, lineIds: readonly number[]): Promise<void> {
  const was = await agreedOn(act, orderId);
  const open = was.lines.filter(({ id, outstanding }) => lineIds.includes(id) && decimal(outstanding).gt(0));
  if (open.length === 0) return;
  await callOff(
    act,
    open.map(({ id, outstanding }) => ({ lineId: id, quantity: outstanding })),
  );
  await changeOrder<typeof purchaseOrder>(act, 'purchase', was, {});
  await writeHistory(act, was);
}

async function refuseAmended(act: Act, was: Agreed, { lines }: BodyOf<typeof contract.amendPurchase>): Promise<void> {
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
const amended = (order: Agreed): Record<string, string> => ({
  expected: order.expectedOn ?? '',
  ordered: order.orderedOn ?? '',
  currency: `${order.currency} at ${order.rate}`,
  ...Object.fromEntries(
    order.lines.flatMap(({ position, sku, baseQuantity, cancelled, expectedOn, price }) => [
      [`line ${position}`, `${baseQuantity} of ${sku}`],
      [`line ${position} price`, price],
      [`line ${position} called off`, cancelled],
      [`line ${position} expected`, expectedOn ?? ''],
    ]),
  ),
});

/** Takes so many of what is to come off order lines; their orders and the pools of their items are locked. */
async function callOff({ tx }: Act, lines: readonly { lineId: number; quantity: string }[]): Promise<void> {
  const { id, cancelled } = documentLine;
  const { rows, row } = given(
    'called_off',
    { id, cancelled },
    lines.map(({ lineId, quantity }) => ({ id: lineId, cancelled: quantity })),
  );
  const off = tx.db
    .select({ line: sql<number>`${row.id}`.as('line'), quantity: sql<string>`sum(${row.cancelled})`.as('off_quantity') })
    .from(rows)
    .groupBy(row.id)
    .as('off');
  await tx.db
    .update(documentLine)
    .set({ cancelled: sql`${cancelled} + ${off.quantity}` })
    .from(off)
    .where(eq(id, off.line));
}
