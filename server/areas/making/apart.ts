import type * as contract from '@larder/contract/takingApart';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, greatest, quantityText, sum, zero } from '@larder/core/decimal';
import type { Step } from '@larder/core/ledger/steps';
import type { LineCounters, Movement, MovementLine } from '@larder/core/ledger/types';
import { partsApart, sharesAgree } from '@larder/core/making/apart';
import { plannedParts } from '@larder/core/making/work';
import { refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { bom, item, lot, place, site, workOrder, workRecord } from '../../db/schema/index';
import { recordChanges } from '../../documents/changes';
import { lineFacts, quantityError, refuseErrors, type ItemFacts } from '../../documents/lines';
import { linesByLot, type ComingIn } from '../../documents/lots';
import { nextNumber } from '../../documents/number';
import { properBin } from '../../documents/properBin';
import { postSteps } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { bomsInUse, costNowOf, inUseFor, itemsOf } from './inUse';
import { addComponents, addProducts } from './orderLines';
import { workPlaces } from './taking';

/** Taking apart: a work order the other way round, written and ended with one posting. What goes in is the thing itself, what comes of it are its parts. */

type Form = Omit<BodyOf<typeof contract.takeApart>, 'itemId' | 'binId'> & { itemId: number; binId: number };

/** What so many of an item give, as the bill in use says, without its waste; where each goes at the site, and what one costs now. */
export async function apartProposal(
  act: Act,
  { itemId, siteId, quantity }: QueryOf<typeof contract.apartProposal>,
): Promise<ResponseOf<typeof contract.apartProposal>> {
  act.allow('look', siteId);
  const [used] = await bomsInUse(act, eq(bom.itemId, itemId));
  const bill = (await inUseFor(act, [itemId])).bills.get(itemId);
  if (!used || !bill) return { bill: null, parts: [] };
  const items = await itemsOf(
    act,
    bill.parts.map((part) => part.itemId),
  );
  const worth = costNowOf(items);
  const [[head], bins] = [
    await act.tx.db.select({ number: bom.number, name: bom.name }).from(bom).where(eq(bom.id, used.id)),
    await properBins(act, [...items.keys()], siteId),
  ];
  const without = { makes: bill.makes, parts: bill.parts.map((part) => ({ ...part, waste: zero })) };
  return {
    bill: head ? [head.number, head.name].filter((word) => word !== '').join(' ') : null,
    parts: plannedParts(without, decimal(quantity), (id) => decimal(items.get(id)?.step ?? 1)).flatMap(({ itemId: id, quantity: many }) => {
      const [of, goes] = [items.get(id), bins.get(id)];
      if (!of?.stocked || !goes) return [];
      const { sku, name, unit, step } = of;
      return [{ itemId: id, sku, name, unit, step, ...goes, planned: quantityText(many), worth: worth(id)?.toFixed(4) ?? null }];
    }),
  };
}

/** Where items go at a site, and how they are kept. */
async function properBins({ tx: { db } }: Act, itemIds: readonly number[], siteId: number) {
  const rows = await db
    .select({ id: item.id, tracking: item.tracking, binId: place.id, bin: place.code })
    .from(item)
    .innerJoin(site, eq(site.id, siteId))
    .innerJoin(place, eq(place.id, properBin(item.id, site.id)))
    .where(among(item.id, itemIds));
  return new Map(rows.map(({ id, ...row }) => [id, row]));
}

/** Takes goods apart at once: what they had cost goes to their parts, what is missing or no good of those to making variance. */
export async function takeApart(act: Act, asked: BodyOf<typeof contract.takeApart>): Promise<ResponseOf<typeof contract.takeApart>> {
  // The contract has refused none.
  const form: Form = { ...asked, itemId: asked.itemId as number, binId: asked.binId as number };
  const { items, siteId } = await refuseApart(act, form);
  await lock.pools(act, [form.itemId, ...form.parts.map(({ itemId }) => itemId)]);
  if (act.tx.readOnly) {
    const ids = [form, ...form.parts].map((_, index) => -(index + 1));
    const imagined = new Map(ids.map((id): [number, LineCounters] => [id, nothingYet]));
    const movement = await movementOf(act, form, { items, siteId, orderId: 0, ids });
    const { steps, ...posting } = await postSteps(act, movement, { imagined });
    return { ...posting, id: null, number: null, outcome: outcomeOf(form, ids, items, steps[0] as Step) };
  }
  const number = await nextNumber(act, 'work order');
  const { id, ids } = await writeApart(act, form, { items, siteId, number });
  const movement = await movementOf(act, form, { items, siteId, orderId: id, ids });
  const { steps, ...posting } = await postSteps(act, movement);
  await act.tx.db.insert(workRecord).values({ movementId: posting.movementId as number, workOrderId: id, workerId: act.by.id, ended: true });
  await recordChanges(act, 'work order', id, {}, { decided: 'taken apart' });
  return { ...posting, id, number, outcome: outcomeOf(form, ids, items, steps[0] as Step) };
}

const nothingYet: LineCounters = { label: 'what is taken apart', arrived: zero, drawn: zero, gone: zero, finished: zero, open: zero };
/** How many of a part come of it in all: more than it should give is what it should have given. */
const plannedOf = ({ planned, quantity }: Form['parts'][number]) => greatest(decimal(planned), decimal(quantity));

/** Writes the order, and what goes in and comes of it; the ids of its lines, what goes in first. */
async function writeApart(act: Act, form: Form, { items, siteId, number }: { items: ReadonlyMap<number, ItemFacts>; siteId: number; number: string }) {
  const at = { releasedAt: act.now.toISOString(), releasedBy: act.by.id, endedAt: act.now.toISOString(), endedBy: act.by.id };
  const [made] = await act.tx.db
    .insert(workOrder)
    .values({
      ...{ number, itemId: form.itemId, siteId, startsOn: act.today, dueOn: act.today, note: form.note, apart: true },
      ...{ ...at, createdAt: act.now.toISOString(), createdBy: act.by.id },
    })
    .returning({ id: workOrder.id });
  const id = made?.id as number;
  const order = { id, number, siteId, startsOn: act.today, dueOn: act.today, active: false };
  const thing = await addComponents(act, order, [{ itemId: form.itemId, quantity: form.quantity, note: '' }], items, 0);
  const parts = await addProducts(
    act,
    order,
    form.parts.map((part) => {
      const missing = plannedOf(part).minus(part.quantity).toFixed();
      return { itemId: part.itemId, quantity: plannedOf(part).toFixed(), share: part.share, binId: part.binId, scrapped: missing };
    }),
  );
  return { id, ids: [...thing, ...parts] };
}

interface Written {
  items: ReadonlyMap<number, ItemFacts>;
  siteId: number;
  orderId: number;
  /** Of the line of what goes in, and of those of its parts. */
  ids: readonly number[];
}

async function movementOf(act: Act, form: Form, { items, siteId, orderId, ids }: Written): Promise<Movement> {
  const { inWorkId, madeId } = await workPlaces(act, siteId);
  const worth = costNowOf(
    await itemsOf(
      act,
      form.parts.map(({ itemId }) => itemId),
    ),
  );
  const bins = await properBins(
    act,
    form.parts.map(({ itemId }) => itemId),
    siteId,
  );
  const thing: Omit<MovementLine, 'fromPlaceId' | 'toPlaceId'> = {
    itemId: form.itemId,
    lotId: form.lotId,
    quantity: decimal(form.quantity),
    valuation: { by: 'current' },
    serves: [{ kind: 'component', lineId: ids[0] as number }],
    field: 'quantity',
  };
  const shares = partsApart(
    form.parts.map(({ itemId, planned, quantity, share }) => ({
      planned: decimal(planned),
      good: decimal(quantity),
      share: share === null ? null : decimal(share),
      worth: worth(itemId),
    })),
  );
  const coming = form.parts.flatMap(({ itemId, quantity, binId, lots }, index): ComingIn[] => {
    const facts = items.get(itemId);
    const valuation = { by: 'work' as const, ...(shares[index] ?? { part: zero, whole: zero }) };
    if (!facts || Number(quantity) === 0) return [];
    const line: MovementLine = {
      itemId,
      lotId: null,
      quantity: decimal(quantity),
      fromPlaceId: madeId,
      toPlaceId: binId ?? (bins.get(itemId)?.binId as number),
      valuation,
      serves: [{ kind: 'product', lineId: ids[index + 1] as number }],
      field: `parts.${index}.quantity`,
    };
    return [{ itemId, sku: facts.sku, tracking: facts.tracking, lots, lotsField: `parts.${index}.lots`, line }];
  });
  const lines = [
    { ...thing, fromPlaceId: form.binId, toPlaceId: inWorkId },
    { ...thing, fromPlaceId: inWorkId, toPlaceId: madeId },
    ...(await linesByLot(act, coming)),
  ];
  const work = { orderId, before: zero, charges: [], carried: null, ends: true as const, toCome: zero };
  return { kind: 'making', effectiveOn: act.today, lines, reasonId: null, reversesId: null, work, note: form.note };
}

/** What it had cost, and what each part takes of that. */
function outcomeOf(form: Form, ids: readonly number[], items: ReadonlyMap<number, ItemFacts>, { plan }: Step): contract.ApartOutcome {
  const parts = form.parts.flatMap(({ itemId }, index) => {
    const lines = plan.lines.filter(({ serves }) => serves.some(({ lineId }) => lineId === ids[index + 1]));
    const quantity = sum(lines.map((line) => line.quantity));
    const value = sum(lines.map((line) => line.value.plus(line.variance)));
    if (quantity.isZero()) return [];
    const sku = items.get(itemId)?.sku ?? '';
    return [{ itemId, sku, quantity: quantity.toFixed(), value: value.toFixed(2), unitCost: value.div(quantity).toFixed(4) }];
  });
  const lost = plan.work?.variance ?? zero;
  const value = sum(parts.map((part) => decimal(part.value))).plus(lost);
  return { value: value.toFixed(2), lost: lost.toFixed(2), parts };
}

/** Refuses, by its field, what cannot be taken apart so; answers the site it is at. */
async function refuseApart(act: Act, form: Form): Promise<{ items: ReadonlyMap<number, ItemFacts>; siteId: number }> {
  const { items, bins } = await lineFacts(
    act,
    [form.itemId, ...form.parts.map(({ itemId }) => itemId)],
    [form.binId, ...form.parts.flatMap(({ binId }) => binId ?? [])],
  );
  const from = bins.get(form.binId);
  if (!from) throw refuseField(404, 'no-such-bin', 'binId', 'There is no such bin.');
  act.allow('making.record', from.siteId);
  const thing = items.get(form.itemId);
  if (!thing) throw refuseField(404, 'no-such-item', 'itemId', 'There is no such item.');
  if (!thing.stocked) throw refuseField(422, 'not-kept', 'itemId', `${thing.sku} is not kept in stock: there is nothing of it to take apart.`);
  const fault = quantityError(thing, form.quantity, 'quantity');
  if (fault) refuseErrors([fault]);
  await refuseLot(act, thing, form);
  const order = form.parts.map((part) => part.itemId);
  refuseErrors(
    form.parts.flatMap((part, index): FieldError[] => {
      const at = (field: string, sentence: string): FieldError[] => [{ field: `parts.${index}.${field}`, sentence }];
      const facts = items.get(part.itemId);
      if (!facts) return at('itemId', 'There is no such item.');
      if (part.itemId === form.itemId) return at('itemId', `${facts.sku} is no part of itself.`);
      if (!facts.stocked) return at('itemId', `${facts.sku} is not kept in stock: it cannot come back.`);
      if (order.indexOf(part.itemId) < index) return at('itemId', `Line ${order.indexOf(part.itemId) + 1} has this part as well.`);
      if (part.binId !== null && bins.get(part.binId)?.siteId !== from.siteId) return at('binId', 'That is not a bin of this site.');
      if (plannedOf(part).isZero()) return at('planned', 'Say how many it should give, or take the line off.');
      return [quantityError(facts, part.planned, `parts.${index}.planned`, true), quantityError(facts, part.quantity, `parts.${index}.quantity`, true)].flatMap(
        (one) => one ?? [],
      );
    }),
  );
  if (!sharesAgree(form.parts.map(({ share }) => ({ share: share === null ? null : decimal(share) })))) {
    const index = form.parts.findIndex(({ share }) => share === null);
    throw refuseField(422, 'share-missing', `parts.${index}.share`, 'Give each part a share of the cost, or none of them.');
  }
  if (form.parts.every(({ quantity }) => Number(quantity) === 0))
    throw refuseField(422, 'nothing-good', 'parts.0.quantity', 'Nothing of it is good. Write it off on a correction sheet instead.');
  return { items, siteId: from.siteId };
}

async function refuseLot({ tx: { db } }: Act, thing: ItemFacts, { lotId }: Form): Promise<void> {
  if ((thing.tracking !== 'none') !== (lotId !== null))
    throw refuseField(
      422,
      'lots-missing',
      'lotId',
      thing.tracking === 'none' ? `${thing.sku} is kept without lots or serials.` : `Say which ${thing.tracking} of ${thing.sku}.`,
    );
  if (lotId === null) return;
  const [known] = await db
    .select({ id: lot.id })
    .from(lot)
    .where(and(eq(lot.id, lotId), eq(lot.itemId, thing.id)));
  if (!known) throw refuseField(422, 'no-such-lot', 'lotId', `${thing.sku} has no such ${thing.tracking}.`);
}
