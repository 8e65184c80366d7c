import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { dayShifts } from './pastDays';

const stand = (day: string, quantity: number, value: string) => ({ day, quantity: decimal(quantity), value: decimal(value) });
const told = (...stands: ReturnType<typeof stand>[]) => dayShifts(stands).map(({ day, amount }) => `${day} ${amount.toFixed(2)}`);

test('ten sold at 1.50 for a day on which ten at 1.00 lay there: 5.00 moves to the day the others came', () => {
  expect(told(stand('2026-11-02', 0, '-5.00'), stand('2026-11-03', 10, '15.00'))).toEqual(['2026-11-02 5.00', '2026-11-03 -5.00']);
});
test('days without stock that follow one another; days with stock are left alone', () => {
  expect(told(stand('2026-11-01', 3, '9'), stand('2026-11-02', 0, '2'), stand('2026-11-03', 0, '1'), stand('2026-11-04', 5, '7'))).toEqual([
    '2026-11-02 -2.00',
    '2026-11-03 1.00',
    '2026-11-04 1.00',
  ]);
  expect(told(stand('2026-11-01', 3, '9'), stand('2026-11-02', 0, '0'))).toEqual([]);
});
test('whatever was dated back: no day without stock has a value, and today is as before', () => {
  const days = fc.array(fc.record({ quantity: fc.integer({ min: 0, max: 3 }), cents: fc.integer({ min: -500, max: 500 }) }), { minLength: 1, maxLength: 12 });
  fc.assert(
    fc.property(days, fc.integer({ min: 1, max: 9 }), (given, last) => {
      const stands = [...given, { quantity: last, cents: 100 }].map(({ quantity, cents }, index) =>
        stand(String(index + 10), quantity, decimal(cents).div(100).toFixed(2)),
      );
      const shifts = dayShifts(stands);
      expect(sum(shifts.map(({ amount }) => amount)).isZero()).toBe(true);
      for (const { day, quantity, value } of stands) {
        const then = value.plus(sum(shifts.filter((shift) => shift.day <= day).map(({ amount }) => amount)));
        expect(quantity.isZero() ? then.isZero() : then.eq(value)).toBe(true);
      }
    }),
  );
});
