import type * as contract from '@larder/contract/workOrders';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, money, quantityText, sum, zero, type Decimal } from '@larder/core/decimal';
import type { Step } from '@larder/core/ledger/steps';
import type { Charged, Effects, Movement, MovementLine } from '@larder/core/ledger/types';
import { costDifference, planRecord, stillToCome, type RecordPlan, type WorkNow } from '@larder/core/making/record';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, lt, or, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { company, costPool, documentLine, item, lot, person, place, productTerms, untaken, workRecord } from '../../db/schema/index';
import { lineFacts, quantityError, refuseErrors, type ItemFacts } from '../../documents/lines';
import { linesByLot, refusePastUse, type ComingIn } from '../../documents/lots';
import { postSteps } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { costNowOf, itemsOf } from './inUse';
import { decide, refuseAccounts, refuseEnded, setDecision, takeWorkOrder } from './orders';
import { workNow, type WorkNowRow } from './orderQueries';
import { partRest } from './rest';
import { rolledUpOf } from './rolledUp';
import { backLines, refuseBeyondWork, workPlaces } from './taking';

type Asked = BodyOf<typeof contract.recordWork>;
type Form = Omit<Asked, 'charges'> & { charges: Cost[] };
type Cost = Omit<Asked['charges'][number], 'rate' | 'accountId'> & { rate: string; accountId: number };

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
    form.made.flatMap(({ binId }) => binId ?? []),
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

/** Refuses, by their fields, quantities that cannot be and bins of other sites. */
function refuseRecord(now: WorkNowRow, form: Asked, items: ReadonlyMap<number, ItemFacts>, bins: ReadonlyMap<number, { siteId: number }>): void {
  const of = (lines: readonly { id: number; itemId: number; sku: string }[], lineId: number) => lines.find((line) => line.id === lineId);
  const fault = (itemId: number, quantity: string, field: string): FieldError[] => {
    const facts = items.get(itemId);
    const found = facts && quantityError(facts, quantity, field, true);
    return found ? [found] : [];
  };
  refuseErrors([
    ...form.used.flatMap(({ lineId, quantity }, index): FieldError[] => {
      const line = of(now.lines, lineId);
      return line
        ? fault(line.itemId, quantity, `used.${index}.quantity`)
        : [{ field: `used.${index}.lineId`, sentence: `That line is not on ${now.number}.` }];
    }),
    ...form.made.flatMap(({ lineId, quantity, scrapped, binId }, index): FieldError[] => {
      const line = of(now.products, lineId);
      if (!line) return [{ field: `made.${index}.lineId`, sentence: `That line is not on ${now.number}.` }];
      if (binId !== null && bins.get(binId)?.siteId !== now.siteId) return [{ field: `made.${index}.binId`, sentence: 'That is not a bin of this site.' }];
      return [...fault(line.itemId, quantity, `made.${index}.quantity`), ...fault(line.itemId, scrapped, `made.${index}.scrapped`)];
    }),
  ]);
  const nothing = (rows: readonly { quantity: string }[]) => rows.every(({ quantity }) => Number(quantity) === 0);
  const scrapped = form.made.some((one) => Number(one.scrapped) > 0);
  if (nothing(form.used) && nothing(form.made) && nothing(form.charges) && !scrapped && form.rest === 'goes on')
    throw refuseField(422, 'nothing-recorded', 'made.0.quantity', 'Say what was made, or what was used.');
}

const madeIndex = (now: WorkNowRow, form: Pick<Asked, 'made'>): number =>
  Math.max(
    0,
    form.made.findIndex(({ lineId }) => lineId === now.products[0]?.id),
  );

/** What is charged, each at the rate and from the account that were said, else those that the order has under its name. */
function chargedAs(now: WorkNowRow, { charges }: Asked): Cost[] {
  const named = (name: string) => now.costs.find((cost) => cost.name === name);
  const unknown = charges.findIndex(({ name, rate, accountId }) => (rate === null || accountId === null) && !named(name));
  if (unknown >= 0) {
    const field = charges[unknown]?.rate === null ? 'rate' : 'accountId';
    throw refuseField(422, 'not-planned', `charges.${unknown}.${field}`, `${now.number} has no cost of this name: say its rate and its account.`);
  }
  return charges.map((charge) => {
    const as = named(charge.name);
    return { ...charge, rate: charge.rate ?? as?.rate ?? '0', accountId: charge.accountId ?? as?.accountId ?? 0 };
  });
}

async function workerOf({ tx: { db }, by }: Act, workerId: number | null): Promise<number> {
  if (workerId === null) return by.id;
  const [known] = await db.select({ id: person.id }).from(person).where(eq(person.id, workerId));
  if (!known) throw refuseField(422, 'no-such-person', 'workerId', 'Choose who did it from the list.');
  return known.id;
}

/** What was used of a lot whose day has passed, while it was at the work too, is asked about. */
async function refuseUsedPast({ tx: { db }, today }: Act, now: WorkNowRow, form: Asked): Promise<void> {
  const ids = form.used.flatMap(({ lotId, quantity }) => (lotId === null || Number(quantity) === 0 ? [] : [lotId]));
  if (form.pastUse || ids.length === 0) return;
  const past = await db
    .select({ id: lot.id, code: lot.code, useBy: lot.useBy })
    .from(lot)
    .where(and(among(lot.id, ids), or(lot.pastUse, lt(lot.useBy, today))));
  const index = form.used.findIndex(({ lotId }) => past.some(({ id }) => id === lotId));
  const gone = past.find(({ id }) => id === form.used[index]?.lotId);
  if (!gone) return;
  const sku = now.lines.find((line) => line.id === form.used[index]?.lineId)?.sku ?? '';
  throw refuseField(
    409,
    'past-use-by',
    `used.${index}.quantity`,
    `Lot ${gone.code} of ${sku} passed its use-by day on ${gone.useBy ?? ''}. Was it used all the same?`,
    ['pastUse'],
  );
}

/** Of each component how many were used, and of each output how many were made. */
const recordedOf = ({ used, made, rest }: Pick<Asked, 'used' | 'made' | 'rest'>) => ({
  used: summed(used.map(({ lineId, quantity }) => [lineId, decimal(quantity)])),
  made: new Map(made.map(({ lineId, quantity, scrapped }) => [lineId, { good: decimal(quantity), scrapped: decimal(scrapped) }])),
  rest,
});
function summed(rows: readonly (readonly [number, Decimal])[]): Map<number, Decimal> {
  const all = new Map<number, Decimal>();
  for (const [id, quantity] of rows) all.set(id, (all.get(id) ?? zero).plus(quantity));
  return all;
}

/** The order as records are decided over it; outputs without a typed share weigh by what one is worth now. */
async function asWork({ tx: { db } }: Act, now: WorkNowRow): Promise<WorkNow> {
  const worths = await db
    .select({
      id: item.id,
      worth: sql<string>`coalesce(case when ${costPool.quantity} > 0 then ${costPool.value} / ${costPool.quantity} when ${costPool.lastQuantity} > 0 then ${costPool.lastValue} / ${costPool.lastQuantity} else ${item.purchasePrice} end, 0)::text`,
    })
    .from(item)
    .innerJoin(costPool, eq(costPool.itemId, item.id))
    .where(
      among(
        item.id,
        now.products.map(({ itemId }) => itemId),
      ),
    );
  return {
    components: now.lines.map((line) => ({ lineId: line.id, used: decimal(line.used), drawn: decimal(line.taken), stocked: line.stocked })),
    products: now.products.map((line) => ({
      lineId: line.id,
      quantity: decimal(line.quantity),
      made: decimal(line.made),
      scrapped: decimal(line.scrapped),
      share: line.share === null ? null : decimal(line.share),
      worth: decimal(worths.find(({ id }) => id === line.itemId)?.worth ?? 0),
    })),
  };
}

/** Work is not recorded while something used was not taken from a shelf; it may be completed all the same by whoever has the right, who says why. */
function refuseUntaken(act: Act, now: WorkNowRow, form: Asked, plan: RecordPlan): void {
  if (plan.untaken.length === 0 && !plan.nothingUsed) return;
  if (form.untakenReason !== '') {
    act.allow('making.unrecorded', now.siteId);
    if (plan.ends) return;
  }
  if (plan.untaken.length > 0) {
    const errors = plan.untaken.map(({ lineId, quantity }): FieldError => {
      const index = form.used.findIndex((one) => one.lineId === lineId);
      const { sku = '', unit = '' } = now.lines.find((line) => line.id === lineId) ?? {};
      return { field: `used.${index}.quantity`, sentence: `${quantityText(quantity)} ${unit} of ${sku} used, never taken from a shelf.` };
    });
    throw new Refusal(409, 'not-taken', 'Something was used that nobody took from a shelf. Stock says it is still there.', errors);
  }
  throw refuseField(409, 'nothing-used', 'used', 'Nothing that goes in was recorded as used. Say what was used first.');
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

/** What by the order is still to be used and charged once this is recorded, at what its parts cost now. */
async function toComeOf(act: Act, now: WorkNowRow, form: Form): Promise<Decimal> {
  const costNow = costNowOf(
    await itemsOf(
      act,
      now.lines.map(({ itemId }) => itemId),
    ),
  );
  const { used } = recordedOf(form);
  const charged = (name: string) => sum(form.charges.filter((charge) => charge.name === name).map(({ quantity }) => decimal(quantity)));
  return stillToCome(
    now.lines
      .filter(({ stocked }) => stocked)
      .map((line) => ({ needed: decimal(line.needed), used: decimal(line.used).plus(used.get(line.id) ?? zero), cost: costNow(line.itemId) })),
    now.costs.map((cost) => ({ planned: decimal(cost.quantity), charged: decimal(cost.charged).plus(charged(cost.name)), rate: decimal(cost.rate) })),
  );
}

/** What is used of each component and lot, as far as it was taken: what was not stays open. */
function usedRows(now: WorkNowRow, form: Form, plan: RecordPlan): { lineId: number; lotId: number | null; quantity: string; at: number }[] {
  const missing = new Map(plan.untaken.map(({ lineId, quantity }) => [lineId, quantity]));
  const rows: { lineId: number; lotId: number | null; quantity: string; at: number }[] = [];
  for (const [at, { lineId, lotId, quantity }] of [...form.used.entries()].reverse()) {
    const short = missing.get(lineId) ?? zero;
    const less = short.gt(quantity) ? decimal(quantity) : short;
    missing.set(lineId, short.minus(less));
    const many = decimal(quantity).minus(less);
    const line = now.lines.find((one) => one.id === lineId);
    if (many.gt(zero) && line?.tracking !== 'none' && lotId === null && line?.lots.length === 1)
      rows.unshift({ lineId, lotId: line.lots[0]?.lotId ?? null, quantity: many.toFixed(), at });
    else if (many.gt(zero)) rows.unshift({ lineId, lotId, quantity: many.toFixed(), at });
  }
  const unnamed = rows.find(({ lineId, lotId }) => lotId === null && now.lines.find((line) => line.id === lineId)?.tracking !== 'none');
  if (unnamed) {
    const { sku = '', tracking = 'lot' } = now.lines.find((line) => line.id === unnamed.lineId) ?? {};
    throw refuseField(422, 'lots-missing', `used.${unnamed.at}.quantity`, `Say which ${tracking === 'serial' ? 'serials' : 'lots'} of ${sku} were used.`);
  }
  return rows;
}

/** What is still at the work once that is used, by component and lot. */
function leftOf(
  now: WorkNowRow,
  used: readonly { lineId: number; lotId: number | null; quantity: string }[],
): { lineId: number; lotId: number | null; quantity: string }[] {
  return now.lines.flatMap((line) =>
    line.lots.flatMap(({ lotId, quantity }) => {
      const gone = sum(used.filter((one) => one.lineId === line.id && one.lotId === lotId).map((one) => decimal(one.quantity)));
      const left = decimal(quantity).minus(gone);
      return left.gt(zero) ? [{ lineId: line.id, lotId, quantity: left.toFixed() }] : [];
    }),
  );
}

/** What was made, lot by lot: each line takes its part of what is in progress. */
async function outputLines(
  act: Act,
  now: WorkNowRow,
  form: Form,
  plan: RecordPlan,
  items: ReadonlyMap<number, ItemFacts>,
  madeId: number,
): Promise<MovementLine[]> {
  const coming = plan.parts.flatMap(({ lineId, part, whole }): ComingIn[] => {
    const index = form.made.findIndex((one) => one.lineId === lineId);
    const made = form.made[index];
    const product = now.products.find((line) => line.id === lineId);
    const facts = product && items.get(product.itemId);
    if (!made || !facts) return [];
    const line: MovementLine = {
      itemId: product.itemId,
      lotId: null,
      quantity: decimal(made.quantity),
      fromPlaceId: madeId,
      toPlaceId: made.binId ?? product.binId,
      valuation: { by: 'work', part, whole },
      serves: [{ kind: 'product', lineId }],
      field: `made.${index}.quantity`,
    };
    return [{ itemId: product.itemId, sku: facts.sku, tracking: facts.tracking, lots: made.lots, lotsField: `made.${index}.lots`, line }];
  });
  return linesByLot(act, coming);
}

const chargedOf = ({ name, per, quantity, rate, accountId }: Form['charges'][number]): Charged => ({
  accountId,
  name,
  per,
  quantity: decimal(quantity),
  rate: decimal(rate),
  amount: money(decimal(quantity).times(rate)),
});

/** What a record comes to: what it does to work in progress, and what one of each output costs. */
async function outcomeOf(
  act: Act,
  now: WorkNowRow,
  recorded: RecordPlan,
  { plan }: Step,
  charges: readonly Charged[],
  back: Awaited<ReturnType<typeof backLines>>,
): Promise<contract.Outcome> {
  const bins = await act.tx.db.select({ id: place.id, code: place.code }).from(place).where(among(place.id, back.binIds));
  const outputs = now.products.flatMap((product, index) => {
    const lines = plan.lines.filter(({ serves }) => serves.some(({ lineId }) => lineId === product.id));
    const quantity = sum(lines.map((line) => line.quantity));
    if (quantity.isZero()) return [];
    const value = sum(lines.map((line) => line.value.plus(line.variance)));
    return [{ product, index, quantity, value }];
  });
  const rolledUp = await Promise.all(outputs.map(({ product }) => rolledUpOf(act, product.itemId)));
  return {
    inProgress: now.inProgress,
    after: (plan.work?.after ?? zero).toFixed(2),
    variance: (plan.work?.variance ?? zero).toFixed(2),
    charged: sum(charges.map(({ amount }) => amount)).toFixed(2),
    outputs: outputs.map(({ product, quantity, value }, index) => ({
      itemId: product.itemId,
      sku: product.sku,
      quantity: quantity.toFixed(),
      value: value.toFixed(2),
      unitCost: value.div(quantity).toFixed(4),
      rolledUp: rolledUp[index]?.toFixed(4) ?? null,
    })),
    back: back.lines.map(({ itemId, quantity, toPlaceId }) => ({
      sku: now.lines.find((line) => line.itemId === itemId)?.sku ?? '',
      quantity: quantity.toFixed(),
      bin: bins.find(({ id }) => id === toPlaceId)?.code ?? '',
    })),
    ends: recorded.ends,
  };
}

/** What one comes to far from what it should is asked about, before it is completed. */
async function refuseOtherCost({ tx: { db }, seesCosts }: Act, now: WorkNowRow, form: Form, outcome: contract.Outcome): Promise<void> {
  const [main] = outcome.outputs.filter(({ itemId }) => itemId === now.itemId);
  if (form.otherCost || !main) return;
  const difference = costDifference(decimal(main.unitCost), main.rolledUp === null ? null : decimal(main.rolledUp));
  const [set] = await db.select({ asks: company.makingDifference }).from(company);
  const asks = set?.asks ?? null;
  if (difference === null || asks === null || difference.lte(asks)) return;
  throw refuseField(
    409,
    'other-cost',
    `made.${madeIndex(now, form)}.quantity`,
    seesCosts
      ? `One comes to ${decimal(main.unitCost).toFixed(2)}, and by its bill to ${decimal(main.rolledUp ?? 0).toFixed(2)}: ${difference.toFixed(0)} % apart. Is what was used and made right?`
      : 'What was used for one is far from what its bill says. Is what was used and made right?',
    ['otherCost'],
  );
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
