import type { LayerMove } from '../costing/method';
import type { Day } from '../day';
import type { Bearer, CameBack, Movement, MovementKind, MovementLine, Serves, TakenOff, WorkMoved } from './types';
import { zero, type Decimal } from '../decimal';

/** A movement as it was posted. */
export interface PostedMovement {
  id: number;
  kind: MovementKind;
  reasonId: number | null;
  /** What bore its cost, with the tax as it was posted. */
  bearer?: Bearer;
  /** Of work: what is in progress before the undo, what was charged and carried, and what became variance. */
  work?: Omit<WorkMoved, 'ends' | 'toCome'> & { variance: Decimal };
  lines: readonly {
    itemId: number;
    lotId: number | null;
    quantity: Decimal;
    fromPlaceId: number;
    toPlaceId: number;
    value: Decimal;
    variance: Decimal;
    serves: readonly Serves[];
    seq: number;
    takenOff?: readonly TakenOff[];
    cameBack?: readonly CameBack[];
    lossAccount?: number;
    /** What it did to layers of cost; empty under moving average. */
    layerMoves: readonly LayerMove[];
  }[];
}

/** The same account and department, and the tax taken back. */
const turnedRound = ({ tax, ...same }: Bearer): Bearer => ({
  ...same,
  tax: tax && { ...tax, posted: tax.posted && { base: tax.posted.base.neg(), owed: tax.posted.owed.neg() } },
});

/** Charges given back, what was carried brought back, and the variance taken back. */
const workUndone = ({ charges, carried, variance, ...same }: NonNullable<PostedMovement['work']>): WorkMoved => ({
  ...same,
  toCome: zero,
  charges: charges.map((charge) => ({ ...charge, quantity: charge.quantity.neg(), amount: charge.amount.neg() })),
  carried: carried && { ...carried, amount: carried.amount.neg() },
  ends: { undoes: variance },
});

/** The movement that undoes `posted`: the original quantities back along the same path, last line first, at their original values. */
export function reversalOf(posted: PostedMovement, day: Day, note: string, countedAgreed = false): Movement {
  const lines = [...posted.lines].reverse().map((line): MovementLine => ({
    itemId: line.itemId,
    lotId: line.lotId,
    quantity: line.quantity,
    fromPlaceId: line.toPlaceId,
    toPlaceId: line.fromPlaceId,
    valuation:
      posted.kind === 'supplier-return'
        ? { by: 'returned', value: line.value.plus(line.variance).abs(), moved: line.value.abs() }
        : { by: 'original', value: line.value.plus(line.variance).abs() },
    serves: line.serves,
    undoes: { seq: line.seq, layerMoves: line.layerMoves },
    takenOff: (line.takenOff ?? []).map((part) => ({ ...part, quantity: part.quantity.neg(), value: part.value.neg(), calledOff: part.calledOff.neg() })),
    cameBack: (line.cameBack ?? []).map((part) => ({ ...part, quantity: part.quantity.neg(), value: part.value.neg() })),
    ...(line.lossAccount === undefined ? {} : { lossAccount: line.lossAccount }),
    field: 'movementId',
  }));
  return {
    kind: 'undo',
    effectiveOn: day,
    lines,
    reasonId: posted.reasonId,
    ...(posted.bearer ? { bearer: turnedRound(posted.bearer) } : {}),
    ...(posted.work ? { work: workUndone(posted.work) } : {}),
    reversesId: posted.id,
    note,
    countedAgreed,
  };
}
