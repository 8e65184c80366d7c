import { expect, test } from '@jest/globals';
import { quantileOf } from './serviceLevel';

// Abramowitz and Stegun, Handbook of mathematical functions, table 26.5.
test('quantiles of service levels equal the printed table', () => {
  const levels = [50, 80, 90, 95, 97.5, 99, 99.9];
  expect(levels.map((level) => quantileOf(level).toFixed(5))).toEqual(['0.00000', '0.84162', '1.28155', '1.64485', '1.95996', '2.32635', '3.09023']);
  expect(quantileOf(20)).toBe(0);
});
