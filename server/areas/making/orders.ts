import type * as contract from '@larder/contract/workOrders';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, greatest, quantityText, zero, type Decimal } from '@larder/core/decimal';
import { inSteps } from '@larder/core/making/work';
import { refuseField } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { updateRows } from '../../db/given';
import { componentTerms, documentLine, workCost, workOrder } from '../../db/schema/index';
import { recordChanges } from '../../documents/changes';
import { refuseErrors, type ItemFacts } from '../../documents/lines';
import { nextNumber } from '../../documents/number';
import { changeDemand, type DecidedLine } from '../../ledger/changeDemand';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { workNow, type WorkNowRow } from './orderQueries';
import { orderHead, refuseEnded, takeWorkOrder } from './decisions';
import { refuseAccounts, refuseComponents, refuseHead, refuseSale, type Head } from './orderChecks';
import { addComponents, addProducts, takeOff, writeCosts, writeNeeded, type CostLine } from './orderLines';
import { planned } from './proposal';

/** Plans to make something. What goes in is the bill's, unless it is said; released at once where that is asked for. */
export async function createWorkOrder(act: Act, form: BodyOf<typeof contract.createWorkOrder>): Promise<ResponseOf<typeof contract.createWorkOrder>> {
  const { components, costs, steps, note, salesLineId, release, ...rest } = form;
  // The contract has refused none.
  const head: Head = { ...rest, itemId: rest.itemId as number, siteId: rest.siteId as number };
  act.allow('making.plan', head.siteId);
  await refuseHead(act, head, act.today);
  const plan = await planned(act, head.itemId, decimal(head.quantity));
  const parts = components ?? plan.components.map((part) => ({ ...part, quantity: part.quantity.toFixed() }));
  if (parts.length === 0) throw refuseField(422, 'no-parts', 'components', 'Say what goes in: no bill of it is in use.');
  const items = await refuseComponents(act, head.itemId, parts);
  await refuseAccounts(act, costs ?? []);
  if (salesLineId !== null) await refuseSale(act, salesLineId, head);
  const work =
    costs?.map((cost) => ({ ...cost, accountId: cost.accountId as number })) ?? plan.costs.map((cost) => ({ ...cost, quantity: cost.quantity.toFixed() }));
  const written = { ...head, bomId: plan.bomId, steps: steps ?? plan.steps, note, salesLineId };
  return writeWorkOrder(act, written, { components: parts, costs: work, byProducts: plan.byProducts, share: plan.share }, items, release);
}

/** Plans and releases to make something just as its bill in use says, whoever asks for it; null where there is no such bill. */
export async function planWorkOrder(act: Act, head: Head, more: Pick<Written, 'salesLineId' | 'followsSale'>) {
  await refuseHead(act, head, act.today);
  const plan = await planned(act, head.itemId, decimal(head.quantity));
  if (plan.components.length === 0) return null;
  const components = plan.components.map((part) => ({ ...part, quantity: part.quantity.toFixed() }));
  const items = await refuseComponents(act, head.itemId, components);
  const costs = plan.costs.map((cost) => ({ ...cost, quantity: cost.quantity.toFixed() }));
  const written = { ...head, ...more, bomId: plan.bomId, steps: plan.steps, note: '' };
  return writeWorkOrder(act, written, { components, costs, byProducts: plan.byProducts, share: plan.share }, items, true);
}

interface Lines {
  components: readonly { itemId: number; quantity: string; note: string }[];
  costs: readonly CostLine[];
  byProducts: readonly { itemId: number; quantity: Decimal; share: string | null }[];
  share: string | null;
}
type Written = Head & { bomId: number | null; steps: string; note: string; salesLineId: number | null; followsSale?: boolean };

async function writeWorkOrder(
  act: Act,
  head: Written,
  lines: Lines,
  items: ReadonlyMap<number, ItemFacts>,
  release: boolean,
): Promise<ResponseOf<typeof contract.createWorkOrder>> {
  await lock.pools(act, [head.itemId, ...lines.components.map(({ itemId }) => itemId), ...lines.byProducts.map(({ itemId }) => itemId)]);
  const number = act.tx.readOnly ? null : await nextNumber(act, 'work order');
  let id: number | null = null;
  const kept = lines.components.filter(({ itemId }) => items.get(itemId)?.stocked === true);
  const added = (release ? kept : []).map(({ itemId, quantity }) => ({
    itemId,
    siteId: head.siteId,
    kind: 'component' as const,
    number: number ?? '~',
    position: lines.components.findIndex((one) => one.itemId === itemId) + 1,
    neededOn: head.startsOn,
    promisedOn: null,
    wanted: decimal(quantity),
  }));
  const effects = await changeDemand(act, { decided: [], added }, async () => {
    const { quantity: _quantity, ...values } = head;
    const released = release ? { releasedAt: act.now.toISOString(), releasedBy: act.by.id } : {};
    const [made] = await act.tx.db
      .insert(workOrder)
      .values({ ...values, ...released, number: number as string, createdAt: act.now.toISOString(), createdBy: act.by.id })
      .returning({ id: workOrder.id });
    id = made?.id as number;
    const order = { id, number: number as string, siteId: head.siteId, startsOn: head.startsOn, dueOn: head.dueOn, active: release };
    const ids = await addComponents(act, order, lines.components, items, 0);
    await addProducts(act, order, [
      { itemId: head.itemId, quantity: head.quantity, share: lines.share },
      ...lines.byProducts.map((one) => ({ ...one, quantity: one.quantity.toFixed() })),
    ]);
    await writeCosts(act, id, lines.costs);
    return kept.map(({ itemId }) => ids[lines.components.findIndex((one) => one.itemId === itemId)] as number);
  });
  return { id, number, movementId: null, effects };
}

/** Changes how many are made, of what, and when. */
export async function changeWorkOrder(act: Act, id: number, form: BodyOf<typeof contract.changeWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, form.version);
  refuseEnded(now);
  await refuseHead(act, { ...now, ...form }, now.startsOn < act.today ? now.startsOn : act.today);
  const [main] = now.products;
  const done = decimal(now.made).plus(now.scrapped);
  if (decimal(form.quantity).lte(done))
    throw refuseField(422, 'made-already', 'quantity', `${quantityText(done)} are made already; record what is left, or give it up.`);
  const unknown = form.components.findIndex(({ id: lineId }) => lineId !== null && !now.lines.some((line) => line.id === lineId));
  if (unknown >= 0) throw refuseField(404, 'no-such-line', `components.${unknown}.id`, `That line is not on ${now.number}.`);
  refuseErrors(
    form.components.flatMap(({ id: lineId, itemId }, index) => {
      const line = now.lines.find((one) => one.id === lineId);
      return line && line.itemId !== itemId ? [{ field: `components.${index}.itemId`, sentence: 'Take this line off, and add another for another part.' }] : [];
    }),
  );
  const gone = now.lines.filter((line) => !form.components.some((one) => one.id === line.id));
  const taken = gone.find((line) => Number(line.taken) > 0);
  if (taken)
    throw refuseField(409, 'taken-already', 'components', `${quantityText(decimal(taken.taken))} of ${taken.sku} are taken already; bring them back first.`);
  const items = await refuseComponents(act, now.itemId, form.components);
  await refuseAccounts(act, form.costs);
  const fresh = form.components.filter((one) => one.id === null);
  await lock.pools(
    act,
    [...now.lines, ...fresh].map(({ itemId }) => itemId),
  );
  const active = now.released;
  const becomes = now.lines.map((line) => ({ line, needed: decimal(form.components.find((one) => one.id === line.id)?.quantity ?? 0) }));
  const decided = (active ? becomes : [])
    .filter(({ line }) => line.stocked)
    .map(({ line, needed }): DecidedLine => ({
      id: line.id,
      itemId: line.itemId,
      siteId: now.siteId,
      becomes: { siteId: now.siteId, wanted: greatest(needed.minus(line.taken), zero), neededOn: form.startsOn, promisedOn: null },
    }));
  const last = Math.max(0, ...now.lines.map(({ position }) => position));
  const kept = fresh.filter(({ itemId }) => items.get(itemId)?.stocked === true);
  const added = (active ? kept : []).map(({ itemId, quantity }) => ({
    itemId,
    siteId: now.siteId,
    kind: 'component' as const,
    number: now.number,
    position: last + 1 + fresh.findIndex((one) => one.itemId === itemId),
    neededOn: form.startsOn,
    promisedOn: null,
    wanted: decimal(quantity),
  }));
  const effects = await changeDemand(act, { decided, added }, async () => {
    const { db } = act.tx;
    const { version: _version, quantity, components: _components, costs: _costs, ...set } = form;
    await db
      .update(workOrder)
      .set({ ...set, followsSale: false, version: now.version + 1 })
      .where(eq(workOrder.id, id));
    await writeNeeded(act, becomes, form.startsOn);
    await updateRows(
      act.tx,
      componentTerms,
      form.components.flatMap(({ id: lineId, note }) => (lineId === null ? [] : [{ id: lineId, note }])),
    );
    if (main) await updateRows(act.tx, documentLine, [{ id: main.id, baseQuantity: quantity, neededOn: form.dueOn }]);
    for (const line of now.products.slice(1)) {
      // What else comes of it follows, as far as it was not made already.
      const due = inSteps(decimal(line.quantity).times(quantity).div(now.quantity), decimal(line.step));
      await db
        .update(documentLine)
        .set({ baseQuantity: sql`${documentLine.cancelled} + ${greatest(due, decimal(line.made)).toFixed()}::numeric`, neededOn: form.dueOn })
        .where(eq(documentLine.id, line.id));
    }
    await takeOff(
      act,
      gone.map((line) => line.id),
    );
    const ids = await addComponents(act, { ...orderHead(now), startsOn: form.startsOn }, fresh, items, last);
    await db.delete(workCost).where(eq(workCost.workOrderId, id));
    await writeCosts(
      act,
      id,
      form.costs.map((cost) => ({ ...cost, accountId: cost.accountId as number })),
    );
    await recordChanges(act, 'work order', id, saidOf(now), saidOf(await workNow(act, id)), (field) => field === 'costs');
    return kept.map(({ itemId }) => ids[fresh.findIndex((one) => one.itemId === itemId)] as number);
  });
  return { movementId: null, effects };
}

/** A work order in words: what its history tells. */
const saidOf = ({ quantity, startsOn, dueOn, steps, note, lines, costs }: WorkNowRow) => ({
  quantity,
  startsOn,
  dueOn,
  steps,
  note,
  parts: lines
    .filter((line) => Number(line.needed) > 0)
    .map(({ sku, needed }) => `${needed} ${sku}`)
    .join(', '),
  costs: costs.map(({ name, quantity: many, per, rate }) => `${name}: ${many} ${per} at ${rate}`).join(', '),
});
