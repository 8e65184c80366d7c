import { documentRules } from '@larder/core/ledger/counters';
import { planSteps, type NextStep } from '@larder/core/ledger/steps';
import type { Effects, JournalLine, LineCounters, Movement, Plan, PlannedLine, ReservationChange, Serves } from '@larder/core/ledger/types';
import type { Act } from '../act';
import { lock } from './lock';
import { settlePastDays } from './pastDays';
import { settleLines } from './settleLines';
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
export async function post(act: Act, movement: Movement, { next = [], placeIds = [], imagined = new Map() }: Beyond = {}): Promise<Posting> {
  const itemIds = movement.lines.map(({ itemId }) => itemId);
  await lock.stock(act, itemIds, [...movement.lines.flatMap((line) => [line.fromPlaceId, line.toPlaceId]), ...placeIds]);
  const { steps, effects } = planSteps(movement, next, await readState(act, movement, { placeIds, imagined }));
  if (act.tx.readOnly) return { movementId: null, effects };
  const ids: number[] = [];
  for (const step of steps) {
    await changeReservations(act, step.plan.releases);
    ids.push(await write(act, step.movement, step.plan));
    await changeReservations(act, step.plan.reserves);
  }
  await settleLines(
    act,
    movement.lines.flatMap(({ serves }) => serves.filter(({ kind }) => kind === 'purchase').map(({ lineId }) => lineId)),
    movement.effectiveOn,
  );
  if (movement.effectiveOn < act.today) await settlePastDays(act, itemIds, movement.effectiveOn);
  return { movementId: ids[0] ?? null, effects };
}

const writeSql = `WITH m AS (
    INSERT INTO movement (kind, effective_on, posted_at, person_id, reverses, reason_id, note) VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id),
  l AS (
    INSERT INTO movement_line (movement_id, effective_on, position, item_id, lot_id, quantity, from_place_id, to_place_id, value, variance, seq, supply_line_id, demand_line_id)
    SELECT m.id, $2, x.* FROM m, unnest($8::int[], $9::int[], $10::int[], $11::numeric[], $12::int[], $13::int[], $14::numeric[], $15::numeric[], $16::bigint[], $17::int[], $18::int[]) x),
  e AS (
    INSERT INTO journal_entry (movement_id, effective_on, posted_at, text) SELECT m.id, $2, $3, $19 FROM m WHERE cardinality($20::int[]) > 0 RETURNING id),
  j AS (
    INSERT INTO journal_line (entry_id, account_id, item_id, amount) SELECT e.id, x.* FROM e, unnest($20::int[], $21::int[], $22::numeric[]) x)
  SELECT id FROM m`;

async function write(act: Act, movement: Movement, { lines, journal }: Plan): Promise<number> {
  const [row] = await act.tx.rows<{ id: number }>(writeSql, [...movementValues(act, movement), ...lineValues(lines), ...journalValues(movement, journal)]);
  await writeLayers(act, lines);
  const movementId = (row as { id: number }).id;
  await writeReturned(act, movementId, lines);
  return movementId;
}

const returnedSql = `INSERT INTO goods_returned (line_id, of_line_id, quantity, value, called_off)
  SELECT l.id, x.of_line, x.quantity, x.value, x.called_off FROM unnest($2::int[], $3::bigint[], $4::numeric[], $5::numeric[], $6::numeric[]) x(position, of_line, quantity, value, called_off)
  JOIN movement_line l ON l.movement_id = $1 AND l.position = x.position`;

/** Which receipts goods that go back are taken off. */
async function writeReturned({ tx }: Act, movementId: number, lines: readonly PlannedLine[]): Promise<void> {
  const parts = lines.flatMap(({ takenOff = [] }, index) => takenOff.map((part) => ({ ...part, position: index + 1 })));
  if (parts.length === 0) return;
  await tx.rows(returnedSql, [
    movementId,
    parts.map(({ position }) => position),
    parts.map(({ lineId }) => lineId),
    parts.map(({ quantity }) => quantity.toFixed()),
    parts.map(({ value }) => value.toFixed(2)),
    parts.map(({ calledOff }) => calledOff.toFixed()),
  ]);
}

const layerSql = `INSERT INTO layer_line (item_id, layer_seq, seq, quantity, value) SELECT * FROM unnest($1::int[], $2::bigint[], $3::bigint[], $4::numeric[], $5::numeric[])`;

/** What the lines do to layers of cost; nothing for items under moving average. */
async function writeLayers({ tx }: Act, lines: readonly PlannedLine[]): Promise<void> {
  const moves = lines.flatMap(({ itemId, seq, layerMoves }) => layerMoves.map((move) => ({ ...move, itemId, seq })));
  if (moves.length === 0) return;
  await tx.rows(layerSql, [
    moves.map(({ itemId }) => itemId),
    moves.map(({ layerSeq }) => layerSeq),
    moves.map(({ seq }) => seq),
    moves.map(({ quantity }) => quantity.toFixed()),
    moves.map(({ value }) => value.toFixed(2)),
  ]);
}

const movementValues = (act: Act, movement: Movement): unknown[] => [
  movement.kind,
  movement.effectiveOn,
  act.now.toISOString(),
  act.by.id,
  movement.reversesId,
  movement.reasonId,
  movement.note,
];

const lineValues = (lines: readonly PlannedLine[]): unknown[] => [
  lines.map((_, index) => index + 1),
  lines.map((line) => line.itemId),
  lines.map((line) => line.lotId),
  lines.map((line) => line.quantity.toFixed()),
  lines.map((line) => line.fromPlaceId),
  lines.map((line) => line.toPlaceId),
  lines.map((line) => line.value.toFixed(2)),
  lines.map((line) => line.variance.toFixed(2)),
  lines.map((line) => line.seq),
  lines.map(({ serves }) => servedOn(serves, 'supply')),
  lines.map(({ serves }) => servedOn(serves, 'demand')),
];

/** Which document line is served on that side; null when none is. */
const servedOn = (serves: readonly Serves[], side: 'supply' | 'demand'): number | null =>
  serves.find(({ kind }) => documentRules[kind].side === side)?.lineId ?? null;

const journalValues = (movement: Movement, journal: readonly JournalLine[]): unknown[] => [
  movement.note === '' ? movement.kind : `${movement.kind}: ${movement.note}`,
  journal.map((line) => line.accountId),
  journal.map((line) => line.itemId),
  journal.map((line) => line.amount.toFixed(2)),
];

const releaseSql = `UPDATE reservation r SET quantity = r.quantity + x.quantity FROM unnest($1::int[], $2::numeric[]) x(line, quantity) WHERE r.line_id = x.line AND r.lot_id IS NULL`;
const reserveSql = `INSERT INTO reservation (line_id, quantity, item_id, site_id) SELECT * FROM unnest($1::int[], $2::numeric[], $3::int[], $4::int[])
  ON CONFLICT (line_id, lot_id) DO UPDATE SET quantity = reservation.quantity + excluded.quantity`;

/** Writes changes of what is reserved; the items' pools are locked. */
export async function changeReservations({ tx }: Pick<Act, 'tx'>, changes: readonly ReservationChange[]): Promise<void> {
  const released = changes.filter(({ quantity }) => quantity.lt(0));
  const reserved = changes.filter(({ quantity }) => quantity.gt(0));
  if (released.length > 0) await tx.rows(releaseSql, [released.map((c) => c.lineId), released.map((c) => c.quantity.toFixed())]);
  if (reserved.length > 0)
    await tx.rows(reserveSql, [
      reserved.map((c) => c.lineId),
      reserved.map((c) => c.quantity.toFixed()),
      reserved.map((c) => c.itemId),
      reserved.map((c) => c.siteId),
    ]);
}
