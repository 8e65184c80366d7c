import type * as contract from '@larder/contract/workRecords';
import type { ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, zero } from '@larder/core/decimal';
import type { Step } from '@larder/core/ledger/steps';
import type { Effects, Movement, MovementLine } from '@larder/core/ledger/types';
import { planRecord, type RecordPlan } from '@larder/core/making/record';
import { Refusal, refuseField } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { documentLine, productTerms, untaken, workRecord } from '../../db/schema/index';
import { lineFacts, type ItemFacts } from '../../documents/lines';
import { refusePastUse } from '../../documents/lots';
import { postSteps } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { decide, refuseEnded, setDecision, takeWorkOrder } from './decisions';
import { refuseAccounts } from './orderChecks';
import { workNow, type WorkNowRow } from './orderQueries';
import { partRest } from './rest';
import { backLines, refuseBeyondWork, workPlaces } from './taking';
import { chargedAs, madeIndex, refuseOtherCost, refuseRecord, refuseUntaken, refuseUsedPast, workerOf, type Asked, type Form } from './recordChecks';
import { asWork, chargedOf, leftOf, outcomeOf, outputLines, recordedOf, toComeOf, usedRows } from './recordMovement';

/**
 * Records what was used and made of a work order: what was used goes into work in progress, what was made takes its part of that. With the last of it, or when the rest is given up or another order, it is
 * completed: what is left at the work goes back to its bins, and nothing is left in progress.
 */
export async function recordWork(act: Act, id: number, form: Asked): Promise<ResponseOf<typeof contract.recordWork>> {
  const now = await takeWorkOrder(act, id, form.version, 'making.record');
  if (!now.released && !now.ended) throw new Refusal(409, 'not-released', `${now.number} is not released. Release it first.`);
  refuseEnded(now);
  const { items, bins } = await lineFacts(
    act,
    [...now.lines, ...now.products].map(({ itemId }) => itemId),
    [...now.products, ...form.made].flatMap(({ binId }) => binId ?? []),
  );
  refuseRecord(now, form, items, bins);
  const charges = chargedAs(now, form);
  await refuseAccounts(act, charges, 'charges');
  const workerId = await workerOf(act, form.workerId);
  await refuseUsedPast(act, now, form);
  refusePastUse(act, form.made, form.pastUse);
  await lock.pools(
    act,
    [...now.lines, ...now.products].map(({ itemId }) => itemId),
  );
  const plan = planRecord(await asWork(act, now), recordedOf(form));
  if (plan.beyond.gt(zero) && !form.moreThanOrdered)
    throw refuseField(
      409,
      'more-than-ordered',
      `made.${madeIndex(now, form)}.quantity`,
      `That is ${quantityText(plan.beyond)} more than ${now.number} says. Record it all the same?`,
      ['moreThanOrdered'],
    );
  refuseUntaken(act, now, form, plan);
  return writeRecord(act, now, { ...form, charges }, plan, items, workerId);
}

async function writeRecord(
  act: Act,
  now: WorkNowRow,
  form: Form,
  plan: RecordPlan,
  items: ReadonlyMap<number, ItemFacts>,
  workerId: number,
): Promise<ResponseOf<typeof contract.recordWork>> {
  const { inWorkId, madeId } = await workPlaces(act, now.siteId);
  const used = usedRows(now, form, plan);
  refuseBeyondWork(now, used, (index) => `used.${used[index]?.at ?? 0}.quantity`);
  const usedLines = used.map(({ lineId, lotId, quantity, at }): MovementLine => ({
    itemId: now.lines.find((line) => line.id === lineId)?.itemId ?? 0,
    lotId,
    quantity: decimal(quantity),
    fromPlaceId: inWorkId,
    toPlaceId: madeId,
    valuation: { by: 'current' },
    serves: [{ kind: 'component', lineId }],
    field: `used.${at}.quantity`,
  }));
  const outputs = await outputLines(act, now, form, plan, items, madeId);
  // What another order goes on with stays at the work.
  const back = plan.clears ? await backLines(act, now, leftOf(now, used)) : { lines: [], binIds: [] };
  const charges = form.charges.filter(({ quantity }) => Number(quantity) > 0).map(chargedOf);
  const before = decimal(now.inProgress);
  const movement: Movement = {
    kind: 'making',
    effectiveOn: act.today,
    lines: [...usedLines, ...outputs, ...back.lines],
    reasonId: null,
    reversesId: null,
    work: { orderId: now.id, before, charges, carried: null, ends: plan.clears, toCome: plan.clears ? zero : await toComeOf(act, now, form) },
    // Whoever it is made for gets it first.
    ...(now.salesLineId === null ? {} : { servesFirst: [now.salesLineId] }),
    note: form.note,
  };
  const { steps, ...posting } = await postSteps(act, movement);
  const outcome = await outcomeOf(act, now, plan, steps[0] as Step, charges, back);
  await refuseOtherCost(act, now, form, outcome);
  if (act.tx.readOnly) return { ...posting, outcome, restId: null, restNumber: null };
  return { ...posting, outcome, ...(await noteRecord(act, now, form, plan, workerId, posting)) };
}

/** Writes who recorded what, and what becomes of the order. */
async function noteRecord(act: Act, now: WorkNowRow, form: Form, plan: RecordPlan, workerId: number, posting: { movementId: number | null; effects: Effects }) {
  const { db } = act.tx;
  const movementId = posting.movementId as number;
  const [main] = now.products;
  if (!main) throw new Error(`${now.number} is for nothing`);
  for (const { lineId, scrapped } of form.made)
    if (Number(scrapped) > 0 && lineId !== main.id)
      await db
        .update(documentLine)
        .set({ cancelled: sql`least(${documentLine.cancelled} + ${scrapped}, ${documentLine.baseQuantity})` })
        .where(eq(documentLine.id, lineId));
  const scrapped = form.made.find(({ lineId }) => lineId === main.id)?.scrapped ?? '0';
  // What is parted as another order is given back with it.
  const rest = plan.clears && plan.still.gt(zero) ? plan.still : plan.beyond.neg();
  await db.insert(workRecord).values({
    movementId,
    workOrderId: now.id,
    workerId,
    scrapped,
    rest: rest.toFixed(),
    ended: plan.clears,
    untakenReason: plan.untaken.length > 0 || plan.nothingUsed ? form.untakenReason : '',
  });
  await db
    .update(documentLine)
    .set({
      baseQuantity: sql`${documentLine.baseQuantity} + ${plan.beyond.toFixed()}`,
      cancelled: sql`${documentLine.cancelled} + ${decimal(scrapped)
        .plus(plan.ends ? plan.still : zero)
        .toFixed()}`,
    })
    .where(eq(documentLine.id, main.id));
  await db
    .update(productTerms)
    .set({ scrapped: sql`${productTerms.scrapped} + ${scrapped}` })
    .where(eq(productTerms.id, main.id));
  if (plan.untaken.length > 0)
    await db.insert(untaken).values(plan.untaken.map(({ lineId, quantity }) => ({ movementId, lineId, quantity: quantity.toFixed() })));
  const said = plan.still.isZero() ? 'completed' : form.rest === 'new order' ? 'completed, the rest is a new order' : 'completed, the rest is given up';
  if (plan.ends && !plan.clears) return partRest(act, now, await workNow(act, now.id), { quantity: plan.still, recordId: movementId });
  if (!plan.ends) await setDecision(act, now, {}, 'recorded');
  else
    await decide(
      act,
      now,
      () => 'ended',
      () => setDecision(act, now, { endedAt: act.now.toISOString(), endedBy: act.by.id }, said),
    );
  return { restId: null, restNumber: null };
}
