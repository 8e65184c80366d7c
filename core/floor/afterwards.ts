import { decimal, quantityText } from '../decimal';
import type { MovedHere } from './held';

/**
 * Lists for the floor as they are after what was done on a phone and has not reached the server yet: nothing is asked for twice, and nothing is offered that is gone.
 * What is done is taken as it was said; the server may still refuse it.
 */

interface Picked {
  lines: readonly { lineId: number; binId: number; lotId?: number | null | undefined; quantity: string }[];
  /** Rows that gave less than they asked for. */
  short?: readonly { lineId: number; binId: number }[] | undefined;
}

/** What is still to be taken of a pick list. A row that gave less than it asked for is not asked for again. */
export function picksAfter<R extends { lineId: number; binId: number; lotId: number | null; take: string; inBin: string }>(
  rows: readonly R[],
  picks: readonly Picked[],
): R[] {
  return picks.reduce<R[]>(
    (left, { lines, short = [] }) =>
      left.flatMap((row) => {
        if (short.some(({ lineId, binId }) => lineId === row.lineId && binId === row.binId)) return [];
        const same = lines.filter(({ lineId, binId, lotId }) => lineId === row.lineId && binId === row.binId && (lotId ?? null) === row.lotId);
        const taken = same.reduce((sum, { quantity }) => sum.plus(quantity), decimal(0));
        const take = decimal(row.take).minus(taken);
        return take.gt(0) ? [{ ...row, take: quantityText(take), inBin: quantityText(decimal(row.inBin).minus(taken)) }] : [];
      }),
    [...rows],
  );
}

/** What still lies without a proper bin. */
export function putAwayAfter<R extends { itemId: number; lotId: number | null; fromBinId: number; quantity: string }>(
  rows: readonly R[],
  moves: readonly MovedHere[],
): R[] {
  return rows.flatMap((row) => {
    const gone = moves
      .filter(({ itemId, lotId, fromBinId }) => itemId === row.itemId && lotId === row.lotId && fromBinId === row.fromBinId)
      .reduce((sum, { quantity }) => sum.plus(quantity), decimal(0));
    const left = decimal(row.quantity).minus(gone);
    return left.gt(0) ? [{ ...row, quantity: quantityText(left) }] : [];
  });
}

/** The open lines that still want goods, after some were received; of one that gets no more, nothing is wanted. */
export function wantedAfter<L extends { lineId: number; outstanding: string }>(
  lines: readonly L[],
  received: readonly { lineId: number; quantity: string; noMore?: boolean | undefined }[],
): L[] {
  return lines.flatMap((line) => {
    const here = received.filter(({ lineId }) => lineId === line.lineId);
    if (here.some(({ noMore }) => noMore)) return [];
    const left = here.reduce((rest, { quantity }) => rest.minus(quantity), decimal(line.outstanding));
    return here.length === 0 || left.gt(0) ? [{ ...line, outstanding: quantityText(left) }] : [];
  });
}

/** One thing done with a bin of a count. */
export type CountStep =
  | { does: 'take' }
  | { does: 'leave' }
  | { does: 'finish' }
  | { does: 'enter'; entries: readonly { itemId: number; lotId?: number | null | undefined; quantity: string }[] };

interface Counted {
  itemId: number;
  lotId: number | null;
  counted: string | null;
  recount: string | null;
}
interface BinNow {
  heldById: number | null;
  heldBy: string | null;
  done: boolean;
  doneBy: string | null;
  counted: number;
  recount: number;
}

/** A bin of a count after what `me` did with it; whatever is counted anew is not to be counted again. */
export function binAfter<B extends BinNow>(bin: B, steps: readonly CountStep[], me: { id: number; name: string }): B {
  return steps.reduce<B>((now, step) => {
    const mine = { heldById: me.id, heldBy: me.name };
    if (step.does === 'take') return { ...now, ...mine };
    if (step.does === 'leave') return { ...now, heldById: null, heldBy: null };
    if (step.does === 'finish') return { ...now, heldById: null, heldBy: null, done: true, doneBy: me.name, recount: 0 };
    return { ...now, ...mine };
  }, bin);
}

/** What was counted of each line of a bin; `found` makes the line of what was not expected there, where it is known. */
export function countedAfter<R extends Counted>(
  rows: readonly R[],
  steps: readonly CountStep[],
  found: (thing: { itemId: number; lotId: number | null }) => R | null,
): R[] {
  return steps.reduce<R[]>(
    (now, step) => {
      if (step.does !== 'enter') return now;
      return step.entries.reduce<R[]>((lines, { itemId, lotId = null, quantity }) => {
        const isIt = (row: Counted) => row.itemId === itemId && row.lotId === lotId;
        const known = lines.some(isIt) ? lines : [...lines, ...[found({ itemId, lotId })].flatMap((row) => row ?? [])];
        return known.map((row) => (isIt(row) ? { ...row, counted: quantity, recount: null } : row));
      }, now);
    },
    [...rows],
  );
}
