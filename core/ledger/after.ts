import type { Holding } from '../costing/method';
import { zero, type Decimal } from '../decimal';
import { countersMoved } from './counters';
import { itemOf } from './facts';
import { balanceKey, siteKey, type ItemState, type LedgerState, type LineCounters, type Movement, type PlannedLine, type SiteState } from './types';

/** What is known once a movement is posted: the same as the database's rules leave, so that a further step can be decided over it. */
export function stateAfter(
  state: LedgerState,
  movement: Movement,
  { lines, holdings, sites }: { lines: readonly PlannedLine[]; holdings: ReadonlyMap<number, Holding>; sites: readonly SiteState[] },
): LedgerState {
  return {
    ...state,
    items: itemsAfter(state, lines, holdings),
    balances: balancesAfter(state.balances, lines),
    lowestSince: balancesAfter(state.lowestSince, lines, true),
    sites: new Map([...state.sites, ...sites.map((site) => [siteKey(site.itemId, site.siteId), site] as const)]),
    documents: documentsAfter(state, movement, lines),
  };
}

function balancesAfter(before: ReadonlyMap<string, Decimal>, lines: readonly PlannedLine[], knownOnly = false): Map<string, Decimal> {
  const balances = new Map(before);
  const add = (key: string, change: Decimal) => {
    if (!knownOnly || before.has(key)) balances.set(key, (balances.get(key) ?? zero).plus(change));
  };
  for (const { itemId, lotId, fromPlaceId, toPlaceId, quantity } of lines) {
    add(balanceKey(itemId, lotId, fromPlaceId), quantity.neg());
    add(balanceKey(itemId, lotId, toPlaceId), quantity);
  }
  return balances;
}

function itemsAfter(state: LedgerState, lines: readonly PlannedLine[], holdings: ReadonlyMap<number, Holding>): Map<number, ItemState> {
  const items = new Map(state.items);
  const lastSeq = new Map(lines.map(({ itemId, seq }) => [itemId, seq]));
  for (const [itemId, { pool, layers }] of holdings) {
    const was = itemOf(state, itemId);
    // What it held when it last held anything: looked at once the whole movement is done.
    const lastHeld = pool.quantity.gt(zero) ? pool : was.pool.quantity.gt(zero) ? was.pool : was.lastHeld;
    items.set(itemId, { ...was, pool, layers: layers.filter(({ quantity }) => quantity.gt(zero)), lastSeq: lastSeq.get(itemId) ?? was.lastSeq, lastHeld });
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
    gone: was.gone.plus(moved.gone ?? zero),
    finished: was.finished.plus(moved.finished ?? zero),
    open: bought ? was.open.plus(bought.value).plus(bought.variance) : was.open,
  };
}
