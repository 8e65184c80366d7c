import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { daysOfCover, economicQuantity, suggestedPoint } from './reorderPoint';

describe('suggested points equal examples of textbooks', () => {
  // Heizer and Render, Operations management, chapter 12: laptops, 15 a day with a deviation of 5, two days to come, at 90 %; batteries, 150 a day with 16, five days with 1, at 95 %.
  test.each([
    ['demand that varies', { demand: 15, demandSpread: 5, leadTime: 2, leadTimeSpread: 0, z: 1.28 }, 39.05],
    ['demand and lead time that vary', { demand: 150, demandSpread: 16, leadTime: 5, leadTimeSpread: 1, z: 1.65 }, 1004.4],
  ])('%s', (_, pattern, point) => {
    expect(suggestedPoint(pattern)).toBeCloseTo(point, 0);
  });
  test('a lead time that varies adds to the point', () => {
    expect(suggestedPoint({ demand: 4, demandSpread: 2, leadTime: 9, leadTimeSpread: 3, z: 1 })).toBeCloseTo(36 + Math.sqrt(36 + 144), 9);
  });
  test('the suggested point is mean demand over lead time plus safety', () => {
    expect(suggestedPoint({ demand: 4, demandSpread: 2, leadTime: 9, leadTimeSpread: 0, z: 1.645 })).toBeCloseTo(36 + 1.645 * 6, 6);
  });
  // Hillier and Lieberman, Introduction to operations research, chapter on inventory: 8,000 speakers a month, 12,000 to set up, 0.30 a month to hold one.
  test('how many at once', () => {
    expect(economicQuantity({ perYear: 8000, order: 12_000, holding: 0.3 })).toBeCloseTo(25_298, 0);
    expect([economicQuantity({ perYear: 0, order: 5, holding: 1 }), economicQuantity({ perYear: 9, order: 5, holding: 0 })]).toEqual([null, null]);
  });
});

test('more spread, in demand or in lead time, and more service ask for more; never for less than nothing', () => {
  const positive = fc.float({ min: 0, max: 50, noNaN: true });
  fc.assert(
    fc.property(
      positive,
      positive,
      positive,
      positive,
      fc.float({ min: 0, max: 3, noNaN: true }),
      positive,
      (demand, demandSpread, leadTime, leadTimeSpread, z, more) => {
        const pattern = { demand, demandSpread, leadTime, leadTimeSpread, z };
        const point = suggestedPoint(pattern);
        expect(point).toBeGreaterThanOrEqual(0);
        for (const dearer of [{ demandSpread: demandSpread + more }, { leadTimeSpread: leadTimeSpread + more }, { z: z + more }])
          expect(suggestedPoint({ ...pattern, ...dearer })).toBeGreaterThanOrEqual(point - 1e-9 * Math.max(1, point));
      },
    ),
  );
});

test('days of cover: free over what is used a day; none when nothing is', () => {
  expect([daysOfCover(10, 4), daysOfCover(10, 0)]).toEqual([2.5, null]);
});
