import { spread, sum, type Decimal } from '../decimal';

export interface LandedLine {
  quantity: Decimal;
  /** Goods value of the whole line. */
  value: Decimal;
  /** For one unit, in cubic metres and kilograms. */
  volume: Decimal;
  weight: Decimal;
}

export interface LandedCharge {
  amount: Decimal;
  by: 'value' | 'quantity' | 'weight' | 'volume';
  /** Indexes of lines the charge does not fall on, such as goods free of duty. */
  leftOut?: readonly number[];
}

/** A line with its share of each charge, in the order the charges were given, and what one unit then costs. */
export interface LandedResult {
  shares: Decimal[];
  total: Decimal;
  unitCost: Decimal;
}

const measures: Record<LandedCharge['by'], (line: LandedLine) => Decimal> = {
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

function sharesOf(lines: readonly LandedLine[], charge: LandedCharge): Decimal[] {
  const on = lines.map((_, index) => index).filter((index) => !charge.leftOut?.includes(index));
  const parts = spread(
    charge.amount,
    on.map((index) => measures[charge.by](lines[index] as LandedLine)),
  );
  return lines.map((line, index) => (on.includes(index) ? (parts[on.indexOf(index)] as Decimal) : line.value.times(0)));
}
