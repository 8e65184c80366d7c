import { afterMoves, undoMoves } from '../costing/layers';
import { costMethods, type Holding, type LayerMove, type Leaving, type Pool } from '../costing/method';
import { least, money, moneyLimit, shareOf, sum, zero, type Decimal } from '../decimal';
import { Refusal, refuseField } from '../refusal';
import type { Tracking } from '../stock/lots';
import { countersMoved, documentRules, type DocumentKind } from './counters';
import { counted, stateAfter } from './after';
import { notesOf, taxNote } from './effects';
import { itemOf, placeOf } from './facts';
import { borneBy, journalOf, workOf } from './journal';
import { planReservations } from './reservations';
import { holdsFewer } from './sentences';
import {
  balanceKey,
  isOwned,
  type ItemState,
  type LedgerState,
  type LineCounters,
  type Movement,
  type MovementLine,
  type Place,
  type PlaceKind,
  type Plan,
  type PlannedLine,
} from './types';

/**
 * Decides a movement: what each line is worth, which reservations it takes or frees, the journal, and the state after it.
 * The same function serves preview and posting. Throws Refusal, by the field, when the movement may not be.
 */
export function plan(movement: Movement, state: LedgerState): Plan {
  refuseDay(movement, state);
  if (movement.lines.length === 0 && !movement.work) throw new Refusal(422, 'nothing-to-post', 'There is nothing to post: no line changes anything.');
  refuseNotKept(movement, state);
  refuseCounters(movement, state);
  refuseBalances(movement, state);
  refuseTracking(movement, state);
  refuseCounted(movement, state);
  const { lines, holdings } = valueLines(movement, state);
  refuseTooLarge(lines, holdings);
  const reservations = planReservations(movement, state);
  const borne = borneBy(state, movement, lines);
  const work = workOf(state, movement, lines);
  const journal = journalOf(state, lines, borne, movement.work && work ? { charges: movement.work.charges, variance: work.variance } : null);
  const { releases, reserves, sites } = reservations;
  const after = stateAfter(state, movement, { lines, holdings, sites: sites.map((site) => site.after) });
  return { lines, journal, borne, work, releases, reserves, notes: reservations.notes, costNotes: [...notesOf(state, lines), ...taxNote(borne)], after };
}

function refuseDay({ effectiveOn }: Movement, state: LedgerState): void {
  if (effectiveOn > state.today) throw refuseField(422, 'future-day', 'effectiveOn', 'The day lies in the future.');
  if (state.closedThrough !== null && effectiveOn <= state.closedThrough)
    throw refuseField(409, 'period-closed', 'effectiveOn', `The books are closed up to ${state.closedThrough}.`);
}

/** What is not kept in stock comes and goes without lying anywhere. */
function refuseNotKept({ lines }: Movement, state: LedgerState): void {
  for (const line of lines) {
    const { stocked, sku } = itemOf(state, line.itemId);
    if (!stocked && [line.fromPlaceId, line.toPlaceId].some((id) => isOwned(placeOf(state, id).kind)))
      throw refuseField(409, 'not-kept', line.field, `${sku} is not kept in stock: it lies in no bin.`);
  }
}

/** No owned balance goes below zero, now or as of any day since the effective day. */
function refuseBalances(movement: Movement, state: LedgerState): void {
  const change = new Map<string, Decimal>();
  for (const line of movement.lines) {
    if (line.quantity.lte(zero)) throw new Error('a movement line has a quantity above zero');
    const from = placeOf(state, line.fromPlaceId);
    const to = placeOf(state, line.toPlaceId);
    if (to.retired) throw refuseField(409, 'place-retired', line.field, `${to.code} is retired; choose another bin.`);
    const out = balanceKey(line.itemId, line.lotId, from.id);
    const into = balanceKey(line.itemId, line.lotId, to.id);
    const left = (change.get(out) ?? zero).minus(line.quantity);
    change.set(out, left);
    change.set(into, (change.get(into) ?? zero).plus(line.quantity));
    if (isOwned(from.kind)) refuseBelowZero(movement, state, line, from, left);
  }
}

function refuseBelowZero(movement: Movement, state: LedgerState, line: MovementLine, from: Place, change: Decimal): void {
  const key = balanceKey(line.itemId, line.lotId, from.id);
  const there = state.balances.get(key) ?? zero;
  const { sku } = itemOf(state, line.itemId);
  if (there.plus(change).lt(zero)) {
    const gone = movement.kind === 'undo' ? ' The goods have left it since, so this cannot be undone.' : '';
    throw refuseField(409, 'not-enough-stock', line.field, `${holdsFewer(from.code, there, sku, line.quantity)}${gone}`);
  }
  const lowest = state.lowestSince.get(key);
  if (lowest?.plus(change).lt(zero))
    throw refuseField(409, 'not-enough-then', line.field, `${from.code} did not hold that much of ${sku} on every day since ${movement.effectiveOn}.`);
}

/** A counter of a document line never goes below what rests on it, all lines of the movement taken together. */
function refuseCounters(movement: Movement, state: LedgerState): void {
  const known = new Map(state.documents);
  for (const line of movement.lines)
    for (const { kind, lineId } of line.serves) {
      const was = known.get(lineId);
      if (!was) throw new Error('the document line was not read');
      const moved = countersMoved(state, line, kind, movement.kind === 'undo');
      const is = counted(was, moved, null);
      known.set(lineId, is);
      const waits = waitingOf(kind, state.documents.get(lineId) as LineCounters).find((each) =>
        waitingOf(kind, is).some(({ at, left }) => at === each.at && left.lt(zero)),
      );
      if (waits) throw refuseField(409, 'not-picked', line.field, `Only ${waits.left.toFixed()} of ${was.label} ${waitWords[waits.at] ?? 'are under way'}.`);
      if (is.arrived.lt(zero))
        throw refuseField(409, 'not-received', line.field, `Only ${state.documents.get(lineId)?.arrived.toFixed() ?? ''} of ${was.label} have been received.`);
    }
}

/** What was drawn for a document line and is not finished, by where it is. */
function waitingOf(kind: DocumentKind, { drawn, gone, finished }: LineCounters): { at: PlaceKind; left: Decimal }[] {
  const { waitsAt, goesBy } = documentRules[kind];
  if (waitsAt === null) return [];
  if (goesBy === undefined) return [{ at: waitsAt, left: drawn.minus(finished) }];
  return [
    { at: goesBy, left: gone.minus(finished) },
    { at: waitsAt, left: drawn.minus(gone) },
  ];
}

/** Where what was drawn for a document is, in words. */
const waitWords: Partial<Record<PlaceKind, string>> = {
  bench: 'wait on the bench',
  transit: 'are in transit',
  holder: 'are on loan',
  'in-work': 'are in work',
};

const lotWords: Record<Tracking, string> = { none: 'without lots or serials', lot: 'by lots', serial: 'by serials' };

/** What lies in places of ours has a lot or serial exactly when its item is kept by them now; what does not is relabelled. */
function refuseTracking(movement: Movement, state: LedgerState): void {
  if (movement.kind === 'relabel') return;
  for (const { itemId, lotId, fromPlaceId, toPlaceId, field } of movement.lines) {
    if (![fromPlaceId, toPlaceId].some((id) => isOwned(placeOf(state, id).kind))) continue;
    const { sku, tracking } = itemOf(state, itemId);
    const had = lotId === null ? 'none' : (state.lotKinds.get(lotId) ?? tracking);
    if (had === tracking) continue;
    const cannot = movement.kind === 'undo' ? ' It was not when this was posted, so this cannot be undone; correct the stock instead.' : '';
    throw refuseField(409, 'tracking-changed', field, `${sku} is kept ${lotWords[tracking]}.${cannot}`);
  }
}

/** What a bin's last "there are now" contains already is asked about: an undo of something older, and whatever is dated before it. */
function refuseCounted(movement: Movement, state: LedgerState): void {
  if (movement.countedAgreed) return;
  for (const { itemId, lotId, fromPlaceId, toPlaceId, undoes, field } of movement.lines)
    for (const placeId of [fromPlaceId, toPlaceId]) {
      const counted = state.counted.get(balanceKey(itemId, lotId, placeId));
      if (!counted || (movement.kind === 'undo' ? (undoes?.seq ?? 0) > counted.seq : movement.effectiveOn >= counted.day)) continue;
      const { sku } = itemOf(state, itemId);
      const question = movement.kind === 'undo' ? 'Undo it all the same?' : 'Enter it all the same?';
      throw refuseField(
        409,
        'counted-since',
        field,
        `${placeOf(state, placeId).code} was counted on ${counted.day}, and that count of ${sku} contains this already. ${question}`,
        ['counted-since'],
      );
    }
}

/** No line and no pool is worth more than any account can hold. */
function refuseTooLarge(lines: readonly PlannedLine[], holdings: ReadonlyMap<number, Holding>): void {
  const total = new Map<number, Decimal>();
  for (const { itemId, value, variance, field } of lines) {
    total.set(itemId, (total.get(itemId) ?? zero).plus(value.plus(variance).abs()));
    const pool = holdings.get(itemId)?.pool;
    if (total.get(itemId)?.gte(moneyLimit) || pool?.value.gte(moneyLimit) || pool?.quantity.gte(moneyLimit))
      throw refuseField(422, 'too-large', field, 'Quantity times price is more than any account can hold.');
  }
}

function valueLines(movement: Movement, state: LedgerState): { lines: PlannedLine[]; holdings: Map<number, Holding> } {
  const holdings = new Map<number, Holding>();
  const seqs = new Map<number, number>();
  const inputs = new Map<number, Inputs>();
  const { work } = movement;
  const inProgress = { now: work ? work.before.plus(sum(work.charges.map(({ amount }) => amount))) : zero, toCome: work?.toCome ?? zero };
  const lines = movement.lines.map((line): PlannedLine => {
    const item = itemOf(state, line.itemId);
    const holding = holdings.get(line.itemId) ?? item;
    const direction = Number(isOwned(placeOf(state, line.toPlaceId).kind)) - Number(isOwned(placeOf(state, line.fromPlaceId).kind));
    const seq = (seqs.get(line.itemId) ?? item.lastSeq) + 1;
    const isDelivered = placeOf(state, line.fromPlaceId).kind === 'supplier';
    const { stated, value, layerMoves } = valueLine(valuedByInputs(line, inputs, inProgress), item, holding, direction, seq, isDelivered);
    if (direction < 0) inputs.set(line.toPlaceId, takenInto(inputs.get(line.toPlaceId), value.neg()));
    seqs.set(line.itemId, seq);
    const { pool, layers } = holding;
    holdings.set(line.itemId, {
      pool: { quantity: pool.quantity.plus(line.quantity.times(direction)), value: pool.value.plus(value) },
      layers: afterMoves(layers, layerMoves, { lotId: line.lotId }),
    });
    return { ...line, seq, value, variance: stated.minus(value), layerMoves };
  });
  return { lines, holdings };
}

/** What the lines of a movement took out of pools into one place, and what of that has come out of it again. */
interface Inputs {
  taken: Decimal;
  part: Decimal;
  given: Decimal;
}

const takenInto = (had: Inputs | undefined, value: Decimal): Inputs => ({ part: zero, given: zero, ...had, taken: (had?.taken ?? zero).plus(value) });

/**
 * A line that is made of what others put into the place it comes from is worth its cumulative part of that; what work made, of what was in progress before as well and of what is still to come, so that
 * it bears its own whether or not what the others take is recorded already. It takes no more than is in progress.
 */
function valuedByInputs(line: MovementLine, inputs: Map<number, Inputs>, inProgress: { now: Decimal; toCome: Decimal }): MovementLine {
  if (line.valuation.by !== 'inputs' && line.valuation.by !== 'work') return line;
  const had = takenInto(inputs.get(line.fromPlaceId), zero);
  const part = had.part.plus(line.valuation.part);
  const isWork = line.valuation.by === 'work';
  const there = isWork ? had.taken.plus(inProgress.now) : had.taken;
  const given = least(shareOf(isWork ? there.plus(inProgress.toCome) : there, part, line.valuation.whole), there);
  inputs.set(line.fromPlaceId, { ...had, part, given });
  return { ...line, valuation: { by: 'stated', value: given.minus(had.given) } };
}

interface Valued {
  /** Signed value the documents count. */
  stated: Decimal;
  /** Signed change of the pool. */
  value: Decimal;
  layerMoves: LayerMove[];
}

function valueLine(line: MovementLine, item: ItemState, holding: Holding, direction: number, seq: number, isDelivered: boolean): Valued {
  const method = costMethods[item.costMethod];
  if (direction === 0) return { stated: neverOurs(line, isDelivered), value: zero, layerMoves: [] };
  if (!method.keepsLayers) {
    const stated = statedValue(line, item, holding, direction);
    return { stated, value: clamp(holding.pool, line.quantity, direction, movedValue(line, item, holding, direction) ?? stated), layerMoves: [] };
  }
  const layerMoves = movesOf(line, item, holding, direction, seq);
  const value = sum(layerMoves.map((move) => move.value));
  return { stated: line.valuation.by === 'current' ? value : statedOf(line).times(direction), value, layerMoves };
}

/** What it costs that goods go from a supplier straight to a customer or into use, or back the same way: no pool bears it. Below zero on the way back. */
function neverOurs({ valuation }: MovementLine, isDelivered: boolean): Decimal {
  if (valuation.by === 'stated') return valuation.value;
  if (valuation.by !== 'original') return zero;
  // An undo: of what went to a customer or into use it takes the cost off again, of what went back to the supplier it puts it there again.
  return isDelivered ? valuation.value : valuation.value.neg();
}

/** What a line does to the layers of its item: undone as it was done, else a layer of its own in, or the layers it takes out. */
function movesOf(line: MovementLine, item: ItemState, holding: Holding, direction: number, seq: number): LayerMove[] {
  if (line.undoes && line.undoes.layerMoves.length > 0) {
    const moves = undoMoves(holding.layers, line.undoes.layerMoves);
    if (moves === null)
      throw refuseField(409, 'layer-used', line.field, `Some of the ${item.sku} that came in with this have been used since, so it cannot be undone.`);
    return moves;
  }
  if (direction > 0) return [{ layerSeq: seq, quantity: line.quantity, value: statedValue(line, item, holding, direction) }];
  return costMethods[item.costMethod].take(holding, leaving(line)).moves;
}

const leaving = ({ quantity, lotId, takenOff = [] }: MovementLine): Leaving => ({ quantity, lotId, named: takenOff });

/** What goods sent back, or brought back from there, move of the pool; null for all others, which move what is stated. */
function movedValue(line: MovementLine, item: ItemState, holding: Holding, direction: number): Decimal | null {
  if (line.valuation.by !== 'returned') return null;
  return (line.valuation.moved ?? costMethods[item.costMethod].take(holding, leaving(line)).value).times(direction);
}

/** The value that came with the goods. */
function statedOf({ valuation }: MovementLine): Decimal {
  if (valuation.by === 'current' || valuation.by === 'inputs' || valuation.by === 'work') throw new Error('this line has no value of its own');
  return valuation.value;
}

/** Signed value the line would move, before clamping. */
function statedValue(line: MovementLine, item: ItemState, holding: Holding, direction: number): Decimal {
  if (line.valuation.by !== 'current') return statedOf(line).times(direction);
  const method = costMethods[item.costMethod];
  if (direction < 0) return method.take(holding, leaving(line)).value.neg();
  const here = method.worthOf(holding, line.quantity);
  if (here !== null) return here;
  if (item.lastHeld !== null) return shareOf(item.lastHeld.value, line.quantity, item.lastHeld.quantity);
  if (item.purchasePrice !== null) return money(item.purchasePrice.times(line.quantity));
  throw refuseField(422, 'no-cost-known', line.field, `Nothing says yet what one ${item.sku} costs. Give the item a purchase price first.`);
}

/** No posting takes a pool below 0.00 or leaves value on quantity zero. */
function clamp(pool: Pool, quantity: Decimal, direction: number, stated: Decimal): Decimal {
  if (direction >= 0) return stated;
  if (pool.quantity.minus(quantity).lte(zero)) return pool.value.neg();
  return pool.value.plus(stated).lt(zero) ? pool.value.neg() : stated;
}
