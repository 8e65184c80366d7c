import { expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { marginPercent } from './margin';

const percent = (sold: string, cost: string) => marginPercent(decimal(sold), decimal(cost));

test('margin is what is left of what it was sold for, with one decimal; of nothing there is none', () => {
  expect(percent('200.00', '150.00')).toBe('25.0');
  expect(percent('3.00', '2.00')).toBe('33.3');
  expect(percent('8.00', '7.96')).toBe('0.5');
  expect(percent('10.00', '12.50')).toBe('-25.0');
  expect(percent('0.00', '4.00')).toBe('');
});
test('goods that came back for more than they cost are a loss', () => {
  expect(percent('-10.00', '-6.00')).toBe('-40.0');
});
