import { least, zero, type Decimal } from '../decimal';
import { type Refusal, refuseField } from '../refusal';
import { countersMoved } from './counters';
import { itemOf, placeOf } from './facts';
import { reservedOf, reservedAnew, shortOf } from './serving';
import { siteKey, type DemandLine, type LedgerState, type Movement, type MovementLine, type PlaceKind, type ReservationChange, type SiteState } from './types';

/** How one item stands at one site before and after a movement. */
export interface SiteChange {
  before: SiteState;
  after: SiteState;
}

export interface Reservations {
  releases: ReservationChange[];
  reserves: ReservationChange[];
  sites: SiteChange[];
  notes: string[];
}

/** Goods that are no longer there release what was promised from them; goods merely wanted elsewhere may not be taken from a promise. */
const lossKinds: ReadonlySet<PlaceKind> = new Set(['found-or-lost', 'scrap', 'supplier', 'opening', 'bin']);

/**
 * What the movement does to what is promised: a pick uses its own line's reservation, lost goods release the last served lines,
 * goods that come in serve the short ones. Throws Refusal when it would take what is promised to another order.
 */
export function planReservations(movement: Movement, state: LedgerState): Reservations {
  const touched = new Map<string, SiteState>();
  const unpicked: number[] = [];
  for (const line of movement.lines) moveAtSites(state, touched, movement, line, unpicked);
  const result: Reservations = { releases: [], reserves: [], sites: [], notes: [] };
  for (const [key, moved] of touched) {
    const before = state.sites.get(key) as SiteState;
    const settled = settle(movement, state, moved, [...unpicked, ...(movement.servesFirst ?? [])]);
    note(result, before, settled);
    result.sites.push({ before, after: settled });
  }
  return result;
}

/** Applies a line to the on hand and bench of the sites at its ends, and to the demand it serves, wherever that is. */
function moveAtSites(state: LedgerState, touched: Map<string, SiteState>, movement: Movement, line: MovementLine, unpicked: number[]): void {
  const ends = [
    { place: placeOf(state, line.fromPlaceId), sign: -1 },
    { place: placeOf(state, line.toPlaceId), sign: 1 },
  ];
  for (const { place, sign } of ends) {
    if (place.siteId === null || (place.kind !== 'bin' && place.kind !== 'bench')) continue;
    const key = siteKey(line.itemId, place.siteId);
    const at = touched.get(key) ?? state.sites.get(key);
    if (!at) throw new Error(`the standing of ${key} was not read`);
    const change = line.quantity.times(sign);
    const counts = place.kind === 'bin' && place.sellable && (line.lotId === null || !state.pastUse.has(line.lotId));
    const onHand = counts ? at.onHand.plus(change) : at.onHand;
    const bench = place.kind === 'bench' ? at.bench.plus(change) : at.bench;
    touched.set(key, { ...at, onHand, bench });
  }
  for (const { kind, lineId } of line.serves) {
    const moved = countersMoved(state, line, kind, movement.kind === 'undo');
    // What a supplier sends straight to the customer was never wanted of the site.
    const drawn = (moved.drawn ?? zero).minus(moved.sent ?? zero);
    const site = [...state.sites.values()].find(({ itemId, demand }) => itemId === line.itemId && demand.some((one) => one.lineId === lineId));
    if (drawn.isZero() || !site) continue;
    const key = siteKey(site.itemId, site.siteId);
    const at = touched.get(key) ?? site;
    touched.set(key, { ...at, demand: at.demand.map((one) => (one.lineId === lineId ? drawnFrom(one, drawn) : one)) });
    if (drawn.lt(zero)) unpicked.push(lineId);
  }
}

/** What is drawn for a line lowers what it wants and uses its reservation; what is put back it wants again. */
const drawnFrom = (line: DemandLine, drawn: Decimal): DemandLine => ({
  ...line,
  wanted: line.wanted.minus(drawn),
  reserved: drawn.gt(zero) ? line.reserved.minus(least(line.reserved, drawn)) : line.reserved,
});

function settle(movement: Movement, state: LedgerState, at: SiteState, first: readonly number[]): SiteState {
  const overPicked = at.demand.find((line) => line.wanted.lt(zero) && line.kind !== 'component');
  if (overPicked) {
    const line = movement.lines.find((one) => one.serves.some(({ lineId }) => lineId === overPicked.lineId)) as MovementLine;
    throw refuseField(
      409,
      'more-than-wanted',
      line.field,
      `${overPicked.number} wants ${overPicked.wanted.neg().toFixed()} fewer of ${itemOf(state, at.itemId).sku} than that.`,
    );
  }
  const after = { ...at, demand: reservedAnew(at.onHand, at.demand, first) };
  if (at.onHand.gte(reservedOf(at.demand))) return after;
  const taking = movement.lines.filter((line) => line.itemId === at.itemId && placeOf(state, line.fromPlaceId).siteId === at.siteId);
  // What a customer is said to have had all the time is lost like what is not found.
  const isLost = (line: MovementLine) => {
    const { kind } = placeOf(state, line.toPlaceId);
    return lossKinds.has(kind) || (movement.kind === 'undo' && (kind === 'customer' || kind === 'before-records'));
  };
  if (movement.kind === 'supplier-return' || !taking.every(isLost)) throw refuseTaken(movement, state, at, taking);
  return after;
}

function refuseTaken(movement: Movement, state: LedgerState, at: SiteState, taking: readonly MovementLine[]): Refusal {
  const before = state.sites.get(siteKey(at.itemId, at.siteId)) as SiteState;
  const serving = new Set(movement.lines.flatMap(({ serves }) => serves.map(({ lineId }) => lineId)));
  const own = before.demand.filter((line) => serving.has(line.lineId));
  const others = reservedOf(before.demand).minus(reservedOf(own));
  const may: Decimal = before.onHand.minus(others);
  const { sku } = itemOf(state, at.itemId);
  return refuseField(
    409,
    'promised-elsewhere',
    taking[0]?.field ?? 'lines',
    `Only ${may.toFixed()} of ${sku} may be taken at ${at.siteName}; ${others.toFixed()} are promised to other orders.`,
  );
}

/** Writes down how each line's reservation changed, releases and reserves apart, with a sentence where a line falls short or is served. */
function note(result: Reservations, before: SiteState, after: SiteState): void {
  for (const line of after.demand) {
    const was = before.demand.find(({ lineId }) => lineId === line.lineId) as DemandLine;
    const change = line.reserved.minus(was.reserved);
    if (change.isZero()) continue;
    const entry = { lineId: line.lineId, itemId: after.itemId, siteId: after.siteId, quantity: change };
    (change.lt(zero) ? result.releases : result.reserves).push(entry);
    const shortChange = shortOf([line]).minus(shortOf([was]));
    if (shortChange.gt(zero)) result.notes.push(`${line.number} line ${line.position} becomes short of ${shortChange.toFixed()}.`);
    if (shortChange.lt(zero)) result.notes.push(`${line.number} line ${line.position} gets ${shortChange.neg().toFixed()} it was short of.`);
  }
}
