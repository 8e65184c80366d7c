import type * as contract from '@larder/contract/workOrders';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { maybeBilled } from '@larder/core/books/purpose';
import { addDays, daysBetween } from '@larder/core/day';
import { decimal, greatest, quantityText, zero, type Decimal } from '@larder/core/decimal';
import { inSteps, plannedParts } from '@larder/core/making/work';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows, updateRows } from '../../db/given';
import {
  account,
  movementLine,
  reservation,
  bom,
  bomByProduct,
  bomCost,
  bomPart,
  componentTerms,
  documentLine,
  productTerms,
  salesLine,
  site,
  workCost,
  workOrder,
} from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { addLines } from '../../documents/documentLines';
import { lineFacts, quantityError, refuseErrors, type ItemFacts } from '../../documents/lines';
import { nextNumber } from '../../documents/number';
import { changeDemand, type DecidedLine } from '../../ledger/changeDemand';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { bomsInUse, freeAt, inUseFor, itemsOf } from './inUse';
import { workNow, type WorkNowRow } from './orderQueries';

/** What a bill says that making so many takes. */
export interface Planned {
  bomId: number | null;
  bill: string | null;
  steps: string;
  components: { itemId: number; quantity: Decimal; note: string }[];
  costs: { name: string; per: 'hour' | 'piece'; quantity: Decimal; rate: string; accountId: number }[];
  byProducts: { itemId: number; quantity: Decimal; share: string | null }[];
  /** Of the item itself, against those of what else comes of it. */
  share: string | null;
}

const nothingPlanned: Planned = { bomId: null, bill: null, steps: '', components: [], costs: [], byProducts: [], share: null };

/** What the bill in use says that making so many of an item takes; of an item without one nothing. */
export async function planned(act: Act, itemId: number, quantity: Decimal): Promise<Planned> {
  const { db } = act.tx;
  const [used] = await bomsInUse(act, eq(bom.itemId, itemId));
  if (!used) return nothingPlanned;
  const { bills } = await inUseFor(act, [itemId]);
  const bill = bills.get(itemId);
  if (!bill) return nothingPlanned;
  const [[head], parts, costs, byProducts, items] = [
    await db.select().from(bom).where(eq(bom.id, used.id)),
    await db.select({ itemId: bomPart.itemId, note: bomPart.note }).from(bomPart).where(eq(bomPart.bomId, used.id)),
    await db.select().from(bomCost).where(eq(bomCost.bomId, used.id)).orderBy(bomCost.position),
    await db.select().from(bomByProduct).where(eq(bomByProduct.bomId, used.id)).orderBy(bomByProduct.position),
    await itemsOf(act, [...bill.parts.map((part) => part.itemId), ...bill.byProducts.map((one) => one.itemId)]),
  ];
  const stepOf = (id: number) => decimal(items.get(id)?.step ?? 1);
  const share = (of: Decimal | string) => decimal(of).times(quantity).div(bill.makes);
  return {
    bomId: used.id,
    bill: head ? [head.number, head.name].filter((word) => word !== '').join(' ') : null,
    steps: head?.steps ?? '',
    components: plannedParts(bill, quantity, stepOf).map((part) => ({ ...part, note: parts.find((one) => one.itemId === part.itemId)?.note ?? '' })),
    costs: costs.map(({ name, per, quantity: many, rate, accountId }) => ({ name, per, rate, accountId, quantity: share(many).toDecimalPlaces(4) })),
    byProducts: byProducts.map((one) => ({ itemId: one.itemId, share: one.share, quantity: inSteps(share(one.quantity), stepOf(one.itemId)) })),
    share: head?.share ?? null,
  };
}

/** What a work order is begun with: the parts, costs and other outputs of so many, as the bill in use says. */
export async function workProposal(
  act: Act,
  { itemId, siteId, quantity }: QueryOf<typeof contract.workProposal>,
): Promise<ResponseOf<typeof contract.workProposal>> {
  act.allow('look', siteId);
  const plan = await planned(act, itemId, decimal(quantity));
  const ids = [...plan.components, ...plan.byProducts].map((one) => one.itemId);
  const [items, free] = [await itemsOf(act, ids), await freeAt(act, ids, siteId)];
  const named = (id: number) => {
    const of = items.get(id);
    return { itemId: id, sku: of?.sku ?? '', name: of?.name ?? '', unit: of?.unit ?? '', step: of?.step ?? '1' };
  };
  return {
    bomId: plan.bomId,
    bill: plan.bill,
    steps: plan.steps,
    components: plan.components.map((part) => ({
      ...named(part.itemId),
      quantity: quantityText(part.quantity),
      free: free.get(part.itemId) ?? '0',
      note: part.note,
    })),
    costs: plan.costs.map(({ quantity: many, ...cost }) => ({ ...cost, quantity: quantityText(many) })),
    byProducts: plan.byProducts.map((one) => ({ ...named(one.itemId), quantity: quantityText(one.quantity) })),
  };
}

interface Head {
  itemId: number;
  siteId: number;
  quantity: string;
  startsOn: string;
  dueOn: string;
}

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

interface Lines {
  components: readonly { itemId: number; quantity: string; note: string }[];
  costs: readonly { name: string; per: 'hour' | 'piece'; quantity: string; rate: string; accountId: number }[];
  byProducts: readonly { itemId: number; quantity: Decimal; share: string | null }[];
  share: string | null;
}
type Written = Head & { bomId: number | null; steps: string; note: string; salesLineId: number | null };

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

export interface OrderHead {
  id: number;
  number: string;
  siteId: number;
  startsOn: string;
  dueOn: string;
  active: boolean;
}

/** Adds components to an order, after those it has; gives their ids. What is not kept in stock is never reserved. */
export async function addComponents(
  act: Act,
  order: OrderHead,
  components: readonly { itemId: number; quantity: string; note: string; cancelled?: string }[],
  items: ReadonlyMap<number, ItemFacts>,
  had: number,
): Promise<number[]> {
  const ids = await addLines(
    act,
    { kind: 'component', number: order.number, siteId: order.siteId, bringsToId: null, draws: true, active: order.active },
    components.map(({ itemId, quantity, cancelled }, index) => ({
      position: had + index + 1,
      itemId,
      baseQuantity: quantity,
      ...(cancelled === undefined ? {} : { cancelled }),
      stocked: items.get(itemId)?.stocked === true,
      neededOn: order.startsOn,
    })),
  );
  await insertRows(
    act.tx,
    componentTerms,
    components.map(({ note }, index) => ({ id: ids[index] as number, workOrderId: order.id, note })),
  );
  return ids;
}

/** Adds what comes of an order: what it is for, and what else; gives their ids. What is scrapped from the beginning is called off on its line. */
export async function addProducts(
  act: Act,
  order: OrderHead,
  products: readonly { itemId: number; quantity: string; share: string | null; binId?: number | null; scrapped?: string }[],
): Promise<number[]> {
  const ids = await addLines(
    act,
    { kind: 'product', number: order.number, siteId: order.siteId, bringsToId: order.siteId, draws: false, active: order.active },
    products.map(({ itemId, quantity, scrapped }, index) => ({
      ...{ position: index + 1, itemId, baseQuantity: quantity, stocked: true, neededOn: order.dueOn },
      ...(scrapped === undefined ? {} : { cancelled: scrapped }),
    })),
  );
  await act.tx.db.insert(productTerms).values(
    products.map(({ share, binId, scrapped }, index) => ({
      id: ids[index] as number,
      workOrderId: order.id,
      share,
      binId: binId ?? null,
      scrapped: scrapped ?? '0',
    })),
  );
  return ids;
}

export const writeCosts = ({ tx }: Act, workOrderId: number, costs: Lines['costs']): Promise<void> =>
  insertRows(
    tx,
    workCost,
    costs.map(({ name, per, quantity, rate, accountId }, index) => ({ workOrderId, position: index + 1, name, per, quantity, rate, accountId })),
  );

async function refuseHead(act: Act, head: Head, notBefore: string): Promise<void> {
  const [here] = await act.tx.db
    .select({ id: site.id })
    .from(site)
    .where(and(eq(site.id, head.siteId), isNull(site.retiredAt)));
  if (!here) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
  const { items } = await lineFacts(act, [head.itemId]);
  const made = items.get(head.itemId);
  if (!made) throw refuseField(404, 'no-such-item', 'itemId', 'There is no such item.');
  if (made.retired) throw refuseField(422, 'retired', 'itemId', `${made.sku} is retired.`);
  if (!made.stocked) throw refuseField(422, 'not-kept', 'itemId', `${made.sku} is not kept in stock, so nothing of it can be made.`);
  const fault = quantityError(made, head.quantity, 'quantity');
  if (fault) refuseErrors([fault]);
  refuseDays(head, notBefore);
}

function refuseDays({ startsOn, dueOn }: Pick<Head, 'startsOn' | 'dueOn'>, notBefore: string): void {
  if (startsOn < notBefore) throw refuseField(422, 'past-day', 'startsOn', 'This day has passed already.');
  if (dueOn < startsOn) throw refuseField(422, 'before-it-starts', 'dueOn', 'It cannot be due before it is started.');
}

/** Refuses, by their fields, parts that are none, or that are what is made. */
async function refuseComponents(
  act: Act,
  itemId: number,
  components: readonly { itemId: number; quantity: string }[],
): Promise<ReadonlyMap<number, ItemFacts>> {
  const { items } = await lineFacts(
    act,
    components.map((one) => one.itemId),
  );
  const ids = components.map((one) => one.itemId);
  refuseErrors(
    components.flatMap((one, index): FieldError[] => {
      const at = (name: string, sentence: string) => [{ field: `components.${index}.${name}`, sentence }];
      const facts = items.get(one.itemId);
      if (!facts) return at('itemId', 'There is no such item.');
      if (facts.retired) return at('itemId', `${facts.sku} is retired.`);
      if (one.itemId === itemId) return at('itemId', `${facts.sku} cannot be made of itself.`);
      if (ids.indexOf(one.itemId) < index) return at('itemId', `Line ${ids.indexOf(one.itemId) + 1} has this part as well.`);
      const fault = quantityError(facts, one.quantity, `components.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  return items;
}

/** Refuses, by their fields, accounts that are none, or that are held against what they stand for. */
export async function refuseAccounts({ tx: { db } }: Act, costs: readonly { accountId: number | null }[], list = 'costs'): Promise<void> {
  if (costs.length === 0) return;
  const known = await db
    .select({ id: account.id, type: account.type, purpose: account.purpose })
    .from(account)
    .where(
      among(
        account.id,
        costs.map(({ accountId }) => accountId),
      ),
    );
  refuseErrors(
    costs.flatMap(({ accountId }, index) =>
      known.some((one) => one.id === accountId && maybeBilled(one))
        ? []
        : [{ field: `${list}.${index}.accountId`, sentence: 'Choose an account of costs: this one is kept by postings of its own.' }],
    ),
  );
}

async function refuseSale({ tx: { db } }: Act, salesLineId: number, { itemId, siteId }: Head): Promise<void> {
  const [line] = await db
    .select({ id: salesLine.id })
    .from(salesLine)
    .where(and(eq(salesLine.id, salesLineId), eq(salesLine.itemId, itemId), eq(salesLine.siteId, siteId), salesLine.active));
  if (!line) throw refuseField(422, 'no-such-line', 'salesLineId', 'No open order line there wants this item.');
}

/** A work order to be changed or decided on: locked, as the person saw it, at a site where they may. */
export async function takeWorkOrder(
  act: Act,
  id: number,
  version: number | null,
  right: 'making.plan' | 'making.record' | 'outbound.ship' = 'making.plan',
): Promise<WorkNowRow> {
  await lock.workOrders(act, [id]);
  const now = await workNow(act, id);
  act.allow(right, now.siteId);
  if (version !== null) refuseStale(version, now.version, now.number);
  return now;
}

/** Refuses what is done to an order that has ended. */
export function refuseEnded({ ended, cancelled, number }: WorkNowRow): void {
  if (ended) throw new Refusal(409, 'ended', `${number} ${cancelled ? 'is cancelled' : 'is completed'}; nothing more is done on it.`);
}

export const orderHead = (now: WorkNowRow): OrderHead => ({ ...now, active: now.released && !now.ended });

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
      .set({ ...set, version: now.version + 1 })
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

/** Takes lines off of which nothing was ever taken; of the others nothing is needed any more. What was reserved for them is free already. */
async function takeOff({ tx: { db } }: Act, lineIds: readonly number[]): Promise<void> {
  if (lineIds.length === 0) return;
  const moved = await db.selectDistinct({ id: movementLine.demandLineId }).from(movementLine).where(among(movementLine.demandLineId, lineIds));
  const off = lineIds.filter((lineId) => !moved.some(({ id }) => id === lineId));
  await db.delete(reservation).where(among(reservation.lineId, off));
  await db.delete(documentLine).where(among(documentLine.id, off));
}

/** Writes how many of components the order says now; of one it says nothing of, its line keeps what it was, as called off. */
const writeNeeded = ({ tx }: Act, becomes: readonly { line: WorkNowRow['lines'][number]; needed: Decimal }[], neededOn: string): Promise<void> =>
  updateRows(
    tx,
    documentLine,
    becomes.map(({ line, needed }) => {
      const base = needed.gt(0) ? needed : decimal(line.needed).gt(0) ? decimal(line.needed) : decimal(1);
      return { id: line.id, baseQuantity: base.toFixed(), cancelled: base.minus(needed).toFixed(), neededOn };
    }),
  );

/** Makes it on another day: its parts are wanted for that day, and it is due as many days later as before. */
export async function moveWorkOrder(act: Act, id: number, { version, startsOn }: BodyOf<typeof contract.moveWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, version);
  refuseEnded(now);
  const dueOn = addDays(startsOn, daysBetween(now.startsOn, now.dueOn));
  refuseDays({ startsOn, dueOn }, act.today);
  return decide(
    act,
    now,
    (line) => (now.released ? { wanted: greatest(decimal(line.needed).minus(line.taken), zero), neededOn: startsOn } : null),
    async () => {
      await updateRows(act.tx, workOrder, [{ id, startsOn, dueOn, version: now.version + 1 }]);
      await updateRows(act.tx, documentLine, [
        ...now.lines.map((line) => ({ id: line.id, neededOn: startsOn })),
        ...now.products.map((line) => ({ id: line.id, neededOn: dueOn })),
      ]);
      await recordChanges(act, 'work order', id, { startsOn: now.startsOn, dueOn: now.dueOn }, { startsOn, dueOn });
    },
  );
}

/** Changes what the components of an order want of its site. `becomes`: null for a line that wants what it wanted. */
export async function decide(
  act: Act,
  now: WorkNowRow,
  becomes: (line: WorkNowRow['lines'][number]) => { wanted: Decimal; neededOn: string } | 'ended' | 'wanted' | null,
  write: () => Promise<void>,
): Promise<Posting> {
  const kept = now.lines.filter(({ stocked }) => stocked);
  await lock.pools(
    act,
    kept.map(({ itemId }) => itemId),
  );
  const decided = kept.flatMap((line): DecidedLine[] => {
    const is = becomes(line);
    if (is === null) return [];
    return [{ id: line.id, itemId: line.itemId, siteId: now.siteId, becomes: typeof is === 'string' ? is : { siteId: now.siteId, promisedOn: null, ...is } }];
  });
  const effects = await changeDemand(act, { decided }, async () => {
    await write();
    return undefined;
  });
  return { movementId: null, effects };
}

/** Releases a work order: its parts are wanted from now on. */
export async function releaseWorkOrder(act: Act, id: number, { version }: BodyOf<typeof contract.releaseWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, version);
  refuseEnded(now);
  if (now.released) throw new Refusal(409, 'released-already', `${now.number} is released already.`);
  return decide(
    act,
    now,
    () => 'wanted',
    () => setDecision(act, now, { releasedAt: act.now.toISOString(), releasedBy: act.by.id }, 'released'),
  );
}

/** Takes the release back: nothing is reserved for it any more. */
export async function holdWorkOrder(act: Act, id: number, { version }: BodyOf<typeof contract.holdWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, version);
  refuseEnded(now);
  if (!now.released) throw new Refusal(409, 'not-released', `${now.number} is not released.`);
  if (now.lines.some((line) => Number(line.taken) > 0) || now.records.some(({ undone }) => !undone))
    throw new Refusal(409, 'begun', `Parts were taken for ${now.number} already. Bring them back first.`);
  return decide(
    act,
    now,
    () => 'ended',
    () => setDecision(act, now, { releasedAt: null, releasedBy: null }, 'planned'),
  );
}

/** Opens a cancelled work order again. */
export async function reopenWorkOrder(act: Act, id: number, { version }: BodyOf<typeof contract.reopenWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, version);
  if (now.apart) throw new Refusal(409, 'taken-apart', `${now.number} was undone: take it apart anew.`);
  if (!now.cancelled) throw new Refusal(409, 'not-cancelled', `${now.number} is not cancelled.`);
  if (now.restOf !== null) throw new Refusal(409, 'rest-of', `${now.number} was the rest of ${now.restOf.number}, which goes on with it now.`);
  return decide(
    act,
    now,
    () => (now.released ? 'wanted' : null),
    () => setDecision(act, now, { cancelledAt: null, cancelledBy: null }, 'open again'),
  );
}

/** Writes a decision; the order is another version from now on. */
export async function setDecision(act: Act, now: Pick<WorkNowRow, 'id' | 'version'>, set: Partial<typeof workOrder.$inferInsert>, said: string): Promise<void> {
  await act.tx.db
    .update(workOrder)
    .set({ ...set, version: now.version + 1 })
    .where(eq(workOrder.id, now.id));
  await recordChanges(act, 'work order', now.id, {}, { decided: said });
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
