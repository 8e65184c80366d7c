import type * as contract from '@larder/contract/outbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { toBase } from '@larder/core/catalog/units';
import { decimal, quantityText, zero, type Decimal } from '@larder/core/decimal';
import { lineAmount, pricedLine } from '@larder/core/inbound/amount';
import { orderWays } from '@larder/core/order';
import { discountOf } from '@larder/core/outbound/pricing';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, given } from '../../db/given';
import { documentLine, item, movementLine, reservation, salesLine, salesOrder, salesTerms, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { lineFacts, quantityError, refuseErrors, writtenLines } from '../../documents/lines';
import { addOrderLines, changeOrder, recordOrder, takeOrder } from '../../documents/orders';
import { amendDemand, type AmendedLine } from '../../ledger/changeDemand';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { readWritten, termsOf } from './quotes';

type Amend = BodyOf<typeof contract.amendSale>;

/** Changes a confirmed order: its day, address and words, its lines down to what is picked of them, and lines added to it. What changed is kept. */
export async function amendSale(act: Act, id: number, form: Amend): Promise<Posting> {
  const order = await takeOrder(act, 'sales', id, form.version);
  const { isDraft, isOpen, state } = orderWays.sales.standing(order);
  if (isDraft || !isOpen) throw new Refusal(409, 'not-open', `${order.number} is ${state}; only a confirmed order that is not done is changed like this.`);
  const [head] = await act.tx.db
    .select({ customerId: salesOrder.customerId, shipBy: salesOrder.shipBy, discount: plain(salesOrder.discount), currency: salesOrder.currency })
    .from(salesOrder)
    .where(eq(salesOrder.id, id));
  if (!head) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  const was = await linesOf(act, id);
  await refuseAmended(act, was, form, head.shipBy);
  const kept = keptLines(was, form, head.discount);
  const added = await writtenLines(act, form.added, { ...(await termsOf(act, head)), currency: head.currency }, 'added');
  const items = [...was, ...added].map(({ itemId }) => itemId);
  await lock.pools(act, items);
  const last = Math.max(0, ...was.map(({ position }) => position));
  const lines = added.map((line, index) => ({ ...line, position: last + line.position, neededOn: form.added[index]?.shipBy ?? form.shipBy }));
  const changed = kept.filter(({ stocked }) => stocked).map(({ id: lineId, ...line }) => ({ ...line, id: lineId }));
  const fresh = lines.filter(({ stocked }) => stocked);
  const effects = await amendDemand(
    act,
    {
      siteId: order.siteId,
      changed,
      added: fresh.map((line) => ({ ...line, kind: 'sales' as const, number: order.number, wanted: decimal(line.baseQuantity) })),
    },
    async () => {
      const [before] = await readWritten(act.tx, { id });
      await writeKept(act, kept);
      await addOrderLines(act, 'sales', { id, number: order.number, siteId: order.siteId, bringsToId: null, draws: true, active: true }, lines);
      const { shipBy, reference, shipTo, note } = form;
      await changeOrder<typeof salesOrder>(act, 'sales', order, { shipBy, reference, shipTo, note });
      await recordOrder(act, 'sales', id, before ?? {}, (await readWritten(act.tx, { id }))[0] ?? {});
      return idsOf(
        act,
        id,
        fresh.map(({ position }) => position),
      );
    },
  );
  return { movementId: null, effects };
}

interface WasLine {
  id: number;
  position: number;
  itemId: number;
  sku: string;
  stocked: boolean;
  step: string;
  quantity: string;
  unit: string;
  factor: { numerator: number; denominator: number };
  baseQuantity: string;
  price: string;
  pricePer: string;
  discount: string;
  picked: string;
  dispatched: string;
  shipBy: string | null;
}

async function linesOf({ tx: { db } }: Act, orderId: number): Promise<WasLine[]> {
  const rows = await db
    .select({
      id: salesLine.id,
      position: salesLine.position,
      itemId: salesLine.itemId,
      sku: item.sku,
      stocked: salesLine.stocked,
      step: plain(unit.step),
      quantity: plain(salesLine.quantity),
      unit: salesLine.unit,
      numerator: salesLine.factorNumerator,
      denominator: salesLine.factorDenominator,
      baseQuantity: plain(salesLine.baseQuantity),
      price: plain(salesLine.price),
      pricePer: plain(salesLine.pricePer),
      discount: plain(salesLine.discount),
      picked: plain(salesLine.picked),
      dispatched: plain(salesLine.dispatched),
      shipBy: salesLine.shipBy,
    })
    .from(salesLine)
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(eq(salesLine.orderId, orderId))
    .orderBy(salesLine.position);
  return rows.map(({ numerator, denominator, ...row }) => ({ ...row, factor: { numerator, denominator } }));
}

/** Refuses, by their fields, days that have passed, lines that are not there, less than is picked, and another price of what has gone. */
async function refuseAmended(act: Act, was: readonly WasLine[], { shipBy, lines, added }: Amend, before: string): Promise<void> {
  if (shipBy !== before && shipBy < act.today) throw refuseField(422, 'past-day', 'shipBy', 'The ship-by day has passed already.');
  const { items } = await lineFacts(
    act,
    was.map(({ itemId }) => itemId),
  );
  const moved = await movedOf(
    act,
    was.map(({ id }) => id),
  );
  const errors = lines.flatMap((line, index): FieldError[] => {
    const refuse = (field: string, sentence: string): FieldError[] => [{ field: `lines.${index}.${field}`, sentence }];
    const at = was.find(({ id }) => id === line.lineId);
    if (!at) return refuse('lineId', 'This order has no such line.');
    if (line.shipBy !== null && line.shipBy !== at.shipBy && line.shipBy < act.today) return refuse('shipBy', 'The ship-by day has passed already.');
    const facts = items.get(at.itemId);
    const base = toBase(decimal(line.quantity), at.factor);
    const fault = facts && quantityError(facts, base.toFixed(), `lines.${index}.quantity`, true);
    if (fault) return [fault];
    if (base.lt(at.picked)) return refuse('quantity', `${at.picked} of ${at.sku} are picked already; it can be no less.`);
    if (base.isZero() && moved.has(at.id))
      return refuse('quantity', `${at.sku} was picked before, even if that was undone, so its line stays. Cancel the rest of the order instead.`);
    const isPriced = decimal(line.price).eq(at.price) && decimal(line.discount).eq(at.discount);
    return !isPriced && decimal(at.dispatched).gt(zero)
      ? refuse('price', `${at.dispatched} of ${at.sku} have gone out at this price. Add a line for what goes at another.`)
      : [];
  });
  const past = added.flatMap(({ shipBy: day }, index): FieldError[] =>
    day !== null && day < act.today ? [{ field: `added.${index}.shipBy`, sentence: 'The ship-by day has passed already.' }] : [],
  );
  refuseErrors([...errors, ...past]);
  const left = was.filter(({ id }) => decimal(lines.find(({ lineId }) => lineId === id)?.quantity ?? '1').gt(zero));
  if (left.length + added.length === 0) throw refuseField(422, 'nothing-left', 'lines', 'An order needs at least one line. Cancel the order instead.');
}

/** The lines that goods have moved for, even there and back. */
async function movedOf({ tx: { db } }: Act, lineIds: readonly number[]): Promise<Set<number>> {
  const rows = await db.selectDistinct({ id: movementLine.demandLineId }).from(movementLine).where(among(movementLine.demandLineId, lineIds));
  return new Set(rows.flatMap(({ id }) => id ?? []));
}

interface KeptLine extends AmendedLine {
  id: number;
  stocked: boolean;
  /** Zero: the line goes. */
  quantity: string;
  baseQuantity: string;
  price: string;
  discount: string;
  amount: string;
}

/** The lines that were there as they will be; those that nothing is said of stay as they are. */
function keptLines(was: readonly WasLine[], { shipBy, lines }: Amend, ofOrder: string): KeptLine[] {
  return was.map((at) => {
    const line = lines.find(({ lineId }) => lineId === at.id);
    const { price, discount } = line ?? at;
    const quantity = quantityText(line?.quantity ?? at.quantity);
    const base: Decimal = toBase(decimal(quantity), at.factor);
    const amount = lineAmount(pricedLine({ quantity, price, pricePer: at.pricePer, discount }, discountOf(decimal(discount), decimal(ofOrder))));
    return {
      id: at.id,
      itemId: at.itemId,
      stocked: at.stocked,
      quantity,
      baseQuantity: base.toFixed(),
      price,
      discount,
      amount: amount.toFixed(2),
      wanted: base.minus(at.picked),
      neededOn: line ? (line.shipBy ?? shipBy) : (at.shipBy ?? shipBy),
    };
  });
}

/** Writes the lines that were there as they are from now on; those of which nothing is wanted and nothing ever moved go. */
async function writeKept({ tx: { db } }: Act, kept: readonly KeptLine[]): Promise<void> {
  const gone = kept.filter(({ quantity }) => decimal(quantity).isZero()).map(({ id }) => id);
  if (gone.length > 0) {
    await db.delete(reservation).where(among(reservation.lineId, gone));
    await db.delete(documentLine).where(among(documentLine.id, gone));
  }
  const { id, baseQuantity, neededOn } = documentLine;
  const { quantity, price, discount, amount } = salesTerms;
  const staying = kept.filter((line) => !gone.includes(line.id));
  const { rows, row } = given(
    'amended',
    { id, baseQuantity, neededOn, quantity, price, discount, amount },
    staying.map(({ id: lineId, baseQuantity: base, neededOn: day, quantity: many, price: each, discount: off, amount: sum }) => ({
      id: lineId,
      baseQuantity: base,
      neededOn: day,
      quantity: many,
      price: each,
      discount: off,
      amount: sum,
    })),
  );
  await db.update(documentLine).set({ baseQuantity: row.baseQuantity, neededOn: row.neededOn }).from(rows).where(eq(documentLine.id, row.id));
  await db
    .update(salesTerms)
    .set({ quantity: row.quantity, price: row.price, discount: row.discount, amount: row.amount })
    .from(rows)
    .where(eq(salesTerms.id, row.id));
}

/** The ids of lines of an order, by their positions. */
async function idsOf({ tx: { db } }: Act, orderId: number, positions: readonly number[]): Promise<number[]> {
  const rows = await db
    .select({ id: salesLine.id, position: salesLine.position })
    .from(salesLine)
    .where(and(eq(salesLine.orderId, orderId), among(salesLine.position, positions)));
  return positions.map((position) => rows.find((row) => row.position === position)?.id as number);
}
