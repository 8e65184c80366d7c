import { greatest, sum, zero, type Decimal } from '../decimal';

/** A part of what is taken apart: how many it should give and how many are good, base units, and by what the cost is spread. */
export interface PartOut {
  planned: Decimal;
  good: Decimal;
  /** Of the cost, against those of the other parts; null: by what it is worth. */
  share: Decimal | null;
  /** What one costs now; null when nothing says. */
  worth: Decimal | null;
}

/** Whether the typed shares can be gone by: each part has one, or none has. */
export const sharesAgree = (parts: readonly Pick<PartOut, 'share'>[]): boolean => new Set(parts.map(({ share }) => share === null)).size < 2;

/**
 * Which part of what it had cost each part takes: by the typed shares, else by what the parts that it should give cost now, else by their number. Of a part of which fewer are good than it should give,
 * so much less: the rest of the cost is lost with what is missing. `part` of `whole`; the same whole for all.
 */
export function partsApart(parts: readonly PartOut[]): { part: Decimal; whole: Decimal }[] {
  const planned = parts.map((one) => greatest(one.planned, one.good));
  const weights = (by: (one: PartOut, many: Decimal) => Decimal) => parts.map((one, index) => by(one, planned[index] ?? zero));
  const ways = [weights(({ share }) => share ?? zero), weights(({ worth }, many) => many.times(worth ?? zero)), weights((_, many) => many)];
  const chosen = ways.find((way) => sum(way).gt(zero)) ?? [];
  const whole = sum(chosen);
  return parts.map(({ good }, index) => {
    const many = planned[index] ?? zero;
    return { part: good.isZero() ? zero : (chosen[index] ?? zero).times(good).div(many), whole };
  });
}
