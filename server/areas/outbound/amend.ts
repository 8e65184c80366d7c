import type * as contract from '@larder/contract/outbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, type Decimal } from '@larder/core/decimal';
import { together } from '@larder/core/ledger/effects';
import { orderWays } from '@larder/core/order';
import { amendedLines, amendFaults, amendWords, type AmendedLine, type StandingLine } from '@larder/core/outbound/amending';
import { dayFaults, shipByPassed } from '@larder/core/outbound/shipBy';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, exists, or, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, given, orNull } from '../../db/given';
import { documentLine, item, movementLine, reservation, salesLine, salesOrder, salesTerms, supply, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { refuseErrors, writtenLines } from '../../documents/lines';
import { addOrderLines, changeOrder, recordOrder, refuseLineSites, takeOrder } from '../../documents/orders';
import { dropEnded, onOrderStraight } from '../../documents/supplies';
import { changeDemand, type AddedLine, type DecidedLine } from '../../ledger/changeDemand';
import type { Posting } from '../../ledger/door';
import { fitWork, workOfSale } from '../making/service';
import { refuseOverLimit } from './customers';
import { readWritten, refuseAsked, straightFaults, termsOf } from './quotes';

type Amend = BodyOf<typeof contract.amendSale>;

/** Changes a confirmed order: its day, address and words, its lines down to what is picked of them, and lines added to it. What changed is kept. */
export async function amendSale(act: Act, id: number, form: Amend): Promise<Posting> {
  const order = await takeOrder(act, 'sales', id, form.version);
  const { isDraft, isOpen, state } = orderWays.sales.standing(order);
  if (isDraft || !isOpen) throw new Refusal(409, 'not-open', `${order.number} is ${state}; only a confirmed order that is not done is changed like this.`);
  const [head] = await act.tx.db
    .select({
      customerId: salesOrder.customerId,
      shipBy: salesOrder.shipBy,
      discount: plain(salesOrder.discount),
      currency: salesOrder.currency,
      rate: plain(salesOrder.rate),
    })
    .from(salesOrder)
    .where(eq(salesOrder.id, id));
  if (!head) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  const was = await linesOf(act, id);
  const amount = await amountOf(act, id);
  const asked = { siteId: order.siteId, shipBy: form.shipBy, discount: head.discount, today: act.today };
  if (form.shipBy !== head.shipBy && form.shipBy < act.today) throw refuseField(422, 'past-day', 'shipBy', shipByPassed);
  refuseErrors(amendFaults(was, form.lines, asked));
  refuseErrors(dayFaults(form.added, act.today, 'added'));
  await refuseLineSites(act, 'outbound.sell', form.lines);
  await refuseLineSites(act, 'outbound.sell', form.added, 'added');
  await refuseAsked(act, form.added, 'added');
  const kept = amendedLines(was, form.lines, asked);
  if (kept.every(({ end }) => end !== 'none') && form.added.length === 0)
    throw refuseField(422, 'nothing-left', 'lines', 'An order needs at least one line. Cancel the order instead.');
  const added = await writtenLines(act, form.added, { ...(await termsOf(act, head)), currency: head.currency, rate: head.rate }, 'added');
  refuseErrors(straightFaults(form.added, added, 'added'));
  const work = await workOfSale(
    act,
    id,
    [...was, ...added].map(({ itemId }) => itemId),
  );
  const last = Math.max(0, ...was.map(({ position }) => position));
  const lines = added.map((line, index) => {
    const own = form.added[index];
    return {
      ...line,
      position: last + line.position,
      neededOn: own?.shipBy ?? form.shipBy,
      promisedOn: own?.promisedOn ?? null,
      direct: own?.direct ?? '0',
      askedItemId: own?.askedItemId ?? null,
      siteId: own?.siteId ?? order.siteId,
    };
  });
  const fresh = lines.filter(({ stocked }) => stocked);
  const effects = await changeDemand(act, { decided: decidedOf(was, kept), added: fresh.map((line) => wantedOf(order.number, line)) }, async () => {
    const [before] = await readWritten(act.tx, { id });
    await dropEnded(
      act,
      was.map(({ id: lineId }) => lineId),
    );
    await writeKept(act, kept);
    await addOrderLines(act, 'sales', { id, number: order.number, siteId: order.siteId, bringsToId: null, draws: true, active: true }, lines);
    const { shipBy, reference, shipTo, whole, note } = form;
    await changeOrder<typeof salesOrder>(act, 'sales', order, { shipBy, reference, shipTo, whole, note });
    const words = amendWords(was, kept, added);
    const [now] = await readWritten(act.tx, { id });
    await recordOrder(act, 'sales', id, before ?? {}, { ...now, ...(words === '' ? {} : { changed: words }) });
    return idsOf(
      act,
      id,
      fresh.map(({ position }) => position),
    );
  });
  const made = await fitWork(act, order, work, {
    moved: kept.filter(({ id: lineId, shipBy }) => shipBy !== (was.find((line) => line.id === lineId)?.shipBy ?? head.shipBy)).map((line) => line.id),
    asIf: {
      lines: kept,
      added: fresh.map((line) => ({ ...line, wanted: decimal(line.baseQuantity).minus(line.direct) })),
    },
  });
  if ((await amountOf(act, id)).gt(amount)) await refuseOverLimit(act, order, form.overLimit);
  return { movementId: null, effects: together(effects, made) };
}

/** What an order comes to, before tax. */
const amountOf = async ({ tx: { db } }: Act, id: number): Promise<Decimal> => {
  const [row] = await db
    .select({ all: sql<string>`coalesce(sum(${salesTerms.amount}), 0)` })
    .from(salesTerms)
    .where(eq(salesTerms.orderId, id));
  return decimal(row?.all ?? 0);
};

/** What the lines that stock is kept of want from now on. */
const decidedOf = (was: readonly StandingLine[], kept: readonly AmendedLine[]): DecidedLine[] =>
  kept.flatMap(({ id, itemId, stocked, siteId, wanted, shipBy, promisedOn }) => {
    const at = was.find((line) => line.id === id);
    return at && stocked ? [{ id, itemId, siteId: at.siteId, becomes: { siteId, wanted, neededOn: shipBy, promisedOn } }] : [];
  });

const wantedOf = (
  number: string,
  line: Pick<AddedLine, 'itemId' | 'siteId' | 'position' | 'neededOn' | 'promisedOn'> & { baseQuantity: string; direct: string },
): AddedLine => ({
  itemId: line.itemId,
  siteId: line.siteId,
  kind: 'sales',
  number,
  position: line.position,
  neededOn: line.neededOn,
  promisedOn: line.promisedOn,
  wanted: decimal(line.baseQuantity).minus(line.direct),
});

async function linesOf({ tx: { db } }: Act, orderId: number): Promise<(StandingLine & { position: number })[]> {
  const moved = exists(
    db
      .select({ one: sql`1` })
      .from(movementLine)
      .where(eq(movementLine.demandLineId, salesLine.id)),
  );
  const ordered = exists(
    db
      .select({ one: sql`1` })
      .from(supply)
      .where(eq(supply.salesLineId, salesLine.id)),
  );
  const rows = await db
    .select({
      id: salesLine.id,
      position: salesLine.position,
      itemId: salesLine.itemId,
      siteId: salesLine.siteId,
      sku: item.sku,
      stocked: salesLine.stocked,
      step: plain(unit.step),
      quantity: plain(salesLine.quantity),
      numerator: salesLine.factorNumerator,
      denominator: salesLine.factorDenominator,
      price: plain(salesLine.price),
      pricePer: plain(salesLine.pricePer),
      discount: plain(salesLine.discount),
      picked: plain(salesLine.picked),
      dispatched: plain(salesLine.dispatched),
      direct: plain(salesLine.direct),
      sent: plain(salesLine.sent),
      onOrder: sql<string>`trim_scale(${onOrderStraight(salesLine.id)})::text`,
      shipBy: salesLine.shipBy,
      promisedOn: salesLine.promisedOn,
      moved: sql<boolean>`${or(moved, ordered)}`,
    })
    .from(salesLine)
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(eq(salesLine.orderId, orderId))
    .orderBy(salesLine.position);
  return rows.map(({ numerator, denominator, ...row }) => ({ ...row, factor: { numerator, denominator } }));
}

/** Writes the lines that were there as they are from now on. */
async function writeKept({ tx: { db } }: Act, kept: readonly AmendedLine[]): Promise<void> {
  const ids = (end: AmendedLine['end']) => kept.filter((line) => line.end === end).map(({ id }) => id);
  const gone = ids('removed');
  if (gone.length > 0) {
    await db.delete(reservation).where(among(reservation.lineId, gone));
    await db.delete(documentLine).where(among(documentLine.id, gone));
  }
  const cancelled = ids('cancelled');
  if (cancelled.length > 0) {
    await db
      .update(documentLine)
      .set({ cancelled: sql`${documentLine.baseQuantity}`, direct: '0' })
      .where(among(documentLine.id, cancelled));
    await db.update(salesTerms).set({ amount: '0.00' }).where(among(salesTerms.id, cancelled));
  }
  const { id, siteId, baseQuantity, direct, neededOn, promisedOn } = documentLine;
  const { quantity, price, discount, amount } = salesTerms;
  const { rows, row } = given(
    'amended',
    { id, siteId, baseQuantity, direct, neededOn, promisedOn: orNull(promisedOn), quantity, price, discount, amount },
    kept.flatMap(({ end, shipBy, ...line }) =>
      end === 'none'
        ? [
            {
              id: line.id,
              siteId: line.siteId,
              baseQuantity: line.baseQuantity,
              direct: line.direct,
              neededOn: shipBy,
              promisedOn: line.promisedOn,
              quantity: line.quantity,
              price: line.price,
              discount: line.discount,
              amount: line.amount,
            },
          ]
        : [],
    ),
  );
  const changed = kept.filter(({ changesSite }) => changesSite).map((line) => line.id);
  // What it held where it came from is released: nothing of it is left there.
  if (changed.length > 0) await db.delete(reservation).where(among(reservation.lineId, changed));
  await db
    .update(documentLine)
    .set({ siteId: row.siteId, baseQuantity: row.baseQuantity, cancelled: '0', direct: row.direct, neededOn: row.neededOn, promisedOn: row.promisedOn })
    .from(rows)
    .where(eq(documentLine.id, row.id));
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
