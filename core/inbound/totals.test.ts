import { expect, test } from '@jest/globals';
import { orderTotals, stillOrdered } from './totals';

const line = (amount: string, baseQuantity: string, cancelled: string, rate = '20') => ({ amount, baseQuantity, cancelled, rate });
const told = ({ goods, charges, tax, total }: ReturnType<typeof orderTotals>) => [goods, charges, tax, total].map(String);

test('a line called off in part comes to the share of what is left, multiplied first', () => {
  expect([stillOrdered(line('10', '3', '1')), stillOrdered(line('10', '3', '0')), stillOrdered(line('10', '3', '3'))].map(String)).toEqual(['6.67', '10', '0']);
  expect(stillOrdered(line('100', '3', '1'), 0).toFixed()).toBe('67');
});
test('goods, charges, tax by rate rounded once, and all together', () => {
  const lines = [line('10.03', '3', '0'), line('10', '3', '1'), line('4', '1', '0', '5')];
  expect(told(orderTotals(lines, [{ amount: '2.50', rate: '20' }]))).toEqual(['20.7', '2.5', '4.04', '27.24']);
});
test('in a currency without decimals', () => expect(told(orderTotals([line('1001', '1', '0', '10')], [], 0))).toEqual(['1001', '0', '100', '1101']));
