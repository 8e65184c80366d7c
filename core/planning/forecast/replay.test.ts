import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { replayed } from './replay';

describe('the past run through levels', () => {
  test('by hand: up to 10, point 4, three days to come', () => {
    // 10 - 3 - 3 = 4 in the evening of the second day: 6 are ordered, there on the fifth. 4 - 3 = 1, then 3 are asked for and 2 wait.
    const { stock, daysOut, late, orders, averageStock } = replayed([3, 3, 3, 3, 1, 0], { point: 4, upTo: 10, pack: 0, leadDays: 3 });
    expect(stock).toEqual([7, 4, 1, 0, 3, 3]);
    // In the evening of the fourth day 6 are on order and 2 wait: that is 4, so 6 more are ordered.
    expect([daysOut, late, orders, averageStock]).toEqual([1, 2, 2, 3]);
  });
  test('whole packs are ordered', () => {
    const { stock } = replayed([6, 0, 0], { point: 5, upTo: 10, pack: 4, leadDays: 1 });
    // 6 missing are two packs.
    expect(stock).toEqual([4, 12, 12]);
  });
  test('nothing wanted, nothing ordered; of no days nothing', () => {
    expect(replayed([0, 0], { point: 1, upTo: 5, pack: 0, leadDays: 2 })).toMatchObject({ daysOut: 0, orders: 0, averageStock: 5 });
    expect(replayed([], { point: 1, upTo: 5, pack: 0, leadDays: 2 })).toEqual({ daysOut: 0, late: 0, averageStock: 0, orders: 0, stock: [] });
  });
  test('a point that covers all of the time until it comes is never out; what was wanted was given, lies there, waits or is on order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 9 }), { maxLength: 60 }),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 0, max: 5 }),
        (wanted, leadDays, pack) => {
          const point = 9 * (leadDays + 1);
          const seen = replayed(wanted, { point, upTo: point + 20, pack, leadDays });
          expect([seen.daysOut, seen.late]).toEqual([0, 0]);
          for (const many of seen.stock) expect(many).toBeGreaterThanOrEqual(0);
        },
      ),
    );
  });
});
