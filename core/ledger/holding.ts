import { sum, type Decimal } from '../decimal';
import type { FieldError } from '../refusal';
import type { DemandPlan } from './demandChange';
import type { DemandLine, SiteState } from './types';

/** So many that a line holds and gives to another. */
export interface Given {
  lineId: number;
  /** Base units, more than zero. */
  quantity: Decimal;
}

const called = ({ number, position }: DemandLine): string => `${number} line ${position}`;
const short = ({ wanted, reserved }: DemandLine): Decimal => wanted.minus(reserved);

/** Why a line cannot have so many of what others hold of its item at its site, by field of the request; empty when it can. */
export function holdFaults({ demand }: SiteState, lineId: number, from: readonly Given[]): FieldError[] {
  const to = demand.find((line) => line.lineId === lineId);
  if (!to) return [{ field: 'from', sentence: 'That line wants nothing any more.' }];
  const faults = from.flatMap((given, index): FieldError[] => {
    const of = demand.find((line) => line.lineId === given.lineId && line.lineId !== lineId);
    if (!of) return [{ field: `from.${index}.lineId`, sentence: 'That line holds nothing of this item here.' }];
    return given.quantity.gt(of.reserved) ? [{ field: `from.${index}.quantity`, sentence: `${called(of)} holds only ${of.reserved.toFixed()}.` }] : [];
  });
  if (new Set(from.map((given) => given.lineId)).size < from.length) return [...faults, { field: 'from', sentence: 'A line can give only once.' }];
  const all = sum(from.map(({ quantity }) => quantity));
  return all.gt(short(to)) && faults.length === 0 ? [{ field: 'from', sentence: `${called(to)} is short of only ${short(to).toFixed()}.` }] : faults;
}

/** What others hold goes to a line that is short: they are short of it from then on, and served again by their turn. What is asked has no `holdFaults`. */
export function planHold(before: SiteState, lineId: number, from: readonly Given[]): DemandPlan {
  const all = sum(from.map(({ quantity }) => quantity));
  const change = (line: DemandLine): Decimal =>
    line.lineId === lineId ? all : sum(from.filter((given) => given.lineId === line.lineId).map(({ quantity }) => quantity.neg()));
  const demand = before.demand.map((line) => ({ ...line, reserved: line.reserved.plus(change(line)) }));
  const { itemId, siteId } = before;
  return {
    sites: [{ before, after: { ...before, demand } }],
    releases: from.map((given) => ({ lineId: given.lineId, itemId, siteId, quantity: given.quantity.neg() })),
    reserves: [{ lineId, itemId, siteId, quantity: all }],
    notes: before.demand.flatMap((line) => (change(line).lt(0) ? [`${called(line)} becomes short of ${change(line).neg().toFixed()}.`] : [])),
  };
}
