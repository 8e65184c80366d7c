import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { filledDays, inPeriods, type DemandDay } from './demandDays';

const day = (wanted: number, there = true, apart = false): DemandDay => ({ wanted, there, apart });

test('days without stock on which nothing was asked for take what was wanted around them; what was asked for counts', () => {
  const days = [day(4), day(0, false), day(6, false), day(2), day(0)];
  // 4, 6, 2 and 0 are known.
  expect(filledDays(days)).toEqual({ wanted: [4, 3, 6, 2, 0], withoutStock: 1, apart: 0 });
});

test('days that do not count are filled too, and told apart', () => {
  expect(filledDays([day(4), day(90, true, true), day(2)])).toEqual({ wanted: [4, 3, 2], withoutStock: 0, apart: 1 });
});

test('where nothing near counts, all that counts does; where nothing counts, nothing was wanted', () => {
  const gone = Array.from({ length: 40 }, () => day(0, false));
  expect(filledDays([day(8), ...gone]).wanted.at(-1)).toBe(8);
  expect(filledDays(gone)).toEqual({ wanted: gone.map(() => 0), withoutStock: 40, apart: 0 });
  expect(filledDays([])).toEqual({ wanted: [], withoutStock: 0, apart: 0 });
});

test('whole periods end with the last day', () => {
  expect(inPeriods([9, 1, 2, 3, 4], 2)).toEqual([3, 7]);
  expect(inPeriods([1], 2)).toEqual([]);
});

test('what counts stays as it was, and what is filled lies between the least and the most that was wanted', () => {
  const days = fc.array(fc.record({ wanted: fc.integer({ min: 0, max: 50 }), there: fc.boolean(), apart: fc.boolean() }), { minLength: 1, maxLength: 60 });
  fc.assert(
    fc.property(days, (past) => {
      const { wanted, withoutStock, apart } = filledDays(past);
      const counts = (one: DemandDay) => !one.apart && (one.there || one.wanted > 0);
      const known = past.filter(counts).map((one) => one.wanted);
      past.forEach((one, at) => {
        if (counts(one)) expect(wanted[at]).toBe(one.wanted);
        else expect(wanted[at]).toBeLessThanOrEqual(Math.max(0, ...known));
        expect(wanted[at]).toBeGreaterThanOrEqual(known.length > 0 && !counts(one) ? Math.min(...known) : 0);
      });
      expect(withoutStock + apart).toBe(past.length - known.length);
    }),
  );
});
