import { least, zero, type Decimal } from '../decimal';
import { counterRules, type DocumentKind } from './counters';
import { itemOf, placeOf } from './facts';
import type { NextStep } from './steps';
import { siteKey, type LedgerState, type MovementLine } from './types';

/**
 * Carries what comes in straight on to the bench, for the order lines it was reserved for as it came: lot by lot, as far as it goes into bins that are
 * sold from. `wanted` says of which lines of the request. The benches of the sites must have been read.
 */
export const crossDock =
  (wanted: ReadonlySet<number>): NextStep =>
  (done, state) => {
    const receipt = done[0];
    if (!receipt) return null;
    const here = receipt.movement.lines
      .filter(({ of, pastUse, toPlaceId }) => pastUse !== true && of !== undefined && wanted.has(of) && placeOf(state, toPlaceId).sellable)
      .map((line) => ({ line, left: line.quantity }));
    const lines: MovementLine[] = [];
    for (const { lineId, itemId, siteId, quantity } of receipt.plan.reserves) {
      const bench = benchOf(state, siteId);
      const wants = state.sites.get(siteKey(itemId, siteId))?.demand.find((demand) => demand.lineId === lineId);
      if (wants === undefined || !goesOverBench(wants.kind)) continue;
      let open = quantity;
      for (const from of here.filter(({ line }) => line.itemId === itemId && placeOf(state, line.toPlaceId).siteId === siteId)) {
        const takes = least(open, from.left);
        if (takes.lte(0) || bench === undefined) continue;
        from.left = from.left.minus(takes);
        open = open.minus(takes);
        lines.push({
          itemId,
          lotId: from.line.lotId,
          quantity: takes,
          fromPlaceId: from.line.toPlaceId,
          toPlaceId: bench,
          valuation: { by: 'current' },
          serves: [{ kind: wants.kind, lineId }],
          of: from.line.of,
          field: from.line.field,
        });
      }
    }
    if (lines.length === 0) return null;
    return {
      movement: { kind: 'pick', effectiveOn: receipt.movement.effectiveOn, lines, reasonId: null, reversesId: null, note: 'straight from receiving' },
      notes: [...bySite(state, lines)].map(([{ sku, siteName }, quantity]) => `${quantity.toFixed()} of ${sku} go straight to the bench of ${siteName}.`),
    };
  };

/** How many of each item are carried to each bench. */
function bySite(state: LedgerState, lines: readonly MovementLine[]): Map<{ sku: string; siteName: string }, Decimal> {
  const found = new Map<string, [{ sku: string; siteName: string }, Decimal]>();
  for (const { itemId, toPlaceId, quantity } of lines) {
    const key = siteKey(itemId, placeOf(state, toPlaceId).siteId as number);
    const said = { sku: itemOf(state, itemId).sku, siteName: state.sites.get(key)?.siteName ?? '' };
    found.set(key, [said, (found.get(key)?.[1] ?? zero).plus(quantity)]);
  }
  return new Map(found.values());
}

/** Whether what a document of this kind wants is carried to the bench, by the table of counters. */
const goesOverBench = (kind: DocumentKind): boolean =>
  counterRules.some(({ document, counter, from, to, sign }) => document === kind && counter === 'drawn' && from === 'bin' && to === 'bench' && sign === 1);

const benchOf = ({ places }: LedgerState, siteId: number): number | undefined =>
  [...places.values()].find((place) => place.kind === 'bench' && place.siteId === siteId)?.id;
