import { decimal, greatest, least, zero, type Decimal } from '@larder/core/decimal';
import type { Movement, MovementLine } from '@larder/core/ledger/types';
import { restNeeded } from '@larder/core/making/work';
import { eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { workOrder } from '../../db/schema/index';
import { lineFacts } from '../../documents/lines';
import { nextNumber } from '../../documents/number';
import { changeReservations, post } from '../../ledger/door';
import { setDecision } from './decisions';
import { addComponents, addProducts, writeCosts } from './orderLines';
import { workNow, type WorkNowRow } from './orderQueries';
import { allAtWork, workPlaces } from './taking';

/**
 * Makes what is not made yet of an order a new one: what is at the work, what is reserved and what is in progress go on there. `was` is the order before the record that parts it, `now` after. The order and
 * the pools of its items are locked.
 */
export async function partRest(
  act: Act,
  was: WorkNowRow,
  now: WorkNowRow,
  { quantity, recordId }: { quantity: Decimal; recordId: number },
): Promise<{ restId: number; restNumber: string }> {
  const { db } = act.tx;
  const number = await nextNumber(act, 'work order');
  const { itemId, siteId, bomId, startsOn, dueOn, steps, note, salesLineId } = was;
  const [made] = await db
    .insert(workOrder)
    .values({
      itemId,
      siteId,
      bomId,
      startsOn,
      dueOn,
      steps,
      note,
      salesLineId,
      number,
      restOfId: was.id,
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: workOrder.id });
  const id = made?.id as number;
  const { items } = await lineFacts(
    act,
    now.lines.map((line) => line.itemId),
  );
  const parts = now.lines.map((line) => ({ line, ...restOf(line, was, quantity) })).filter(({ needed, atWork }) => needed.gt(zero) || atWork.gt(zero));
  const order = { id, number, siteId, startsOn, dueOn, active: false };
  const ids = await addComponents(
    act,
    order,
    parts.map(({ line, base, cancelled }) => ({ itemId: line.itemId, quantity: base.toFixed(), cancelled: cancelled.toFixed(), note: line.note })),
    items,
    0,
  );
  await addProducts(
    act,
    order,
    was.products.map((line, index) => ({
      itemId: line.itemId,
      quantity: index === 0 ? quantity.toFixed() : shareOf(line.quantity, was, quantity),
      share: line.share,
    })),
  );
  await writeCosts(
    act,
    id,
    was.costs.map((cost) => ({ ...cost, quantity: decimal(cost.quantity).times(quantity).div(was.quantity).toDecimalPlaces(4).toFixed() })),
  );
  const idOf = (lineId: number): number => ids[parts.findIndex(({ line }) => line.id === lineId)] as number;
  const carried = await carryOver(act, now, id, idOf);
  // What is reserved is given up on the one and taken up on the other at once, so that nobody else is served between.
  const change = (lineId: number, of: number, many: Decimal) => ({ lineId, itemId: of, siteId, quantity: many });
  await changeReservations(
    act,
    (await workNow(act, was.id)).lines.filter(({ reserved }) => Number(reserved) > 0).map((line) => change(line.id, line.itemId, decimal(line.reserved).neg())),
  );
  await setDecision(act, now, { endedAt: act.now.toISOString(), endedBy: act.by.id }, `completed, the rest is ${number}`);
  await db
    .update(workOrder)
    .set({ restBy: carried ?? recordId, releasedAt: act.now.toISOString(), releasedBy: act.by.id })
    .where(eq(workOrder.id, id));
  await changeReservations(
    act,
    parts.filter(({ reserved }) => reserved.gt(zero)).map(({ line, reserved }) => change(idOf(line.id), line.itemId, reserved)),
  );
  return { restId: id, restNumber: number };
}

const shareOf = (of: string, was: WorkNowRow, rest: Decimal): string => {
  const part = decimal(of).times(rest).div(was.quantity).toDecimalPlaces(4);
  return part.gt(zero) ? part.toFixed() : '1';
};

/** Of a component: what the rest needs by what the order said, what of it is at the work already, and what stays reserved. */
function restOf(line: WorkNowRow['lines'][number], was: WorkNowRow, rest: Decimal) {
  const needed = restNeeded(
    { needed: decimal(line.needed), step: decimal(line.step), drawn: decimal(line.taken), used: decimal(line.used) },
    decimal(was.quantity),
    rest,
  );
  const atWork = decimal(line.atWork);
  const base = needed.gt(zero) ? needed : decimal(1);
  const reserved = least(decimal(line.reserved), greatest(needed.minus(atWork), zero));
  return { needed, atWork, base, cancelled: base.minus(needed), reserved };
}

/** Moves what is at the work, and what is in progress, from an order to its rest, in one posting; null when there is neither. */
async function carryOver(act: Act, now: WorkNowRow, toOrderId: number, idOf: (lineId: number) => number): Promise<number | null> {
  const { inWorkId, unplacedId } = await workPlaces(act, now.siteId);
  const lines = allAtWork(now).flatMap(({ lineId, lotId, quantity }): MovementLine[] => {
    const itemId = now.lines.find((line) => line.id === lineId)?.itemId ?? 0;
    const moved = { itemId, lotId, quantity: decimal(quantity), valuation: { by: 'current' as const }, field: 'rest' };
    return [
      { ...moved, fromPlaceId: inWorkId, toPlaceId: unplacedId, serves: [{ kind: 'component', lineId }] },
      { ...moved, fromPlaceId: unplacedId, toPlaceId: inWorkId, serves: [{ kind: 'component', lineId: idOf(lineId) }] },
    ];
  });
  const amount = decimal(now.inProgress);
  if (lines.length === 0 && amount.isZero()) return null;
  const movement: Movement = {
    kind: 'making',
    effectiveOn: act.today,
    lines,
    reasonId: null,
    reversesId: null,
    work: { orderId: now.id, before: amount, charges: [], carried: { toOrderId, amount }, toCome: zero, ends: true },
    note: `rest of ${now.number}`,
  };
  return (await post(act, movement)).movementId;
}
