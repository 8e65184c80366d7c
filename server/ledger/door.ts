import type { Decimal } from '@larder/core/decimal';
import { documentRules } from '@larder/core/ledger/counters';
import { planSteps, type NextStep, type Step } from '@larder/core/ledger/steps';
import type { Borne, Effects, LineCounters, Movement, Plan, PlannedLine, ReservationChange, Serves, WorkMoved } from '@larder/core/ledger/types';
import { and, eq, exists, isNull, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { given, insertFrom, insertRows, jsonOf, orNull } from '../db/given';
import { prepared, preparedWrite } from '../db/prepared';
import { cameBack, costBearer, goodsReturned, journalEntry, journalLine, layerLine, movement, movementLine, reservation, workAmount } from '../db/schema/index';
import { lock } from './lock';
import { moveStrandedValue } from './pastDays';
import { clearCents } from './clearCents';
import { readState } from './state';

export interface Posting {
  /** Null for a preview. */
  movementId: number | null;
  effects: Effects;
}

/** What a posting needs to know beyond what its first movement names. */
interface Beyond {
  /** Steps that follow on from the movement, in its own transaction. */
  next?: readonly NextStep[];
  /** Places that those may use. */
  placeIds?: readonly number[];
  /** Lines of a document that a preview does not write, as they would be. */
  imagined?: ReadonlyMap<number, LineCounters>;
}

/**
 * The one door: decides a movement and what follows on from it and, unless the act is a preview, writes it. The caller has locked the documents it serves.
 * Nothing else writes movements, lines, balances, pools or journal. Gives the id of the first movement.
 */
export async function post(act: Act, first: Movement, beyond: Beyond = {}): Promise<Posting> {
  const { steps: _steps, ...posting } = await postSteps(act, first, beyond);
  return posting;
}

/** The same, with what was decided of each step. */
export async function postSteps(
  act: Act,
  first: Movement,
  { next = [], placeIds = [], imagined = new Map() }: Beyond = {},
): Promise<Posting & { steps: readonly Step[] }> {
  const itemIds = first.lines.map(({ itemId }) => itemId);
  // Both are sent at once: the state is read when the locks are there.
  const locking = lock.stock(act, itemIds, [...first.lines.flatMap((line) => [line.fromPlaceId, line.toPlaceId]), ...placeIds]);
  const [state] = await Promise.all([readState(act, first, { placeIds, imagined }), locking]);
  const { steps, effects } = planSteps(first, next, state);
  if (act.tx.readOnly) return { movementId: null, effects, steps };
  const ids: number[] = [];
  for (const step of steps) {
    await changeReservations(act, step.plan.releases);
    ids.push(await write(act, step.movement, step.plan));
    await changeReservations(act, step.plan.reserves, step.movement.kind === 'undo' ? null : act.now);
  }
  await clearCents(
    act,
    first.lines.flatMap(({ serves }) => serves.filter(({ kind }) => kind === 'purchase').map(({ lineId }) => lineId)),
    first.effectiveOn,
  );
  if (first.effectiveOn < act.today) await moveStrandedValue(act, itemIds, first.effectiveOn);
  return { movementId: ids[0] ?? null, effects, steps };
}

const writeMovement = prepared(['kind', 'effectiveOn', 'postedAt', 'personId', 'reverses', 'reasonId', 'note', 'lines', 'text', 'journal'], (db, value) => {
  const { kind, effectiveOn, postedAt, personId, reverses, reasonId, note } = value;
  const written = db.$with('written').as(db.insert(movement).values({ kind, effectiveOn, postedAt, personId, reverses, reasonId, note }).returning());
  const moved = given('moved', lineColumns, value.lines);
  const { accountId, itemId, amount, departmentId } = journalLine;
  const booked = given('booked', { accountId, itemId, amount, departmentId }, value.journal);
  const lines = db.$with('lines', {}).as(
    insertFrom(
      movementLine,
      db
        .select({ movementId: written.id, effectiveOn: written.effectiveOn, ...moved.row })
        .from(written)
        .crossJoin(moved.rows),
    ),
  );
  const entryHead = db
    .select({ movementId: written.id, effectiveOn: written.effectiveOn, postedAt: written.postedAt, text: sql`${value.text}::text` })
    .from(written)
    .where(exists(db.select({ one: sql`1` }).from(booked.rows)));
  const entry = db.$with('entry', { id: journalEntry.id }).as(insertFrom(journalEntry, entryHead, sql`returning id`));
  const entryLines = db.$with('entry_lines', {}).as(
    insertFrom(
      journalLine,
      db
        .select({ entryId: entry.id, ...booked.row })
        .from(entry)
        .crossJoin(booked.rows),
    ),
  );
  return db.with(written, lines, entry, entryLines).select({ id: written.id }).from(written);
});

async function write(
  act: Act,
  { kind, effectiveOn, reversesId, reasonId, note, work: moved }: Movement,
  { lines, journal, borne, work }: Plan,
): Promise<number> {
  const [row] = await writeMovement(act.tx, {
    kind,
    effectiveOn,
    postedAt: act.now.toISOString(),
    personId: act.by.id,
    reverses: reversesId,
    reasonId,
    note,
    lines: jsonOf(lines.map(lineRow)),
    text: note === '' ? kind : `${kind}: ${note}`,
    journal: jsonOf(journal.map(({ amount, ...line }) => ({ ...line, amount: amount.toFixed(2) }))),
  });
  if (!row) throw new Error('the movement was not written');
  await writeLayers(act, lines);
  await writeReturned(act, row.id, lines);
  await writeCameBack(act, row.id, lines);
  if (borne) await writeBearer(act, row.id, borne);
  if (moved && work) await writeWork(act, row.id, moved, work.variance);
  return row.id;
}

const lineColumns = {
  position: movementLine.position,
  itemId: movementLine.itemId,
  lotId: movementLine.lotId,
  quantity: movementLine.quantity,
  fromPlaceId: movementLine.fromPlaceId,
  toPlaceId: movementLine.toPlaceId,
  value: movementLine.value,
  variance: movementLine.variance,
  seq: movementLine.seq,
  supplyLineId: movementLine.supplyLineId,
  demandLineId: movementLine.demandLineId,
};

const lineRow = (line: PlannedLine, index: number) => ({
  position: index + 1,
  itemId: line.itemId,
  lotId: line.lotId,
  quantity: line.quantity.toFixed(),
  fromPlaceId: line.fromPlaceId,
  toPlaceId: line.toPlaceId,
  value: line.value.toFixed(2),
  variance: line.variance.toFixed(2),
  seq: line.seq,
  supplyLineId: servedOn(line.serves, 'supply'),
  demandLineId: servedOn(line.serves, 'demand'),
});

/** Which receipts goods that go back are taken off. */
async function writeReturned({ tx }: Act, movementId: number, lines: readonly PlannedLine[]): Promise<void> {
  const parts = lines.flatMap(({ takenOff = [] }, index) =>
    takenOff.map(({ lineId, quantity, value, calledOff }) => ({
      position: index + 1,
      ofLineId: lineId,
      quantity: quantity.toFixed(),
      value: value.toFixed(2),
      calledOff: calledOff.toFixed(),
    })),
  );
  if (parts.length === 0) return;
  const { ofLineId, quantity, value, calledOff } = goodsReturned;
  const { rows, row } = given('part', { position: movementLine.position, ofLineId, quantity, value, calledOff }, parts);
  const returned = tx.db
    .select({ lineId: movementLine.id, ofLineId: row.ofLineId, quantity: row.quantity, value: row.value, calledOff: row.calledOff })
    .from(rows)
    .innerJoin(movementLine, and(eq(movementLine.movementId, movementId), eq(movementLine.position, row.position)));
  await tx.db.execute(insertFrom(goodsReturned, returned));
}

/** What goods that came back went out with. */
async function writeCameBack({ tx }: Act, movementId: number, lines: readonly PlannedLine[]): Promise<void> {
  const parts = lines.flatMap(({ cameBack: back = [], lossAccount }, index) =>
    back.map(({ quantity, value, ...part }) => ({
      position: index + 1,
      ...part,
      quantity: quantity.toFixed(),
      value: value.toFixed(2),
      lossAccountId: lossAccount ?? null,
    })),
  );
  if (parts.length === 0) return;
  const { ofLineId, returnId, quantity, value, lossAccountId } = cameBack;
  const { rows, row } = given('part', { position: movementLine.position, ofLineId, returnId, quantity, value, lossAccountId: orNull(lossAccountId) }, parts);
  const back = tx.db
    .select({
      lineId: movementLine.id,
      ofLineId: row.ofLineId,
      returnId: row.returnId,
      quantity: row.quantity,
      value: row.value,
      lossAccountId: row.lossAccountId,
    })
    .from(rows)
    .innerJoin(movementLine, and(eq(movementLine.movementId, movementId), eq(movementLine.position, row.position)));
  await tx.db.execute(insertFrom(cameBack, back));
}

/** What bears the cost, and the tax on it. */
async function writeBearer({ tx: { db } }: Act, movementId: number, { accountId, departmentId, tax }: Borne): Promise<void> {
  const taxed = tax && { taxCodeId: tax.taxCodeId, taxRate: tax.rate.toFixed(), taxBase: tax.base.toFixed(2), tax: tax.owed.toFixed(2) };
  await db.insert(costBearer).values({ movementId, accountId, departmentId, ...taxed });
}

/** What went into work in progress and out of it beside goods. */
async function writeWork({ tx }: Act, movementId: number, { orderId, charges, carried }: WorkMoved, variance: Decimal): Promise<void> {
  const plain = { movementId, accountId: null, name: '', per: null, quantity: null, rate: null };
  const rows = [
    ...charges.map(({ quantity, rate, amount, ...charge }) => ({
      ...charge,
      movementId,
      workOrderId: orderId,
      kind: 'charge' as const,
      quantity: quantity.toFixed(),
      rate: rate.toFixed(),
      amount: amount.toFixed(2),
    })),
    { ...plain, workOrderId: orderId, kind: 'variance' as const, amount: variance.neg().toFixed(2) },
    ...(carried
      ? [
          { ...plain, workOrderId: orderId, kind: 'carried' as const, amount: carried.amount.neg().toFixed(2) },
          { ...plain, workOrderId: carried.toOrderId, kind: 'carried' as const, amount: carried.amount.toFixed(2) },
        ]
      : []),
  ].filter(({ kind, amount }) => kind === 'charge' || !['0.00', '-0.00'].includes(amount));
  if (rows.length > 0) await tx.db.insert(workAmount).values(rows);
}

/** What the lines do to layers of cost; nothing for items under moving average. */
const writeLayers = ({ tx }: Act, lines: readonly PlannedLine[]): Promise<void> =>
  insertRows(
    tx,
    layerLine,
    lines.flatMap(({ itemId, seq, layerMoves }) =>
      layerMoves.map(({ layerSeq, quantity, value }) => ({ itemId, layerSeq, seq, quantity: quantity.toFixed(), value: value.toFixed(2) })),
    ),
  );

/** Which document line is served on that side; null when none is. */
const servedOn = (serves: readonly Serves[], side: 'supply' | 'demand'): number | null =>
  serves.find(({ kind }) => documentRules[kind].side === side)?.lineId ?? null;

const changed = {
  lineId: reservation.lineId,
  quantity: reservation.quantity,
  itemId: reservation.itemId,
  siteId: reservation.siteId,
  servedAt: orNull(reservation.servedAt),
};

const release = preparedWrite(['changes'], (db, value) => {
  const { rows, row } = given('change', changed, value.changes);
  return db
    .update(reservation)
    .set({ quantity: sql`${reservation.quantity} + ${row.quantity}` })
    .from(rows)
    .where(and(eq(reservation.lineId, row.lineId), isNull(reservation.lotId)));
});

const more = sql`on conflict (line_id, lot_id) do update set quantity = ${reservation.quantity} + excluded.quantity, served_at = coalesce(excluded.served_at, ${reservation.servedAt})`;

/** Writes changes of what is reserved; the items' pools are locked. `servedAt` is when stock came in that is reserved by it. */
export async function changeReservations({ tx }: Pick<Act, 'tx'>, changes: readonly ReservationChange[], servedAt: Date | null = null): Promise<void> {
  const rows = (some: readonly ReservationChange[]) =>
    some.map(({ lineId, itemId, siteId, quantity }) => ({ lineId, itemId, siteId, quantity: quantity.toFixed(), servedAt: servedAt?.toISOString() ?? null }));
  const released = changes.filter(({ quantity }) => quantity.lt(0));
  const reserved = changes.filter(({ quantity }) => quantity.gt(0));
  if (released.length > 0) await release(tx, { changes: jsonOf(rows(released)) });
  await insertRows(tx, reservation, rows(reserved), more);
}
