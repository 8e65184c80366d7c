import { afterMoves } from '../costing/layers';
import { zero, type Decimal } from '../decimal';
import { countersMoved } from './counters';
import { itemOf, placeOf } from './facts';
import { balanceKey, isOwned, siteKey, type ItemState, type LedgerState, type LineCounters, type Movement, type PlannedLine, type SiteState } from './types';

/** What is known once a movement is posted: the same as the database's rules leave, so that a further step can be decided over it. */
export function stateAfter(state: LedgerState, movement: Movement, lines: readonly PlannedLine[], sites: readonly SiteState[]): LedgerState {
  return {
    ...state,
    items: itemsAfter(state, lines),
    balances: balancesAfter(state.balances, lines),
    lowestSince: balancesAfter(state.lowestSince, lines, [...state.lowestSince.keys()]),
    sites: new Map([...state.sites, ...sites.map((site) => [siteKey(site.itemId, site.siteId), site] as const)]),
    documents: documentsAfter(state, movement, lines),
  };
}

function balancesAfter(before: ReadonlyMap<string, Decimal>, lines: readonly PlannedLine[], only?: readonly string[]): Map<string, Decimal> {
  const balances = new Map(before);
  const add = (key: string, change: Decimal) => {
    if (only === undefined || only.includes(key)) balances.set(key, (balances.get(key) ?? zero).plus(change));
  };
  for (const { itemId, lotId, fromPlaceId, toPlaceId, quantity } of lines) {
    add(balanceKey(itemId, lotId, fromPlaceId), quantity.neg());
    add(balanceKey(itemId, lotId, toPlaceId), quantity);
  }
  return balances;
}

function itemsAfter(state: LedgerState, lines: readonly PlannedLine[]): Map<number, ItemState> {
  const items = new Map(state.items);
  for (const line of lines) {
    const was = itemOf({ items }, line.itemId);
    const direction = Number(isOwned(placeOf(state, line.toPlaceId).kind)) - Number(isOwned(placeOf(state, line.fromPlaceId).kind));
    const pool = { quantity: was.pool.quantity.plus(line.quantity.times(direction)), value: was.pool.value.plus(line.value) };
    const layers = afterMoves(was.layers, line.layerMoves, { lotId: line.lotId }).filter(({ quantity }) => quantity.gt(zero));
    items.set(line.itemId, { ...was, pool, layers, lastSeq: line.seq });
  }
  // What it held when it last held anything: looked at once the whole movement is done.
  for (const itemId of new Set(lines.map((line) => line.itemId))) {
    const [before, is] = [itemOf(state, itemId), itemOf({ items }, itemId)];
    const lastHeld = is.pool.quantity.gt(zero) ? is.pool : before.pool.quantity.gt(zero) ? before.pool : before.lastHeld;
    items.set(itemId, { ...is, lastHeld });
  }
  return items;
}

function documentsAfter(state: LedgerState, movement: Movement, lines: readonly PlannedLine[]): Map<number, LineCounters> {
  const documents = new Map(state.documents);
  for (const line of lines)
    for (const { kind, lineId } of line.serves) {
      const was = documents.get(lineId);
      if (was) documents.set(lineId, counted(was, countersMoved(state, line, kind, movement.kind === 'undo'), kind === 'purchase' ? line : null));
    }
  return documents;
}

/** Counters with what a line adds to them, and with what goods that were bought came in at. */
export function counted(was: LineCounters, moved: ReturnType<typeof countersMoved>, bought: Pick<PlannedLine, 'value' | 'variance'> | null): LineCounters {
  return {
    ...was,
    arrived: was.arrived.plus(moved.arrived ?? zero),
    drawn: was.drawn.plus(moved.drawn ?? zero),
    finished: was.finished.plus(moved.finished ?? zero),
    open: bought ? was.open.plus(bought.value).plus(bought.variance) : was.open,
  };
}
