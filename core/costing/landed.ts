import { spread, sum, zero, type Decimal } from '../decimal';

export interface LandedLine {
  quantity: Decimal;
  /** Goods value of the whole line. */
  value: Decimal;
  /** For one unit, in cubic metres and kilograms. */
  volume: Decimal;
  weight: Decimal;
}

/** What a charge is spread by. */
export const spreadWays = ['value', 'quantity', 'weight', 'volume', 'typed'] as const;
export type SpreadBy = (typeof spreadWays)[number];

export interface LandedCharge {
  amount: Decimal;
  by: SpreadBy;
  /** Parts typed by hand, for `typed`: one for each line. */
  typed?: readonly Decimal[];
  /** Indexes of lines the charge does not fall on, such as goods free of duty. */
  leftOut?: readonly number[];
}

/** A line with its share of each charge, in the order the charges were given, and what one unit then costs. */
export interface LandedResult {
  shares: Decimal[];
  total: Decimal;
  unitCost: Decimal;
}

const measures: Record<Exclude<SpreadBy, 'typed'>, (line: LandedLine) => Decimal> = {
  value: (line) => line.value,
  quantity: (line) => line.quantity,
  weight: (line) => line.weight.times(line.quantity),
  volume: (line) => line.volume.times(line.quantity),
};

/**
 * Spreads every charge over the lines it falls on by its own measure; shares are whole cents and add up to the charge.
 * Throws RangeError when a charge leaves out every line.
 */
export function landedCost(lines: readonly LandedLine[], charges: readonly LandedCharge[]): LandedResult[] {
  const byCharge = charges.map((charge) => sharesOf(lines, charge));
  return lines.map((line, index) => {
    const shares = byCharge.map((parts) => parts[index] as Decimal);
    const total = sum([line.value, ...shares]);
    return { shares, total, unitCost: total.div(line.quantity) };
  });
}

const measureOf = (lines: readonly LandedLine[], { by, typed }: LandedCharge, index: number): Decimal =>
  by === 'typed' ? (typed?.[index] ?? zero) : measures[by](lines[index] as LandedLine);

/** Indexes of the lines a charge falls on that have nothing to measure it by: without them, or with all of them at nothing, the charge cannot be spread fairly. */
export function unmeasured(lines: readonly LandedLine[], charge: LandedCharge): number[] {
  const on = lines.map((_, index) => index).filter((index) => !charge.leftOut?.includes(index));
  const without = on.filter((index) => measureOf(lines, charge, index).lte(zero));
  return charge.by === 'weight' || charge.by === 'volume' || without.length === on.length ? without : [];
}

function sharesOf(lines: readonly LandedLine[], charge: LandedCharge): Decimal[] {
  const on = lines.map((_, index) => index).filter((index) => !charge.leftOut?.includes(index));
  const parts = spread(
    charge.amount,
    on.map((index) => measureOf(lines, charge, index)),
  );
  return lines.map((line, index) => (on.includes(index) ? (parts[on.indexOf(index)] as Decimal) : zero));
}
