import type { Day } from '../day';
import { decimal, least, zero, type Decimal } from '../decimal';
import type { FieldError } from '../refusal';

/** Who can hold what is lent, beside customers. */
export const holderSorts = ['person', 'team', 'place'] as const;
export type HolderSort = (typeof holderSorts)[number];

export const loanStates = ['on loan', 'part back', 'ended', 'undone'] as const;
export type LoanState = (typeof loanStates)[number];

/** How much of a loan there is, in base units over its lines: lent, brought back, and lost there. */
export interface LoanProgress {
  lent: Decimal;
  back: Decimal;
  lost: Decimal;
}

/** What a loan is. Of one that was undone nothing was lent. */
export function loanState({ lent, back, lost }: LoanProgress): LoanState {
  const ended = back.plus(lost);
  if (lent.lte(zero)) return 'undone';
  if (ended.gte(lent)) return 'ended';
  return ended.gt(zero) ? 'part back' : 'on loan';
}

/** Whether something of it should have been back. A loan without a day is never late. */
export const isOverdue = (p: LoanProgress, dueOn: Day | null, today: Day): boolean =>
  dueOn !== null && dueOn < today && p.lent.minus(p.back).minus(p.lost).gt(zero);

/** By which rule several things are lent at once. */
export const loanRules = ['one', 'all'] as const;
export type LoanRule = (typeof loanRules)[number];

/** How many are lent by a rule of what may be: one of each as far as there is one, or all there is. */
export const lentBy = (rule: LoanRule, free: Decimal): Decimal => (rule === 'all' ? free : least(free, decimal(1)));

/** In what condition something comes back; what is damaged or is to be looked at does not go where it is sold from. */
export const conditions = ['as it was', 'worn', 'damaged', 'to be looked at'] as const;
export type Condition = (typeof conditions)[number];
export const isSetApart = (condition: Condition): boolean => condition === 'damaged' || condition === 'to be looked at';

/** A part of what comes back, or is lost, of a line. */
export interface Ending {
  lineId: number;
  quantity: Decimal;
}

/** More of a line than is still out, all parts of it taken together, by field: the first such part. */
export function beyondOut(out: ReadonlyMap<number, Decimal>, parts: readonly Ending[], sentence: (left: Decimal, lineId: number) => string): FieldError[] {
  const left = new Map(out);
  for (const [index, { lineId, quantity }] of parts.entries()) {
    const before = left.get(lineId) ?? zero;
    if (quantity.gt(before)) return [{ field: `lines.${index}.quantity`, sentence: sentence(before, lineId) }];
    left.set(lineId, before.minus(quantity));
  }
  return [];
}
