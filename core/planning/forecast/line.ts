/** The average of values, of which there is at least one. */
export const mean = (values: readonly number[]): number => values.reduce((all, value) => all + value, 0) / values.length;

/** The straight line through values at 1, 2, 3 and so on, by least squares: what it is at 0, and by how much it rises. */
export function lineThrough(values: readonly number[]): { level: number; slope: number } {
  const middle = (values.length + 1) / 2;
  const average = mean(values);
  const across = values.reduce((all, value, index) => all + (index + 1 - middle) * (value - average), 0);
  const spread = values.reduce((all, _, index) => all + (index + 1 - middle) ** 2, 0);
  const slope = spread === 0 ? 0 : across / spread;
  return { level: average - slope * middle, slope };
}
