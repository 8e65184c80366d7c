import type * as contract from '@larder/contract/workOrders';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, least, quantityText } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { beyondLots } from '@larder/core/stock/transfers';
import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { movementLine, place, standingMovement } from '../../db/schema/index';
import { takeToBench, type GoingOut, type LineGoingOut } from '../../documents/goingOut';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { chosen, picksOf } from '../../documents/picks';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { freeAt } from './inUse';
import { workNow, type WorkNowRow } from './orderQueries';
import { decide, endCancelled, orderHead, refuseEnded, setDecision, takeWorkOrder } from './decisions';
import { addComponents } from './orderLines';

/** What to take from which bin for a work order. */
export async function workPickList(act: Act, id: number): Promise<ResponseOf<typeof contract.workPickList>> {
  const { siteId } = await workNow(act, id);
  act.allow('look', siteId);
  return picksOf(act, [{ kind: 'work', id }], [siteId]);
}

/** Which bins so many of these components would be taken from, whatever the order says. */
export async function workTaking(act: Act, id: number, { lines: asked }: BodyOf<typeof contract.workTaking>): Promise<ResponseOf<typeof contract.workTaking>> {
  const now = await workNow(act, id);
  act.allow('look', now.siteId);
  const free = await freeAt(
    act,
    now.lines.map(({ itemId }) => itemId),
    now.siteId,
  );
  const lines = asked.flatMap(({ lineId, quantity }) => {
    const line = now.lines.find((one) => one.id === lineId);
    if (!line?.stocked) return [];
    const { itemId, position, sku, name, unit, step } = line;
    const reserved = least(decimal(line.reserved), decimal(quantity)).toFixed();
    const wanted = { lineId, kind: 'work' as const, orderId: id, itemId, siteId: now.siteId, position, sku, name, unit, step };
    return [{ ...wanted, wanted: quantity, reserved, fromBinId: null, free: free.get(itemId) ?? '0' }];
  });
  return chosen(act, lines, [now.siteId]);
}

/** Work orders as parts are taken for them: locked, with where their parts go. */
export async function goingWork(act: Act, ids: readonly number[]): Promise<GoingOut[]> {
  const sorted = [...ids].sort((one, other) => one - other);
  await lock.workOrders(act, sorted);
  const found: GoingOut[] = [];
  for (const id of sorted) {
    const now = await workNow(act, id);
    const { inWorkId } = await workPlaces(act, now.siteId);
    found.push(goingOf(now, inWorkId));
  }
  return found;
}

const goingOf = (now: WorkNowRow, inWorkId: number): GoingOut => ({
  number: now.number,
  lines: new Map(
    now.lines.map(({ id, itemId, sku, stocked }): [number, LineGoingOut] => [
      id,
      {
        id,
        kind: 'work',
        ownerId: now.id,
        number: now.number,
        itemId,
        sku,
        siteId: now.siteId,
        waitsAtId: inWorkId,
        active: now.released && !now.ended,
        stocked,
      },
    ]),
  ),
});

/** Takes parts from bins to the work. */
export async function pickWorkOrder(act: Act, id: number, form: BodyOf<typeof contract.pickWorkOrder>): Promise<Posting> {
  const [going] = await goingWork(act, [id]);
  if (!going) throw new Refusal(404, 'not-found', 'There is no such work order.');
  return takeToBench(act, going, form);
}

/** Where parts are while they are worked on at a site, where they go as they are used, and what has no bin there. */
export async function workPlaces({ tx: { db } }: Act, siteId: number): Promise<{ inWorkId: number; madeId: number; unplacedId: number }> {
  const [row] = await db
    .select({
      inWorkId: sql<number>`min(${place.id}) filter (where ${place.kind} = 'in-work' and ${place.siteId} = ${siteId})`,
      madeId: sql<number>`min(${place.id}) filter (where ${place.kind} = 'made')`,
      unplacedId: sql<number>`min(${place.id}) filter (where ${place.unplaced} and ${place.siteId} = ${siteId})`,
    })
    .from(place);
  if (!row?.inWorkId || !row.madeId) throw new Error(`site ${siteId} has no place for work`);
  return row;
}

/** Adds a part that the order did not say: it says none of it, but it can be taken and recorded. */
export async function addComponent(
  act: Act,
  id: number,
  { itemId, quantity }: BodyOf<typeof contract.addComponent>,
): Promise<ResponseOf<typeof contract.addComponent>> {
  const now = await takeWorkOrder(act, id, null, 'making.record');
  refuseEnded(now);
  const { items } = await lineFacts(act, [itemId as number]);
  const facts = items.get(itemId as number);
  if (!facts) throw refuseField(404, 'no-such-item', 'itemId', 'There is no such item.');
  if (!facts.stocked) throw refuseField(422, 'not-kept', 'itemId', `${facts.sku} is not kept in stock: there is nothing of it to take.`);
  if (facts.id === now.itemId) throw refuseField(422, 'of-itself', 'itemId', `${facts.sku} cannot be made of itself.`);
  const there = now.lines.find((line) => line.itemId === facts.id);
  if (there) throw refuseField(422, 'there-already', 'itemId', `${facts.sku} is one of its parts already.`);
  const fault = quantityError(facts, quantity, 'quantity');
  if (fault) refuseErrors([fault]);
  let lineId: number | null = null;
  const had = Math.max(0, ...now.lines.map(({ position }) => position));
  const posting = await decide(
    act,
    now,
    () => null,
    async () => {
      [lineId = null] = await addComponents(act, orderHead(now), [{ itemId: facts.id, quantity, note: '', cancelled: quantity }], items, had);
      await setDecision(act, now, {}, `${quantityText(decimal(quantity))} ${facts.sku} added`);
    },
  );
  return { ...posting, lineId };
}

/** Brings parts from the work back to bins. */
export async function bringBack(act: Act, id: number, form: BodyOf<typeof contract.bringBack>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, null, 'making.record');
  refuseEnded(now);
  const { items, bins } = await lineFacts(
    act,
    now.lines.map(({ itemId }) => itemId),
    form.lines.map(({ binId }) => binId),
  );
  refuseErrors(
    form.lines.flatMap(({ lineId, binId, quantity }, index): FieldError[] => {
      const line = now.lines.find((one) => one.id === lineId);
      if (!line) return [{ field: `lines.${index}.lineId`, sentence: `That line is not on ${now.number}.` }];
      if (bins.get(binId)?.siteId !== now.siteId) return [{ field: `lines.${index}.binId`, sentence: 'That is not a bin of this site.' }];
      const facts = items.get(line.itemId);
      const fault = facts && quantityError(facts, quantity, `lines.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  refuseBeyondWork(now, form.lines, (index) => `lines.${index}.quantity`);
  const { inWorkId } = await workPlaces(act, now.siteId);
  const lines = form.lines.map((line, index) => backLine(now, inWorkId, line, `lines.${index}.quantity`));
  return post(act, { kind: 'brought-back', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: '' });
}

interface AtWork {
  lineId: number;
  lotId: number | null;
  quantity: string;
}

/** Refuses, by the field, more of a component and lot than is at the work. */
export function refuseBeyondWork(now: WorkNowRow, asked: readonly AtWork[], fieldOf: (index: number) => string): void {
  const there = now.lines.flatMap((line) => line.lots.map(({ lotId, quantity }) => ({ lineId: line.id, lotId, quantity: decimal(quantity) })));
  const beyond = beyondLots(
    there,
    asked.map(({ lineId, lotId, quantity }) => ({ lineId, lotId, quantity: decimal(quantity) })),
  );
  if (!beyond) return;
  const line = now.lines.find((one) => one.id === asked[beyond.index]?.lineId);
  const lot = line?.lots.find((one) => one.lotId === asked[beyond.index]?.lotId)?.lot;
  throw refuseField(
    409,
    'not-at-work',
    fieldOf(beyond.index),
    `Only ${quantityText(beyond.left)} of ${[line?.sku, lot].filter((word) => word).join(' ')} are at the work of ${now.number}.`,
  );
}

const backLine = (now: WorkNowRow, inWorkId: number, { lineId, lotId, quantity, binId }: AtWork & { binId: number }, field: string): MovementLine => ({
  itemId: now.lines.find((line) => line.id === lineId)?.itemId ?? 0,
  lotId,
  quantity: decimal(quantity),
  fromPlaceId: inWorkId,
  toPlaceId: binId,
  valuation: { by: 'current' },
  serves: [{ kind: 'component', lineId }],
  field,
});

/** What is at the work of an order goes back: each to the bin it was last taken from, as long as that is in use; else to the place for what has no bin. `left` says how much of it, by component and lot. */
export async function backLines(act: Act, now: WorkNowRow, left: readonly AtWork[]): Promise<{ lines: MovementLine[]; binIds: number[] }> {
  if (left.length === 0) return { lines: [], binIds: [] };
  const { inWorkId, unplacedId } = await workPlaces(act, now.siteId);
  const taken = await act.tx.db
    .selectDistinctOn([movementLine.demandLineId, movementLine.lotId], {
      lineId: sql<number>`${movementLine.demandLineId}`,
      lotId: movementLine.lotId,
      binId: place.id,
    })
    .from(movementLine)
    .innerJoin(standingMovement, eq(standingMovement.id, movementLine.movementId))
    .innerJoin(place, and(eq(place.id, movementLine.fromPlaceId), eq(place.kind, 'bin'), isNull(place.retiredAt)))
    .where(
      and(
        among(
          movementLine.demandLineId,
          left.map(({ lineId }) => lineId),
        ),
        eq(movementLine.toPlaceId, inWorkId),
      ),
    )
    .orderBy(movementLine.demandLineId, movementLine.lotId, desc(movementLine.id));
  const lines = left.map((one) => {
    const binId = taken.find((bin) => bin.lineId === one.lineId && bin.lotId === one.lotId)?.binId ?? unplacedId;
    return backLine(now, inWorkId, { ...one, binId }, 'lines');
  });
  return { lines, binIds: lines.map(({ toPlaceId }) => toPlaceId) };
}

/** Everything that is at the work of an order. */
export const allAtWork = (now: WorkNowRow): AtWork[] =>
  now.lines.flatMap((line) => line.lots.map(({ lotId, quantity }) => ({ lineId: line.id, lotId, quantity })));

/** Cancels a work order; what was taken for it goes back to where it was taken from. Refuses one of which something was recorded. */
export async function cancelWorkOrder(act: Act, id: number, { version }: BodyOf<typeof contract.cancelWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, version);
  refuseEnded(now);
  if (now.records.some(({ undone }) => !undone) || now.rests.length > 0)
    throw new Refusal(409, 'recorded', `Work was recorded on ${now.number} already. Undo that first, or record what is left and give up the rest.`);
  if (Number(now.inProgress) !== 0)
    throw new Refusal(
      409,
      'in-progress',
      `${now.number} goes on with work in progress of ${now.restOf?.number ?? 'another order'}; undo what parted them instead.`,
    );
  const { lines } = await backLines(act, now, allAtWork(now));
  if (lines.length === 0) return endCancelled(act, now);
  const posting = await post(act, { kind: 'brought-back', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: `${now.number} cancelled` });
  if (!act.tx.readOnly) await endCancelled(act, now);
  return posting;
}
